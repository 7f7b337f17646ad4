import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import type { Placement } from '../base/placement.ts';
import { rotationAbout } from '../explode/spread.ts';
import { box, cylinder, joined, moved, prism, sphere } from '../testing/shapes.ts';
import { leastBox } from './least-box.ts';
import { stockOf, stockText } from './profile.ts';

const about = (axis: readonly [number, number, number], angle: number): Placement => rotationAbout(axis, [3, -7, 11], angle);
const angleSection = (a: number, b: number, t: number, length: number) =>
  prism(
    [
      [
        [0, 0],
        [a, 0],
        [a, t],
        [t, t],
        [t, b],
        [0, b],
      ],
    ],
    length,
  );
const rect = (x: number, y: number, w: number, h: number): [number, number][] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];
const hollow = (w: number, h: number, t: number, length: number) => prism([rect(0, 0, w, h), rect(t, t, w - 2 * t, h - 2 * t).reverse()], length);
/** kg/m of steel at 7850 kg/m³. */
const perMetre = (g: PartGeometry, length: number) => (g.volumeMm3 / length) * 7850e-6;

describe('the least box', () => {
  test('is found however a part is turned', () => {
    const turn = fc.tuple(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: 0.2, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 6, noNaN: true }),
    );
    fc.assert(
      fc.property(turn, ([x, y, z, angle]) => {
        const l = Math.hypot(x, y, z);
        const to = about([x / l, y / l, z / l], angle);
        for (const [g, sizes] of [
          [box([0, 0, 0], [120, 40, 7]), [120, 40, 7]],
          [cylinder(8, 90), [90, 16, 16]],
          [
            prism(
              [
                [
                  [0, 0],
                  [60, 0],
                  [50, 25],
                  [0, 25],
                ],
              ],
              100,
            ),
            [100, 60, 25],
          ],
        ] as const) {
          const found = leastBox(moved(g, to)).sizes;
          sizes.forEach((s, k) => expect(found[k]).toBeCloseTo(s, 5));
        }
      }),
      { numRuns: 40, seed: 3 },
    );
  });
  test('a hexagon bar lies on its flats or its corners, whichever is smaller: across flats × across corners', () => {
    const r = 10;
    const hex = prism([Array.from({ length: 6 }, (_, k) => [r * Math.cos((k * Math.PI) / 3), r * Math.sin((k * Math.PI) / 3)] as const)], 80);
    const { sizes } = leastBox(hex);
    expect(sizes[1]).toBeCloseTo(2 * r, 6);
    expect(sizes[2]).toBeCloseTo(Math.sqrt(3) * r, 6);
  });
  test('a ball is as large as its diameter, not its mesh', () => {
    for (const s of leastBox(sphere(20)).sizes) expect(s).toBeCloseTo(40, 6);
  });
});

describe('what a part is made from', () => {
  // Masses per metre from the tables of the standards named, quoted from memory; drawn there with rounded corners, here sharp.
  const sections: [string, PartGeometry, string, number, number][] = [
    ['EN 10060 round bar', cylinder(10, 500, 256), 'Round 20', 2.47, 0.01],
    ['EN 10210 / EN 10219 circular hollow section', cylinder(24.15, 800, 256, 20.95), 'Tube 48.3 × 3.2', 3.56, 0.01],
    ['EN 10058 flat bar', box([0, 0, 0], [40, 600, 10]), 'Flat 40 × 10', 3.14, 0.01],
    ['EN 10059 square bar', box([0, 0, 0], [20, 20, 600]), 'Square 20', 3.14, 0.01],
    ['EN 10056-1 equal angle', angleSection(50, 50, 5, 700), 'Angle 50 × 50 × 5', 3.77, 0.02],
    ['EN 10056-1 unequal angle', angleSection(60, 40, 5, 700), 'Angle 60 × 40 × 5', 3.76, 0.02],
    ['EN 10219 rectangular hollow section', hollow(60, 40, 3, 900), 'Hollow section 60 × 40 × 3', 4.25, 0.05],
  ];
  test.each(sections)('%s', (_, g, name, mass, within) => {
    const turned = moved(g, about([0, 0.6, 0.8], 0.7));
    expect(stockText(stockOf(g))).toBe(name);
    expect(stockText(stockOf(turned))).toBe(name);
    const { length } = stockOf(turned);
    expect(length).toBeCloseTo(stockOf(g).length, 5);
    const off = Math.abs(perMetre(g, length) - mass) / mass;
    expect(off).toBeLessThan(within);
  });
  test('a plate by its thickness, whatever its outline; the wide one is not a flat bar', () => {
    const ring = stockOf(
      prism(
        [
          [
            [0, 0],
            [300, 0],
            [300, 180],
            [120, 260],
            [0, 180],
          ],
          rect(40, 40, 60, 60).reverse(),
        ],
        12,
      ),
    );
    expect(stockText(ring)).toBe('Plate 12');
    expect([ring.length, ring.width, ring.thickness].map((v) => Math.round(v))).toEqual([300, 260, 12]);
    expect(stockText(stockOf(box([0, 0, 0], [400, 200, 10])))).toBe('Plate 10');
  });
  test('a stepped shaft comes from a bar of its largest diameter; a thick ring is bored from the bar', () => {
    const shaft = stockOf(joined([cylinder(10, 60)], [cylinder(15, 30), [0, 0, 60]], [cylinder(8, 50), [0, 0, 90]]));
    expect([stockText(shaft), Math.round(shaft.length)]).toEqual(['Round 30', 140]);
    expect(stockText(stockOf(cylinder(20, 40, 64, 8)))).toBe('Round 40');
    expect(stockText(stockOf(cylinder(20, 100, 64, 16)))).toBe('Tube 40 × 4');
  });
  test('what is none of these is a block: no profile is invented', () => {
    expect(stockOf(box([0, 0, 0], [50, 40, 35])).profile).toBe('block');
    expect(stockOf(sphere(10)).profile).not.toBe('tube');
    expect(
      stockOf(
        prism(
          [
            [
              [0, 0],
              [60, 0],
              [0, 55],
            ],
          ],
          50,
        ),
      ).profile,
    ).toBe('block');
    // Two legs of different thickness are no rolled angle.
    expect(
      stockOf(
        prism(
          [
            [
              [0, 0],
              [50, 0],
              [50, 5],
              [9, 5],
              [9, 50],
              [0, 50],
            ],
          ],
          400,
        ),
      ).profile,
    ).not.toBe('angle');
  });
});
