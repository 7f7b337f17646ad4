import { describe, expect, test } from 'vitest';
import type { Vec2 } from '../../core/base/vector.ts';
import { applySteps } from '../../core/document/steps.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { kindOf } from '../kinds.ts';
import { pickAt } from '../testing/pick.ts';
import { Scene } from '../scene.ts';
import { movedTogether } from '../together.ts';
import { removed } from '../remove.ts';
import type { FigureRecord } from './draw.ts';
import { mayTie, tied, tiedPoints, type Tie } from './ties.ts';

const drawn = await draftAll(smallMachine());
const sheet = drawn.scene.sheets[0]!.id;
const line = (id: string, a: Vec2, b: Vec2, more: Partial<FigureRecord> = {}): FigureRecord => ({
  type: 'figure',
  id,
  sheet,
  shape: 'line',
  points: [a, b],
  ...more,
});
const sceneOf = (...records: FigureRecord[]) => new Scene({ ...drawn, document: { ...drawn.document, ...Object.fromEntries(records.map((r) => [r.id, r])) } });
const figure = (s: Scene, id: string) => s.one('figure', id)!;
const after = (s: Scene, steps: Parameters<typeof applySteps>[1]): Scene => {
  const r = applySteps(s.document, steps);
  if (!r.ok) throw new Error(r.reason);
  return s.with(r.document);
};
const slope = ([a, b]: readonly Vec2[]) => Math.atan2(b![1] - a![1], b![0] - a![0]);
const long = ([a, b]: readonly Vec2[]) => Math.hypot(b![0] - a![0], b![1] - a![1]);
const given = line('a', [20, 20], [60, 35]);
const other = line('b', [30, 80], [70, 83]);
const tiedTo = (tie: Tie, ...more: FigureRecord[]): Scene => {
  const s = sceneOf(given, other, ...more);
  return after(s, tied(s, other, tie));
};

