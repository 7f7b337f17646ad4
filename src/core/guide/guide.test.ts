import { describe, expect, test } from 'vitest';
import { componentsOf } from '../assembly/components.ts';
import { planSpread } from '../explode/plan.ts';
import type { Pull } from '../explode/spread.ts';
import { itemsOf } from '../ledger/items.ts';
import { namedFrame } from '../outline/directions.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { inkOf } from '../picture/ink.ts';
import { assemblyOf, box, cylinder } from '../testing/shapes.ts';
import { random } from '../testing/random.ts';
import { guideOf } from './guide.ts';
import { guidePages, kitOfGuide, PICTURE_ROOM } from './pages.ts';
import { LANGUAGES, listed, PHRASES, say } from './phrases.ts';
import { StepPainter } from './picture.ts';
import { buildOrder } from './steps.ts';
import { toolFor } from './tools.ts';

type Parts = Parameters<typeof assemblyOf>[0];
const frame = namedFrame('isometric');
function built(parts: Parts, pulls?: readonly Pull[]) {
  const { assembly, geometries } = assemblyOf(parts);
  const bodies = sceneOf(assembly, geometries);
  const order = buildOrder(assembly, bodies, pulls ?? planSpread(assembly, bodies, { frame }).pulls);
  const items = itemsOf(assembly, {});
  const paths = componentsOf(assembly).map((c) => c.path);
  return { assembly, geometries, order, items, paths, guide: guideOf(paths, items, order) };
}

/** Blocks of different sizes on a plate, some on top of others, held by bolts. */
function heap(seed: number, n: number): Parts {
  const next = random(seed);
  const parts: { name: string; geometry: ReturnType<typeof box>; at?: readonly [number, number, number] }[] = [
    { name: 'Plate', geometry: box([0, 0, -10], [100 * n, 100, 0]) },
  ];
  for (let i = 0; i < n; i++) {
    const [w, h] = [30 + 40 * next(), 15 + 40 * next()];
    parts.push({ name: `Block ${i}`, geometry: box([100 * i + 10, 20, 0], [100 * i + 10 + w, 70, h]) });
    if (next() > 0.4) parts.push({ name: `Cap ${i}`, geometry: box([100 * i + 12, 22, h], [100 * i + 8 + w, 60, h + 8]) });
    if (next() > 0.5) parts.push({ name: `Bolt M8 × ${i}`, geometry: cylinder(4, 20), at: [100 * i + 90, 50, 0] });
  }
  return parts;
}

describe('the order of building', () => {
  test.each([1, 2, 3, 4, 5, 6])(
    'generated heap %i: every component in one step, what is there before is what came before, the kit is the parts list',
    (seed) => {
      const { order, items, guide, paths } = built(heap(seed, 4 + seed));
      expect(order.checked).toBe(true);
      expect(guide.steps.flatMap((s) => s.adds).sort((a, b) => a - b)).toEqual(paths.map((_, i) => i));
      const there = new Set<number>();
      for (const s of guide.steps) {
        if (s.kind !== 'start') expect(s.there.every((c) => there.has(c))).toBe(true);
        for (const c of s.adds) there.add(c);
      }
      expect(kitOfGuide(guide).map((k) => [k.item.number, k.quantity])).toEqual(items.map((i) => [i.number, i.quantity]));
      expect(guide.steps.map((s) => s.number)).toEqual(guide.steps.map((_, i) => i + 1));
    },
  );
  test('what comes off last begins; words say from where things come', () => {
    const { guide } = built([
      { name: 'Base', geometry: box([-50, -50, -20], [50, 50, 0]) },
      { name: 'Block', geometry: box([-20, -20, 0], [20, 20, 30]) },
      { name: 'Cap', geometry: box([-20, -20, 30], [20, 20, 40]) },
    ]);
    expect(guide.steps.map((s) => s.text)).toEqual(['Begin with Base.', 'Put on Block from above.', 'Put on Cap from above.']);
  });
  test('a pull that would pass through something is not made: what it moves comes with what holds it', () => {
    const parts: Parts = [
      { name: 'Base', geometry: box([-50, -50, -20], [50, 50, 0]) },
      { name: 'Block', geometry: box([-20, -20, 0], [20, 20, 30]) },
      { name: 'Cap', geometry: box([-20, -20, 30], [20, 20, 40]) },
    ];
    const through: Pull[] = [{ components: [1], direction: [0, 0, -1], distanceMm: 60 }];
    const { order, guide } = built(parts, through);
    expect(order.checked).toBe(true);
    expect(order.inseparable).toEqual([1]);
    expect(guide.steps).toHaveLength(1);
    expect(guide.steps[0]!.adds).toEqual([0, 1, 2]);
    expect(guide.steps[0]!.text).toBe('Begin with Base, Block and Cap, which come as one.');
  });
  test('what leaves as one and comes apart later is built first, on its own, and then put in place', () => {
    const parts: Parts = [
      { name: 'Base', geometry: box([-50, -50, -20], [50, 50, 0]) },
      { name: 'Tray', geometry: box([-20, -20, 0], [20, 20, 10]) },
      { name: 'Cup', geometry: box([-10, -10, 10], [10, 10, 20]) },
    ];
    const pulls: Pull[] = [
      { components: [1, 2], direction: [0, 0, 1], distanceMm: 60 },
      { components: [2], direction: [0, 0, 1], distanceMm: 40 },
    ];
    const { guide } = built(parts, pulls);
    expect(guide.steps.map((s) => [s.kind, s.unitName, s.text])).toEqual([
      ['start', 'Tray', 'Begin with Tray.'],
      ['add', 'Tray', 'Put on Cup from above.'],
      ['start', 'Test assembly', 'Begin with Base.'],
      ['join', 'Test assembly', 'Put Tray in place from above.'],
    ]);
    expect(guide.steps[3]).toMatchObject({ adds: [], joins: [1, 2], there: [0] });
  });
});

