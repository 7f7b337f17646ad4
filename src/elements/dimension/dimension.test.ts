import { describe, expect, test } from 'vitest';
import type { DrawingDocument, ViewRecord } from '../../core/document/records.ts';
import { applySteps, dropWithDependants, type Step } from '../../core/document/steps.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { segmentsOf } from '../../core/picture/ink.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { takeOver } from '../../core/revision/take-over.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { viewMapOf } from '../../core/views/view-map.ts';
import { composeSheet } from '../compose.ts';
import { pickAt } from '../testing/pick.ts';
import { dimensionInstead } from '../reattach.ts';
import { Scene } from '../scene.ts';
import type { Target } from '../target.ts';
import { drawDimension, textOf, valuesOf } from './draw.ts';
import { roundTargets, toleranceFrom, withEnd, withStyle, withText } from './edit.ts';
import { dimensionKind } from './kind.ts';
import type { DimensionRecord } from './measure.ts';
import { placedAt, snapAway } from './place.ts';

// The machine: a plate 120 × 80 × 8, blocks 15 × 30 × 42, a post Ø12 with a ring Ø22 and a cap Ø18 about (0, -25), a tower 70 high.
const machine = smallMachine();
const drawn = await draftAll(machine, { bare: true });
const [front, top] = ['view:front', 'view:top'].map((id) => drawn.document[id] as ViewRecord) as [ViewRecord, ViewRecord];
const scene = drawn.scene;
const apply = (doc: DrawingDocument, steps: readonly Step[]): DrawingDocument => {
  const r = applySteps(doc, steps);
  if (!r.ok) throw new Error(r.reason);
  return r.document;
};
const put = (record: DimensionRecord, doc = drawn.document) => apply(doc, [{ op: 'put', record }]);
const sceneOf = (document: DrawingDocument) => new Scene({ ...drawn, document });
const dimension = (view: ViewRecord, kind: DimensionRecord['kind'], of: readonly Target[], more: Partial<DimensionRecord> = {}): DimensionRecord => ({
  type: 'dimension',
  id: 'dimension:1',
  view: view.id,
  kind,
  of,
  away: 10,
  ...more,
});
const value = (d: DimensionRecord) => valuesOf(d, scene).map((v) => Math.round(v.measured.value * 1e6) / 1e6);
const strokes = (items: readonly DisplayItem[]) => items.flatMap((i) => (i.kind === 'stroke' ? segmentsOf(i.d) : []));
const texts = (items: readonly DisplayItem[]) => items.flatMap((i) => (i.kind === 'text' ? [i.text] : []));

const left: Target = { side: 'left', at: [-60, 0] };
const right: Target = { side: 'right', at: [60, 0] };

