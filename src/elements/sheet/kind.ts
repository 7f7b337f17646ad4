import type { SheetRecord } from '../../core/document/records.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import { line, text } from '../../core/picture/shapes.ts';
import { NOTHING_SOLID } from '../../core/picture/solid.ts';
import { contains } from '../../core/base/rect.ts';
import type { EditableText, Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { laidBlock } from '../block/draw.ts';
import { isTyped, typedValue, writeField } from '../field-edit.ts';
import { FIELD_TITLES } from '../field-values.ts';
import { drawFrame } from './frame.ts';
import { formatBlocksOn } from './anchored-on.ts';

const NOTES_MM = [60, 20] as const;

/** A sheet: its border, and the cells of the format that it lies on. */
export const sheetKind: Kind<SheetRecord> = {
  title: 'sheet',
  layer: 0,
  draw(sheet, scene) {
    const { geometry, style } = scene.page(sheet.id);
    const { form, noFrame } = scene.formatOf(sheet.id);
    const border = drawFrame(geometry, style, form, !(sheet.noFrame === true || noFrame));
    const canvas = sheet.form?.notes ? [notesMark(sheet.form.notes)] : [];
    return border.items.length ? [border, ...canvas] : canvas;
  },
  press(sheet, at, scene) {
    for (const block of formatBlocksOn(scene, sheet)) {
      const { rect, cells } = laidBlock(block, scene);
      if (!contains(rect, at)) continue;
      return { kind: 'field', field: cells.find((c) => contains(c.rect, at))?.field ?? 'title' };
    }
    return undefined;
  },
  texts: cellTexts,
};

/** On a format's own canvas: where general notes go. It is not printed on sheets. */
function notesMark([x, y]: Vec2): Drawn {
  const items = [
    line(x, y, x + NOTES_MM[0], y, 0.18, [2, 1]),
    line(x, y, x, y + NOTES_MM[1], 0.18, [2, 1]),
    text(x + 1, y + 3.5, 'General notes', 2.5, 'start'),
  ];
  const box = { x, y, width: NOTES_MM[0], height: NOTES_MM[1] };
  return { id: 'notes-place', role: 'frame', label: 'Place for general notes', box: [x, y, ...NOTES_MM], items, ink: box, solid: NOTHING_SOLID };
}

/** Cells that show one field which people write: it is written there. */
function cellTexts(sheet: SheetRecord, scene: Scene): EditableText[] {
  const out = new Map<string, EditableText>();
  for (const block of formatBlocksOn(scene, sheet))
    for (const c of laidBlock(block, scene).cells) {
      const field = /^\{([^{}:]+)(?::[^{}]+)?\}$/.exec(c.cell.text.trim())?.[1];
      if (field === undefined || out.has(field) || !isTyped(field, sheet, scene)) continue;
      out.set(field, {
        name: field,
        label: c.cell.caption || FIELD_TITLES[field] || field,
        box: c.rect,
        height: c.size,
        value: typedValue(field, sheet, scene),
        write: (text, now) => writeField(field, text, sheet, scene, now),
      });
    }
  return [...out.values()];
}
