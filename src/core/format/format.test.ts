import { describe, expect, test } from 'vitest';
import { contains, inflate, overlaps, type Rect } from '../base/rect.ts';
import type { DrawingDocumentRecord, SheetRecord } from '../document/records.ts';
import { applySteps, type Step } from '../document/steps.ts';
import { textRect } from '../picture/ink.ts';
import { paperByName, PAPER_SIZES, sheetGeometry } from '../sheet/paper.ts';
import { applyRecipe } from '../recipe/apply.ts';
import { recipeFrom } from '../recipe/keep.ts';
import { recipe } from '../recipe/record.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';
import { computeView } from '../views/compute-view.ts';
import { layOutBlock } from '../../elements/block/layout.ts';
import { composeSheet } from '../../elements/compose.ts';
import { listRects } from '../../elements/list/layout.ts';
import { Scene } from '../../elements/scene.ts';
import { formatBlocksOn } from '../../elements/sheet/anchored-on.ts';
import { applyFormat, formatFrom, formatRemoved, formatToChange, laidOn } from './apply.ts';
import { asmeBlock, isoBlock } from './blocks.ts';
import { readFormat, writeFormat } from './file.ts';
import { sheetFormat, type SheetFormat } from './record.ts';
import { SHIPPED_FORMATS, shippedFormat } from './shipped.ts';

const machine = smallMachine();
const drawn = await draftAll(machine, { bare: true });
const { scene } = drawn;
let n = 0;
const fresh = (base: string) => `${base}~${++n}`;

function after(s: Scene, steps: readonly Step[]): Scene {
  const r = applySteps(s.document, steps);
  if (!r.ok) throw new Error(r.reason);
  return s.with(r.document);
}
/** The scene with its first sheet on another paper. */
const onPaper = (s: Scene, size: string, landscape: boolean, more: Partial<SheetRecord> = {}): { scene: Scene; sheet: SheetRecord } => {
  const sheet: SheetRecord = { ...s.sheets[0]!, size, landscape, ...more };
  return { scene: after(s, [{ op: 'put', record: sheet }]), sheet };
};
const on = (s: Scene, body: SheetFormat, sheets = s.sheets.map((x) => x.id)) => after(s, applyFormat(s, { body }, sheets, fresh).steps);
const groups = (s: Scene, sheet: string) => composeSheet(s, sheet).groups;
const words = (s: Scene, sheet: string, role: string) =>
  groups(s, sheet)
    .filter((g) => g.role === role)
    .flatMap((g) => g.items.flatMap((i) => (i.kind === 'text' ? [i.text] : [])));

/** A format of one's own: a logo above on the left, a note below on the left, a stamp in the middle of the top. */
const own: SheetFormat = {
  ...shippedFormat('ISO title block')!,
  name: 'House',
  words: 'Ours.',
  form: { ...shippedFormat('ISO title block')!.form, edges: { left: 25, right: 5, top: 5, bottom: 5 } },
  elements: [
    ...shippedFormat('ISO title block')!.elements,
    {
      type: 'figure',
      id: 'figure:1',
      sheet: 'format',
      shape: 'line',
      points: [
        [30, 20],
        [70, 20],
      ],
    },
    { type: 'note', id: 'note:1', view: null, sheet: 'format', at: [32, 270], text: 'Property of {owner}. Project {project}.' },
    {
      type: 'block',
      id: 'block:2',
      sheet: 'format',
      at: [190, 5],
      columns: [50],
      rows: [9],
      cells: [{ column: 0, row: 0, caption: 'Project', text: '{project}' }],
    },
  ],
  fields: { project: 'none yet' },
};