describe('what is measured', () => {
  test('length, width and height of the whole are those of the plate and the tower', () => {
    expect(value(dimension(front, 'level', [left, right]))).toEqual([120]);
    expect(
      value(
        dimension(front, 'upright', [
          { side: 'bottom', at: [0, 0] },
          { side: 'top', at: [0, 70] },
        ]),
      ),
    ).toEqual([70]);
    expect(
      value(
        dimension(top, 'upright', [
          { side: 'bottom', at: [0, 0] },
          { side: 'top', at: [0, 0] },
        ]),
      ),
    ).toEqual([80]);
  });
  test('between an edge and an edge, by what lies under the pointer', () => {
    const a = pickAt(scene, top, [-60, 10]);
    const b = pickAt(scene, top, [60, 10]);
    expect([a, b].every((t) => t.edge)).toBe(true);
    expect(value(dimension(top, 'level', [a, b]))).toEqual([120]);
  });
  test('from an edge to a centre, to its nearer and to its farther rim', () => {
    const edge = pickAt(scene, top, [-60, 10]);
    const ring = pickAt(scene, top, [11, -25]);
    const d = dimension(top, 'level', [edge, ring]);
    expect(value(d)).toEqual([60]);
    expect(roundTargets(d, scene)).toEqual([1]);
    expect(value(withEnd(d, 1, 'near', scene))).toEqual([49]);
    expect(value(withEnd(d, 1, 'far', scene))).toEqual([71]);
    expect(value(withEnd(withEnd(d, 1, 'far', scene), 1, undefined, scene))).toEqual([60]);
  });
  test('a single edge from end to end; a circle by its diameter and radius', () => {
    expect(value(dimension(top, 'level', [pickAt(scene, top, [10, 40])]))).toEqual([120]);
    const ring = pickAt(scene, top, [11, -25]);
    expect([value(dimension(top, 'diameter', [ring])), value(dimension(top, 'radius', [ring]))]).toEqual([[22], [11]]);
  });
  test('the diameter of what is round seen from the side, by its outline', () => {
    const outline = pickAt(scene, front, [-6, 40]);
    expect(outline.face).toBeDefined();
    expect(value(dimension(front, 'diameter', [outline]))).toEqual([12]);
    const other = pickAt(scene, front, [6, 40]);
    expect(value(dimension(front, 'diameter', [outline, other]))).toEqual([12]);
    // From an outline to the axis only half is drawn, and the whole is said.
    const axis = pickAt(scene, front, [0, 44]);
    expect(valuesOf(dimension(front, 'diameter', [outline, axis]), scene)[0]!.measured).toMatchObject({ value: 12, half: true });
  });
  test('an angle in the corner that was picked', () => {
    const upright = pickAt(scene, front, [-60, 4]);
    const level = pickAt(scene, front, [-50, 0]);
    const d = dimension(front, 'angle', [upright, level]);
    expect(value(d)).toEqual([Math.round((Math.PI / 2) * 1e6) / 1e6]);
    expect(textOf(d, scene)).toBe('90°');
  });
  test('several in one go: chain, from one line, running from a zero', () => {
    const of = [pickAt(scene, front, [-60, 4]), pickAt(scene, front, [-40, 30]), pickAt(scene, front, [-25, 30]), pickAt(scene, front, [60, 4])];
    expect(value(dimension(front, 'level', of, { row: 'chain' }))).toEqual([20, 15, 85]);
    expect(value(dimension(front, 'level', of, { row: 'baseline' }))).toEqual([20, 35, 120]);
    expect(value(dimension(front, 'level', of, { row: 'running' }))).toEqual([20, 35, 120]);
    const [picture] = drawDimension(dimension(front, 'level', of, { row: 'running' }), scene);
    expect(texts(picture!.items)).toEqual(['0', '20', '35', '120']);
  });
  test('where two edges would meet, extended', () => {
    const a = pickAt(scene, front, [-40, 30]).edge!;
    const b = pickAt(scene, front, [0, 0]).edge!;
    // The inner side of the left block comes down to the ground 20 from the plate's end.
    expect(value(dimension(front, 'level', [left, { edge: a, with: b, at: [-40, 0] }]))).toEqual([20]);
  });
});

