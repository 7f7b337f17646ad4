import type { DrawingDocumentRecord, RecordOf } from '../core/document/records.ts';
import { balloonKind } from './balloon/kind.ts';
import { blockKind } from './block/kind.ts';
import { cloudKind } from './cloud/kind.ts';
import { codeKind } from './code/kind.ts';
import { revisionsKind } from './revisions/kind.ts';
import { centreKind } from './centre/kind.ts';
import { dimensionKind } from './dimension/kind.ts';
import { figureKind } from './figure/kind.ts';
import type { Kind } from './kind.ts';
import { listKind } from './list/kind.ts';
import { noteKind } from './note/kind.ts';
import { pictureKind } from './picture/kind.ts';
import { positionsKind } from './positions/kind.ts';
import { sheetKind } from './sheet/kind.ts';
import { signKind } from './sign/kind.ts';
import { tableKind } from './table/kind.ts';
import { viewKind } from './view/kind.ts';

/** Records that are not drawn: the drawing itself and what it is computed from. */
type Undrawn = 'drawing' | 'model' | 'spread' | 'property' | 'ledger' | 'numbers' | 'thread' | 'proof' | 'row' | 'revision' | 'guide' | 'layers';
export type ElementType = Exclude<DrawingDocumentRecord['type'], Undrawn>;
export type ElementRecord = RecordOf<ElementType>;

/** Every kind of element. A record without a kind does not compile. */
export const KINDS = {
  sheet: sheetKind,
  view: viewKind,
  balloon: balloonKind,
  centre: centreKind,
  dimension: dimensionKind,
  figure: figureKind,
  list: listKind,
  note: noteKind,
  positions: positionsKind,
  sign: signKind,
  table: tableKind,
  block: blockKind,
  picture: pictureKind,
  cloud: cloudKind,
  code: codeKind,
  revisions: revisionsKind,
} satisfies { readonly [T in ElementType]: Kind<RecordOf<T>> };

export const isElement = (record: DrawingDocumentRecord): record is ElementRecord => Object.hasOwn(KINDS, record.type);

/** The kind of a record. */
export const kindOf = <R extends ElementRecord>(record: R): Kind<R> => KINDS[record.type] as unknown as Kind<R>;
