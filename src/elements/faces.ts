import type { RecordOf } from '../core/document/records';
import { balloonFace } from './balloon/face';
import { cloudFace } from './cloud/face';
import { revisionsFace } from './revisions/face';
import { centreFace } from './centre/face';
import { dimensionFace } from './dimension/face';
import type { Face } from './face';
import { figureFace } from './figure/face';
import type { ElementRecord, ElementType } from './kinds';
import { listFace } from './list/face';
import { noteFace } from './note/face';
import { pictureFace } from './picture/face';
import { positionsFace } from './positions/face';
import { sheetFace } from './sheet/face';
import { signFace } from './sign/face';
import { tableFace } from './table/face';
import { viewFace } from './view/face';

/** The face of every kind of element, in the order of their actions on the shelf. One that is missing does not compile. */
export const FACES = {
  view: viewFace,
  balloon: balloonFace,
  centre: centreFace,
  dimension: dimensionFace,
  positions: positionsFace,
  note: noteFace,
  sign: signFace,
  list: listFace,
  figure: figureFace,
  table: tableFace,
  picture: pictureFace,
  cloud: cloudFace,
  revisions: revisionsFace,
  sheet: sheetFace,
} satisfies { readonly [T in ElementType]: Face<RecordOf<T>> };

/** The face of a record. */
export const faceOf = <R extends ElementRecord>(record: R): Face<R> => FACES[record.type] as unknown as Face<R>;

export const ALL_FACES = Object.values(FACES) as readonly unknown[] as readonly Face<ElementRecord>[];
