import { describe, expect, test } from 'vitest';
import { IDENTITY } from '../base/placement.ts';
import { featuresOf } from '../features/part-features.ts';
import { box, cylinder, joined, moved, prism } from '../testing/shapes.ts';
import { lookAt, seenFrom } from './part-look.ts';

const look = (g: Parameters<typeof featuresOf>[0]) => lookAt(featuresOf(g), IDENTITY);
const sides = (g: Parameters<typeof featuresOf>[0]) => look(g).neighbours.map((n) => n.from);

/** Which view shows what is common practice: the largest side in front, turned parts level, no more views than it takes. */
describe('how a part is looked at', () => {
  test('a plate is seen from its largest side, longer side level, with one view of its thickness', () => {
    const plate = box([0, 0, 0], [180, 20, 150]);
    const { front, neighbours } = look(plate);
    expect(front.toward.map(Math.abs)).toEqual([0, 1, 0]);
    expect(front.right.map(Math.abs)).toEqual([1, 0, 0]);
    expect(neighbours).toHaveLength(1);
  });

  test('an L is seen where its profile shows, besides its largest side', () => {
    // 100 long, legs of 60 and 50, 10 thick: as the profile of a prism along Z.
    const l = prism(
      [
        [
          [0, 0],
          [50, 0],
          [50, 10],
          [10, 10],
          [10, 60],
          [0, 60],
        ],
      ],
      100,
    );
    const { front } = look(l);
    // Largest side: 60 × 100.
    expect(front.toward.map((v) => Math.round(Math.abs(v)))).toEqual([1, 0, 0]);
    const profile = look(l).neighbours.find((n) => Math.abs(n.frame.toward[2]) > 0.99);
    expect(profile).toBeDefined();
  });

  test('what is turned lies level; alone it needs one view, bored it is cut and seen from its end', () => {
    const pin = cylinder(5, 60);
    expect(Math.abs(look(pin).front.right[2])).toBe(1);
    expect(sides(pin)).toEqual([]);
    const sleeve = cylinder(20, 30, 32, 12);
    const { frontCut, neighbours } = look(sleeve);
    expect(frontCut).toBeDefined();
    // The plane holds the axis, the Z axis here.
    expect(Math.abs(frontCut!.normal[2])).toBeLessThan(1e-9);
    expect(frontCut!.d).toBeCloseTo(0, 9);
    expect(neighbours.map((n) => Math.abs(n.frame.toward[2]))).toEqual([1]);
  });

  test('holes from another side bring a view from that side, blind ones from where they open', () => {
    const holeAlong = (open: 1 | -1) => {
      // A block with a blind hole of 8 in its side, which opens to +X or −X.
      const block = box([0, 0, 0], [120, 60, 80]);
      const hole = cylinder(20, 40, 32, 4);
      const turned = moved(hole, open > 0 ? [0, 0, 1, 80, 0, 1, 0, 30, -1, 0, 0, 40] : [0, 0, 1, 0, 0, 1, 0, 30, -1, 0, 0, 40]);
      return sides(joined([block], [turned]));
    };
    const frame = look(box([0, 0, 0], [120, 60, 80])).front;
    const plus = frame.right[0] > 0 ? 'right' : 'left';
    expect(holeAlong(1)).toContain(plus);
    expect(holeAlong(-1)).toContain(plus === 'right' ? 'left' : 'right');
  });

  test('neighbours of a front are its projections: opposite sides look against each other, all are right-handed', () => {
    const { front } = look(box([0, 0, 0], [30, 20, 10]));
    for (const [a, b] of [
      ['left', 'right'],
      ['top', 'bottom'],
    ] as const)
      seenFrom(front, a).toward.forEach((v, i) => expect(v).toBeCloseTo(-seenFrom(front, b).toward[i]!, 12));
    for (const s of ['left', 'right', 'top', 'bottom'] as const) {
      const { right: r, up: u, toward: t } = seenFrom(front, s);
      const cross = [r[1] * u[2] - r[2] * u[1], r[2] * u[0] - r[0] * u[2], r[0] * u[1] - r[1] * u[0]];
      cross.forEach((v, i) => expect(v).toBeCloseTo(t[i]!, 12));
    }
  });
});
