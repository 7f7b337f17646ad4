import type { ListRecord } from '../../core/document/records.ts';
import { stepsOf } from '../../core/ledger/grid.ts';
import { numberText, PROPERTY_KEYS, type Item } from '../../core/ledger/items.ts';
import { numberedByHand } from '../../core/ledger/numbering.ts';
import type { EditableText } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { retitled } from './columns.ts';
import { layOutList } from './layout.ts';
import { cellOf } from './rows.ts';

/** Cells that hold what someone can type: the number, properties, and columns of the user's own. What is counted or weighed is not typed, but for rows of one's own. */
const canBeTyped = (key: string, item: Item) =>
  key === 'item' ? !item.unnumbered : PROPERTY_KEYS.includes(key as never) || key.startsWith('own:') || (key === 'mass' && item.massTyped);

/** Titles of the columns, then cell by cell: a text that is typed goes to the part's property, as in the ledger. */
export function listTexts(list: ListRecord, scene: Scene): EditableText[] {
  const out: EditableText[] = [];
  // Numbers come last: whoever edits an item means its words.
  const numbers: EditableText[] = [];
  for (const { head, rows } of layOutList(list, scene)) {
    head.cells.forEach((c, at) =>
      out.push({
        name: `head/${c.column.key}`,
        label: `Title of column ${c.column.title}`,
        box: c.box,
        height: c.size,
        value: c.column.title,
        write: (title) => retitled(list, scene, at, title),
      }),
    );
    for (const { row, cells } of rows) {
      const { item } = row;
      if (!item) continue;
      for (const { column: c, box, size } of cells) {
        if (!canBeTyped(c.key, item)) continue;
        (c.key === 'item' ? numbers : out).push({
          name: `${item.part}/${c.key}`,
          label: `${c.title} of item ${numberText(item)}`,
          box,
          height: size,
          value: cellOf(row, c.key, scene),
          write: (text, now) =>
            c.key === 'item'
              ? numberedByHand(scene.document, [...scene.items, ...scene.groups.map((g) => g.item)], item.part, text)
              : stepsOf(scene.document, [{ part: item.part, key: c.key, text }], now),
        });
      }
    }
  }
  return [...out, ...numbers];
}
