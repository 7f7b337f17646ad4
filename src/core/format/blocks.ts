import type { BlockCell, BlockRecord } from '../../elements/block/layout.ts';
import { FORMAT_SHEET } from './record.ts';

const cell = (column: number, row: number, columns: number, rows: number, caption: string, text: string, more: Partial<BlockCell> = {}): BlockCell => ({
  column,
  row,
  ...(columns > 1 ? { columns } : {}),
  ...(rows > 1 ? { rows } : {}),
  ...(caption ? { caption } : {}),
  text,
  ...more,
});

const titleBlock = (columns: readonly number[], rows: readonly number[], cells: readonly BlockCell[]): BlockRecord => ({
  type: 'block',
  id: 'block:title',
  sheet: FORMAT_SHEET,
  corner: 'bottom right',
  columns,
  rows,
  cells,
});

const SYMBOL: Partial<BlockCell> = { symbol: true };
const large = (heightMm: number): Partial<BlockCell> => ({ heightMm, long: 'wrap' });

/**
 * The data fields of ISO 7200 in a block 180 mm wide (from memory of the standard's example): legal owner, title, identification
 * number, revision, date of issue, sheet n of m, document type, creator, approval; besides what drawings of machines say: scale,
 * size, mass, projection. @param part a part's own: with its material
 */
export function isoBlock(part: boolean): BlockRecord {
  return titleBlock(
    [18, 15, 17, 16, 42, 42, 30],
    [14, 9, 9, 10],
    [
      cell(0, 0, 4, 1, 'Legal owner', '{owner}', large(3.5)),
      cell(4, 0, 3, 1, 'Title', '{title}', large(5)),
      cell(0, 1, 2, 1, 'Drawn by', '{drawnBy}'),
      cell(2, 1, 2, 1, 'Checked by', '{checkedBy}'),
      ...(part
        ? [cell(4, 1, 1, 1, 'Document type', '{sheetName}'), cell(5, 1, 1, 1, 'Material', '{material}')]
        : [cell(4, 1, 2, 1, 'Document type', '{sheetName}')]),
      cell(6, 1, 1, 1, 'To make', '{quantity}'),
      cell(0, 2, 2, 1, 'Approved by', '{approvedBy}'),
      cell(2, 2, 2, 1, 'Date of issue', '{date}'),
      cell(4, 2, 2, 2, 'Drawing number', '{number}', large(7)),
      cell(6, 2, 1, 1, 'Revision', '{revision}', { heightMm: 3.5 }),
      cell(0, 3, 1, 1, 'Scale', '{scale}'),
      cell(1, 3, 1, 1, 'Size', '{size}'),
      cell(2, 3, 1, 1, 'Mass', '{mass}'),
      cell(3, 3, 1, 1, '', '', SYMBOL),
      cell(6, 3, 1, 1, 'Sheet', '{sheet} of {sheets}', { heightMm: 3.5 }),
    ],
  );
}

/** What has to be on every further sheet (ISO 7200): number, title, revision, sheet. */
export function isoContinuation(): BlockRecord {
  return titleBlock(
    [66, 66, 20, 28],
    [12],
    [
      cell(0, 0, 1, 1, 'Drawing number', '{number}', { heightMm: 5 }),
      cell(1, 0, 1, 1, 'Title', '{title}', large(3.5)),
      cell(2, 0, 1, 1, 'Revision', '{revision}', { heightMm: 3.5 }),
      cell(3, 0, 1, 1, 'Sheet', '{sheet} of {sheets}', { heightMm: 3.5 }),
    ],
  );
}

/**
 * The block of ASME Y14.1 for sheets up to C, 6.25 in wide (from memory: owner, title, size, CAGE code, drawing number, revision,
 * scale, weight, sheet, approvals with their dates). @param part a part's own: with its material
 */
export function asmeBlock(part: boolean): BlockRecord {
  return titleBlock(
    [32.75, 20, 12, 20, 38, 20, 16],
    [7.5, 7.5, 7.5, 7.5, 14, 9],
    [
      cell(0, 0, 1, 1, 'DRAWN', '{drawnBy}'),
      cell(1, 0, 1, 1, 'DATE', '{date}'),
      cell(0, 1, 1, 1, 'CHECKED', '{checkedBy}'),
      cell(1, 1, 1, 1, 'DATE', '{date checked}'),
      cell(0, 2, 1, 1, 'APPROVED', '{approvedBy}'),
      cell(1, 2, 1, 1, 'DATE', '{date approved}'),
      ...(part ? [cell(0, 3, 1, 1, 'MATERIAL', '{material}')] : [cell(0, 3, 1, 1, 'DOCUMENT', '{sheetName}')]),
      cell(1, 3, 1, 1, 'TO MAKE', '{quantity}'),
      cell(2, 0, 5, 2, '', '{owner}', large(5)),
      cell(2, 2, 5, 2, 'TITLE', '{title}', large(5)),
      cell(0, 4, 2, 1, '', '', SYMBOL),
      cell(2, 4, 1, 1, 'SIZE', '{size}', { heightMm: 5 }),
      cell(3, 4, 1, 1, 'CAGE CODE', '{CAGE code}', { heightMm: 3.5 }),
      cell(4, 4, 2, 1, 'DRAWING NO.', '{number}', large(5)),
      cell(6, 4, 1, 1, 'REV', '{revision}', { heightMm: 5 }),
      cell(0, 5, 2, 1, 'UNIT', '{unit}'),
      cell(2, 5, 2, 1, 'SCALE', '{scale}'),
      cell(4, 5, 1, 1, 'WEIGHT', '{mass}'),
      cell(5, 5, 2, 1, 'SHEET', '{sheet} OF {sheets}', { heightMm: 3.5 }),
    ],
  );
}

/** The continuation block of ASME Y14.1 (from memory): size, CAGE code, number, revision; scale and sheet. */
export function asmeContinuation(): BlockRecord {
  return titleBlock(
    [12, 28, 80, 38.75],
    [12, 8],
    [
      cell(0, 0, 1, 1, 'SIZE', '{size}', { heightMm: 3.5 }),
      cell(1, 0, 1, 1, 'CAGE CODE', '{CAGE code}', { heightMm: 3.5 }),
      cell(2, 0, 1, 1, 'DRAWING NO.', '{number}', { heightMm: 5 }),
      cell(3, 0, 1, 1, 'REV', '{revision}', { heightMm: 5 }),
      cell(0, 1, 2, 1, 'SCALE', '{scale}'),
      cell(2, 1, 1, 1, '', ''),
      cell(3, 1, 1, 1, 'SHEET', '{sheet} OF {sheets}'),
    ],
  );
}

/** Large words of a title page, without lines, in the middle of the foot of an A3 sheet. */
export function titleWords(wide: number, at: readonly [number, number]): BlockRecord {
  const line = (row: number, text: string, heightMm: number, more: Partial<BlockCell> = {}) =>
    cell(0, row, 1, 1, '', text, { heightMm, anchor: 'middle', bare: true, ...more });
  return {
    type: 'block',
    id: 'block:words',
    sheet: FORMAT_SHEET,
    at,
    columns: [wide],
    rows: [36, 14, 14, 10],
    cells: [
      line(0, '{title}', 14, { bold: true, long: 'wrap' }),
      line(1, '{number}', 7),
      line(2, '{owner}', 5),
      line(3, 'Revision {revision} · {date} · {sheets} sheets', 3.5),
    ],
  };
}
