import { recordsOf, type DrawingDocument } from '../document/records.ts';
import { listBlocks, listRows } from '../../elements/list/draw.ts';
import { styleFor, type SheetFormat, sheetGeometry } from '../sheet/formats.ts';
import type { Rect } from '../base/rect.ts';
import { titleBlockRect } from '../../elements/sheet/title-block.ts';

/** Room for balloons around an exploded view, mm. */
export const EXPLODED_MARGIN = 22;

/** Width to the left of blocks, and height above them, mm. */
export const leftBeside = (frame: Rect, blocks: readonly Rect[]): { left: number; above: number } => ({
  left: Math.min(...blocks.map((b) => b.x)) - frame.x,
  above: Math.min(...blocks.map((b) => b.y)) - frame.y,
});

/** Width and height of the larger rectangle that lists and title block leave, margins for balloons taken off, mm. */
export function roomBeside(frame: Rect, blocks: readonly Rect[]): readonly [number, number] {
  const { left, above } = leftBeside(frame, blocks);
  const [width, height] = left * frame.height >= frame.width * above ? [left, frame.height] : [frame.width, above];
  return [Math.max(30, width - 2 * EXPLODED_MARGIN), Math.max(30, height - 2 * EXPLODED_MARGIN)];
}

/** Title block and parts lists of a sheet, mm. @param rows how many items are listed */
export function blocksOn(doc: DrawingDocument, sheet: string, format: SheetFormat, landscape: boolean, rows: number): Rect[] {
  const geometry = sheetGeometry(format, landscape);
  const record = doc[sheet];
  const bare = record?.type === 'sheet' ? record : {};
  const lists = recordsOf(doc, 'list').filter((l) => l.sheet === sheet);
  return [
    titleBlockRect(geometry, bare),
    ...lists.flatMap((l) => {
      const { from, to } = listRows(l, rows);
      return listBlocks(
        to - from,
        l.columns.reduce((s, c) => s + c.widthMm, 0),
        geometry,
        styleFor(format),
        bare,
      ).map((b) => b.rect);
    }),
  ];
}
