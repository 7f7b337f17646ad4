import { describe, expect, test } from 'vitest';
import type { DrawingDocumentRecord, ViewRecord } from '../../core/document/records.ts';
import { applySteps, dropWithDependants } from '../../core/document/steps.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { segmentsOf } from '../../core/picture/ink.ts';
import { textWidth } from '../../core/picture/lettering.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { scaled, shifted } from '../change.ts';
import { pickAt } from '../testing/pick.ts';
import { sceneWith as drawnWith } from '../testing/scene-with.ts';
import { drawNote } from './draw.ts';
import { noteKind } from './kind.ts';
import { noteRecord } from './record.ts';
import { assemblyOf, cylinder, joined } from '../../core/testing/shapes.ts';
import { calloutOf, wordsOf, type NoteRecord } from './words.ts';

const drawn = await draftAll(smallMachine(), { bare: true });
const top = drawn.document['view:top'] as ViewRecord;
const sceneWith = (...records: DrawingDocumentRecord[]) => drawnWith(drawn, ...records);
const onSheet = (text: string, more: Partial<NoteRecord> = {}): NoteRecord => ({
  type: 'note',
  id: 'note:1',
  view: null,
  sheet: top.sheet,
  at: [40, 220],
  text,
  ...more,
});
const ring = pickAt(drawn.scene, top, [11, -25]);
const atRing = (text: string, more: Partial<NoteRecord> = {}): NoteRecord => ({
  type: 'note',
  id: 'note:1',
  view: top.id,
  sheet: null,
  at: [40, -30],
  text,
  leaders: [{ to: { ...ring, at: [11, -25] }, end: 'arrow' }],
  ...more,
});
const draw = (n: NoteRecord) => drawNote(n, sceneWith(n))[0]!;
const texts = (items: readonly DisplayItem[]) => items.filter((i): i is Extract<DisplayItem, { kind: 'text' }> => i.kind === 'text');

const fits = (record: unknown) => noteRecord.safeParse(record).success;

describe('text', () => {
  test('lines stand under each other, their capitals as high as is asked for', () => {
    const [a, b] = texts(draw(onSheet('First\nSecond', { heightMm: 5 })).items);
    expect([a!.height, a!.x, a!.y, b!.x]).toEqual([5, 40, 225, 40]);
    expect(b!.y - a!.y).toBeCloseTo(8.5, 9);
  });
  test('bold words, and lists with their marks', () => {
    const items = texts(draw(onSheet('*General* notes\n1. Grease\n- Lock')).items);
    expect(items.map((t) => [t.text, t.bold ?? false])).toEqual([
      ['General', true],
      ['notes', false],
      ['1.', false],
      ['Grease', false],
      ['•', false],
      ['Lock', false],
    ]);
    // Words after a bold one stand a space off.
    expect(items[1]!.x).toBeCloseTo(40 + textWidth('General ', 2.5), 2);
  });
  test('broken at a width', () => {
    const items = texts(draw(onSheet('one two three four five six', { widthMm: 20 })).items);
    expect(items.length).toBeGreaterThan(1);
    for (const t of items) expect(textWidth(t.text, 2.5)).toBeLessThanOrEqual(20);
    expect(items.map((t) => t.text).join(' ')).toBe('one two three four five six');
  });
  test('values in braces; a field without a value prints nothing, what is no field stays as it was typed', () => {
    const say = (n: NoteRecord) => wordsOf(n, sceneWith(n));
    expect(say(onSheet('Sheet {sheet} of {sheets}, {revision}, {nothing}, {item}'))).toBe('Sheet 1 of 2, A, {nothing}, ');
    const item = drawn.items.find((i) => i.values.description.text === 'Ring')!;
    expect(say(atRing('{item} {description} {quantity}× {scale}'))).toBe(`${item.number} Ring 1× ${top.scale === 1 ? '1:1' : '1:2'}`);
  });
  test('a hole says its diameter', () => {
    const bore = drawn.scene.features(drawn.components.find((c) => c.name === 'Ring')!.index)!.rounds.find((r) => r.inward)!;
    const n = atRing('{hole}', {
      leaders: [{ to: { face: { ...({ component: 'Ring', geometry: ring.edge!.geometry } as const), face: bore.faces[0]! }, at: [0, 0] }, end: 'arrow' }],
    });
    expect(wordsOf(n, sceneWith(n))).toBe('Ø12.4');
  });
});

