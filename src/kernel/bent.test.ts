import { beforeAll, describe, expect, test } from 'vitest';
import { Solids, type Point, type Solid } from '../../demo/solids.ts';
import { random } from '../core/testing/random.ts';
import { unfold, type FlatPattern } from '../core/flat/unfold.ts';
import { extractPart } from './extract-part.ts';
import type { Kernel } from './load.ts';
import { sharedKernel } from './testing/shared-kernel.ts';

// Bent plates as the kernel's true solids: 1 to 8 bends either way, 15° to 150°, holes in flanges and across bends. What they are laid
// flat to is known from how they were made, without any unfolding.
const DEG = Math.PI / 180;
/** 100 of each took two minutes; QUARRY_GENERATED=100 does it again. */
const COUNT = Number(process.env['QUARRY_GENERATED'] ?? 30);

let kernel: Kernel;
let s: Solids;
beforeAll(async () => {
  kernel = await sharedKernel();
  s = new Solids(kernel);
});
const laid = (shape: Solid) => unfold(extractPart(kernel, shape)!, K);
/** The neutral fibre in the middle: nothing there is stretched, so that the area is the volume over the thickness. */
const K = 0.5;

interface Bent {
  readonly shape: Solid;
  readonly thickness: number;
  readonly width: number;
  /** Straight lengths, and bends between them: to the left more than nought, rad. */
  readonly flats: readonly number[];
  readonly bends: readonly { readonly angle: number; readonly radius: number }[];
  /** Holes: along the developed length, across, diameter; mm. */
  readonly holes: readonly (readonly [number, number, number])[];
}

/** One at random; undefined where it would run into itself. */
function bentPlate(rand: () => number): Bent | undefined {
  const between = (a: number, b: number) => a + (b - a) * rand();
  const thickness = between(1, 4);
  const width = between(30, 120);
  const count = 1 + Math.floor(8 * rand());
  const bends = Array.from({ length: count }, () => ({
    angle: DEG * between(15, count > 4 ? 80 : 150) * (rand() < 0.5 ? -1 : 1),
    radius: between(1, 3) * thickness,
  }));
  const flats = Array.from({ length: count + 1 }, () => between(25, 60));
  // Both sides of the sheet as lines with sharp corners; the left one is at y = 0 in the beginning.
  const side = (left: boolean): Point[] => {
    const out: Point[] = [];
    let [x, y, heading] = left ? [0, 0, 0] : [0, -thickness, 0];
    out.push([x, y, 0]);
    let length = flats[0]!;
    bends.forEach(({ angle, radius }, i) => {
      const r = angle > 0 === left ? radius : radius + thickness;
      const setback = r * Math.tan(Math.abs(angle) / 2);
      length += setback;
      [x, y] = [x + length * Math.cos(heading), y + length * Math.sin(heading)];
      out.push([x, y, 0]);
      heading += angle;
      length = setback + flats[i + 1]!;
    });
    out.push([x + length * Math.cos(heading), y + length * Math.sin(heading), 0]);
    return out;
  };
  const [left, right] = [side(true), side(false)];
  const outline = [...left, ...[...right].reverse()];
  if (crossesItself(outline, 2 * thickness)) return undefined;
  let shape = s.prism(outline, [0, 0, width]);
  bends.forEach(({ angle, radius }, i) => {
    for (const [line, own] of [
      [left, angle > 0 ? radius : radius + thickness],
      [right, angle > 0 ? radius + thickness : radius],
    ] as const) {
      const [cx, cy] = line[i + 1]!;
      shape = s.round(shape, own, (p) => Math.hypot(p[0] - cx, p[1] - cy) < 1e-4 && Math.abs(p[2] - width / 2) < 1e-4);
    }
  });
  const holes: [number, number, number][] = [];
  // A hole through a flange: square to it, anywhere on it.
  let [x, y, heading, developed] = [0, 0, 0, 0];
  flats.forEach((flat, i) => {
    const diameter = between(4, Math.min(12, flat / 2.2, width / 3));
    const along = between(diameter / 2 + 1, flat - diameter / 2 - 1);
    const across = between(diameter / 2 + 1, width - diameter / 2 - 1);
    if (rand() < 0.5) {
      const [px, py] = [x + along * Math.cos(heading) - Math.sin(heading) * thickness, y + along * Math.sin(heading) + Math.cos(heading) * thickness];
      shape = s.cut(shape, s.drill([px, py, across], [Math.sin(heading), -Math.cos(heading), 0], diameter, 3 * thickness));
      holes.push([developed + along, across, diameter]);
    }
    developed += flat;
    const bend = bends[i];
    if (!bend) return;
    const setback = (bend.angle > 0 ? bend.radius : bend.radius + thickness) * Math.tan(Math.abs(bend.angle) / 2);
    [x, y] = [x + (flat + setback) * Math.cos(heading), y + (flat + setback) * Math.sin(heading)];
    heading += bend.angle;
    [x, y] = [x + setback * Math.cos(heading), y + setback * Math.sin(heading)];
    developed += Math.abs(bend.angle) * (bend.radius + K * thickness);
  });
  return { shape, thickness, width, flats, bends, holes };
}