describe('formats that come with the application', () => {
  test('are what a file of one may be, each by another name', () => {
    for (const f of SHIPPED_FORMATS) expect(sheetFormat.safeParse(f).success, f.name).toBe(true);
    expect(new Set(SHIPPED_FORMATS.map((f) => f.name)).size).toBe(SHIPPED_FORMATS.length);
  });
  // ISO 5457:1999, table 1 and 4.1: borders of 20 mm at the filing edge and 10 mm elsewhere; drawing space of A0…A4 (from memory).
  test.each([
    ['A0', true, 1159, 821],
    ['A1', true, 811, 574],
    ['A2', true, 564, 400],
    ['A3', true, 390, 277],
    ['A4', false, 180, 277],
  ])('%s has the drawing space of ISO 5457', (size, landscape, width, height) => {
    const { frame } = onPaper(scene, size, landscape).scene.page(scene.sheets[0]!.id).geometry;
    expect([frame.width, frame.height]).toEqual([width, height]);
  });
  // ISO 5457:1999, 3.2: an elongated size is the short side of one size with the long side of a larger one (from memory).
  test.each([
    ['A3.1', 841, 297],
    ['A2.0', 1189, 420],
    ['A4.3', 420, 210],
  ])('%s is %d × %d', (name, long, short) => {
    expect(paperByName(name)).toMatchObject({ long, short, standard: 'iso', usual: false });
  });
  test('a sheet of one’s own has the sides that were typed, the longer one first; too small or too large a one is none', () => {
    expect(paperByName('600x400')).toMatchObject({ name: '600x400', long: 600, short: 400 });
    expect(paperByName('297.5×900')).toMatchObject({ name: '900x297.5' });
    expect([paperByName('99x400'), paperByName('6000x400'), paperByName('600'), paperByName('A9')]).toEqual([undefined, undefined, undefined, undefined]);
  });
  // ISO 7200:2004, tables 1 to 3: mandatory data fields of a title block.
  test('the ISO block has every mandatory field of ISO 7200, and is 180 mm wide', () => {
    const shown = isoBlock(false)
      .cells.map((c) => c.text)
      .join(' ');
    const mandatory = {
      'legal owner': 'owner',
      'identification number': 'number',
      'date of issue': 'date',
      'sheet number': 'sheet',
      title: 'title',
      'approval person': 'approvedBy',
      creator: 'drawnBy',
      'document type': 'sheetName',
    };
    for (const [, field] of Object.entries(mandatory)) expect(shown).toContain(`{${field}}`);
    expect(isoBlock(true).columns.reduce((a, b) => a + b, 0)).toBe(180);
  });
  // ASME Y14.1, title block: owner, title, number with size and CAGE code, revision, scale, sheet, approvals with dates; 6.25 in wide on small sheets (from memory).
  test('the ASME block has the fields of ASME Y14.1, and is 6.25 in wide', () => {
    const shown = asmeBlock(false)
      .cells.map((c) => c.text)
      .join(' ');
    for (const field of ['owner', 'title', 'number', 'size', 'CAGE code', 'revision', 'scale', 'sheet', 'drawnBy', 'checkedBy', 'approvedBy', 'date'])
      expect(shown).toContain(`{${field}}`);
    expect(asmeBlock(false).columns.reduce((a, b) => a + b, 0)).toBeCloseTo(6.25 * 25.4, 6);
    expect(asmeBlock(false).cells.some((c) => c.symbol)).toBe(true);
  });
  const papers = PAPER_SIZES.flatMap((p) => [true, false].map((landscape) => [p.name, landscape] as const));
  test.each([...papers, ['600x400', true] as const, ['250x100', true] as const])(
    'all stand on %s (level: %s), inside the frame, their texts inside their cells',
    (size, landscape) => {
      for (const body of SHIPPED_FORMATS.filter((f) => (f.name.startsWith('ASME') ? 'asme' : 'iso') === paperByName(size)!.standard)) {
        const { scene: s, sheet } = onPaper(on(scene, body), size, landscape);
        const { frame, title } = s.page(sheet.id).geometry;
        for (const g of groups(s, sheet.id).filter((x) => x.role === 'title' || x.role === 'block')) {
          const room = inflate(frame, 0.01);
          // What is too wide for a small sheet is not drawn narrower where it stands free.
          if (g.role === 'title' || frame.width >= 350)
            expect([g.box[0] >= room.x, g.box[0] + g.box[2] <= room.x + room.width], body.name).toEqual([true, true]);
          for (const i of g.items.flatMap((x) => (x.kind === 'text' ? [textRect(x)] : [])))
            expect(contains(inflate({ x: g.box[0], y: g.box[1], width: g.box[2], height: g.box[3] }, 0.3), [i.x, i.y + i.height / 2])).toBe(true);
        }
        expect(title.x + title.width).toBeCloseTo(frame.x + frame.width, 6);
      }
    },
  );
  // ISO 3098-1: nominal heights step by √2, so that what is reduced by one sheet size is the next smaller height; 1.8 mm is the least.
  test('half-size print: every letter of its sheets is at least 1.8 mm high on the next smaller sheet', () => {
    const s = on(scene, shippedFormat('ISO for half-size print')!);
    for (const sheet of s.sheets)
      for (const g of groups(s, sheet.id))
        for (const i of g.items) if (i.kind === 'text') expect(i.height / Math.SQRT2, `${g.role}: ${i.text}`).toBeGreaterThan(1.75);
  });
  test('further sheets need a small block only; some have none, and their corner is free', () => {
    const s = on(scene, shippedFormat('ISO continuation')!);
    expect(s.page(s.sheets[0]!.id).geometry.title.height).toBe(12);
    expect(words(s, s.sheets[1]!.id, 'title')).toEqual(expect.arrayContaining(['2 of 2']));
    const none = on(scene, shippedFormat('ISO without a block')!);
    expect(groups(none, none.sheets[0]!.id).map((g) => g.role)).not.toContain('title');
    expect(none.page(none.sheets[0]!.id).geometry.title.height).toBe(0);
  });
  test('a title page says title, number, owner and revision in large letters', () => {
    const s = on(scene, shippedFormat('ISO title page')!, [scene.sheets[0]!.id]);
    const [block] = groups(s, s.sheets[0]!.id).filter((g) => g.role === 'block');
    const largest = Math.max(...block!.items.flatMap((i) => (i.kind === 'text' ? [i.height] : [])));
    expect(largest).toBe(14);
    expect(words(s, s.sheets[0]!.id, 'block').join(' ')).toContain('2 sheets');
  });
});

