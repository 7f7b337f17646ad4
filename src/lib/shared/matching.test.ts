import { describe, expect, test } from 'vitest';
import { matching } from './matching';
import { withSynonyms } from './synonyms';

const list = ['Add a view: front', 'Add a view: top', 'Balloon for a component', 'Undo', 'Stop', '12  Top plate'];
const found = (typed: string, most?: number) => matching(list, typed, (t) => t, most);

describe('what a typed text finds', () => {
  test('everything when nothing is typed, up to a limit', () => {
    expect(found('  ')).toEqual(list);
    expect(found('', 2)).toEqual(list.slice(0, 2));
  });
  test('every word occurs, in any order and letter case', () => expect(found('VIEW fro')).toEqual(['Add a view: front']));
  test('where a word begins with it comes before where it only occurs', () => expect(found('top')).toEqual(['Add a view: top', '12  Top plate', 'Stop']));
  test('nothing when nothing fits', () => expect(found('zebra')).toEqual([]));
});

test('a command is found by the other words of the trade', () => {
  const labels = ['Rectangle', 'Columns of the parts list', 'Jog in the dimension line', 'Section by a line', 'Fit the sheet', 'Revision cloud'];
  const found = (typed: string) => matching(labels, typed, withSynonyms);
  expect(found('box')).toEqual(['Rectangle']);
  expect(found('BOM')).toEqual(['Columns of the parts list']);
  expect(found('dogleg')).toEqual(['Jog in the dimension line']);
  expect(found('markup')).toEqual(['Revision cloud']);
  // The word that is there comes before one that is meant.
  expect(matching(['Columns of the parts list', 'Box'], 'box', withSynonyms)[0]).toBe('Box');
});