/** Does a closed outline cross itself, or come nearer to itself than this besides along its way? */
function crossesItself(outline: readonly Point[], near: number): boolean {
  const n = outline.length;
  const distance = (p: Point, a: Point, b: Point) => {
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const t = Math.max(0, Math.min(1, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy)));
    return Math.hypot(p[0] - a[0] - t * dx, p[1] - a[1] - t * dy);
  };
  const along = (a: Point, b: Point) => Array.from({ length: 20 }, (_, i): Point => [a[0] + ((b[0] - a[0]) * i) / 20, a[1] + ((b[1] - a[1]) * i) / 20, 0]);
  const half = n / 2;
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      if (i === j || i === half - 1 || j === half - 1 || i === n - 1 || j === n - 1) continue;
      // The other side of the same piece, and of those beside it, is near by nature.
      const piece = (k: number) => (k < half ? k : n - 2 - k);
      if (Math.abs(piece(i) - piece(j)) <= 1) continue;
      if (along(outline[i]!, outline[i + 1]!).some((p) => distance(p, outline[j]!, outline[(j + 1) % n]!) < near)) return true;
    }
  return false;
}

function plates(count: number, seed: number): Bent[] {
  const rand = random(seed);
  const out: Bent[] = [];
  while (out.length < count) {
    const one = bentPlate(rand);
    if (one) out.push(one);
  }
  return out;
}

/** Straight lengths and bends as the pattern has them, from one end to the other. */
function foldedBack(f: FlatPattern, along: 0 | 1): { flats: number[]; bends: { angle: number; radius: number; up: boolean }[] } {
  const bends = f.bends.map((b) => ({ ...b, at: (b.line[0][along] + b.line[1][along]) / 2 })).sort((a, b) => a.at - b.at);
  const ends = bends.flatMap((b) => [b.at - b.allowanceMm / 2, b.at + b.allowanceMm / 2]);
  const edges = [0, ...ends, f.sizeMm[along]];
  return {
    flats: Array.from({ length: bends.length + 1 }, (_, i) => edges[2 * i + 1]! - edges[2 * i]!),
    bends: bends.map((b) => ({ angle: b.angle, radius: b.radiusMm, up: b.up })),
  };
}

/** The same turned round and, looked at from its other side, the other way up: one of four ways to lay it. */
const near = (a: readonly number[], b: readonly number[], by: number) => a.length === b.length && a.every((v, i) => Math.abs(v - b[i]!) < by);

