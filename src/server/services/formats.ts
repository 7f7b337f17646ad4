import { asc, eq, sql } from 'drizzle-orm';
import { QuarryError } from '../../core/base/errors.ts';
import { without } from '../../core/base/without.ts';
import type { SheetFormat } from '../../core/format/record.ts';
import { SHIPPED_FORMATS, shippedFormat } from '../../core/format/shipped.ts';
import { getDatabase } from '../database/client.ts';
import { sheetFormat } from '../database/schema.ts';

export interface FormatRow {
  readonly name: string;
  readonly words: string;
  /** It comes with the application. */
  readonly shipped: boolean;
  /** How often it was kept; 1 for shipped ones. */
  readonly version: number;
  /** The sheet that it was made on. */
  readonly size: string;
  readonly landscape: boolean;
}

const rowOf = ({ name, words, size, landscape }: SheetFormat, shipped: boolean, version: number): FormatRow => ({
  name,
  words,
  shipped,
  version,
  size,
  landscape,
});

/** The shipped formats, then those that were kept, by name. */
export async function listFormats(): Promise<FormatRow[]> {
  const kept = await getDatabase().select().from(sheetFormat).orderBy(asc(sheetFormat.name));
  return [...SHIPPED_FORMATS.map((f) => rowOf(f, true, 1)), ...kept.map((k) => rowOf(k.body, false, k.version))];
}

/** A format; one that was kept says which version it is. @throws QuarryError NOT_FOUND */
export async function formatByName(name: string): Promise<SheetFormat> {
  const shipped = shippedFormat(name);
  if (shipped) return shipped;
  const [row] = await getDatabase().select().from(sheetFormat).where(eq(sheetFormat.name, name));
  if (!row) throw new QuarryError('NOT_FOUND', { what: `The sheet format “${name}”` });
  return { ...row.body, version: row.version };
}

/** Keeps a format under its name, as a new version where there is one. @throws QuarryError BAD_REQUEST for the name of a shipped one */
export async function keepFormat(given: SheetFormat): Promise<FormatRow> {
  const body = without(given, 'version');
  if (shippedFormat(body.name))
    throw new QuarryError('BAD_REQUEST', { text: `“${body.name}” comes with the application and stays as it is. Keep yours under another name.` });
  const [row] = await getDatabase()
    .insert(sheetFormat)
    .values({ name: body.name, body })
    .onConflictDoUpdate({ target: sheetFormat.name, set: { body, version: sql`${sheetFormat.version} + 1`, changedAt: new Date() } })
    .returning({ version: sheetFormat.version });
  return rowOf(body, false, row!.version);
}

/** @throws QuarryError NOT_FOUND, BAD_REQUEST for a shipped one */
export async function removeFormat(name: string): Promise<void> {
  if (shippedFormat(name)) throw new QuarryError('BAD_REQUEST', { text: `“${name}” comes with the application and stays.` });
  const gone = await getDatabase().delete(sheetFormat).where(eq(sheetFormat.name, name)).returning({ id: sheetFormat.id });
  if (!gone.length) throw new QuarryError('NOT_FOUND', { what: `The sheet format “${name}”` });
}
