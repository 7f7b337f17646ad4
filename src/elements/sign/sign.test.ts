import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { overlaps } from '../../core/base/rect.ts';
import { wholeMass } from '../../core/ledger/centre-of-mass.ts';
import { CHARACTERISTICS } from '../../core/assembly/stated.ts';
import type { DrawingDocumentRecord, ViewRecord } from '../../core/document/records.ts';
import { dropWithDependants } from '../../core/document/steps.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { inkOf, segmentsOf, textRect } from '../../core/picture/ink.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { pickAt } from '../testing/pick.ts';
import { leadersInstead } from '../reattach.ts';
import { sceneWith as drawnWith } from '../testing/scene-with.ts';
import { drawSign, massIn, type Sign, type SignRecord } from './draw.ts';
import { signKind } from './kind.ts';
import { signRecord, WELDS } from './record.ts';

const drawn = await draftAll(smallMachine(), { bare: true });
const top = drawn.document['view:top'] as ViewRecord;
const sceneWith = (...records: DrawingDocumentRecord[]) => drawnWith(drawn, ...records);
const drawing = drawn.document['drawing'] as Extract<DrawingDocumentRecord, { type: 'drawing' }>;
const onSheet = (is: Sign): SignRecord => ({ type: 'sign', id: 'sign:1', view: null, sheet: top.sheet, at: [100, 100], is });
const ring = pickAt(drawn.scene, top, [11, -25]);
const pointing = (is: Sign, at: readonly [number, number], end: 'arrow' | 'triangle' = 'arrow'): SignRecord => ({
  type: 'sign',
  id: 'sign:1',
  view: top.id,
  sheet: null,
  at,
  is,
  leaders: [{ to: { ...ring, at: [11, -25] }, end }],
});
const itemsOf = (s: SignRecord, ...others: DrawingDocumentRecord[]) => drawSign(s, sceneWith(s, ...others))[0]!.items;
type Stroke = Extract<DisplayItem, { kind: 'stroke' }>;
const strokes = (items: readonly DisplayItem[]) => items.filter((i): i is Stroke => i.kind === 'stroke');
const texts = (items: readonly DisplayItem[]) => items.filter((i) => i.kind === 'text');
const bends = (items: readonly DisplayItem[]) => strokes(items).filter((s) => segmentsOf(s.d).length > 1);

const fillet = { weld: 'fillet', size: 'a5', length: '3 × 50 (30)' } as const;
const asme = { ...drawing, standard: 'asme' } as const;

