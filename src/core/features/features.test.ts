import { describe, expect, test } from 'vitest';
import { IDENTITY, translation } from '../base/placement.ts';
import { rotationAbout } from '../explode/spread.ts';
import { box, cylinder } from '../testing/shapes.ts';
import { axesOf, kindOfAxis, radiiOf } from './axes.ts';
import { reachOf } from './extent.ts';
import { featuresOf, hasAxis, isWhole, packFeatures, unpackFeatures } from './part-features.ts';

describe('round surfaces of a part', () => {
  const ring = featuresOf(cylinder(11, 5, 32, 6));
  test('a ring has an outer cylinder and a bore, each over its height', () => {
    expect(ring.rounds.map((r) => [r.radius, r.inward, r.from, r.to, isWhole(r), hasAxis(r)])).toEqual([
      [11, false, 0, 5, true, true],
      [6, true, 0, 5, true, true],
    ]);
  });
  test('a box has none; features are stored and read as they are', () => {
    expect(featuresOf(box([0, 0, 0], [1, 2, 3])).rounds).toEqual([]);
    expect(unpackFeatures(packFeatures(ring))).toEqual(ring);
  });
});

describe('how far parts reach', () => {
  // A cylinder of eight facets has its corners at 0°, 45° …: seen at 22.5° its mesh is r·cos 22.5° wide, the part r.
  const way = [Math.cos(Math.PI / 8), Math.sin(Math.PI / 8), 0] as const;
  test('round ones to their true rim, not to that of the mesh', () => {
    const [least, most] = reachOf([{ geometry: cylinder(10, 4, 8), placement: IDENTITY }], way)!;
    expect([least, most]).toEqual([expect.closeTo(-10, 9), expect.closeTo(10, 9)]);
  });
  test('on the slant: half height times sine and radius times cosine', () => {
    const tilt = rotationAbout([0, 1, 0], [0, 0, 0], Math.PI / 6);
    const [, most] = reachOf([{ geometry: cylinder(10, 4, 16), placement: tilt }], [1, 0, 0])!;
    expect(most).toBeCloseTo(10 * Math.cos(Math.PI / 6) + 4 * Math.sin(Math.PI / 6), 9);
  });
  test('several together, and none', () => {
    const parts = [
      { geometry: box([0, 0, 0], [1, 1, 1]), placement: IDENTITY },
      { geometry: box([0, 0, 0], [1, 1, 1]), placement: translation([5, 0, 0]) },
    ];
    expect(reachOf(parts, [1, 0, 0])).toEqual([0, 6]);
    expect(reachOf([], [1, 0, 0])).toBeUndefined();
  });
});

describe('axes', () => {
  const ring = featuresOf(cylinder(11, 5, 32, 6));
  const pin = featuresOf(cylinder(6, 40));
  test('a pin in a ring is one axis of holes and shafts, whichever way each looks', () => {
    const upside = rotationAbout([1, 0, 0], [0, 0, 0], Math.PI);
    const [axis, ...more] = axesOf([
      { component: 0, features: ring, placement: translation([3, 4, 10]) },
      { component: 1, features: pin, placement: [...upside.slice(0, 3), 3, ...upside.slice(4, 7), 4, ...upside.slice(8, 11), 40] },
    ]);
    expect(more).toEqual([]);
    expect(axis!.way).toEqual([0, 0, 1]);
    expect(axis!.foot).toEqual([3, 4, 0].map((v) => expect.closeTo(v, 9) as number));
    expect([kindOfAxis(axis!), radiiOf(axis!)]).toEqual(['both', [6, 11]]);
    expect(axis!.on.map((o) => [o.component, o.from, o.to].map((v) => Math.round(v * 1e6) / 1e6))).toEqual([
      [0, 10, 15],
      [0, 10, 15],
      [1, 0, 40],
    ]);
  });
  test('parallel ones a tenth apart are two', () => {
    const two = axesOf([
      { component: 0, features: pin, placement: IDENTITY },
      { component: 1, features: pin, placement: translation([0.1, 0, 50]) },
    ]);
    expect(two.map(kindOfAxis)).toEqual(['shaft', 'shaft']);
  });
});