describe(`${COUNT} bent plates`, () => {
  test('all are recognised; their size, bends and holes are those that they were made with; area × thickness is the volume', () => {
    const wrong: string[] = [];
    for (const [i, plate] of plates(COUNT, 20).entries()) {
      const g = extractPart(kernel, plate.shape)!;
      const r = unfold(g, K);
      if (!('flat' in r)) {
        wrong.push(`${i}: ${r.why}`);
        continue;
      }
      const f = r.flat;
      const developed = plate.flats.reduce((a, b) => a + b, 0) + plate.bends.reduce((sum, b) => sum + Math.abs(b.angle) * (b.radius + K * plate.thickness), 0);
      const along = developed >= plate.width ? 0 : 1;
      const back = foldedBack(f, along);
      const say = (what: string, ...more: unknown[]) => wrong.push(`${i}: ${what} ${JSON.stringify(more)}`);
      if (Math.abs(f.thicknessMm - plate.thickness) > 1e-4) say('thickness', f.thicknessMm, plate.thickness);
      if (!near([...f.sizeMm], [Math.max(developed, plate.width), Math.min(developed, plate.width)], 1e-3)) say('size', f.sizeMm, developed, plate.width);
      if (Math.abs((f.areaMm2 * plate.thickness) / g.volumeMm3 - 1) > 1e-3) say('volume', f.areaMm2 * plate.thickness, g.volumeMm3);
      // Folded back it has the flanges and bends that it was made with, seen from either side, from either end.
      const turned = near(back.flats, plate.flats, 1e-3) ? 1 : near(back.flats, [...plate.flats].reverse(), 1e-3) ? -1 : 0;
      if (turned === 0) say('flanges', back.flats, plate.flats);
      const made = turned < 0 ? [...plate.bends].reverse() : plate.bends;
      if (
        !near(
          back.bends.map((b) => b.angle),
          made.map((b) => Math.abs(b.angle)),
          1e-4,
        ) ||
        !near(
          back.bends.map((b) => b.radius),
          made.map((b) => b.radius),
          1e-4,
        )
      )
        say('bends');
      const ups = back.bends.map((b, k) => b.up === made[k]!.angle > 0);
      if (!(ups.every(Boolean) || ups.every((u) => !u))) say('directions', ups);
      // Holes lie where they were drilled, from one end and one side or the other.
      const found = f.contours.slice(1).map((c) => [0, 1].map((k) => (Math.min(...c.map((p) => p[k]!)) + Math.max(...c.map((p) => p[k]!))) / 2));
      if (found.length !== plate.holes.length) say('holes', found.length, plate.holes.length);
      else {
        const places = plate.holes.map(([x, y]) => [turned < 0 ? developed - x : x, y] as const);
        const fits = (flip: boolean) =>
          places.every(([x, y]) => found.some((h) => Math.abs(h[along]! - x) < 0.05 && Math.abs(h[1 - along]! - (flip ? plate.width - y : y)) < 0.05));
        if (!fits(false) && !fits(true)) say('places of holes', places, found);
      }
    }
    expect(wrong).toEqual([]);
  }, 300_000);
});

describe(`${COUNT} decoys`, () => {
  const MAKERS: readonly ((between: (a: number, b: number) => number) => Solid)[] = [
    // A milled block with rounded corners.
    (b) => {
      const [x, y, z] = [b(30, 120), b(30, 120), b(15, 60)];
      return s.round(s.box([0, 0, 0], [x, y, z]), b(2, 10), (p) => Math.abs(p[2] - z / 2) < 1e-6);
    },
    // A flat plate with rounded corners and a hole.
    (b) => {
      const [x, y, z] = [b(60, 200), b(40, 120), b(1, 6)];
      return s.cut(
        s.round(s.box([0, 0, 0], [x, y, z]), b(3, 12), (p) => Math.abs(p[2] - z / 2) < 1e-6),
        s.cylinder([x / 2, y / 2, -1], 'z', b(4, 20), z + 2),
      );
    },
    // A milled angle: a fillet inside, a sharp corner outside.
    (b) => {
      const [t, a, c, w] = [b(4, 10), b(40, 80), b(40, 80), b(20, 80)];
      return s.round(
        s.prism(
          [
            [0, 0, 0],
            [a, 0, 0],
            [a, t, 0],
            [t, t, 0],
            [t, c, 0],
            [0, c, 0],
          ],
          [0, 0, w],
        ),
        b(1, 4),
        (p) => Math.hypot(p[0] - t, p[1] - t) < 1e-6 && Math.abs(p[2] - w / 2) < 1e-6,
      );
    },
    // An angle whose legs are not equally thick.
    (b) => {
      const [t, u, a, c, w] = [b(3, 5), b(6, 9), b(40, 80), b(40, 80), b(20, 80)];
      return s.round(
        s.prism(
          [
            [0, 0, 0],
            [a, 0, 0],
            [a, t, 0],
            [u, t, 0],
            [u, c, 0],
            [0, c, 0],
          ],
          [0, 0, w],
        ),
        b(1, 3),
        (p) => Math.hypot(p[0] - u, p[1] - t) < 1e-6 && Math.abs(p[2] - w / 2) < 1e-6,
      );
    },
    // A T.
    (b) => {
      const [t, a, h, w] = [b(4, 8), b(40, 80), b(30, 60), b(30, 90)];
      return s.prism(
        [
          [0, 0, 0],
          [a, 0, 0],
          [a, t, 0],
          [(a + t) / 2, t, 0],
          [(a + t) / 2, h, 0],
          [(a - t) / 2, h, 0],
          [(a - t) / 2, t, 0],
          [0, t, 0],
        ],
        [0, 0, w],
      );
    },
    // A shaft with a shoulder.
    (b) => s.fuse(s.cylinder([0, 0, 0], 'z', b(20, 40), b(20, 60)), s.cylinder([0, 0, 0], 'z', b(8, 18), b(70, 120))),
    // A bush.
    (b) => {
      const [d, l] = [b(30, 60), b(10, 60)];
      return s.cut(s.cylinder([0, 0, 0], 'z', d, l), s.cylinder([0, 0, -1], 'z', d * b(0.4, 0.8), l + 2));
    },
    // A block with a milled pocket, its corners rounded.
    (b) => {
      const [x, y, z, r] = [b(60, 120), b(60, 120), b(20, 40), b(3, 8)];
      const pocket = s.round(s.box([10, 10, 8], [x - 10, y - 10, z + 1]), r, (p) => Math.abs(p[2] - (z + 9) / 2) < 1e-6);
      return s.cut(s.box([0, 0, 0], [x, y, z]), pocket);
    },
    // A channel milled from the solid: thick foot, thin sides.
    (b) => {
      const [w, h, l, t] = [b(50, 90), b(30, 60), b(60, 150), b(3, 6)];
      return s.prism(
        [
          [0, 0, 0],
          [w, 0, 0],
          [w, h, 0],
          [w - t, h, 0],
          [w - t, 2.5 * t, 0],
          [t, 2.5 * t, 0],
          [t, h, 0],
          [0, h, 0],
        ],
        [0, 0, l],
      );
    },
    // A closed square tube with round corners: no seam at which it could be laid flat.
    (b) => {
      const [a, t, l] = [b(30, 80), b(2, 4), b(60, 200)];
      const outer = s.round(s.box([0, 0, 0], [a, a, l]), 2 * t, (p) => Math.abs(p[2] - l / 2) < 1e-6);
      return s.cut(
        outer,
        s.round(s.box([t, t, -1], [a - t, a - t, l + 1]), t, (p) => Math.abs(p[2] - l / 2) < 1e-6),
      );
    },
  ];
  test('none is taken for a bent plate', () => {
    const rand = random(21);
    const between = (a: number, b: number) => a + (b - a) * rand();
    const taken: number[] = [];
    for (let i = 0; i < COUNT; i++) if ('flat' in laid(MAKERS[i % MAKERS.length]!(between))) taken.push(i);
    expect(taken).toEqual([]);
  }, 300_000);
});

