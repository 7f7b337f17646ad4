import type { SheetRecord } from '../../core/document/records.ts';
import { massText, totalMass, type Item, type PropertyKey } from '../../core/ledger/items.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import { scaleText } from '../../core/sheet/formats.ts';
import { contains } from '../../core/base/rect.ts';
import { textNear } from '../../core/picture/text-near.ts';
import type { Step } from '../../core/document/steps.ts';
import { stepsOf } from '../../core/ledger/grid.ts';
import type { EditableText, Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { mainScale } from '../view/main-scale.ts';
import { drawFrame } from './frame.ts';
import { drawTitleBlock, titleBlockRect, titleCells, type TitleFields } from './title-block.ts';

/** A sheet: its border and its title block. */
export const sheetKind: Kind<SheetRecord> = {
  title: 'sheet',
  layer: 0,
  draw(sheet, scene) {
    const { geometry, style } = scene.page(sheet.id);
    return [...(sheet.noFrame ? [] : [drawFrame(geometry, style)]), ...(sheet.noTitle ? [] : [titleBlock(sheet, scene)])];
  },
  press(sheet, at, scene) {
    if (sheet.noTitle) return undefined;
    const block = titleBlock(sheet, scene);
    return contains(block.ink, at) ? { kind: 'field', field: textNear(block, at)?.field ?? 'title' } : undefined;
  },
  texts: titleTexts,
};

function titleFields(sheet: SheetRecord, scene: Scene): TitleFields {
  const { drawing: d, sheets } = scene;
  const scale = mainScale(scene, sheet.id);
  const mass = totalMass(scene.items);
  const part = partOf(sheet, scene);
  return {
    ...d,
    ...(part ? partFields(part, scene) : {}),
    sheet: sheets.indexOf(sheet) + 1,
    sheets: sheets.length,
    size: sheet.size,
    scale: scale ? scaleText(scale) : '–',
    mass: part
      ? part.massKg === undefined
        ? '–'
        : massText(part.massKg, scene.ledger.massUnit)
      : mass.kg > 0
        ? `${mass.complete ? '' : '> '}${massText(mass.kg, scene.ledger.massUnit)}`
        : '–',
    sheetName: sheet.name,
  };
}

/** The part whose sheet it is. */
const partOf = (sheet: SheetRecord, scene: Scene): Item | undefined => (sheet.part === undefined ? undefined : scene.items.find((i) => i.part === sheet.part));

/** What the block of a part's sheet says of the part: its own name and number, its material, and how many of it there are. */
function partFields({ values, quantity }: Item, { drawing }: Scene) {
  const number = values.drawingNumber.text || values.partNumber.text;
  return { title: values.description.text, number, material: values.material.text, quantity: quantity * drawing.quantity };
}

function titleBlock(sheet: SheetRecord, scene: Scene): Drawn {
  const { drawing: d } = scene;
  const { geometry, style } = scene.page(sheet.id);
  const rect = titleBlockRect(geometry);
  const fields = titleFields(sheet, scene);
  return {
    id: 'title',
    role: 'title',
    label: `Title block: ${d.title}, ${d.number}, sheet ${fields.sheet} of ${fields.sheets}`,
    box: [rect.x, rect.y, rect.width, rect.height],
    items: drawTitleBlock(rect, fields, style),
    ink: rect,
    solid: { rects: [rect], segments: [] },
  };
}

/** Fields of the title block that people fill in; the others are computed. */
const TYPED = ['owner', 'title', 'drawnBy', 'checkedBy', 'approvedBy', 'date', 'number', 'revision'] as const;
/** Fields of a part's block that are properties of the part. */
const OF_PART: Readonly<Record<string, PropertyKey>> = { title: 'description', number: 'drawingNumber', material: 'material' };
const isTyped = (field: string): field is (typeof TYPED)[number] => TYPED.includes(field as never);

function titleTexts(sheet: SheetRecord, scene: Scene): EditableText[] {
  if (sheet.noTitle) return [];
  const { drawing } = scene;
  const part = partOf(sheet, scene);
  return titleCells(titleBlockRect(scene.page(sheet.id).geometry), titleFields(sheet, scene)).flatMap((c) => {
    const write = (text: string, now: string): Step[] => {
      const key = part && OF_PART[c.field];
      if (key) return stepsOf(scene.document, [{ part: part.part, key, text }], now);
      if (c.field === 'sheetName') return [{ op: 'put', record: { ...sheet, name: text } }];
      if (isTyped(c.field)) return [{ op: 'put', record: { ...drawing, [c.field]: text } }];
      const quantity = Number(text);
      return Number.isInteger(quantity) && quantity >= 1 && quantity <= 1_000_000 ? [{ op: 'put', record: { ...drawing, quantity } }] : [];
    };
    if (part && c.field === 'quantity') return [];
    if (c.field !== 'sheetName' && c.field !== 'quantity' && !isTyped(c.field) && !(part && OF_PART[c.field])) return [];
    return [{ name: c.field, label: c.caption, box: c.rect, height: c.size, value: c.value, write }];
  });
}