describe('sheets on a format', () => {
  const s = on(scene, own);
  const [first] = s.sheets;

  test('show what stands on it, and their own fields in it', () => {
    expect(s.sheets).toHaveLength(scene.sheets.length);
    expect(words(s, first!.id, 'note').join(' ')).toContain('Project none yet.');
    expect(words(s, first!.id, 'block')).toEqual(['Project', 'none yet']);
    expect(words(s, first!.id, 'title')).toContain('1 of 2');
    expect(groups(s, first!.id).filter((g) => g.id.startsWith('format/'))).toHaveLength(3);
  });
  test('have its margins, and lists stand on its title block', () => {
    const last = s.sheets.at(-1)!;
    const { frame, title } = s.page(last.id).geometry;
    expect(frame).toMatchObject({ x: 25, y: 5 });
    const [list] = s.all('list');
    const rects = listRects(list!, s);
    expect(Math.max(...rects.map((r) => r.y + r.height))).toBeCloseTo(title.y, 6);
  });
  test('follow at once when it changes', () => {
    const [note] = s.at(first!.format!).filter((r) => r.type === 'note');
    const changed = after(s, [{ op: 'put', record: { ...note, text: 'Other words' } as DrawingDocumentRecord }]);
    for (const sheet of changed.sheets) expect(words(changed, sheet.id, 'note')).toEqual(['Other words']);
  });
  test('keep what stands on it to the nearest side or corner of a larger frame', () => {
    const { scene: large, sheet } = onPaper(s, 'A1', true);
    const to = large.page(sheet.id).geometry.frame;
    const from = sheetGeometry(paperByName('A3')!, true, own.form).frame;
    const boxOf = (role: string, on = large): Rect => {
      const g = groups(on, sheet.id).find((x) => x.role === role && x.id.startsWith('format/'))!;
      return { x: g.box[0], y: g.box[1], width: g.box[2], height: g.box[3] };
    };
    const at = (r: Rect, f: Rect) => [r.x - f.x, r.y - f.y];
    expect(at(boxOf('figure'), to)[0]! - (30 - from.x)).toBeCloseTo(0, 0);
    // The note below on the left is as far from the foot as before.
    expect(to.y + to.height - boxOf('note').y).toBeCloseTo(from.y + from.height - boxOf('note', s).y, 3);
    // The stamp in the middle of the top is in the middle of the top.
    const middle = (r: Rect) => r.x + r.width / 2;
    expect(middle(boxOf('block')) - middle(to)).toBeCloseTo(215 - middle(from), 3);
    expect(formatBlocksOn(large, sheet).map((b) => b.id)).toHaveLength(2);
  });
  test('what overlaps nothing on the format overlaps nothing on another size', () => {
    for (const size of ['A4', 'A2', 'A0']) {
      const { scene: other, sheet } = onPaper(s, size, true);
      const rects = groups(other, sheet.id)
        .filter((g) => g.id.startsWith('format/') || g.role === 'title')
        .map((g) => g.ink);
      rects.forEach((a, i) => rects.slice(i + 1).forEach((b) => expect(overlaps(a, b, -0.5), size).toBe(false)));
    }
  });
  test('go on it and off it, alone or with its size', () => {
    const off = after(s, laidOn(s, null, [first!.id]));
    expect(off.formatOf(first!.id).id).toBeUndefined();
    expect(off.formatOf(s.sheets[1]!.id).name).toBe('House');
    const sized = after(scene, applyFormat(scene, { body: { ...own, size: 'A2' }, sized: true }, [first!.id], fresh).steps);
    expect([sized.sheets[0]!.size, sized.sheets[1]!.size]).toEqual(['A2', scene.sheets[1]!.size]);
  });
  test('come back to their standard’s own when it is removed; nothing of it is left', () => {
    const gone = after(s, formatRemoved(s, first!.format!));
    expect(gone.formats).toEqual([]);
    expect(gone.sheets.map((x) => gone.formatOf(x.id).id)).toEqual(scene.sheets.map(() => undefined));
    expect(Object.keys(gone.document).sort()).toEqual(Object.keys(scene.document).sort());
  });
  test('each of the drawing’s own fields that it shows has a value that was typed before, or the one it brings', () => {
    expect(s.drawing.fields).toEqual({ project: 'none yet' });
    const typed = after(scene, [{ op: 'put', record: { ...scene.drawing, fields: { project: 'P-7' } } }]);
    expect(on(typed, own).drawing.fields).toEqual({ project: 'P-7' });
  });
});

