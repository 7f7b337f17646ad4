import type { Rect } from '../../core/base/rect.ts';
import type { RecordOf } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { wrapText } from '../../core/picture/lettering.ts';
import { line, rectangle, text } from '../../core/picture/shapes.ts';
import type { Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { titleBlockRect } from '../../core/sheet/page.ts';

export type RevisionsRecord = RecordOf<'revisions'>;
type Row = RecordOf<'revision'>;

const WIDTH_MM = 105;
const MOST_ROWS = 6;
const MOST_LINES = 12;
const AIR_MM = 1.2;
/** Columns: revision, what changed, date, by. Shares of the width. */
const SHARES = [0.09, 0.51, 0.23, 0.17] as const;
const TITLES = ['Rev', 'What changed', 'Date', 'By'] as const;

/** Revisions of the drawing, the first one first. */
export const revisionsOf = (scene: Scene): readonly Row[] => [...scene.all('revision')].sort((a, b) => a.order - b.order);

interface Laid {
  readonly box: Rect;
  readonly size: number;
  readonly rows: readonly { readonly row: Row | undefined; readonly y: number; readonly height: number; readonly cells: readonly (readonly string[])[] }[];
  readonly edges: readonly number[];
}

/** Beside a title block the head is at the foot and the latest on top; free, it reads downward from its head (ASME Y14.35). */
function layOut(record: RevisionsRecord, scene: Scene): Laid {
  const { geometry, style } = scene.page(record.sheet);
  const { frame } = geometry;
  const title = titleBlockRect(geometry, scene.one('sheet', record.sheet));
  const size = style.text;
  const beside = title.height > 0 ? title.x - frame.x : frame.width;
  const width = Math.min(WIDTH_MM, record.at || beside < 40 ? WIDTH_MM : beside);
  const shown = revisionsOf(scene).slice(-(record.most ?? MOST_ROWS));
  let x = 0;
  const edges = SHARES.map((s) => (x += s * width));
  const rowOf = (words: readonly string[]) => {
    const cells = words.map((w, i) => wrapText(w, size, SHARES[i]! * width - 2 * AIR_MM, MOST_LINES));
    return { cells, height: size * (2 + 1.5 * (Math.max(1, ...cells.map((c) => c.length)) - 1)) };
  };
  const said = shown.map((row) => ({ row: row as Row | undefined, ...rowOf([row.letter, row.text, row.date, row.by]) }));
  const head = { row: undefined, ...rowOf(TITLES) };
  const rows = record.at ? [head, ...said] : [...said.reverse(), head];
  const height = rows.reduce((s, r) => s + r.height, 0);
  const box: Rect = record.at
    ? { x: record.at[0], y: record.at[1], width, height }
    : { x: beside < 40 ? frame.x : title.x - width, y: (beside < 40 ? title.y : frame.y + frame.height) - height, width, height };
  let y = box.y;
  return {
    box,
    size,
    edges,
    rows: rows.map((r) => {
      const at = y;
      y += r.height;
      return { ...r, y: at };
    }),
  };
}

/** Revision table (ISO 7200 leaves it to the maker; beside or above the title block is common practice). */
export const revisionsKind: Kind<RevisionsRecord> = {
  title: 'revision table',
  layer: 5,
  draw(record, scene) {
    const { style } = scene.page(record.sheet);
    const { box, size, rows, edges } = layOut(record, scene);
    const items: DisplayItem[] = [rectangle(box, style.wide)];
    for (const e of edges.slice(0, -1)) items.push(line(box.x + e, box.y, box.x + e, box.y + box.height, style.narrow));
    rows.forEach((r, k) => {
      if (k) items.push(line(box.x, r.y, box.x + box.width, r.y, (record.at ? k === 1 : k === rows.length - 1) ? style.wide : style.narrow));
      r.cells.forEach((lines, c) =>
        lines.forEach((words, i) => {
          const item = text(box.x + (c ? edges[c - 1]! : 0) + AIR_MM, r.y + size * 1.5 + i * 1.5 * size, words, size, 'start');
          items.push(r.row ? item : ({ ...item, bold: true } as DisplayItem));
        }),
      );
    });
    return [
      {
        id: record.id,
        role: 'revisions',
        label: `Revision table of ${rows.length - 1} rows`,
        box: [box.x, box.y, box.width, box.height],
        items,
        ink: box,
        solid: { rects: [box], segments: [] },
      },
    ];
  },
  drag(record, by, scene, handle) {
    if (handle !== undefined) return [];
    const { box } = layOut(record, scene);
    return [{ op: 'put', record: { ...record, at: [box.x + by[0], box.y + by[1]] } }];
  },
  texts(record, scene) {
    const { box, size, rows, edges } = layOut(record, scene);
    return rows.flatMap(({ row, y, height }) =>
      row
        ? [
            {
              name: `${row.id}/text`,
              label: `What changed in revision ${row.letter}`,
              box: { x: box.x + edges[0]!, y, width: edges[1]! - edges[0]!, height },
              height: size,
              value: row.text,
              write: (words: string) => [{ op: 'put' as const, record: { ...row, text: words } }],
            },
          ]
        : [],
    );
  },
};
