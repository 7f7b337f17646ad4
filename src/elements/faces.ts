import type { RecordOf } from '../core/document/records';
import { FORMAT_TYPES } from '../core/format/record';
import { balloonFace } from './balloon/face';
import { blockFace } from './block/face';
import { cloudFace } from './cloud/face';
import { codeFace } from './code/face';
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
  block: blockFace,
  picture: pictureFace,
  cloud: cloudFace,
  code: codeFace,
  revisions: revisionsFace,
  sheet: sheetFace,
} satisfies { readonly [T in ElementType]: Face<RecordOf<T>> };

/** The face of a record. */
export const faceOf = <R extends ElementRecord>(record: R): Face<R> => FACES[record.type] as unknown as Face<R>;

/** Faces whose elements can stand on a sheet, or on a sheet format. */
export const facesOn = (format: boolean): readonly Face<ElementRecord>[] =>
  format
    ? (Object.entries(FACES)
        .filter(([type]) => type === 'sheet' || FORMAT_TYPES.has(type))
        .map(([, f]) => f) as readonly unknown[] as readonly Face<ElementRecord>[])
    : ALL_FACES;

export const ALL_FACES = Object.values(FACES) as readonly unknown[] as readonly Face<ElementRecord>[];
