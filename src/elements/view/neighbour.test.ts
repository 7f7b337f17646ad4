import { describe, expect, test } from 'vitest';
import type { ViewRecord } from '../../core/document/records.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { namedFrame, type DirectionName, type ViewFrame } from '../../core/outline/directions.ts';
import { dot } from '../../core/base/vector.ts';
import { nameOfFrame } from '../../core/outline/directions.ts';
import { neighbour, projectedFrame, wayOutTo, type WayOut } from './neighbour.ts';

const drawn = await draftAll(smallMachine());
const { scene } = drawn;
const front = drawn.document['view:front'] as ViewRecord;
const same = (a: ViewFrame, b: ViewFrame) => {
  for (const k of ['right', 'up', 'toward'] as const) a[k].forEach((v, i) => expect(v).toBeCloseTo(b[k][i]!, 9));
};

describe('what is projected from a front', () => {
  // ISO 5456-2, first angle: the view from the left stands to the right, the view from above below.
  const first: readonly (readonly [WayOut, DirectionName])[] = [
    [[1, 0], 'left'],
    [[-1, 0], 'right'],
    [[0, 1], 'top'],
    [[0, -1], 'bottom'],
  ];
  test.each(first)('first angle, over %j: %s', (way, name) => same(projectedFrame(namedFrame('front'), way, 'iso'), namedFrame(name)));
  // ISO 5456-2, third angle: each stands on the side from which it is seen.
  const third: readonly (readonly [WayOut, DirectionName])[] = [
    [[1, 0], 'right'],
    [[-1, 0], 'left'],
    [[0, 1], 'bottom'],
    [[0, -1], 'top'],
  ];
  test.each(third)('third angle, over %j: %s', (way, name) => same(projectedFrame(namedFrame('front'), way, 'asme'), namedFrame(name)));
  test('twice to the same side is the back', () => {
    const left = projectedFrame(namedFrame('front'), [1, 0], 'iso');
    same(projectedFrame(left, [1, 0], 'iso'), namedFrame('back'));
  });
  test('over a corner it is the pictorial seen from that corner, in both', () => {
    for (const standard of ['iso', 'asme'] as const) {
      same(projectedFrame(namedFrame('front'), [1, -1], standard), namedFrame('isometric'));
      expect(projectedFrame(namedFrame('front'), [-1, 1], standard).toward.map(Math.sign)).toEqual([-1, -1, -1]);
    }
  });
  test('names go by the front', () => {
    expect((['front', 'back', 'top', 'bottom', 'left', 'right', 'isometric'] as const).map((n) => nameOfFrame(namedFrame(n), namedFrame('front')))).toEqual([
      'Front',
      'Back',
      'Top',
      'Bottom',
      'Left',
      'Right',
      'Isometric',
    ]);
    expect(nameOfFrame(namedFrame('front'), namedFrame('right'))).toBe('Left');
  });
});

describe('a neighbour pulled out', () => {
  const box = { x: 10, y: 20, width: 30, height: 40 };
  test('goes over the side or corner that the pointer is beyond; none over the view itself', () => {
    expect(wayOutTo(box, [60, 30])).toEqual([1, 0]);
    expect(wayOutTo(box, [15, 5])).toEqual([0, -1]);
    expect(wayOutTo(box, [0, 90])).toEqual([-1, 1]);
    expect(wayOutTo(box, [15, 30])).toBeUndefined();
  });
  test('stands level with its parent, wherever the pointer is, and takes its settings but nothing of its part', () => {
    const parent: ViewRecord = { ...front, hidden: true, within: { kind: 'circle', at: [0, 0], radius: 20 }, ownScale: true };
    const made = neighbour(scene, parent, [1, 0], [300, 5], 'view:n', 'Left');
    expect(made).toMatchObject({ parent: 'view:front', align: 'level', hidden: true, scale: front.scale, sheet: front.sheet });
    expect(made.at[0]).toBe(300);
    // The same height of the model lies at the same height of the paper.
    const y = (v: ViewRecord, z: number) => scene.map(v).y(z * v.up[2]);
    for (const z of [0, 50]) expect(y(made, z)).toBeCloseTo(y(parent, z), 9);
    expect(made).not.toHaveProperty('within');
    expect(made).not.toHaveProperty('ownScale');
  });
  test('below, the same width lies at the same place', () => {
    const made = neighbour(scene, front, [0, 1], [5, 250], 'view:n', 'Top');
    expect([made.align, made.at[1]]).toEqual(['upright', 250]);
    expect(scene.map(made).x(12 * dot(made.right, [1, 0, 0]))).toBeCloseTo(scene.map(front).x(12), 9);
  });
  test('over a corner it stands free where it is let go', () => {
    const made = neighbour(scene, front, [1, -1], [330, 60], 'view:n', 'Isometric');
    expect([made.align, made.at, made.tangent]).toEqual([null, [330, 60], true]);
  });
});
