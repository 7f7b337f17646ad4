import { describe, expect, test } from 'vitest';
import { BLANK_DRAWING, type DrawingDocument, type DrawingDocumentRecord, type ListRecord, type SheetRecord } from '../core/document/records.ts';
import { applySteps } from '../core/document/steps.ts';
import { viewRecord } from '../core/testing/records.ts';
import { assemblyOf, box } from '../core/testing/shapes.ts';
import { composeSheet } from './compose.ts';
import type { EditableText } from './kind.ts';
import { isElement, kindOf } from './kinds.ts';
import { Scene } from './scene.ts';

const { assembly } = assemblyOf([
  { name: 'Block', geometry: box([0, 0, 0], [40, 20, 30]), material: 'S355' },
  { name: 'Post', geometry: box([40, 0, 0], [50, 20, 30]) },
]);
const sheet: SheetRecord = { type: 'sheet', id: 'sheet:1', order: 0, name: 'Arrangement', size: 'A3', landscape: true };
const list: ListRecord = {
  type: 'list',
  id: 'list',
  sheet: 'sheet:1',
  columns: [
    { key: 'item', title: 'Item', widthMm: 20 },
    { key: 'description', title: 'Description', widthMm: 90 },
    { key: 'material', title: 'Material', widthMm: 70 },
  ],
};
const view = viewRecord({ id: 'front', name: 'Front', label: true, at: [120, 100] });
const sceneOf = (...records: readonly DrawingDocumentRecord[]) => {
  const document: DrawingDocument = Object.fromEntries([{ ...BLANK_DRAWING, title: 'Stand', number: 'N-1' }, sheet, ...records].map((r) => [r.id, r]));
  return new Scene({ document, assembly, results: new Map() });
};
const NOW = '2026-11-27T12:00:00.000Z';
const textsOf = (scene: Scene, id: string): readonly EditableText[] => {
  const r = scene.document[id]!;
  return isElement(r) ? (kindOf(r).texts?.(r, scene) ?? []) : [];
};
const textOf = (scene: Scene, id: string, name: string) => textsOf(scene, id).find((t) => t.name === name)!;
const written = (scene: Scene, t: EditableText, text: string) => {
  const result = applySteps(scene.document, t.write(text, NOW));
  if (!result.ok) throw new Error(result.reason);
  return scene.with(result.document);
};
/** Texts that the sheet shows inside a box. */
const shownIn = (scene: Scene, b: EditableText['box']) =>
  composeSheet(scene, 'sheet:1')
    .groups.flatMap((g) => g.items)
    .flatMap((i) => (i.kind === 'text' && i.x >= b.x && i.x <= b.x + b.width && i.y >= b.y && i.y <= b.y + b.height + 1 ? [i.text] : []));

describe('texts that are changed where they stand', () => {
  test('each box of the title block holds its text, and what is written appears in it', () => {
    const scene = sceneOf();
    const names = textsOf(scene, 'sheet:1').map((t) => t.name);
    expect(names).toEqual(['owner', 'title', 'drawnBy', 'checkedBy', 'sheetName', 'quantity', 'approvedBy', 'date', 'number', 'revision', 'scale']);
    for (const name of names) {
      const t = textOf(scene, 'sheet:1', name);
      if (t.value) expect(shownIn(scene, t.box)).toContain(t.value);
      const text = name === 'quantity' ? '12' : `New ${name}`.slice(0, 12);
      expect(shownIn(written(scene, t, text), t.box).join(' ')).toContain(text);
    }
  });
  test('a number of pieces is a number', () => {
    const t = textOf(sceneOf(), 'sheet:1', 'quantity');
    for (const wrong of ['', 'two', '0', '-1', '1.5', '1e9']) expect(t.write(wrong, NOW)).toEqual([]);
  });
  test('a sheet without a title block has no such texts', () => {
    expect(textsOf(sceneOf({ ...sheet, noTitle: true }), 'sheet:1')).toEqual([]);
  });
  test('cells of a list: where they stand, and what is typed goes to the property of the part, with its date', () => {
    const scene = sceneOf(list);
    const texts = textsOf(scene, 'list');
    expect(texts.map((t) => t.label)).toEqual([
      'Title of column Item',
      'Title of column Description',
      'Title of column Material',
      'Description of item 1',
      'Material of item 1',
      'Description of item 2',
      'Material of item 2',
      'Item of item 1',
      'Item of item 2',
    ]);
    for (const t of texts) if (t.value) expect(shownIn(scene, t.box)).toEqual([t.value]);
    const material = texts.find((t) => t.label === 'Material of item 2')!;
    const now = written(scene, material, 'EN-GJL-250');
    expect(shownIn(now, material.box)).toEqual(['EN-GJL-250']);
    const [property] = now.all('property');
    expect(property).toMatchObject({ part: scene.items[1]!.part, values: { material: 'EN-GJL-250' }, when: { material: NOW } });
  });
  test('a column’s title is the same in all parts of a list', () => {
    const [one, two] = [1, 2].map((part) => ({ ...list, id: `list:${part}`, share: { part, of: 2 } }));
    const scene = sceneOf(one!, two!);
    const now = written(scene, textOf(scene, 'list:1', 'head/material'), 'Werkstoff');
    expect(now.all('list').map((l) => l.columns[2]!.title)).toEqual(['Werkstoff', 'Werkstoff']);
  });
  test('the name of a view, where its label stands; the letters of a section are not typed', () => {
    const scene = sceneOf(view);
    const t = textOf(scene, 'front', 'name');
    expect(shownIn(scene, t.box)).toEqual(['Front']);
    expect(shownIn(written(scene, t, 'Pump side'), t.box)).toEqual(['Pump side']);
    const cut = { normal: [0, -1, 0], d: -10, letter: 'A', keptWhole: [], shownIn: null } as const;
    expect(textsOf(sceneOf({ ...view, cut }), 'front')).toEqual([]);
  });
});
