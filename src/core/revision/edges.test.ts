import { describe, expect, test } from 'vitest';
import { cylinder } from '../testing/shapes.ts';
import { plate, type Plate } from '../testing/plates.ts';
import { random as numbers } from '../testing/random.ts';
import { matchEdges, matchFaces } from './edges.ts';

const PLATE: Plate = {
  length: 120,
  width: 80,
  height: 12,
  holes: [
    { name: 'A', x: 15, y: 15, r: 4 },
    { name: 'B', x: 105, y: 15, r: 4 },
    { name: 'C', x: 60, y: 40, r: 14 },
    { name: 'D', x: 30, y: 60, r: 6 },
  ],
};

/** What was found, by name: `name → name of the edge it was found as`; lost ones are left out. */
function found(before: Plate, after: Plate, halves = false): [string, string][] {
  const [a, b] = [plate(before, halves), plate(after, halves)];
  return [...matchEdges(a.geometry, b.geometry)].flatMap((n, e): [string, string][] => (n < 0 ? [] : [[a.names[e]!, b.names[n]!]]));
}
const movedHole = (name: string, dx: number, dy: number): Plate => ({
  ...PLATE,
  holes: PLATE.holes.map((h) => (h.name === name ? { ...h, x: h.x + dx, y: h.y + dy } : h)),
});
const all = plate(PLATE).names;

describe('edges of a newer shape', () => {
  test.each<[string, Plate, readonly string[]]>([
    ['nothing changed', PLATE, []],
    ['it lies elsewhere in its frame', { ...PLATE, at: [100, -30, 7] }, []],
    ['a hole moved', movedHole('D', 5, -8), []],
    ['a hole made wider', { ...PLATE, holes: PLATE.holes.map((h) => (h.name === 'C' ? { ...h, r: 17 } : h)) }, []],
    ['a side set off', { ...PLATE, length: 135 }, []],
    ['made thicker', { ...PLATE, height: 15 }, []],
    ['a corner rounded: its edge is gone, those beside it are shorter', { ...PLATE, fillets: { 2: 10 } }, ['upright 2']],
    ['a hole gone', { ...PLATE, holes: PLATE.holes.slice(0, 3) }, ['D bottom', 'D top']],
    ['a hole more', { ...PLATE, holes: [...PLATE.holes, { name: 'E', x: 90, y: 60, r: 5 }] }, []],
    // The edges that the split crosses are two now: the piece in which the middle lay is the edge.
    ['the top split in two faces', { ...PLATE, splitX: 75 }, []],
    // Which of the two holes of one size went where cannot be told.
    ['two like holes moved', { ...PLATE, holes: PLATE.holes.map((h) => (h.r === 4 ? { ...h, y: h.y + 7 } : h)) }, ['A bottom', 'A top', 'B bottom', 'B top']],
  ])('%s', (_, after, lost) => {
    for (const halves of [false, true]) {
      const names = plate(PLATE, halves).names.filter((n) => !lost.some((l) => n === l || n.startsWith(`${l} `)));
      const pairs = found(PLATE, after, halves);
      for (const [a, b] of pairs) expect(b).toBe(a);
      expect(pairs.map((p) => p[0]).sort()).toEqual([...names].sort());
    }
  });
  test('of another part are none of ours', () => {
    const other = cylinder(30, 12, 32, 8);
    expect([...matchEdges(plate(PLATE).geometry, other)].every((n) => n < 0)).toBe(true);
  });
});

