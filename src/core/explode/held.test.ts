import { describe, expect, test } from 'vitest';
import { applySteps } from '../document/steps.ts';
import type { SpreadRecord } from '../document/records.ts';
import { findingsOf, fixOf } from '../proof/findings.ts';
import { Scene } from '../../elements/scene.ts';
import { draftAll } from '../testing/drafting.ts';
import { assemblyOf, box, cylinder, joined } from '../testing/shapes.ts';
import { motionsOf } from './spread.ts';
import { pullsOf } from './records.ts';

/** A switch: its cap has a collar inside the closed housing and a button through the housing's roof. */
const drawn = await draftAll(
  assemblyOf([
    { name: 'Base', geometry: box([-40, -40, -10], [40, 40, 0]) },
    {
      name: 'Housing',
      geometry: joined([cylinder(30, 4, 48)], [cylinder(30, 20, 48, 26), [0, 0, 4]], [cylinder(30, 4, 48, 9), [0, 0, 24]]),
    },
    { name: 'Cap', geometry: joined([cylinder(18, 5, 48), [0, 0, 12]], [cylinder(8, 20, 48), [0, 0, 17]]) },
  ]),
  { bare: true },
);
const finding = () => drawn.findings.find((f) => f.code === 'HELD_TOGETHER');

describe('a piece that nothing frees', () => {
  test('the first drawing says so on its sheet, and what holds it', () => {
    expect((drawn.document['spread:1'] as SpreadRecord).held).toMatchObject([{ components: ['Cap'], by: ['Housing'] }]);
    expect(finding()).toMatchObject({ sheet: 'sheet:3', severity: 'should', fix: 'Draw it away all the same' });
    expect(finding()!.text).toContain('leaves 3 Cap inside: 2 Housing holds it');
  });

  test('its inside is shown all the same: the section cuts it, and it has its balloon there', () => {
    expect(drawn.findings.filter((f) => f.severity === 'must')).toEqual([]);
  });

  test('drawn away on wish it stands clear of what holds it; the distance is someone’s choice and the finding is gone', () => {
    const steps = fixOf(finding()!, drawn.scene, (type) => `${type}:new`);
    const result = applySteps(drawn.document, steps);
    if (!result.ok) throw new Error(result.reason);
    const spread = result.document['spread:1'] as SpreadRecord;
    expect(spread.pulls.at(-1)).toMatchObject({ components: ['Cap'], typed: true });
    const at = motionsOf(pullsOf(spread, drawn.components), 3).map((m) => [m[3]!, m[7]!, m[11]!]);
    const cap = drawn.components.findIndex((c) => c.path === 'Cap');
    const way = spread.pulls.at(-1)!.direction;
    const along = at[cap]!.map((v, k) => v - at[drawn.components.findIndex((c) => c.path === 'Housing')]![k]!).reduce((s, v, k) => s + v * way[k]!, 0);
    // By the boxes: the housing is 28 high and 60 across, the cap reaches from 12 to 37.
    expect(along).toBeGreaterThan(Math.abs(way[2]) > 0.5 ? 16 : 48);
    expect(findingsOf(new Scene({ ...drawn, document: result.document })).some((f) => f.code === 'HELD_TOGETHER')).toBe(false);
  });
});
