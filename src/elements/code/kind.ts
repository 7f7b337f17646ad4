import qrcode from 'qrcode-generator';
import type { Rect } from '../../core/base/rect.ts';
import type { RecordOf } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { num, rectangle, text } from '../../core/picture/shapes.ts';
import type { Kind } from '../kind.ts';
import type { Scene } from '../scene.ts';

export type CodeRecord = RecordOf<'code'>;

/** White around a code, in modules (ISO/IEC 18004 wants four; from memory). */
const QUIET = 4;
const LEAST_MM = 8;

/** What a code says; undefined for the guide's before the drawing was issued with one. */
export const codeWords = (record: CodeRecord, scene: Scene): string | undefined => record.says ?? scene.drawing.guide;

const known = new Map<string, readonly (readonly boolean[])[]>();

/** Dark and light modules, row by row. A quarter of them may be worn: workshops are. */
export function modulesOf(words: string): readonly (readonly boolean[])[] {
  let rows = known.get(words);
  if (!rows) {
    const code = qrcode(0, 'Q');
    code.addData(words, 'Byte');
    code.make();
    const n = code.getModuleCount();
    rows = Array.from({ length: n }, (_, r) => Array.from({ length: n }, (_, c) => code.isDark(r, c)));
    known.set(words, rows);
  }
  return rows;
}

/** Runs of dark modules as one path. @param box with the white around it, paper mm */
function pathOf(rows: readonly (readonly boolean[])[], box: Rect): string {
  const m = box.width / (rows.length + 2 * QUIET);
  let d = '';
  rows.forEach((row, r) => {
    for (let c = 0; c < row.length; c++) {
      if (!row[c]) continue;
      const from = c;
      while (row[c + 1]) c++;
      d += `M${num(box.x + (from + QUIET) * m)} ${num(box.y + (r + QUIET) * m)}h${num((c - from + 1) * m)}v${num(m)}h${num(-(c - from + 1) * m)}Z`;
    }
  });
  return d;
}

/** Leads from the sheet to the build guide of exactly this issue, or to what someone wrote. */
export const codeKind: Kind<CodeRecord> = {
  title: 'QR code',
  layer: 4.6,
  draw(record, scene) {
    const words = codeWords(record, scene);
    const box: Rect = { x: record.at[0], y: record.at[1], width: record.sizeMm, height: record.sizeMm };
    const items: DisplayItem[] = words
      ? [{ kind: 'fill', d: pathOf(modulesOf(words), box), color: '#000000' }]
      : [
          rectangle(box, 0.18),
          text(box.x + box.width / 2, box.y + box.height / 2 - 0.4, 'guide of', 1.8, 'middle'),
          text(box.x + box.width / 2, box.y + box.height / 2 + 2.6, 'the issue', 1.8, 'middle'),
        ];
    return [
      {
        id: record.id,
        role: 'code',
        label: words ? `QR code: ${words}` : 'QR code of the build guide: it is there once the drawing is issued with its guide',
        box: [box.x, box.y, box.width, box.height],
        items,
        ink: box,
        solid: { rects: [box], segments: [] },
      },
    ];
  },

  handles: ({ at, sizeMm }) => [{ name: 'size', at: [at[0] + sizeMm, at[1] + sizeMm] }],

  drag(record, [dx, dy], _, handle) {
    if (handle === undefined) return [{ op: 'put', record: { ...record, at: [record.at[0] + dx, record.at[1] + dy] } }];
    if (handle !== 'size') return [];
    return [{ op: 'put', record: { ...record, sizeMm: Math.min(100, Math.max(LEAST_MM, record.sizeMm + Math.max(dx, dy))) } }];
  },
};