describe('how it is drawn (ISO 129-1, from memory)', () => {
  const d = dimension(front, 'level', [left, right], { side: 'bottom', away: 10 });
  const map = viewMapOf(front);
  const box = drawn.sheets.get(front.sheet)!.groups.find((g) => g.id === front.id)!.box;
  test('the line stands 10 mm under the view, its extension lines begin 1 mm off and run 2 mm past it', () => {
    const [picture] = drawDimension(d, scene);
    const y = box[1] + box[3] + 10;
    const lines = strokes(picture!.items);
    expect(lines).toContainEqual([map.x(-60), y, map.x(60), y].map((v) => expect.closeTo(v, 2) as number));
    const upright = lines.filter((l) => Math.abs(l[0] - l[2]) < 1e-6);
    expect(upright.map((l) => Math.max(l[1], l[3])).every((v) => Math.abs(v - y - 2) < 1e-2)).toBe(true);
    expect(upright.map((l) => Math.min(l[1], l[3])).every((v) => Math.abs(v - map.y(0) - 1) < 1e-2)).toBe(true);
  });
  test('its text stands over the line, upright ones read from the right', () => {
    const [text] = drawDimension(d, scene)[0]!.items.filter((i) => i.kind === 'text');
    expect(text).toMatchObject({ text: '120', height: 2.5 });
    expect((text as { y: number }).y).toBeLessThan(box[1] + box[3] + 10);
    const up = dimension(
      front,
      'upright',
      [
        { side: 'bottom', at: [0, 0] },
        { side: 'top', at: [0, 70] },
      ],
      { side: 'left' },
    );
    expect(drawDimension(up, scene)[0]!.items.find((i) => i.kind === 'text')).toMatchObject({ text: '70', turn: 90 });
  });
  test('ASME Y14.5: the text stands level in its line, which is broken for it', () => {
    const asme = sceneOf(apply(drawn.document, [{ op: 'put', record: { ...scene.drawing, standard: 'asme' } }]));
    const up = dimension(
      front,
      'upright',
      [
        { side: 'bottom', at: [0, 0] },
        { side: 'top', at: [0, 70] },
      ],
      { side: 'left' },
    );
    const [picture] = drawDimension(up, asme);
    const text = picture!.items.find((i) => i.kind === 'text') as Extract<DisplayItem, { kind: 'text' }>;
    expect([text.text, text.turn]).toEqual(['2.76', undefined]);
    const x = box[0] - 10;
    const pieces = strokes(picture!.items).filter((l) => Math.abs(l[0] - x) < 1e-2 && Math.abs(l[2] - x) < 1e-2);
    expect(pieces).toHaveLength(2);
    for (const [, a, , b] of pieces) expect((a - text.y + 1.25) * (b - text.y + 1.25)).toBeGreaterThan(0);
  });
  test('too narrow for its arrows they stand outside, and the text beside', () => {
    const d = dimension(top, 'diameter', [pickAt(scene, front, [-6, 40])], { view: front.id, away: 12 });
    const [picture] = drawDimension(d, scene);
    const ends = picture!.items.filter((i) => i.kind === 'fill');
    expect(ends).toHaveLength(2);
    // Arrows point towards each other.
    const tips = ends.map((e) => segmentsOf((e as { d: string }).d)[0]!);
    expect(Math.sign(tips[0]![2] - tips[0]![0])).toBe(-1 * Math.sign(tips[1]![2] - tips[1]![0]));
  });
  test('a leader to a circle ends on its rim', () => {
    const ring = pickAt(scene, top, [11, -25]);
    const [picture] = drawDimension(dimension(top, 'diameter', [ring], { turn: 0, away: 10 }), scene);
    const m = viewMapOf(top);
    expect(picture!.items.some((i) => i.kind === 'fill' && i.d.startsWith(`M${Math.round(m.x(11) * 1000) / 1000} `))).toBe(true);
  });
  test('switched off, none is drawn', () => {
    const doc = put(d);
    const off = apply(doc, [{ op: 'put', record: { ...scene.drawing, dimensionsOff: true } }]);
    const count = (document: DrawingDocument) => composeSheet(sceneOf(document), front.sheet).groups.filter((g) => g.role === 'dimension').length;
    expect([count(doc), count(off)]).toEqual([1, 0]);
  });
});

