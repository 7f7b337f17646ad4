import { rectOf, type Rect } from '../../core/base/rect.ts';
import type { ListRecord } from '../../core/document/records.ts';
import { stepsOf } from '../../core/ledger/grid.ts';
import { PROPERTY_KEYS } from '../../core/ledger/items.ts';
import { cellText } from '../../core/ledger/list-rows.ts';
import type { EditableText } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { retitled } from './columns.ts';
import { drawList, rowHeight } from './draw.ts';

/** Cells that hold what someone can type: properties, and columns of the user's own. What is counted or weighed is not typed. */
const canBeTyped = (key: string) => PROPERTY_KEYS.includes(key as never) || key.startsWith('own:');

/** Titles of the columns, then cell by cell: a text that is typed goes to the part's property, as in the ledger. */
export function listTexts(list: ListRecord, scene: Scene): EditableText[] {
  const page = scene.page(list.sheet);
  const h = rowHeight(page.style);
  const total = list.columns.reduce((sum, c) => sum + c.widthMm, 0);
  const out: EditableText[] = [];
  for (const block of drawList(list, scene.items, scene.ledger, page, scene.one('sheet', list.sheet))) {
    const rect = rectOf(block.box);
    const k = rect.width / total;
    const shown = new Set(block.items.flatMap((i) => (i.kind === 'text' && i.source?.item !== undefined ? [i.source.item] : [])));
    const rows = scene.items.filter((i) => shown.has(i.number));
    let x = rect.x;
    const boxes: Rect[] = list.columns.map((c) => {
      const box = { x, y: rect.y + rect.height - h, width: c.widthMm * k, height: h };
      x += c.widthMm * k;
      return box;
    });
    list.columns.forEach((c, at) =>
      out.push({
        name: `head/${c.key}`,
        label: `Title of column ${c.title}`,
        box: boxes[at]!,
        height: page.style.text,
        value: c.title,
        write: (title) => retitled(list, scene, at, title),
      }),
    );
    rows.forEach((item, row) =>
      list.columns.forEach((c, at) => {
        if (!canBeTyped(c.key)) return;
        out.push({
          name: `${item.part}/${c.key}`,
          label: `${c.title} of item ${item.number}`,
          box: { ...boxes[at]!, y: boxes[at]!.y - (row + 1) * h },
          height: page.style.text,
          value: cellText(item, c.key),
          write: (text, now) => stepsOf(scene.document, [{ part: item.part, key: c.key, text }], now),
        });
      }),
    );
  }
  return out;
}