describe('words', () => {
  test('every language has every phrase, and they differ', () => {
    for (const l of LANGUAGES) expect(Object.keys(PHRASES[l]).sort()).toEqual(Object.keys(PHRASES.en).sort());
    for (const l of LANGUAGES)
      for (const [key, phrase] of Object.entries(PHRASES[l])) if (typeof phrase === 'string') expect([l, key, phrase.trim() !== '']).toEqual([l, key, true]);
    expect(new Set(LANGUAGES.map((l) => PHRASES[l].start)).size).toBe(LANGUAGES.length);
    expect([listed([], 'and'), listed(['a'], 'and'), listed(['a', 'b'], 'and'), listed(['a', 'b', 'c'], 'and')]).toEqual(['', 'a', 'a and b', 'a, b and c']);
    expect(say('{a} of {b}{c}', { a: '1', b: '2' })).toBe('1 of 2');
  });
  test('of the drafter go before those made up; a heavy part says how it is lifted (common practice: from 20 kg)', () => {
    const { paths, items, order } = built([
      { name: 'Base', geometry: box([-500, -500, -20], [500, 500, 0]), material: 'S355' },
      { name: 'Block', geometry: box([-20, -20, 0], [20, 20, 30]), material: 'S355' },
    ]);
    const guide = guideOf(paths, items, order, { words: { 'add/Block': { text: 'Set the block.', checks: ['It lies flat'], callouts: ['Grease'] } } });
    expect(guide.steps[0]!.heavy).toBe('157 kg: lift it with two, or a hoist.');
    expect(guide.steps[1]).toMatchObject({ text: 'Set the block.', checks: ['It lies flat'], callouts: ['Grease'], heavy: undefined });
  });
});

describe('tools', () => {
  // Widths across flats by ISO 272 and sockets by ISO 4762, from memory.
  test.each([
    ['Bolt, hex head, ISO 4017 M8 × 25', 'wrench', 13],
    ['Hex bolt M12', 'wrench', 18],
    ['Nut, hex, ISO 4032 M10', 'wrench', 16],
    ['Bolt ISO 4014 M16x80', 'wrench', 24],
    ['Cap screw, ISO 4762 M8 × 30', 'hex key', 6],
    ['Socket head screw M6', 'hex key', 5],
    ['Screw, countersunk, ISO 10642 M8 × 20', 'hex key', 5],
    ['Circlip, shaft, DIN 471 12', 'circlip pliers', undefined],
  ] as const)('%s: %s %s', (name, kind, sizeMm) => {
    expect(toolFor(name)).toEqual(sizeMm === undefined ? { kind } : { kind, sizeMm });
  });
  test('none where the designation does not say', () => {
    for (const name of ['Washer, plain, ISO 7089 8', 'Base plate', 'Pin ISO 2338 6 × 20', 'Tie rod, M10'])
      expect([name, toolFor(name)]).toEqual([name, undefined]);
  });
});

describe('pictures and pages', () => {
  const { assembly, geometries, order, guide } = built(heap(2, 3));
  const painter = new StepPainter(assembly, geometries, order);
  test('everything of a picture stays in its room; what comes is drawn stronger than what stands there; its number points at it', () => {
    for (const s of guide.steps.slice(0, 4)) {
      const { items, image } = painter.paint(s, PICTURE_ROOM);
      expect([...image!.png.subarray(1, 4)]).toEqual([0x50, 0x4e, 0x47]);
      for (const r of inkOf(items)) {
        expect(r.x).toBeGreaterThan(PICTURE_ROOM.x - 1);
        expect(r.x + r.width).toBeLessThan(PICTURE_ROOM.x + PICTURE_ROOM.width + 1);
        expect(r.y).toBeGreaterThan(PICTURE_ROOM.y - 1);
        expect(r.y + r.height).toBeLessThan(PICTURE_ROOM.y + PICTURE_ROOM.height + 1);
      }
      const width = (c: number) => Math.max(0, ...items.flatMap((i) => (i.kind === 'stroke' && i.source?.component === c ? [i.width] : [])));
      if (s.kind !== 'start') for (const c of s.there) if (width(c) > 0) expect(Math.max(...s.adds.map(width))).toBeGreaterThan(width(c));
      const numbers = items.flatMap((i) => (i.kind === 'text' ? [Number.parseInt(i.text, 10)] : []));
      for (const n of numbers) expect(s.kit.map((k) => k.item.number)).toContain(n);
    }
  });
  test('a page a step after the kit list, all inside A4', () => {
    const title = { title: 'Heap', number: 'H-1', revision: 'A', date: '2026-01-01' };
    const pages = guidePages(guide, title, new Map());
    expect(pages).toHaveLength(guide.steps.length + 1);
    for (const p of pages) {
      expect([p.width, p.height]).toEqual([297, 210]);
      for (const r of inkOf(p.groups.flatMap((g) => g.items)))
        expect([r.x >= 5, r.y >= 5, r.x + r.width <= 292, r.y + r.height <= 208]).toEqual([true, true, true, true]);
    }
    const words = (k: number) => pages[k]!.groups.flatMap((g) => g.items.flatMap((i) => (i.kind === 'text' ? [i.text] : [])));
    expect(words(0).join(' ')).toContain('H-1 A  Heap');
    expect(words(1).join(' ')).toContain('Begin with');
  });
});
