import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { rectangle, text } from '../../core/picture/shapes.ts';
import type { Standard, SheetStyle } from '../../core/sheet/paper.ts';
import { partOfSheet } from '../field-values.ts';
import type { Scene } from '../scene.ts';
import { AIR_MM, captionRoom, layOutBlock, type BlockRecord, type LaidBlock, type LaidCell } from './layout.ts';
import { projectionSymbol, SYMBOL_MM } from './projection-symbol.ts';
import { blockText } from './words.ts';

const CAPTION_AIR_MM = 1.2;
/** Values stand a little above the middle of their room: letters without descenders look right there. */
const ABOVE_MM = 0.3;
const LINE = 1.5;

/** A block on its sheet, or on a sheet that lies on its format. */
export function laidBlock(block: BlockRecord, scene: Scene): LaidBlock {
  const { geometry, style } = scene.page(block.sheet);
  return layOutBlock(block, geometry.frame, style, (words) => blockText(words, block, scene));
}

/** Lines and texts of a block, paper mm. @param item that the sheet is of alone: its number lights up with it */
export function blockItems({ rect, cells }: LaidBlock, style: SheetStyle, standard: Standard, item?: number): DisplayItem[] {
  const out: DisplayItem[] = cells.every((c) => c.cell.bare) ? [] : [rectangle(rect, style.wide)];
  for (const c of cells) {
    if (!c.cell.bare) out.push(rectangle(c.rect, style.narrow));
    out.push(...textsOf(c, style, item));
    if (c.cell.symbol) out.push(...symbolIn(c, style, standard));
  }
  return out;
}

function textsOf({ cell, rect, lines, size, field }: LaidCell, style: SheetStyle, item: number | undefined): DisplayItem[] {
  const source = field === undefined ? undefined : { field, ...(item !== undefined && field === 'number' ? { item } : {}) };
  const out: DisplayItem[] = [];
  if (cell.caption) out.push(text(rect.x + CAPTION_AIR_MM, rect.y + 1 + style.caption, cell.caption, style.caption, 'start', source));
  const above = captionRoom(cell, style);
  const pitch = size * LINE;
  const first = rect.y + above + (rect.height - above) / 2 + size / 2 - ((lines.length - 1) * pitch) / 2 - ABOVE_MM;
  const anchor = cell.anchor ?? 'start';
  const x = anchor === 'start' ? rect.x + AIR_MM : anchor === 'end' ? rect.x + rect.width - AIR_MM : rect.x + rect.width / 2;
  lines.forEach((words, i) => {
    const item = text(x, first + i * pitch, words, size, anchor, source);
    out.push(cell.bold ? ({ ...item, bold: true } as DisplayItem) : item);
  });
  return out;
}

function symbolIn({ cell, rect }: LaidCell, style: SheetStyle, standard: Standard): DisplayItem[] {
  const above = captionRoom(cell, style);
  const k = Math.max(0.3, Math.min(1.5, rect.width / SYMBOL_MM[0], (rect.height - above) / SYMBOL_MM[1]));
  return projectionSymbol(
    rect.x + rect.width / 2,
    rect.y + above + (rect.height - above) / 2,
    standard,
    style.narrow,
    Math.min(k, cell.heightMm ? cell.heightMm / 5 : 1),
  );
}

/** A block as it is drawn; in the lower right corner of the frame it is the title block. */
export function drawBlock(block: BlockRecord, scene: Scene): Drawn[] {
  const { style } = scene.page(block.sheet);
  const laid = laidBlock(block, scene);
  const { rect } = laid;
  const title = block.corner === 'bottom right';
  return [
    {
      id: block.id,
      role: title ? 'title' : 'block',
      label: title ? `Title block: ${blockText('{title}, {number}, sheet {sheet} of {sheets}', block, scene)}` : `Block of ${laid.cells.length} cells`,
      box: [rect.x, rect.y, rect.width, rect.height],
      items: blockItems(laid, style, scene.drawing.standard, partOfSheet(scene.one('sheet', block.sheet), scene)?.number),
      ink: rect,
      solid: { rects: [rect], segments: [] },
    },
  ];
}
