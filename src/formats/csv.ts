/** Rows as CSV (RFC 4180): quoted where needed; a byte order mark so that spreadsheets take it for UTF-8. */
export function writeCsv(rows: readonly (readonly string[])[]): string {
  const cell = (v: string) => (/[",\r\n]/.test(guard(v)) ? `"${guard(v).replaceAll('"', '""')}"` : guard(v));
  return '\ufeff' + rows.map((r) => r.map(cell).join(',')).join('\r\n') + '\r\n';
}

/** A cell that a spreadsheet would run as a formula gets an apostrophe. */
const guard = (v: string) => (/^[=+@\t\r]|^-(?![\d.])/.test(v) ? `'${v}` : v);
