import { LIST_STYLES } from '../../core/ledger/list-rows.ts';
import type { ListStyle } from '../../elements/list/record.ts';
import { listStyle } from '../database/schema.ts';
import { Shelf } from './shelf.ts';

export interface ListStyleRow extends ListStyle {
  readonly shipped: boolean;
  readonly version: number;
}

const shelf = new Shelf<ListStyle, ListStyleRow>(listStyle, 'The layout', LIST_STYLES, (style, shipped, version) => ({ ...style, shipped, version }));

/** Layouts of parts lists: shipped ones, then those that were kept. */
export const listStyles = (): Promise<ListStyleRow[]> => shelf.list();
/** @throws QuarryError BAD_REQUEST for the name of a shipped one */
export const keepListStyle = (body: ListStyle): Promise<ListStyleRow> => shelf.keep(body);
/** @throws QuarryError NOT_FOUND, BAD_REQUEST for a shipped one */
export const removeListStyle = (name: string): Promise<void> => shelf.remove(name);
