import type { SheetRecord } from '../../core/document/records.ts';
import { massText, totalMass } from '../../core/ledger/items.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import { scaleText } from '../../core/sheet/formats.ts';
import { contains } from '../../core/base/rect.ts';
import { textNear } from '../../core/picture/text-near.ts';
import type { Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { drawFrame } from './frame.ts';
import { drawTitleBlock, titleBlockRect } from './title-block.ts';

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
};

function titleBlock(sheet: SheetRecord, scene: Scene): Drawn {
  const { drawing: d, sheets } = scene;
  const { geometry, style } = scene.page(sheet.id);
  const rect = titleBlockRect(geometry);
  const scales = new Set(scene.viewsOn(sheet.id).map((v) => scaleText(v.scale)));
  const mass = totalMass(scene.items);
  const number = sheets.indexOf(sheet) + 1;
  return {
    id: 'title',
    role: 'title',
    label: `Title block: ${d.title}, ${d.number}, sheet ${number} of ${sheets.length}`,
    box: [rect.x, rect.y, rect.width, rect.height],
    items: drawTitleBlock(
      rect,
      {
        ...d,
        sheet: number,
        sheets: sheets.length,
        size: sheet.size,
        scale: scales.size === 1 ? [...scales][0]! : scales.size === 0 ? '–' : 'as shown',
        mass: mass.kg > 0 ? `${mass.complete ? '' : '> '}${massText(mass.kg, scene.ledger.massUnit)}` : '–',
        sheetName: sheet.name,
      },
      style,
    ),
    ink: rect,
    solid: { rects: [rect], segments: [] },
  };
}
