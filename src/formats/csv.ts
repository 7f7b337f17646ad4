import Papa from 'papaparse';

/** Rows as CSV (RFC 4180): quoted where needed; a byte order mark so that spreadsheets take it for UTF-8. */
export function writeCsv(rows: readonly (readonly string[])[]): string {
  return `\ufeff${Papa.unparse(rows.map((r) => r.map(guard)))}\r\n`;
}

/** A cell that a spreadsheet would run as a formula gets an apostrophe; numbers below zero stay numbers. */
const guard = (v: string) => (/^[=+@\t\r]|^-(?![\d.])/.test(v) ? `'${v}` : v);
