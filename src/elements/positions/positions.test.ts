import { describe, expect, test } from 'vitest';
import type { DrawingDocument, ViewRecord } from '../../core/document/records.ts';
import { applySteps, dropWithDependants } from '../../core/document/steps.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { draftAll } from '../../core/testing/drafting.ts';
import { assemblyOf, box, cylinder } from '../../core/testing/shapes.ts';
import { scaled } from '../change.ts';
import { pickAt } from '../testing/pick.ts';
import { Scene } from '../scene.ts';
import { drawPositions, positionsOf, type PositionsRecord } from './draw.ts';
import { holesIn } from './holes-in.ts';
import { positionsKind } from './kind.ts';

// A plate 100 × 60 with three bushes of bore 6 and one of bore 12 standing on it.
const places = [
  [10, 10, 3],
  [90, 10, 3],
  [90, 50, 3],
  [50, 30, 6],
] as const;
const drawn = await draftAll(
  assemblyOf([
    { name: 'Plate', geometry: box([0, 0, 0], [100, 60, 8]) },
    ...places.map(([x, y, r], i) => ({ name: `Bush ${i}`, geometry: cylinder(r + 3, 6, 32, r), at: [x, y, 8] as const })),
  ]),
  { only: 'arrangement', bare: true },
);
const top = drawn.document['view:top'] as ViewRecord;
const table: PositionsRecord = { type: 'positions', id: 'positions:1', view: top.id, at: [70, -30] };
const sceneWith = (record: PositionsRecord): Scene => {
  const r = applySteps(drawn.document, [{ op: 'put', record }]);
  if (!r.ok) throw new Error(r.reason);
  return new Scene({ ...drawn, document: r.document as DrawingDocument });
};
const texts = (items: readonly DisplayItem[]) => items.flatMap((i) => (i.kind === 'text' ? [i.text] : []));

describe('positions of holes', () => {
  test('each once, a letter for each size, the widest first', () => {
    expect(holesIn(drawn.scene, top).map((h) => [h.label, Math.round(h.x), Math.round(h.y), h.says])).toEqual([
      ['A1', 50, 30, 'Ø12'],
      ['B1', 10, 10, 'Ø6'],
      ['B2', 90, 10, 'Ø6'],
      ['B3', 90, 50, 'Ø6'],
    ]);
    expect(holesIn(drawn.scene, drawn.document['view:front'] as ViewRecord)).toEqual([]);
  });
  test('from the lower left corner of the view, or from what was pressed', () => {
    const at = (r: PositionsRecord) => positionsOf(r, sceneWith(r)).map((p) => [p.x, p.y].map((v) => Math.round(v * 1e6) / 1e6));
    // The outermost lines are those of the plate.
    expect(at(table)).toEqual([
      [50, 30],
      [10, 10],
      [90, 10],
      [90, 50],
    ]);
    const centre = pickAt(drawn.scene, top, [56, 30]);
    expect(at({ ...table, zeroX: centre, zeroY: centre })).toEqual([
      [0, 0],
      [-40, -20],
      [40, -20],
      [40, 20],
    ]);
  });
  test('the table has a row for each, and each hole its label', () => {
    const [picture] = drawPositions(table, sceneWith(table));
    const said = texts(picture!.items);
    expect(said.slice(0, 8)).toEqual(['No.', 'X', 'Y', 'Hole', 'A1', '50', '30', 'Ø12']);
    expect(said.filter((t) => t === 'B3')).toHaveLength(2);
  });
  test('moves, follows its view, goes with it; a lost zero is a finding', () => {
    const scene = sceneWith(table);
    expect(positionsKind.drag!(table, [5, 2], scene)).toMatchObject([{ record: { at: [75, -28] } }]);
    expect(positionsKind.follow!(table, scaled(new Map([[top.id, 2]]))).at).toEqual([140, -60]);
    const r = applySteps(scene.document, dropWithDependants(scene.document, top.id));
    expect(r.ok && r.document['positions:1']).toBeUndefined();
    const edge = pickAt(drawn.scene, top, [56, 30]).edge!;
    expect(findingsOf(sceneWith({ ...table, zeroX: { edge: { ...edge, lost: true }, at: [0, 0] } })).filter((f) => f.code === 'LOST_TARGET')).toHaveLength(1);
  });
});
