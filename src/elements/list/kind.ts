import type { ListRecord } from '../../core/document/records.ts';
import { textNear } from '../../core/picture/text-near.ts';
import type { Kind } from '../kind.ts';
import { placedColumn, putList } from './columns.ts';
import { drawList } from './draw.ts';
import { listFindings } from './findings.ts';
import { layOutList, movedList } from './layout.ts';
import { listTexts } from './texts.ts';

const LEAST_COLUMN_MM = 5;

/** The parts list (ISO 7573): docked on the title block, in a corner of the frame, or free. */
export const listKind: Kind<ListRecord> = {
  title: 'parts list',
  layer: 5,
  press(l, at, scene) {
    const item = listKind
      .draw(l, scene)
      .map((d) => textNear(d, at)?.item)
      .find((n) => n !== undefined);
    const part = scene.items.find((i) => i.number === item)?.part;
    return part === undefined ? undefined : { kind: 'item', part };
  },
  texts: listTexts,
  draw: drawList,
  findings: listFindings,

  /** Edges of columns and their heads, in the first block; the far corner of a region. */
  handles(list, scene) {
    const [block] = layOutList(list, scene);
    if (!block) return [];
    const y = block.up ? block.rect.y + block.rect.height : block.rect.y;
    return [
      ...block.head.cells.map(({ box }, i) => ({ name: `column-${i}`, at: [box.x + box.width, y] as const })),
      ...block.head.cells.map(({ box }, i) => ({ name: `head-${i}`, at: [box.x + box.width / 2, box.y + box.height / 2] as const })),
      ...(list.at && list.to ? [{ name: 'region', at: list.to }] : []),
    ];
  },

  drag(list, by, scene, handle) {
    if (handle === undefined) return [{ op: 'put', record: movedList(list, scene, by) }];
    if (handle === 'region') return list.to ? [{ op: 'put', record: { ...list, to: [list.to[0] + by[0], list.to[1] + by[1]] } }] : [];
    const [, what, index] = /^(column|head)-(\d+)$/.exec(handle) ?? [];
    const at = Number(index);
    const [block] = layOutList(list, scene);
    if (!block || !(at in list.columns)) return [];
    if (what === 'column') {
      // What stands against the right side grows to the left: its edge follows the hand there too.
      const columns = list.columns.map((c, i) => (i === at ? { ...c, widthMm: Math.min(400, Math.max(LEAST_COLUMN_MM, c.widthMm + by[0])) } : c));
      return putList({ ...list, columns }, scene);
    }
    const { box } = block.head.cells[at]!;
    const x = box.x + box.width / 2 + by[0];
    const to = block.head.cells.filter(({ box: b }, i) => i !== at && b.x + b.width / 2 < x).length;
    return placedColumn(list, scene, at, to);
  },
};