describe('welds (ISO 2553 system A; AWS A2.4 for ASME)', () => {
  const heights = (s: SignRecord, ...others: DrawingDocumentRecord[]) => {
    const box = inkOf(bends(itemsOf(s, ...others)))[0]!;
    return [box.y, box.y + box.height].map((v) => Math.round((v - 100) * 100) / 100);
  };
  const dashes = (s: SignRecord, ...others: DrawingDocumentRecord[]) => strokes(itemsOf(s, ...others)).filter((i) => i.dash).length;

  test('on the arrow side it stands on the solid line, with a dashed one for the other side', () => {
    const s = onSheet({ sign: 'weld', arrowSide: fillet, tail: '' });
    expect(heights(s)).toEqual([-4, 0]);
    expect(dashes(s)).toBe(1);
  });
  test('on the other side it hangs under the dashed line', () => {
    const s = onSheet({ sign: 'weld', otherSide: fillet, tail: '' });
    expect(heights(s)).toEqual([1.75, 5.75]);
    expect(dashes(s)).toBe(1);
  });
  test('alike on both sides it has no dashed line', () => {
    expect(dashes(onSheet({ sign: 'weld', arrowSide: fillet, otherSide: fillet, tail: '' }))).toBe(0);
    expect(dashes(onSheet({ sign: 'weld', arrowSide: fillet, otherSide: { ...fillet, size: 'a3' }, tail: '' }))).toBe(1);
  });
  test('after ASME the arrow side is below the line, and nothing is dashed', () => {
    const s = onSheet({ sign: 'weld', arrowSide: fillet, tail: '' });
    expect(heights(s, asme)).toEqual([0, 4]);
    expect(dashes(s, asme)).toBe(0);
    expect(heights(onSheet({ sign: 'weld', otherSide: fillet, tail: '' }), asme)).toEqual([-4, 0]);
  });
  test('the upright of a fillet, a bevel and a J is on the left whichever way the leader comes', () => {
    for (const weld of ['fillet', 'bevel', 'j'] as const)
      for (const at of [
        [60, -30],
        [-60, -30],
      ] as const) {
        const s = pointing({ sign: 'weld', arrowSide: { weld, size: '', length: '' }, tail: '' }, at);
        const symbol = bends(itemsOf(s))[0]!;
        const sides = segmentsOf(symbol.d);
        const upright = sides.find((l) => Math.abs(l[0] - l[2]) < 1e-6 && Math.abs(l[1] - l[3]) > 2)!;
        const rest = sides.filter((l) => l !== upright).map((l) => (l[0] + l[2]) / 2);
        expect(rest.every((x) => x > upright[0])).toBe(true);
      }
  });
  test('size left, length right of the symbol, the process behind the fork: nothing on each other', () => {
    const word = fc.constantFrom('', 'a5', 'z10', 's8', '3 × 50 (30)', '2 x 100');
    const side = fc.option(fc.record({ weld: fc.constantFrom(...WELDS), size: word, length: word }), { nil: undefined });
    fc.assert(
      fc.property(side, side, fc.constantFrom('', '135', '111/ISO 5817-C'), fc.constantFrom(60, -60), (arrowSide, otherSide, tail, x) => {
        const s = pointing({ sign: 'weld', ...(arrowSide ? { arrowSide } : {}), ...(otherSide ? { otherSide } : {}), tail }, [x, -30]);
        const items = itemsOf(s);
        const boxes = texts(items).map(textRect);
        for (let i = 0; i < boxes.length; i++) for (let j = 0; j < i; j++) expect(overlaps(boxes[i]!, boxes[j]!)).toBe(false);
        const symbols = inkOf(bends(items).filter((b) => b.width < 0.3)).slice(0, (arrowSide ? 1 : 0) + (otherSide ? 1 : 0));
        for (const b of boxes) for (const m of symbols) expect(overlaps(b, m)).toBe(false);
      }),
      { numRuns: 150 },
    );
  });
  test('all around, on site and the fork are drawn', () => {
    const plain = itemsOf(onSheet({ sign: 'weld', arrowSide: fillet, tail: '' })).length;
    expect(itemsOf(onSheet({ sign: 'weld', arrowSide: fillet, tail: '', around: true })).length).toBe(plain + 1);
    expect(itemsOf(onSheet({ sign: 'weld', arrowSide: fillet, tail: '', field: true })).length).toBe(plain + 2);
    expect(texts(itemsOf(onSheet({ sign: 'weld', arrowSide: fillet, tail: '135' }))).map((t) => t.text)).toContain('135');
  });
});

describe('surface texture (ISO 21920-1)', () => {
  const surface = (more: Partial<Extract<Sign, { sign: 'surface' }>>): Sign => ({
    sign: 'surface',
    removal: 'any',
    limits: ['Ra 3,2'],
    process: '',
    lay: '',
    allowance: '',
    ...more,
  });
  test('stands on its tip, the legs at 60°', () => {
    const [mark] = strokes(itemsOf(onSheet(surface({}))));
    const [a, b, c] = segmentsOf(mark!.d).map((x) => [...x]) as [number[], number[], number[]];
    expect([a[2], a[3]]).toEqual([100, 100]);
    const slope = (s: number[]) => Math.round((Math.atan2(Math.abs(s[3]! - s[1]!), Math.abs(s[2]! - s[0]!)) * 180) / Math.PI);
    expect([slope(a), slope(b), slope(c)]).toEqual([60, 60, 0]);
    // The long leg is a little more than twice the short one.
    expect((b[1]! - b[3]!) / (a[3]! - a[1]!)).toBeGreaterThan(2);
  });
  test('a bar where material must be removed, a circle where it must not', () => {
    const count = (removal: 'any' | 'required' | 'forbidden') => strokes(itemsOf(onSheet(surface({ removal }))));
    expect(count('any')).toHaveLength(1);
    const bar = segmentsOf(count('required')[1]!.d)[0]!;
    expect(bar[1]).toBe(bar[3]);
    expect(count('forbidden')[1]!.d).toContain('A');
  });
  test('the circle touches both legs', () => {
    const [, ring] = strokes(itemsOf(onSheet(surface({ removal: 'forbidden' }))));
    const [, x, y, r] = /^M(-?[\d.]+) (-?[\d.]+)A(-?[\d.]+)/.exec(ring!.d)!.map(Number) as [number, number, number, number];
    // Centre to the leg through (100, 100) that leans by 30° from the upright.
    const off = Math.abs((100 - y) * Math.sin(Math.PI / 6) - Math.abs(x + r - 100) * Math.cos(Math.PI / 6));
    expect(off).toBeCloseTo(r, 2);
  });
  test('two limits, process, lay and allowance stand clear of each other', () => {
    const boxes = texts(itemsOf(onSheet(surface({ limits: ['U Ra 3,2', 'L Ra 0,8'], process: 'ground', lay: 'X', allowance: '0,5' })))).map(textRect);
    expect(boxes).toHaveLength(5);
    for (let i = 0; i < boxes.length; i++) for (let j = 0; j < i; j++) expect(overlaps(boxes[i]!, boxes[j]!)).toBe(false);
  });
});