describe('a format is changed', () => {
  test('one that comes with the application as a copy; all of its sheets lie on that, or one alone', () => {
    const all = formatToChange(scene, scene.sheets[0]!.id, fresh, false);
    const changed = after(scene, all.steps);
    expect(changed.formats.map((f) => f.name)).toEqual(['ISO title block, own']);
    expect(changed.sheets.every((s) => s.format === all.id)).toBe(true);
    // The sheets look as before.
    expect(words(changed, changed.sheets[0]!.id, 'title')).toEqual(words(scene, scene.sheets[0]!.id, 'title'));
    const one = formatToChange(changed, changed.sheets[1]!.id, fresh, true);
    const parted = after(changed, one.steps);
    expect(parted.sheets.map((s) => s.format)).toEqual([all.id, one.id]);
    expect(parted.formats.map((f) => f.name).sort()).toEqual(['ISO title block, own', 'ISO title block, own 2']);
    // One of the drawing's own is changed as it is.
    expect(formatToChange(changed, changed.sheets[0]!.id, fresh, false)).toEqual({ steps: [], id: all.id });
  });
  test('kept, given out and read in again it is the same; a newer version takes the place of the older one', () => {
    const s = on(scene, own);
    const kept = formatFrom(s, s.formats[0]!.id, own.words)!;
    expect(readFormat(writeFormat(kept))).toEqual(kept);
    expect(kept).toMatchObject({ name: 'House', size: 'A3', form: own.form });
    expect(kept.elements.map((e) => e.type).sort()).toEqual(own.elements.map((e) => e.type).sort());
    const newer: SheetFormat = { ...kept, version: 2, elements: kept.elements.filter((e) => e.type !== 'figure') };
    const followed = after(s, applyFormat(s, { body: newer }, [], fresh).steps);
    expect(followed.formats).toHaveLength(1);
    expect(followed.formats[0]!.form!.version).toBe(2);
    expect(groups(followed, followed.sheets[0]!.id).some((g) => g.role === 'figure')).toBe(false);
    expect(followed.sheets.every((x) => x.format === s.formats[0]!.id)).toBe(true);
  });
  test.each([
    ['no JSON', 'x', 'not JSON'],
    ['no format', '{"format":1}', 'name'],
    [
      'something of a view on it',
      JSON.stringify({ ...own, elements: [{ type: 'note', id: 'a', view: 'view:1', sheet: null, at: [0, 0], text: 'x' }] }),
      'elements',
    ],
    ['two of one id', JSON.stringify({ ...own, elements: [own.elements[0], own.elements[0]] }), 'same id'],
    ['a view', JSON.stringify({ ...own, elements: [{ type: 'view', id: 'a' }] }), 'elements'],
  ])('a file that has %s is refused with a sentence', (_, text, word) => {
    expect(() => readFormat(text)).toThrow(word);
  });
});