describe('a line that goes by another one', () => {
  test('level and upright need nothing', () => {
    expect(slope(tiedPoints(figure(tiedTo({ is: 'level' }), 'b'), tiedTo({ is: 'level' })))).toBeCloseTo(0, 9);
    const up = tiedTo({ is: 'upright' });
    expect(Math.abs(slope(tiedPoints(figure(up, 'b'), up)))).toBeCloseTo(Math.PI / 2, 9);
    expect(long(tiedPoints(figure(up, 'b'), up))).toBeCloseTo(long(other.points), 9);
  });
  test('parallel and square: its first end and its length stay, also when the other one moves', () => {
    for (const [is, turn] of [
      ['parallel', 0],
      ['square', Math.PI / 2],
    ] as const) {
      const s = tiedTo({ is, to: 'a' });
      const off = (scene: Scene) => Math.abs(Math.sin(slope(tiedPoints(figure(scene, 'b'), scene)) - slope(tiedPoints(figure(scene, 'a'), scene)) - turn));
      expect(off(s)).toBeLessThan(1e-9);
      expect(tiedPoints(figure(s, 'b'), s)[0]).toEqual([30, 80]);
      const pulled = after(s, kindOf(figure(s, 'a')).drag!(figure(s, 'a'), [5, 30], s, '1'));
      expect(slope(tiedPoints(figure(pulled, 'a'), pulled))).not.toBeCloseTo(slope(given.points), 3);
      expect(off(pulled)).toBeLessThan(1e-9);
      expect(long(tiedPoints(figure(pulled, 'b'), pulled))).toBeCloseTo(long(other.points), 9);
    }
  });
  test('in line: both ends lie on it; equal: as long as it', () => {
    const s = tiedTo({ is: 'inline', to: 'a' });
    const [a, b] = given.points as [Vec2, Vec2];
    for (const p of tiedPoints(figure(s, 'b'), s)) expect((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0])).toBeCloseTo(0, 6);
    const e = tiedTo({ is: 'equal', to: 'a' });
    expect(long(tiedPoints(figure(e, 'b'), e))).toBeCloseTo(long(given.points), 9);
    expect(slope(tiedPoints(figure(e, 'b'), e))).toBeCloseTo(slope(other.points), 9);
  });
  test('tangent to a circle, on the side where it is; circles are made equal', () => {
    const circle: FigureRecord = { ...line('c', [50, 60], [60, 60]), shape: 'circle' };
    const s = tiedTo({ is: 'tangent', to: 'c' }, circle);
    const [a, b] = tiedPoints(figure(s, 'b'), s) as [Vec2, Vec2];
    const l = long([a, b]);
    const off = ((b[0] - a[0]) * (60 - a[1]) - (b[1] - a[1]) * (50 - a[0])) / l;
    expect(Math.abs(off)).toBeCloseTo(10, 9);
    expect(a[1]).toBeGreaterThan(60);
    const second: FigureRecord = { ...line('d', [90, 60], [93, 60]), shape: 'circle', ties: [{ is: 'equal', to: 'c' }] };
    const two = sceneOf(circle, second);
    expect(long(tiedPoints(second, two))).toBeCloseTo(10, 9);
  });
  test('ends that are joined go along; a new direction takes the place of the old one', () => {
    const joined = line('e', [70, 83], [90, 95]);
    const s = tiedTo({ is: 'level' }, joined);
    expect(figure(s, 'e').points[0]).toEqual(figure(s, 'b').points[1]);
    const t = after(s, tied(s, figure(s, 'b'), { is: 'square', to: 'a' }));
    expect(figure(t, 'b').ties).toEqual([{ is: 'square', to: 'a' }]);
    const u = after(t, tied(t, figure(t, 'b'), { is: 'equal', to: 'a' }));
    expect(figure(u, 'b').ties).toHaveLength(2);
  });
  test('when the other one is gone it stays as it is; lines that go by each other end somewhere', () => {
    const s = tiedTo({ is: 'parallel', to: 'a' });
    const gone = after(s, removed(s, ['a']));
    expect(tiedPoints(figure(gone, 'b'), gone)).toEqual(figure(s, 'b').points);
    const round = sceneOf({ ...given, ties: [{ is: 'parallel', to: 'b' }] }, { ...other, ties: [{ is: 'parallel', to: 'a' }] });
    for (const id of ['a', 'b']) for (const p of tiedPoints(figure(round, id), round)) expect(p.every(Number.isFinite)).toBe(true);
  });
  test('only what can be: a line by lines and circles, a circle by the size of another', () => {
    const circle: FigureRecord = { ...given, shape: 'circle' };
    expect([mayTie(other, 'parallel', given), mayTie(other, 'parallel', circle), mayTie(other, 'tangent', circle), mayTie(other, 'tangent', given)]).toEqual([
      true,
      false,
      true,
      false,
    ]);
    expect([mayTie(circle, 'equal', circle), mayTie(circle, 'level', undefined), mayTie({ ...given, shape: 'arc' }, 'level', undefined)]).toEqual([
      true,
      false,
      false,
    ]);
  });
});

test('a line in line with an edge of a view follows the view', () => {
  const { scene } = drawn;
  const front = scene.one('view', 'view:front')!;
  // The top of the plate.
  const of = pickAt(scene, front, [0, 8]);
  const s = sceneOf(other);
  const now = after(s, tied(s, other, { is: 'inline', on: { view: front.id, of } }));
  const level = scene.map(front).toPaper([0, 8])[1];
  for (const p of tiedPoints(figure(now, 'b'), now)) expect(p[1]).toBeCloseTo(level, 6);
  const moved = after(now, movedTogether(now, [front.id], [0, 7]));
  for (const p of tiedPoints(figure(moved, 'b'), moved)) expect(p[1]).toBeCloseTo(level + 7, 6);
  // What is drawn is where it is tied to.
  const [picture] = kindOf(figure(moved, 'b')).draw(figure(moved, 'b'), moved);
  expect(picture!.box[1]).toBeCloseTo(level + 7, 2);
  expect(kindOf(figure(moved, 'b')).signs!(figure(moved, 'b'), moved)).toHaveLength(1);
});