test('on generated revisions nothing is ever found as something else, and 19 of 20 that are still there are found', () => {
  const random = numbers(7);
  const between = (lo: number, hi: number) => lo + (hi - lo) * random();
  let [right, wrong, there] = [0, 0, 0];
  for (let n = 0; n < 400; n++) {
    // Holes of sizes of their own and of shared ones, apart from each other.
    const holes = Array.from({ length: 1 + Math.floor(random() * 6) }, (_, i) => ({
      name: `H${i}`,
      x: 20 + 35 * (i % 3) + between(0, 10),
      y: 20 + 35 * Math.floor(i / 3) + between(0, 10),
      r: random() < 0.3 ? 5 : between(2, 9),
    }));
    const before: Plate = { length: between(120, 160), width: between(80, 110), height: between(5, 30), holes };
    let after: Plate = before;
    const i = Math.floor(random() * holes.length);
    const one = (change: (h: (typeof holes)[number]) => (typeof holes)[number]) => ({ ...after, holes: after.holes.map((h, k) => (k === i ? change(h) : h)) });
    for (const change of ['move', 'resize', 'fillet', 'split', 'longer', 'thicker', 'drop', 'more', 'elsewhere'] as const) {
      if (random() > 0.25) continue;
      if (change === 'move') after = one((h) => ({ ...h, x: h.x + between(-6, 6), y: h.y + between(-6, 6) }));
      if (change === 'resize') after = one((h) => ({ ...h, r: h.r * between(0.6, 1.4) }));
      if (change === 'fillet') after = { ...after, fillets: { [Math.floor(random() * 4)]: between(2, 8) } };
      if (change === 'split') after = { ...after, splitX: between(70, 100) };
      if (change === 'longer') after = { ...after, length: after.length + between(1, 20) };
      if (change === 'thicker') after = { ...after, height: after.height * between(0.8, 1.3) };
      if (change === 'drop' && after.holes.length > 1) after = { ...after, holes: after.holes.filter((_, k) => k !== i) };
      if (change === 'more') after = { ...after, holes: [...after.holes, { name: 'new', x: between(100, 112), y: between(62, 72), r: between(2, 5) }] };
      if (change === 'elsewhere') after = { ...after, at: [between(-50, 50), between(-50, 50), between(-50, 50)] };
    }
    const halves = random() < 0.5;
    const pairs = found(before, after, halves);
    const names = new Set(plate(after, halves).names);
    there += plate(before, halves).names.filter((name) => names.has(name)).length;
    for (const [a, b] of pairs) {
      if (a === b) right++;
      else wrong++;
    }
  }
  expect({ wrong, recall: right / there > 0.95 }).toEqual({ wrong: 0, recall: true });
  expect(right / there).toBeGreaterThan(0.95);
  expect(all).toHaveLength(20);
});

test('faces are found again by their surfaces: never as another one, a hole that was moved or made wider too', () => {
  const random = numbers(23);
  const between = (lo: number, hi: number) => lo + (hi - lo) * random();
  const namesOf = (p: ReturnType<typeof plate>, face: number) =>
    new Set(p.names.filter((_, e) => p.geometry.edgeFaces[e * 2] === face || p.geometry.edgeFaces[e * 2 + 1] === face).map((n) => n.replace(/ \d$/, '')));
  let [right, wrong, all] = [0, 0, 0];
  for (let n = 0; n < 150; n++) {
    const holes = [0, 1, 2].map((i) => ({ name: `H${i}`, x: 20 + 35 * i, y: 40 + between(-5, 5), r: between(2, 9) }));
    const before: Plate = { length: 130, width: 90, height: between(5, 30), holes };
    const after: Plate = {
      ...before,
      height: before.height * between(0.8, 1.3),
      holes: holes.map((h, i) => (i === 1 ? { ...h, ...(random() < 0.5 ? { r: h.r * between(0.6, 1.4) } : { x: h.x + between(-6, 6) }) } : h)),
    };
    const [a, b] = [plate(before), plate(after)];
    matchFaces(a.geometry, b.geometry).forEach((to, from) => {
      all++;
      if (to < 0) return;
      const [p, q] = [namesOf(a, from), namesOf(b, to)];
      if ([...p].every((name) => q.has(name))) right++;
      else wrong++;
    });
  }
  expect(wrong).toBe(0);
  expect(right / all).toBeGreaterThan(0.9);
});
