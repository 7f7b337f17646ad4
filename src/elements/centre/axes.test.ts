import { describe, expect, test } from 'vitest';
import type { DrawingDocument, ViewRecord } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { segmentsOf } from '../../core/picture/ink.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { assemblyOf, box, cylinder } from '../../core/testing/shapes.ts';
import { pickAt } from '../testing/pick.ts';
import { Scene } from '../scene.ts';
import { axisLinesOf, mergedLines, type AxisLine } from './axes.ts';
import { centreKind, type CentreRecord } from './kind.ts';
import { pitchCirclesOf } from './pitch.ts';

const drawn = await draftAll(smallMachine(), { bare: true });
const { scene } = drawn;
const [front, top, section] = ['view:front', 'view:top', 'view:section'].map((id) => scene.one('view', id)!) as [ViewRecord, ViewRecord, ViewRecord];
const all = (view: string): CentreRecord => ({ type: 'centre', id: 'centre:all', view, circle: null, off: [] });
const withRecord = (record: CentreRecord): Scene => {
  const step: Step = { op: 'put', record };
  const r = applySteps(drawn.document, [step]);
  if (!r.ok) throw new Error(r.reason);
  return new Scene({ ...drawn, document: r.document as DrawingDocument });
};
const draw = (record: CentreRecord) => centreKind.draw(record, withRecord(record))[0]!;
const lines = (items: readonly DisplayItem[]) => items.flatMap((i) => (i.kind === 'stroke' ? segmentsOf(i.d) : []));

describe('axes of what is round, seen from the side', () => {
  test('post, ring and cap have one, from end to end of all that shows', () => {
    const found = mergedLines(axisLinesOf(scene, front), 0.01);
    expect(found).toHaveLength(1);
    const [axis] = found as [AxisLine];
    expect([axis.from, axis.to]).toEqual([
      [expect.closeTo(0, 6), expect.closeTo(8, 6)],
      [expect.closeTo(0, 6), expect.closeTo(54, 6)],
    ]);
    expect(axis.radius).toBeCloseTo(11, 9);
  });
  test('it is drawn 3 mm past either end (common practice)', () => {
    const map = scene.map(front);
    const [line] = lines(draw(all(front.id)).items);
    expect(line).toEqual([map.x(0), map.y(8) + 3, map.x(0), map.y(54) - 3].map((v) => expect.closeTo(v, 2) as number));
  });
  test('a view along the axis has circles instead, a pictorial none', () => {
    expect(axisLinesOf(scene, top)).toEqual([]);
    expect(axisLinesOf(scene, scene.one('view', 'view:isometric')!)).toEqual([]);
  });
  test('a section shows them too: of what it cuts and of what it leaves whole', async () => {
    const cut = await draftAll(
      assemblyOf([
        { name: 'Bush', geometry: cylinder(20, 30, 48, 10), at: [0, 0, 0] },
        { name: 'Pin', geometry: cylinder(10, 60, 48), at: [0, 0, -10] },
      ]),
      { only: 'arrangement', bare: true },
    );
    const view = cut.scene.one('view', 'view:section')!;
    expect(cut.results.get(view.id)!.caps.length).toBeGreaterThan(0);
    const [axis, ...more] = mergedLines(axisLinesOf(cut.scene, view), 0.01);
    expect(more).toEqual([]);
    expect(Math.hypot(axis!.to[0] - axis!.from[0], axis!.to[1] - axis!.from[1])).toBeCloseTo(60, 6);
    expect(section.cut).not.toBeNull();
  });
  test('those on one line with much air between are two', () => {
    const line = (from: number, to: number): AxisLine => ({ from: [from, 5], to: [to, 5], radius: 3, on: [] });
    expect(mergedLines([line(0, 10), line(30, 12), line(60, 80)], 15).map((l) => [l.from[0], l.to[0]])).toEqual([
      [0, 30],
      [60, 80],
    ]);
  });
  test('switched off for a component, for a kind', () => {
    const off = (more: Partial<CentreRecord>) => lines(draw({ ...all(front.id), ...more }).items).length;
    expect([off({}), off({ offKinds: ['axes'] }), off({ offOf: ['Post', 'Ring', 'Cap'] })]).toEqual([1, 0, 0]);
  });
});

