import { expect, test } from 'vitest';
import { recordsOf, type ViewRecord } from '../document/records.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';
import { Scene } from '../../elements/scene.ts';
import { coverageOf } from './coverage.ts';

const drawn = await draftAll(smallMachine());
const views = recordsOf(drawn.document, 'view');

test('tells for each item and sheet what a checker asks', () => {
  const coverage = coverageOf(drawn.scene);
  const exploded = drawn.scene.sheets.findIndex((s) => s.id === 'sheet:3');
  drawn.items.forEach((_, i) => {
    expect([coverage.mark(i, exploded), coverage.best(i), coverage.count(i, 'identified')]).toEqual(['identified', 'identified', 1]);
    expect(coverage.count(i, 'seen')).toBeGreaterThanOrEqual(1);
  });
});

test('from areas alone, without results: the same marks', () => {
  const seen = new Map(views.map((v) => [v.id, Float32Array.from(drawn.results.get(v.id)!.visibleArea)]));
  const [full, light] = [coverageOf(drawn.scene), coverageOf(new Scene({ ...drawn, results: new Map(), seen }))];
  drawn.items.forEach((_, i) => {
    drawn.scene.sheets.forEach((_, s) => expect(light.mark(i, s)).toBe(full.mark(i, s)));
    expect(light.most[i]).toBeCloseTo(full.most[i]!, 1);
  });
});

test('one square millimetre on paper is seen, less is not; without a balloon nothing is identified', () => {
  const alone = Object.fromEntries(Object.entries(drawn.document).filter(([, r]) => r.type !== 'balloon'));
  const one = views[0] as ViewRecord;
  const marks = (mm2: number) => {
    const area = new Float64Array(drawn.components.length).fill(mm2 / (one.scale * one.scale));
    const c = coverageOf(new Scene({ ...drawn, document: alone, results: new Map(), seen: new Map([[one.id, area]]) }));
    return [c.best(0), c.count(0, 'seen'), c.most[0]];
  };
  expect(marks(1.0001)).toEqual(['seen', 1, expect.closeTo(1.0001, 6)]);
  expect(marks(0.9999)).toEqual(['not seen', 0, expect.closeTo(0.9999, 6)]);
});
