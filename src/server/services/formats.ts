import { without } from '../../core/base/without.ts';
import type { SheetFormat } from '../../core/format/record.ts';
import { SHIPPED_FORMATS } from '../../core/format/shipped.ts';
import { sheetFormat } from '../database/schema.ts';
import { Shelf } from './shelf.ts';

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

const shelf = new Shelf<SheetFormat, FormatRow>(sheetFormat, 'The sheet format', SHIPPED_FORMATS, ({ name, words, size, landscape }, shipped, version) => ({
  name,
  words,
  shipped,
  version,
  size,
  landscape,
}));

export const listFormats = (): Promise<FormatRow[]> => shelf.list();
export const removeFormat = (name: string): Promise<void> => shelf.remove(name);
/** What a file says of its version is not believed. @throws QuarryError BAD_REQUEST for the name of a shipped one */
export const keepFormat = (body: SheetFormat): Promise<FormatRow> => shelf.keep(without(body, 'version'));

/** A format; one that was kept says which version it is. @throws QuarryError NOT_FOUND */
export async function formatByName(name: string): Promise<SheetFormat> {
  const { body, version } = await shelf.byName(name);
  return version === undefined ? body : { ...body, version };
}