describe('callouts of holes and threads', () => {
  // Four equal holes of Ø10.2, the drill for M12, in one part.
  const ring4 = (x: number, y: number) => [cylinder(9, 8, 32, 5.1), [x, y, 0]] as const;
  const part = assemblyOf([{ name: 'Flange', geometry: joined(ring4(-30, -30), ring4(30, -30), ring4(30, 30), ring4(-30, 30)) }]);
  const flange = draftAll(part, { only: 'arrangement', bare: true });
  const bores = async () => {
    const { scene } = await flange;
    return scene.features(0)!.rounds.flatMap((r) => (r.inward ? [r.faces[0]!] : []));
  };
  const faceOf = (face: number) => ({ component: 'Flange', geometry: part.assembly.parts[0]!.geometryKey, face });
  const thread = (n: number, face: number, designation: string) => ({ type: 'thread', id: `thread:${n}`, face: faceOf(face), designation }) as const;
  const at = (face: number) => atRing('{hole}', { leaders: [{ to: { face: faceOf(face), at: [0, 0] }, end: 'arrow' }] });

  test('are counted by what they say: one threaded of four', async () => {
    const [a, b] = await bores();
    const scene = drawnWith(await flange, thread(1, a!, 'M12'));
    expect([wordsOf(at(a!), scene), wordsOf(at(b!), scene)]).toEqual(['M12', '3× Ø10.2']);
  });
  test('two threaded of four', async () => {
    const [a, b, c] = await bores();
    const scene = drawnWith(await flange, thread(1, a!, 'M12'), thread(2, b!, 'M12'));
    expect([wordsOf(at(b!), scene), wordsOf(at(c!), scene)]).toEqual(['2× M12', '2× Ø10.2']);
  });
  test('what is no hole has no callout: nothing is printed, and it must be put right', async () => {
    const scene = await flange.then((d) => d.scene);
    const outside = scene.features(0)!.rounds.find((r) => !r.inward)!.faces[0]!;
    const note = at(outside);
    const noted = drawnWith(await flange, note);
    expect(calloutOf('hole', note.leaders![0]!.to, noted)).toBeUndefined();
    expect(wordsOf(note, noted)).toBe('');
    expect(findingsOf(noted).filter((f) => f.code === 'FIELD_EMPTY')).toMatchObject([
      { severity: 'must', about: ['note:1'], text: expect.stringContaining('{hole}') as string },
    ]);
  });
  test('braces that are no field are printed as typed, and someone should look', async () => {
    const note = onSheet('See {holee}');
    const scene = drawnWith(await flange, { ...note, sheet: (await flange).scene.sheets[0]!.id });
    expect(wordsOf(note, scene)).toBe('See {holee}');
    expect(
      findingsOf(scene)
        .filter((f) => f.code === 'FIELD_EMPTY')
        .map((f) => f.severity),
    ).toEqual(['should']);
  });
});

describe('leaders', () => {
  test('go from what is pointed at to a level line beside the text', () => {
    const note = atRing('Ring');
    const scene = sceneWith(note);
    const { items, grab } = drawNote(note, scene)[0]!;
    const map = scene.map(top);
    const lines = items.flatMap((i) => (i.kind === 'stroke' ? segmentsOf(i.d) : []));
    expect(lines[0]!.slice(0, 2)).toEqual([map.x(11), map.y(-25)].map((v) => expect.closeTo(v, 2) as number));
    expect(lines[1]![1]).toBeCloseTo(lines[1]![3], 6);
    expect(lines[1]![2]).toBeCloseTo(grab!.x, 2);
    expect(items.some((i) => i.kind === 'fill')).toBe(true);
  });
  test('are dragged to another place', () => {
    const note = atRing('Ring');
    const scene = sceneWith(note);
    expect(noteKind.handles!(note, scene)).toHaveLength(1);
    const [step] = noteKind.drag!(note, [5, 0], scene, 'leader-0');
    expect((step as { record: NoteRecord }).record.leaders![0]!.to.at![0]).toBeCloseTo(11 + 5 / top.scale, 6);
  });
  test('lost with the shape they point at: a finding', () => {
    const note = atRing('Ring', { leaders: [{ to: { edge: { ...ring.edge!, lost: true }, at: [11, -25] }, end: 'arrow' }] });
    expect(findingsOf(sceneWith(note)).filter((f) => f.code === 'LOST_TARGET')).toMatchObject([{ about: ['note:1'] }]);
  });
});

describe('where it belongs', () => {
  test('on a sheet, or to a view, and never to both or none', () => {
    const both = { ...onSheet('x'), view: top.id };
    expect(fits(both)).toBe(false);
    expect(fits({ ...both, view: null, sheet: null })).toBe(false);
    expect([fits(onSheet('x')), fits(atRing('x'))]).toEqual([true, true]);
  });
  test('it goes with its view and with its sheet', () => {
    const scene = sceneWith(atRing('a'), { ...onSheet('b'), id: 'note:2' });
    const without = (id: string) => {
      const r = applySteps(scene.document, dropWithDependants(scene.document, id));
      if (!r.ok) throw new Error(r.reason);
      return Object.keys(r.document).filter((k) => k.startsWith('note'));
    };
    expect([without(top.id), without(top.sheet)]).toEqual([['note:2'], []]);
  });
  test('it follows its view drawn larger, and its component that moved', () => {
    const note = atRing('a');
    expect(noteKind.follow!(note, scaled(new Map([[top.id, 2]]))).at).toEqual([80, -60]);
    const moved = noteKind.follow!(
      note,
      shifted(
        (_, path) => (path === 'Ring' ? [3, 4] : undefined),
        () => top.scale,
      ),
    );
    expect(moved.leaders![0]!.to.at).toEqual([14, -21]);
    expect(noteKind.follow!(onSheet('b'), scaled(new Map([[top.id, 2]])))).toEqual(onSheet('b'));
  });
  test('its text is changed where it stands; an empty one takes it away', () => {
    const note = onSheet('one line');
    const [text] = noteKind.texts!(note, sceneWith(note));
    expect(text!.write('other', '')).toMatchObject([{ op: 'put', record: { text: 'other' } }]);
    expect(text!.write(' ', '')).toEqual([{ op: 'drop', id: 'note:1' }]);
  });
});