describe('placing and dragging', () => {
  test('lines are brought onto 10 mm, and 7 mm from line to line', () => {
    expect([9, 11.5, 16.4, 23, 13.4].map((v) => snapAway(v))).toEqual([10, 10, 17, 24, 13.4]);
  });
  test('a place under the view puts the line there, one over it on top', () => {
    const d = dimension(front, 'level', [left, right]);
    const [x, y, , h] = drawn.sheets.get(front.sheet)!.groups.find((g) => g.id === front.id)!.box;
    expect(placedAt(d, [x + 5, y + h + 17.5], scene)).toMatchObject({ side: 'bottom', away: 17 });
    expect(placedAt(d, [x + 5, y - 9], scene)).toMatchObject({ side: 'top', away: 10 });
    expect(placedAt(d, [x + 5, y - 9.3], scene, true).away).toBeCloseTo(9.3, 9);
  });
  test('an extension line is jogged by its ring, keeps its value, and is straight again near where it belongs', () => {
    const d = dimension(front, 'level', [left, right], { side: 'bottom' });
    const ends = (r: DimensionRecord) => dimensionKind.handles!(r, scene).filter((h) => h.name.startsWith('jog-'));
    const [a, b] = ends(d);
    const [step] = dimensionKind.drag!(d, [-6, 3], scene, 'jog-0');
    const after = (step as Extract<Step, { op: 'put' }>).record as DimensionRecord;
    expect(after.jogs).toEqual([-6, 0]);
    expect(value(after)).toEqual([120]);
    const [a2, b2] = ends(after);
    expect([a2!.at[0] - a!.at[0], a2!.at[1] - a!.at[1]]).toEqual([-6, 0]);
    expect(b2!.at).toEqual(b!.at);
    // Straight at both ends, slanted between them: three strokes instead of one.
    expect(strokes(drawDimension(after, scene)[0]!.items)).toHaveLength(strokes(drawDimension(d, scene)[0]!.items).length + 2);
    const slanted = strokes(drawDimension(after, scene)[0]!.items).filter(
      ([x0, y0, x1, y1]) => Math.abs(x1 - x0) > 5.9 && Math.abs(x1 - x0) < 6.1 && y0 !== y1,
    );
    expect(slanted).toHaveLength(1);
    const [back] = dimensionKind.drag!(after, [5.6, 0], scene, 'jog-0');
    expect(((back as Extract<Step, { op: 'put' }>).record as DimensionRecord).jogs).toBeUndefined();
    // Several in one go have none.
    expect(ends(dimension(front, 'level', [left, right], { row: 'chain', side: 'bottom' }))).toEqual([]);
  });
  test('dragging its line and its text', () => {
    const d = dimension(front, 'level', [left, right], { side: 'bottom', away: 10 });
    const s = sceneOf(put(d));
    expect(dimensionKind.drag!(d, [0, 7.2], s)).toMatchObject([{ record: { side: 'bottom', away: 17 } }]);
    expect(dimensionKind.drag!(d, [12, 0], s, 'text')).toMatchObject([{ record: { slide: expect.closeTo(12, 1) as number } }]);
    expect(dimensionKind.drag!(d, [12, -9], s, 'text')).toMatchObject([{ record: { jog: expect.closeTo(9, 1) as number } }]);
  });
});

describe('text', () => {
  const d = dimension(front, 'level', [left, right]);
  test('decimals, unit, tolerance, words', () => {
    expect(textOf(withStyle(d, { unit: 'inch', decimals: 3 }), scene)).toBe('4.724');
    expect(textOf(withText(d, { tolerance: toleranceFrom('+0.1 -0.2')!, after: 'C-C' }), scene)).toBe('120 (+0.1/-0.2) C-C');
    expect(withStyle(withStyle(d, { decimals: 3 }), { decimals: undefined })).toEqual(d);
  });
  test('tolerances as they are typed', () => {
    expect(['0.2', '±0,2', 'H7', '+0.1/-0.05', '0 -0.1', '', 'about'].map(toleranceFrom)).toEqual([
      { kind: 'equal', mm: 0.2 },
      { kind: 'equal', mm: 0.2 },
      { kind: 'fit', fit: 'H7', shows: 'both' },
      { kind: 'limits', upper: 0.1, lower: -0.05 },
      { kind: 'limits', upper: 0, lower: -0.1 },
      null,
      undefined,
    ]);
  });
  const type = (record: DimensionRecord, typed: string): DimensionRecord => {
    const [text] = dimensionKind.texts!(record, sceneOf(put(record)));
    const [step] = text!.write(typed, '2026-01-01');
    return (step as { record: DimensionRecord }).record;
  };
  test('words typed around the true value stay around it; anything else is written instead, and a finding', () => {
    expect(type(d, '4× 120 C-C').text).toEqual({ before: '4×', after: 'C-C' });
    expect(type(d, '(120)').text).toEqual({ form: 'reference' });
    expect(type(d, '1200').text).toEqual({ typed: '1200' });
    expect(type(withText(d, { after: 'C-C' }), '').text).toBeUndefined();
    const typed = type(d, 'about 125');
    expect(findingsOf(sceneOf(put(typed))).filter((f) => f.code === 'TYPED_VALUE')).toMatchObject([
      { about: ['dimension:1'], text: expect.stringContaining('120') as string },
    ]);
  });
});

