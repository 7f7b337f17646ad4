import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import { QuarryError } from '../core/base/errors.ts';

/** Rows and columns that a table of properties may have. */
const MOST_ROWS = 20_000;
const MOST_COLUMNS = 300;

/** A table as an XLSX workbook of one sheet, headings bold and frozen. */
export async function writeXlsx(title: string, rows: readonly (readonly string[])[]): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet(title.slice(0, 31).replace(/[[\]:*?/\\]/g, ' ') || 'Table', { views: [{ state: 'frozen', ySplit: 1 }] });
  for (const r of rows) sheet.addRow([...r]);
  sheet.getRow(1).font = { bold: true };
  sheet.columns.forEach((c, i) => (c.width = Math.min(60, Math.max(8, ...rows.slice(0, 200).map((r) => (r[i] ?? '').length + 2)))));
  return new Uint8Array(await book.xlsx.writeBuffer());
}

/** The first sheet of a workbook as texts. @throws QuarryError FILE_DAMAGED, FILE_TOO_MANY */
export async function readXlsx(name: string, bytes: Uint8Array): Promise<string[][]> {
  const book = new ExcelJS.Workbook();
  try {
    await book.xlsx.load(bytes.slice().buffer);
  } catch (cause) {
    throw new QuarryError('FILE_DAMAGED', { file: name, format: 'XLSX', why: 'it is not a workbook that can be opened' }, { cause });
  }
  const sheet = book.worksheets[0];
  if (!sheet) throw new QuarryError('FILE_DAMAGED', { file: name, format: 'XLSX', why: 'there is no sheet in it' });
  // Counted once: the library walks all rows for each answer.
  const [rows, columns] = [sheet.rowCount, sheet.columnCount];
  checkSize(name, rows, columns);
  return Array.from({ length: rows }, (_, r) => Array.from({ length: columns }, (_, c) => sheet.getCell(r + 1, c + 1).text));
}

/**
 * CSV (RFC 4180) as texts: commas, semicolons or tabs, whichever the first line has most of; a byte order mark and the
 * apostrophe that guards formulas are taken off.
 * @throws QuarryError FILE_TOO_MANY
 */
export function readCsv(name: string, text: string): string[][] {
  const body = text.replace(/^\ufeff/, '').replaceAll('\r\n', '\n');
  const first = body.split('\n', 1)[0]!;
  const separator = [',', ';', '\t'].map((s) => [s, first.split(s).length] as const).sort((a, b) => b[1] - a[1])[0]![0];
  const rows = Papa.parse<string[]>(body, { delimiter: separator, newline: '\n' }).data.map((r) => r.map((c) => c.replace(/^'(?=[=+@-])/, '')));
  // The last line ends with a break.
  if (rows.at(-1)?.length === 1 && rows.at(-1)![0] === '') rows.pop();
  checkSize(name, rows.length, Math.max(0, ...rows.map((r) => r.length)));
  return rows;
}

function checkSize(file: string, rows: number, columns: number): void {
  if (rows > MOST_ROWS) throw new QuarryError('FILE_TOO_MANY', { file, count: rows, limit: MOST_ROWS, what: 'rows' });
  if (columns > MOST_COLUMNS) throw new QuarryError('FILE_TOO_MANY', { file, count: columns, limit: MOST_COLUMNS, what: 'columns' });
}
