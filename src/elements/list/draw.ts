import type { ListRecord } from '../../core/document/records.ts';
import { numberText } from '../../core/ledger/items.ts';
import { cellAlignment } from '../../core/ledger/list-rows.ts';
import type { DisplayItem, Drawn, Source } from '../../core/picture/display-list.ts';
import { line, rectangle, text } from '../../core/picture/shapes.ts';
import type { Scene } from '../scene.ts';
import { AIR_MM, layOutList, type LaidCell, type ListBlock } from './layout.ts';

/** Parts list by ISO 7573. */
export function drawList(list: ListRecord, scene: Scene): Drawn[] {
  const { style } = scene.page(list.sheet);
  return layOutList(list, scene).map((block, k) => {
    const { rect, head, rows } = block;
    const out: DisplayItem[] = [rectangle(rect, style.wide)];
    for (const { box } of head.cells.slice(1)) out.push(line(box.x, rect.y, box.x, rect.y + rect.height, style.narrow));
    for (const c of head.cells) out.push(...written(c, 'start', undefined, list.headBold));
    for (const r of rows) {
      const item = r.row.item;
      const bold = r.row.total !== undefined || undefined;
      for (const c of r.cells)
        out.push(...written(c, c.column.align ?? cellAlignment(c.column.key), item && { item: item.number, field: c.column.key }, bold ?? c.column.bold));
    }
    const edges = rows.map((r) => (block.up ? r.box.y + r.box.height : r.box.y));
    edges.forEach((y, i) => out.push(line(rect.x, y, rect.x + rect.width, y, i === 0 ? style.wide : style.narrow)));
    return {
      id: k === 0 ? list.id : `${list.id}/${k + 1}`,
      role: 'list',
      label: labelOf(block),
      box: [rect.x, rect.y, rect.width, rect.height],
      items: out,
      ink: rect,
      solid: { rects: [rect], segments: [] },
    };
  });
}

function labelOf({ rows }: ListBlock): string {
  const numbers = rows.flatMap((r) => (r.row.item ? numberText(r.row.item) : [])).filter(Boolean);
  return numbers.length ? `Parts list, items ${numbers[0]} to ${numbers.at(-1)}` : 'Parts list';
}

function written({ box, lines, size, indent }: LaidCell, align: 'start' | 'middle' | 'end', source: Source | undefined, bold: true | undefined): DisplayItem[] {
  const x = align === 'start' ? box.x + AIR_MM + indent : align === 'end' ? box.x + box.width - AIR_MM : box.x + box.width / 2;
  const first = box.y + box.height / 2 + size / 2 - ((lines.length - 1) * 1.5 * size) / 2;
  return lines.map((words, i) => {
    const item = text(x, first + i * 1.5 * size, words, size, align, source);
    return bold && item.kind === 'text' ? { ...item, bold } : item;
  });
}
