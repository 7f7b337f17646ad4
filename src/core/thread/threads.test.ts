import { describe, expect, test } from 'vitest';
import { CurveKind, EdgeClass, type PartGeometry } from '../assembly/part-geometry.ts';
import { componentsOf } from '../assembly/components.ts';
import { featuresOf } from '../features/part-features.ts';
import { assemblyOf, cylinder, joined } from '../testing/shapes.ts';
import { threadIn } from './designation.ts';
import { minorOf, rootOf, THREADS } from './sizes.ts';
import { threadsOf, type ThreadByHand } from './threads-of.ts';

// ISO 724, basic dimensions (from memory): minor diameter d1 and root d3 of the coarse series.
describe('diameters of ISO 724', () => {
  test.each([
    ['M3', 2.459, 2.387],
    ['M4', 3.242, 3.141],
    ['M5', 4.134, 4.019],
    ['M6', 4.917, 4.773],
    ['M8', 6.647, 6.466],
    ['M10', 8.376, 8.16],
    ['M12', 10.106, 9.853],
    ['M16', 13.835, 13.546],
    ['M20', 17.294, 16.933],
    ['M24', 20.752, 20.319],
    ['M30', 26.211, 25.706],
  ])('%s: d1 %f, d3 %f', (name, d1, d3) => {
    const t = THREADS.find((x) => x.designation === name)!;
    expect([minorOf(t), rootOf(t)]).toEqual([expect.closeTo(d1, 3), expect.closeTo(d3, 3)]);
  });
});

// ASME B1.1 (from memory): basic minor diameter of internal threads, inches.
describe('diameters of ASME B1.1', () => {
  test.each([
    ['1/4-20 UNC', 0.25, 0.1959],
    ['5/16-18 UNC', 0.3125, 0.2524],
    ['3/8-16 UNC', 0.375, 0.3073],
    ['1/2-13 UNC', 0.5, 0.4167],
    ['3/4-10 UNC', 0.75, 0.6417],
    ['1-8 UNC', 1, 0.8647],
    ['1/4-28 UNF', 0.25, 0.2113],
    ['#10-24 UNC', 0.19, 0.1449],
    ['#4-40 UNC', 0.112, 0.0849],
  ])('%s', (name, d, d1) => {
    const t = THREADS.find((x) => x.designation === name)!;
    expect([t.majorMm / 25.4, minorOf(t) / 25.4]).toEqual([expect.closeTo(d, 6), expect.closeTo(d1, 4)]);
  });
});

describe('threads in names', () => {
  test.each<[string, string | undefined, number?]>([
    ['Bolt, hex head, ISO 4017 M8 × 25', 'M8', 25],
    ['HEX_BOLT M10x1.25x40', 'M10 × 1.25', 40],
    ['M6', 'M6'],
    ['Screw M3 x 0.5', 'M3'],
    ['Stud M20x2', 'M20 × 2'],
    ['M2,5 × 6', 'M2.5', 6],
    ['Cap screw 1/2-13 UNC × 2', '1/2-13 UNC', 50.8],
    ['#10-24 x 3/4', '#10-24 UNC', 19.05],
    ['1 1/4-7 UNC', '1 1/4-7 UNC'],
    ['3/8-24', '3/8-24 UNF'],
    ['M64 × 9', undefined],
    ['M33x2 LH', 'M33 × 2'],
    ['SW-40-12', undefined],
    ['Bracket 3-4', undefined],
    ['RM8', undefined],
    ['Frame M', undefined],
    ['Wheel Ø8', undefined],
  ])('%s', (text, designation, length) => {
    const t = threadIn(text);
    if (text === 'M64 × 9') expect(t?.designation).toBe('M64');
    else expect(t?.designation).toBe(designation);
    if (length !== undefined) expect(t?.lengthMm).toBeCloseTo(length, 6);
  });
  test('left hand is read', () => {
    expect([threadIn('M33x2 LH')?.leftHand, threadIn('M8 left-hand')?.leftHand, threadIn('M8')?.leftHand]).toEqual([true, true, undefined]);
  });
});

const find = (parts: Parameters<typeof assemblyOf>[0], byHand: ThreadByHand[] = []) => {
  const { assembly, geometries } = assemblyOf(parts);
  const components = componentsOf(assembly);
  return threadsOf({ assembly, components, features: { get: (key) => featuresOf(geometries.get(key)!) }, byHand }).map((t) => ({
    on: components[t.component]!.path,
    designation: t.designation,
    internal: t.internal,
    from: t.from,
    length: Math.round((t.span[1] - t.span[0]) * 1e6) / 1e6,
  }));
};

