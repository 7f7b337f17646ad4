import type { Kind } from '../kind.ts';
import { drawTable, layOutTable, type TableRecord } from './draw.ts';
import { withCell } from './edit.ts';

const LEAST_MM = 3;

/** Tables of the drafter's own cells: names, settings, torques, whatever a sheet has to say in rows. */
export const tableKind: Kind<TableRecord> = {
  title: 'table',
  layer: 4,
  draw: drawTable,

  /** Edges of columns, on the upper side. */
  handles(table) {
    let x = table.at[0];
    return table.widths.map((w, i) => ({ name: `column-${i}`, at: [(x += w), table.at[1]] as const }));
  },

  drag(table, by, _, handle) {
    if (handle === undefined) return [{ op: 'put', record: { ...table, at: [table.at[0] + by[0], table.at[1] + by[1]] } }];
    const column = Number(/^column-(\d+)$/.exec(handle)?.[1] ?? -1);
    if (!(column in table.widths)) return [];
    return [{ op: 'put', record: { ...table, widths: table.widths.map((w, i) => (i === column ? Math.max(LEAST_MM, w + by[0]) : w)) } }];
  },

  texts(table, scene) {
    const { size, cells } = layOutTable(table, scene);
    return cells.map((c) => ({
      name: `${c.row}/${c.column}`,
      label: `Row ${c.row + 1}, column ${c.column + 1}`,
      box: c.box,
      height: size,
      value: table.rows[c.row]![c.column] ?? '',
      lines: 'cell',
      write: (words) => [{ op: 'put', record: withCell(table, c.row, c.column, words.slice(0, 2000)) }],
    }));
  },
};
