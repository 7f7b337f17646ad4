import { describe, expect, test } from 'vitest';
import { quarry, spawned } from './testing/quarry.ts';

// The contract of the command line for sizes, axes, centrelines and threads, on the built program. Sizes of the public files are
// those measured once with an exact kernel: 200 × 150 × 84 and 31 × 88 × 88 mm, holes of 10 mm in as1's plate and brackets.
const FILES = 'node_modules/occt-import-js/test/testfiles/cax-if';
const AS1 = `${FILES}/as1-oc-214.stp`;
const FLANGE = `${FILES}/io1-cm-214.stp`;
const DEMO = 'demo/sw-40-rev2.step';

interface Sizes {
  readonly overallMm: readonly number[];
  readonly axes: readonly { direction: string; atMm: number[]; radiiMm: number[]; kind: string; components: string[] }[];
  readonly proposed: readonly { view: string; kind: string; valueMm: number; text: string; refs: string[] }[];
}

describe('dimensions', () => {
  const { status, out } = spawned<Sizes>('dimensions', AS1);
  test('overall sizes are exact', () => {
    expect(status).toBe(0);
    expect(out.overallMm.map((v) => Math.round(v * 1e4) / 1e4)).toEqual([200, 150, 84]);
    expect(quarry<Sizes>('dimensions', FLANGE).out.overallMm.map((v) => Math.round(v * 1e4) / 1e4)).toEqual([31, 88, 88]);
  });
  test('axes: the rod along x, six bolts upright, coaxial ones as one', () => {
    expect(out.axes.map((a) => a.direction).sort()).toEqual(['x', 'z', 'z', 'z', 'z', 'z', 'z']);
    const rod = out.axes.find((a) => a.direction === 'x')!;
    expect(rod.kind).toBe('both');
    expect(rod.radiiMm).toEqual([expect.closeTo(5, 5)]);
    expect(rod.components).toEqual(expect.arrayContaining(['rod-assembly/rod', 'l-bracket-assembly/l-bracket']));
    // Bolts of both brackets lie in mirror image about the middle of the plate.
    const xs = out.axes.filter((a) => a.direction === 'z').map((a) => a.atMm[0]!);
    for (const x of xs) expect(xs.some((v) => Math.abs(v + x - 180) < 1e-4)).toBe(true);
  });
  test('proposed: length, width, height and the height of the rod over the plate’s underside, in the unit that is asked for', () => {
    expect(out.proposed.map((p) => [p.kind, p.text])).toEqual(
      expect.arrayContaining([
        ['level', '200'],
        ['upright', '84'],
        ['upright', '150'],
        ['upright', '60'],
      ]),
    );
    const inch = quarry<Sizes>('dimensions', AS1, '--unit', 'inch').out.proposed;
    expect(inch.find((p) => Math.abs(p.valueMm - 200) < 1e-4)!.text).toBe('7.87');
    expect(quarry('dimensions', AS1, '--unit', 'foot')).toMatchObject({ status: 2, out: { error: { code: 'BAD_USAGE' } } });
  });
});

describe('view --centrelines', () => {
  interface Lines {
    readonly centrelines: readonly ({ from: number[]; to: number[] } | { centre: number[]; radiusMm: number; pitchCircle?: true })[];
  }
  test('from the front the rod has one from end to end', () => {
    const { out } = quarry<Lines>('view', AS1, '--direction', 'front', '--centrelines');
    const level = out.centrelines.filter((c) => 'from' in c && Math.abs(c.from[1]! - c.to[1]!) < 1e-6) as { from: number[]; to: number[] }[];
    expect(level.map((l) => [l.from[0], l.to[0], l.from[1]])).toEqual([[expect.closeTo(-10, 4), expect.closeTo(190, 4), expect.closeTo(60, 4)]]);
  });
  test('a flange along its axis has a mark for each hole and the circle they lie on', () => {
    const { out } = quarry<Lines>('view', FLANGE, '--direction', 'right', '--centrelines');
    const pitch = out.centrelines.filter((c) => 'pitchCircle' in c);
    expect(pitch).toEqual([{ centre: [expect.any(Number), expect.any(Number)], radiusMm: expect.any(Number) as number, pitchCircle: true }]);
    const r = (pitch[0] as { radiusMm: number }).radiusMm;
    const [cx, cy] = (pitch[0] as { centre: number[] }).centre as [number, number];
    const holes = out.centrelines.filter((c) => 'radiusMm' in c && !c.pitchCircle && Math.abs(Math.hypot(c.centre[0]! - cx, c.centre[1]! - cy) - r) < 1e-3);
    expect(holes).toHaveLength(6);
  });
});

describe('threads', () => {
  test('by name and by what they go into; what is not threaded has none', () => {
    const { out } = quarry<{
      threads: { component: string; designation: string; majorMm: number; minorMm: number; pitchMm: number; internal: boolean; from: string }[];
    }>('threads', DEMO);
    const bolts = out.threads.filter((t) => t.component.includes('Hex bolt M8'));
    expect(bolts).toHaveLength(13);
    for (const t of bolts) expect(t).toMatchObject({ designation: 'M8', majorMm: 8, pitchMm: 1.25, internal: false, from: 'name' });
    for (const t of out.threads) expect(t.minorMm).toBeCloseTo(t.majorMm - 1.082532 * t.pitchMm, 6);
    expect(out.threads.filter((t) => t.internal && t.from === 'cylinders').map((t) => t.component)).toEqual(['Drum assembly/Drum shaft']);
    expect(out.threads.some((t) => /washer|circlip/i.test(t.component))).toBe(false);
    expect(quarry<{ threads: unknown[] }>('threads', AS1).out.threads).toEqual([]);
  });
});