describe('geometrical tolerances (ISO 1101) and datums (ISO 5459)', () => {
  const rows = [{ of: 'position', round: true, zone: '0,2', modifier: 'M', datums: ['A', 'B-C'] }] as const;
  test('boxes twice as high as letters, each text inside its own', () => {
    const items = itemsOf(onSheet({ sign: 'frame', rows, above: '4×' }));
    const [box] = inkOf(strokes(items).filter((s) => s.d.endsWith('Z')));
    expect(box!.height).toBeCloseTo(2 * 2.5, 6);
    const words = texts(items);
    expect(words.map((t) => t.text)).toEqual(['Ø0,2', 'M', 'A', 'B-C', '4×']);
    for (const t of words.slice(0, 4)) {
      const r = textRect(t);
      expect([r.x >= box!.x, r.x + r.width <= box!.x + box!.width, r.y >= box!.y, r.y + r.height <= box!.y + box!.height]).toEqual([true, true, true, true]);
    }
    expect(textRect(words[4]!).y + 2.5).toBeLessThan(box!.y);
  });
  test('every characteristic has a picture that stays in its cell, and no two are alike', () => {
    const pictures = CHARACTERISTICS.map((of) => {
      const items = itemsOf(onSheet({ sign: 'frame', rows: [{ of, zone: '0,1', datums: [] }], above: '' }));
      const [box, mark] = strokes(items);
      const [cell, ink] = inkOf([box!, mark!]) as [{ x: number; y: number }, { x: number; y: number; width: number; height: number }];
      expect([ink.x > cell.x, ink.x + ink.width < cell.x + 5, ink.y > cell.y, ink.y + ink.height < cell.y + 5]).toEqual([true, true, true, true]);
      return mark!.d;
    });
    expect(new Set(pictures).size).toBe(14);
  });
  test('the triangle of a datum has its base on what it names', () => {
    const s = pointing({ sign: 'datum', letter: 'A' }, [60, -30], 'triangle');
    const scene = sceneWith(s);
    const tip = scene.map(top).toPaper([11, -25]);
    const triangle = drawSign(s, scene)[0]!.items.find((i) => i.kind === 'fill')!;
    const [base] = segmentsOf(triangle.kind === 'fill' ? triangle.d : '');
    expect((base![0] + base![2]) / 2).toBeCloseTo(tip[0], 2);
    expect((base![1] + base![3]) / 2).toBeCloseTo(tip[1], 2);
    expect(Math.hypot(base![2] - base![0], base![3] - base![1])).toBeCloseTo(3.5, 2);
  });
});