describe('the model changes', () => {
  const edge = pickAt(scene, top, [-60, 10]);
  const ring = pickAt(scene, top, [11, -25]);
  const d = dimension(top, 'level', [edge, ring], { seen: [60] });
  test('a value that changed is a finding until someone has seen it', () => {
    const doc = put({ ...d, seen: [58] });
    expect(findingsOf(sceneOf(doc)).filter((f) => f.code === 'CHANGED_VALUE')).toMatchObject([{ text: expect.stringMatching(/58.*60/) as string }]);
    expect(findingsOf(sceneOf(put(d))).filter((f) => f.code === 'CHANGED_VALUE')).toEqual([]);
    // It stands in a box on the sheet as long.
    const boxes = (record: DimensionRecord) => drawDimension(record, scene)[0]!.items.filter((i) => i.kind === 'stroke' && i.color !== undefined);
    expect(boxes({ ...d, seen: [58] })).toHaveLength(1);
    expect(boxes(d)).toEqual([]);
  });
  test('what lost its edge stays where it was, with a question mark, and is a finding', () => {
    const after = { ...machine.assembly, parts: machine.assembly.parts.map((p) => (p.name === 'Ring' ? { ...p, geometryKey: 'other' } : p)) };
    const matching = {
      parts: machine.assembly.parts.map((_, i) => ({ before: i, after: i })),
      components: drawn.components.map((c) => c.index),
      doubtful: [],
    } as never;
    const model = { type: 'model', id: 'model', model: '00000000-0000-4000-8000-000000000001', name: 'x' } as const;
    const taken = takeOver(machine.assembly, after, put(d), matching, model, { edges: () => undefined });
    const document = apply(put(d), taken.steps);
    const now = new Scene({ ...drawn, assembly: after, document });
    const record = now.one('dimension', 'dimension:1')!;
    expect(record.of[1]).toMatchObject({ edge: { lost: true } });
    expect(texts(drawDimension(record, now)[0]!.items)).toEqual(['60?']);
    expect(findingsOf(now).filter((f) => f.code === 'LOST_TARGET')).toMatchObject([{ about: ['dimension:1'] }]);
    // What is there now is offered, with what it would measure: the ring first, which is where it was.
    const known = new Scene({ ...drawn, document: put({ ...record, of: [record.of[0]!, { ...d.of[1]!, edge: { ...d.of[1]!.edge!, lost: true } }] }) });
    const [instead] = dimensionInstead(known.one('dimension', 'dimension:1')!, known);
    expect(instead).toMatchObject({ value: 60, record: { of: [record.of[0], { edge: { component: 'Ring' } }], seen: [60] } });
    expect(
      findingsOf(new Scene({ ...drawn, document: put(instead!.record) })).filter((f) => f.code !== 'NO_CENTRELINE' && f.about.includes('dimension:1')),
    ).toEqual([]);
    // What is not lost is left alone.
    expect(dimensionInstead(d, scene)).toEqual([]);
    // Found again it is measured anew.
    const found = takeOver(machine.assembly, after, put(d), matching, model, { edges: (_b, _a, e) => e });
    expect((apply(put(d), found.steps)['dimension:1'] as DimensionRecord).of[1]).toMatchObject({ edge: { geometry: 'other' } });
  });
  test('goes with its view', () => {
    expect(apply(put(d), dropWithDependants(put(d), top.id))['dimension:1']).toBeUndefined();
  });
});