describe('drafted on a format', () => {
  const compute = async (spec: Parameters<typeof computeView>[2]) => computeView(machine.assembly, machine.geometries, spec);

  test('every sheet of a first drawing lies on it; nothing has to be put right that was right without', async () => {
    const on = await draftAll(machine, { format: own });
    expect(on.scene.formats).toHaveLength(1);
    expect(on.scene.sheets.every((s) => s.format === on.scene.formats[0]!.id)).toBe(true);
    expect(on.findings.filter((f) => f.severity === 'must')).toEqual([]);
    expect(on.scene.sheets.map((s) => s.name)).toEqual(scene.sheets.map((s) => s.name));
  });
  test('its own size is taken where none is asked for', async () => {
    const on = await draftAll(machine, { format: { ...own, size: 'A2' }, only: 'arrangement' });
    expect(on.scene.sheets[0]!.size).toBe('A2');
  });
  test('a recipe keeps the formats of its sheets, and brings them where it is applied; once', async () => {
    const s = on(scene, own);
    const kept = recipe.parse(recipeFrom(s, 'House set', ''));
    expect(kept.formats?.map((f) => f.name)).toEqual(['House']);
    const made = await applyRecipe(kept, machine.assembly, machine.geometries, { date: '2026-01-01', compute });
    const result = new Scene({ document: made.document, assembly: machine.assembly, results: made.results });
    expect(result.formats.map((f) => f.name)).toEqual(['House']);
    expect(result.sheets.length).toBeGreaterThan(1);
    for (const sheet of result.sheets) expect(words(result, sheet.id, 'block')[0]).toBe('Project');
    const again = await applyRecipe(kept, machine.assembly, machine.geometries, { date: '2026-01-01', compute, onto: made });
    expect(Object.values(again.document).filter((r) => r.type === 'sheet' && r.form)).toHaveLength(1);
  });
  test('a recipe whose sheet lies on a format that it does not have is none', () => {
    const kept = recipeFrom(scene, 'x', '');
    expect(recipe.safeParse({ ...kept, sheets: kept.sheets.map((s) => ({ ...s, format: 'Nobody' })) }).success).toBe(false);
  });
});

describe('a cell', () => {
  const frame = { x: 0, y: 0, width: 400, height: 280 };
  const style = scene.page(scene.sheets[0]!.id).style;
  const block = (long: 'wrap' | 'grow' | undefined, text: string) =>
    layOutBlock(
      {
        type: 'block',
        id: 'b',
        sheet: 's',
        corner: 'bottom right',
        columns: [40, 40],
        rows: [9, 9],
        cells: [
          { column: 0, row: 0, caption: 'Title', text, ...(long ? { long } : {}) },
          { column: 0, row: 1, columns: 2, text: '' },
        ],
      },
      frame,
      style,
      (t) => t,
    );
  const LONG = 'one two three four five six seven eight nine ten eleven twelve';

  test('that grows makes its row higher, and the block grows away from its corner', () => {
    const [short, grown] = [block('grow', 'one'), block('grow', LONG)];
    expect(grown.rect.height).toBeGreaterThan(short.rect.height + 5);
    expect(grown.rect.y + grown.rect.height).toBe(280);
    expect(grown.cells[0]!.lines.join(' ')).toBe(LONG);
    const [cell] = grown.cells;
    const last = cell!.rect.y + cell!.rect.height;
    expect(grown.cells[1]!.rect.y).toBeCloseTo(last, 9);
  });
  test('that does not grow writes smaller letters down to 2.5 mm, then more lines as its height allows, then cuts and says so', () => {
    const { cells, rect } = block(undefined, LONG);
    expect([cells[0]!.size, cells[0]!.lines.length, rect.height, cells[0]!.cut]).toEqual([1.8, 2, 18, true]);
    expect(cells[0]!.lines[1]!.endsWith('...')).toBe(true);
    expect(block(undefined, 'one two').cells[0]!.cut).toBe(false);
  });
});