describe('centre of mass', () => {
  const s: SignRecord = { type: 'sign', id: 'sign:1', view: top.id, sheet: null, at: [40, -40], is: { sign: 'mass-centre', mass: true } };
  test('is where the masses have it, as seen in the view', () => {
    const materials = drawn.scene.items.map((item, k): DrawingDocumentRecord => ({
      type: 'property',
      id: `property:${item.part}`,
      part: item.part,
      values: { mass: `${k + 1} kg` },
    }));
    const scene = sceneWith(s, ...materials);
    const whole = wholeMass(scene.assembly, scene.components, scene.items);
    const { centre } = whole;
    expect(centre).toBeDefined();
    const found = massIn(top, scene)!;
    const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
    expect(found.at[0]).toBeCloseTo(dot(top.right, centre!), 6);
    expect(found.at[1]).toBeCloseTo(dot(top.up, centre!), 6);
    expect(found.kg).toBeCloseTo(whole.kg, 9);
    // Of a view that leaves something out it is the centre of the rest.
    const less = { ...top, shows: { only: false, of: [scene.components.find((c) => scene.itemOf(c.index)?.massKg !== undefined)!.path] } } as const;
    expect(massIn(less, sceneWith(s, less, ...materials))!.kg).toBeLessThan(whole.kg);
  });
  test('an exploded view has none, which is said', () => {
    const exploded = drawn.scene.all('view').find((v) => v.spread)!;
    const lost = { ...s, view: exploded.id };
    const scene = sceneWith(lost);
    expect(drawSign(lost, scene)).toEqual([]);
    expect(findingsOf(scene).filter((f) => f.about.includes('sign:1'))).toMatchObject([{ code: 'NO_MASS' }]);
  });
  test('it belongs to a view', () => {
    expect(signRecord.safeParse(s).success).toBe(true);
    expect(signRecord.safeParse({ ...s, view: null, sheet: top.sheet }).success).toBe(false);
  });
});

describe('every sign', () => {
  const all: readonly Sign[] = [
    { sign: 'weld', arrowSide: fillet, tail: '135' },
    { sign: 'surface', removal: 'required', limits: ['Ra 3,2'], process: '', lay: '', allowance: '' },
    { sign: 'frame', rows: [{ of: 'flatness', zone: '0,1', datums: [] }], above: '' },
    { sign: 'datum', letter: 'B' },
    { sign: 'flag', shape: 'triangle', text: 'A' },
    { sign: 'flag', shape: 'hexagon', text: '12' },
    { sign: 'lifting', text: 'Lift here' },
  ];
  test.each(all.map((is) => [is.sign, is] as const))('%s: its leader ends at it, it is dragged, its tip goes elsewhere, it goes with its view', (_, is) => {
    for (const at of [
      [60, -30],
      [-60, 30],
    ] as const) {
      const s = pointing(is, at);
      const scene = sceneWith(s);
      const [d] = drawSign(s, scene);
      const [first] = d!.solid.segments;
      const tip = scene.map(top).toPaper([11, -25]);
      expect([first![0], first![1]]).toEqual([...tip]);
      const end = d!.solid.segments.at(-1)!;
      const box = d!.solid.rects[0]!;
      // A leader touches its sign, and does not run through it.
      expect(end[2]).toBeGreaterThan(box.x - 0.01);
      expect(end[2]).toBeLessThan(box.x + box.width + 0.01);
      const moved = signKind.drag!(s, [5, 7], scene);
      expect(moved).toMatchObject([{ record: { at: [at[0] + 5, at[1] + 7] } }]);
      const aimed = signKind.drag!(s, [3, 0], scene, 'leader-0');
      expect(aimed).toMatchObject([{ record: { leaders: [{ to: { at: [11 + 3 / top.scale, -25] } }] } }]);
      expect(dropWithDependants(scene.document, top.id).map((step) => (step.op === 'drop' ? step.id : ''))).toContain('sign:1');
    }
  });
  test('one that lost what it points at is found', () => {
    const s = pointing({ sign: 'datum', letter: 'A' }, [60, -30]);
    const { to } = s.leaders![0]!;
    const lost = {
      ...s,
      leaders: [{ end: 'arrow', to: to.edge ? { ...to, edge: { ...to.edge, lost: true } } : { ...to, face: { ...to.face!, lost: true } } }],
    } as SignRecord;
    const scene = sceneWith(lost);
    expect(findingsOf(scene).filter((f) => f.about.includes('sign:1'))).toMatchObject([{ code: 'LOST_TARGET' }]);
    // What is there now is offered.
    expect(leadersInstead(lost.leaders, top, scene)).toEqual([{ end: 'arrow', to: { ...to, at: [11, -25] } }]);
    expect(leadersInstead(s.leaders, top, scene)).toBeUndefined();
  });
});