test('a hole across a bend keeps its place and its area', () => {
  // 40 + 90° of 6 + 40, 2 thick, 50 wide; a hole of 10 across the whole bend, drilled along the bisector.
  const [t, r, leg, width] = [2, 6, 40, 50];
  const plate = s.prism(
    [
      [0, 0, 0],
      [leg + r + t, 0, 0],
      [leg + r + t, leg + r + t, 0],
      [leg + r, leg + r + t, 0],
      [leg + r, t, 0],
      [0, t, 0],
    ],
    [0, 0, width],
  );
  const at = (x: number, y: number) => (p: Point) => Math.hypot(p[0] - x, p[1] - y) < 1e-6 && Math.abs(p[2] - width / 2) < 1e-6;
  const bent = s.round(s.round(plate, r + t, at(leg + r + t, 0)), r, at(leg + r, t));
  const middle = [leg, r + t] as const;
  const holed = s.cut(bent, s.drill([middle[0], middle[1], 20], [Math.SQRT1_2, -Math.SQRT1_2, 0], 6, 20));
  const f = laid(holed);
  if (!('flat' in f)) throw new Error(f.why);
  expect(f.flat.sizeMm[0]).toBeCloseTo(2 * leg + (Math.PI / 2) * (r + t / 2), 3);
  const hole = f.flat.contours[1]!;
  const span = (k: 0 | 1) => [Math.min(...hole.map((p) => p[k])), Math.max(...hole.map((p) => p[k]))] as const;
  expect((span(0)[0] + span(0)[1]) / 2).toBeCloseTo(f.flat.sizeMm[0] / 2, 1);
  expect(Math.min((span(1)[0] + span(1)[1]) / 2, width - (span(1)[0] + span(1)[1]) / 2)).toBeCloseTo(20, 1);
  // Along the bend line it is as wide as the drill.
  expect(span(1)[1] - span(1)[0]).toBeCloseTo(6, 1);
});