describe('circles of holes', () => {
  const circle = (x: number, y: number, radius: number) => ({ x, y, radius, component: 0, edge: 1 });
  const ring = (n: number, r: number, size: number) =>
    Array.from({ length: n }, (_, i) => circle(r * Math.cos((i * 2 * Math.PI) / n), r * Math.sin((i * 2 * Math.PI) / n), size));
  test('evenly about a bore they lie on one', () => {
    expect(pitchCirclesOf([circle(0, 0, 20), ...ring(6, 40, 4)])).toEqual([{ at: [0, 0], radius: expect.closeTo(40, 9) }]);
    expect(pitchCirclesOf([circle(0, 0, 20), ...ring(6, 40, 4), ...ring(4, 60, 6)])).toHaveLength(2);
  });
  test('a rectangle of holes, or uneven ones, on none', () => {
    expect(pitchCirclesOf(ring(4, 40, 4))).toEqual([]);
    expect(pitchCirclesOf([circle(0, 0, 20), ...ring(6, 40, 4).slice(1)])).toEqual([]);
    expect(pitchCirclesOf([circle(0, 0, 20), circle(40, 20, 4), circle(-40, 20, 4), circle(-40, -20, 4), circle(40, -20, 4)])).toEqual([]);
  });
});

describe('by hand', () => {
  const hand = (of: CentreRecord['of'], more: Partial<CentreRecord> = {}): CentreRecord => ({ ...all(front.id), id: 'centre:hand', of: of!, ...more });
  const map = scene.map(front);
  test('the axis of an outline', () => {
    const [line] = lines(draw(hand([pickAt(scene, front, [-6, 40])])).items);
    expect(line![0]).toBeCloseTo(map.x(0), 2);
  });
  test('midway between two edges, as long as both', () => {
    const a = pickAt(scene, front, [-40, 30]);
    const b = pickAt(scene, front, [-25, 30]);
    const [line] = lines(draw(hand([a, b])).items);
    expect([line![0], line![2]]).toEqual([map.x(-32.5), map.x(-32.5)].map((v) => expect.closeTo(v, 2) as number));
    expect(Math.abs(line![3] - line![1])).toBeCloseTo(42 * front.scale + 6, 2);
  });
  test('extended to an edge, its ends pulled', () => {
    const a = pickAt(scene, front, [-40, 30]);
    const b = pickAt(scene, front, [-25, 30]);
    const ground = pickAt(scene, front, [0, 0]);
    const record = hand([a, b], { to: ground });
    const [line] = lines(draw(record).items);
    expect(Math.max(line![1], line![3])).toBeCloseTo(map.y(0) + 3, 2);
    const now = withRecord(record);
    expect(centreKind.handles!(record, now)).toHaveLength(2);
    const end = centreKind.handles!(record, now)[1]!;
    const up = end.at[1] < map.y(20);
    expect(centreKind.drag!(record, [0, up ? -5 : 5], now, 'end')).toMatchObject([{ record: { past: [3, expect.closeTo(8, 6)] } }]);
  });
  test('the circle through three centres', async () => {
    const plate = await draftAll(
      assemblyOf([
        { name: 'Plate', geometry: box([-60, -60, 0], [60, 60, 5]) },
        ...[0, 1, 2].map((i) => ({ name: `Pin ${i}`, geometry: cylinder(5, 10, 32), at: [40 * Math.cos(i * 2), 40 * Math.sin(i * 2), 5] as const })),
      ]),
      { only: 'arrangement', bare: true },
    );
    const view = plate.scene.one('view', 'view:top')!;
    const of = [0, 1, 2].map((i) => pickAt(plate.scene, view, [40 * Math.cos(i * 2) + 5, 40 * Math.sin(i * 2)]));
    const record: CentreRecord = { type: 'centre', id: 'c', view: view.id, circle: null, off: [], of };
    const now = new Scene({ ...plate, document: { ...plate.document, c: record } });
    const [item] = centreKind.draw(record, now)[0]!.items;
    const m = plate.scene.map(view);
    expect((item as { d: string }).d).toContain(`A${40 * view.scale} ${40 * view.scale} 0`);
    expect((item as { d: string }).d.startsWith(`M${Math.round((m.x(0) - 40 * view.scale) * 1000) / 1000} `)).toBe(true);
  });
});