describe('threads of an assembly', () => {
  const bolt = joined([cylinder(4, 25, 32)], [cylinder(6.5, 5.3, 6), [0, 0, 25]]);
  test('a bolt that says what it is has it on its shank; a washer of that name none', () => {
    expect(
      find([
        { name: 'Bolt M8 × 25', geometry: bolt },
        { name: 'Washer M8', geometry: cylinder(8, 1.6, 32, 4.2), at: [50, 0, 0] },
      ]),
    ).toEqual([{ on: 'Bolt M8 × 25', designation: 'M8', internal: false, from: 'name', length: 25 }]);
  });
  test('a nut has it inside, whether its bore is as wide as the minor diameter or as the screw', () => {
    for (const bore of [6.647 / 2, 3.4, 4])
      expect(find([{ name: 'Nut, hex, M8', geometry: cylinder(6.5, 6.8, 6, bore) }])).toMatchObject([{ designation: 'M8', internal: true, from: 'name' }]);
  });
  test('the hole that a screw goes into has the same; one that lets it through has none', () => {
    const parts = (bore: number) => [
      { name: 'Bolt M8', geometry: bolt },
      { name: 'Block', geometry: cylinder(20, 20, 32, bore) },
    ];
    expect(find(parts(3.4))).toMatchObject([{ on: 'Bolt M8' }, { on: 'Block', designation: 'M8', internal: true, from: 'cylinders', length: 20 }]);
    expect(find(parts(4.5))).toHaveLength(1);
  });
  test('without any name: a shaft and a bore that run into one another by a thread', () => {
    const found = find([
      { name: 'A', geometry: cylinder(6, 30, 32) },
      { name: 'B', geometry: cylinder(20, 15, 32, 10.106 / 2) },
    ]);
    expect(found).toMatchObject([
      { on: 'A', designation: 'M12', internal: false, from: 'cylinders' },
      { on: 'B', designation: 'M12', internal: true, from: 'cylinders' },
    ]);
    // A pin that is pressed in, or a ring in a groove, is none.
    expect(
      find([
        { name: 'A', geometry: cylinder(6, 30, 32) },
        { name: 'B', geometry: cylinder(20, 15, 32, 5.99) },
      ]),
    ).toEqual([]);
    expect(
      find([
        { name: 'A', geometry: cylinder(5, 30, 32) },
        { name: 'Ring', geometry: cylinder(9, 1, 32, 4.6) },
      ]),
    ).toEqual([]);
  });
  test('a stud that steps from major to root diameter', () => {
    const stud = joined([cylinder(10, 40, 32)], [cylinder(16.933 / 2, 20, 32), [0, 0, 40]]);
    expect(find([{ name: 'Stud', geometry: stud }])).toMatchObject([{ designation: 'M20', from: 'cylinders', length: 20 }]);
    expect(find([{ name: 'Shaft', geometry: stud }])).toEqual([]);
  });
  test('set by hand on a face, with a length from the end; taken off by hand', () => {
    const parts = [{ name: 'Bolt M8', geometry: bolt }];
    expect(find(parts, [{ geometry: 'g0', face: 0, designation: 'M8 × 1', lengthMm: 18 }])).toMatchObject([
      { designation: 'M8 × 1', from: 'hand', length: 18 },
    ]);
    expect(find(parts, [{ geometry: 'g0', face: 0, designation: '', none: true }])).toEqual([]);
  });
});

/** A rod with two helical edges as a modelled thread has: crest and root. */
function threaded(d: number, root: number, pitch: number, turns: number, hand: 1 | -1): PartGeometry {
  const rod = cylinder(root / 2, pitch * turns, 48);
  const positions = [...rod.positions];
  const vertices: number[] = [];
  const starts = [...rod.edgeStart];
  for (const r of [d / 2, root / 2]) {
    for (let k = 0; k <= turns * 16; k++) {
      const a = (hand * k * 2 * Math.PI) / 16;
      vertices.push(positions.length / 3);
      positions.push(r * Math.cos(a), r * Math.sin(a), (pitch * k) / 16);
    }
    starts.push(rod.edgeVertices.length + vertices.length);
  }
  return {
    ...rod,
    positions: Float64Array.from(positions),
    edgeStart: Uint32Array.from(starts),
    edgeVertices: Uint32Array.from([...rod.edgeVertices, ...vertices]),
    edgeClass: Uint8Array.from([...rod.edgeClass, EdgeClass.sharp, EdgeClass.sharp]),
    edgeFaces: Int32Array.from([...rod.edgeFaces, 0, 0, 0, 0]),
    edgeCurve: Uint8Array.from([...rod.edgeCurve, CurveKind.free, CurveKind.free]),
    edgeParams: Float64Array.from([...rod.edgeParams, ...new Array<number>(14).fill(0)]),
  };
}

describe('modelled helices', () => {
  test('are known for what they are, right and left', () => {
    const parts = (hand: 1 | -1) => assemblyOf([{ name: 'Spindle', geometry: threaded(12, 9.853, 1.75, 10, hand) }]);
    for (const hand of [1, -1] as const) {
      const { assembly, geometries } = parts(hand);
      const [t, ...more] = threadsOf({ assembly, components: componentsOf(assembly), features: { get: (key) => featuresOf(geometries.get(key)!) } });
      expect(more).toEqual([]);
      expect(t).toMatchObject({ designation: 'M12', from: 'helix', leftHand: hand < 0, internal: false });
      expect([t!.span[0], t!.span[1]]).toEqual([expect.closeTo(0, 6), expect.closeTo(17.5, 6)]);
    }
  });
  test('a spring is no thread: one helix has no crest and root', () => {
    const spring = threaded(12, 12, 5, 6, 1);
    expect(find([{ name: 'Spring', geometry: spring }])).toEqual([]);
  });
});

describe('set by hand', () => {
  const parts = assemblyOf([{ name: 'Corner', geometry: cylinder(6, 20) }]);
  const whole = featuresOf(parts.geometries.get(parts.assembly.parts[0]!.geometryKey)!);
  const at = (turn: number) =>
    threadsOf({
      assembly: parts.assembly,
      components: componentsOf(parts.assembly),
      features: { get: () => ({ ...whole, rounds: whole.rounds.map((r) => ({ ...r, turn })) }) },
      byHand: [{ geometry: parts.assembly.parts[0]!.geometryKey, face: whole.rounds[0]!.faces[0]!, designation: 'M12' }],
    });
  test('a whole cylinder takes it, a rounded corner and the end of a slot do not', () => {
    expect(at(2 * Math.PI)).toMatchObject([{ designation: 'M12', internal: false }]);
    expect([at(Math.PI / 2), at(Math.PI)]).toEqual([[], []]);
  });
});
