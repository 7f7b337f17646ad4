import { z } from 'zod';
import { balloonRecord } from '../../elements/balloon/record.ts';
import { blockRecord } from '../../elements/block/record.ts';
import { centreRecord } from '../../elements/centre/record.ts';
import { dimensionRecord } from '../../elements/dimension/record.ts';
import { figureRecord } from '../../elements/figure/record.ts';
import { listRecord } from '../../elements/list/record.ts';
import { noteRecord } from '../../elements/note/record.ts';
import { pictureRecord } from '../../elements/picture/record.ts';
import { positionsRecord } from '../../elements/positions/record.ts';
import { sheetRecord } from '../../elements/sheet/record.ts';
import { signRecord } from '../../elements/sign/record.ts';
import { cloudRecord } from '../../elements/cloud/record.ts';
import { codeRecord } from '../../elements/code/record.ts';
import { revisionsRecord } from '../../elements/revisions/record.ts';
import { tableRecord } from '../../elements/table/record.ts';
import { viewRecord } from '../../elements/view/record.ts';
import {
  drawingRecord,
  guideRecord,
  layersRecord,
  revisionRecord,
  ledgerRecord,
  modelRecord,
  numbersRecord,
  proofRecord,
  propertyRecord,
  rowRecord,
  spreadRecord,
  threadRecord,
} from './record.ts';

/** Every record there is, stated once: what is stored, sent and typed comes from here. */
export const anyRecord = z.discriminatedUnion('type', [
  drawingRecord,
  modelRecord,
  sheetRecord,
  viewRecord,
  spreadRecord,
  balloonRecord,
  centreRecord,
  dimensionRecord,
  figureRecord,
  listRecord,
  noteRecord,
  positionsRecord,
  signRecord,
  tableRecord,
  blockRecord,
  pictureRecord,
  cloudRecord,
  codeRecord,
  revisionsRecord,
  propertyRecord,
  ledgerRecord,
  numbersRecord,
  threadRecord,
  proofRecord,
  rowRecord,
  revisionRecord,
  guideRecord,
  layersRecord,
]);

export type AnyRecord = z.infer<typeof anyRecord>;

/** The schema of each type of record. */
export const SCHEMAS: ReadonlyMap<string, z.ZodType> = new Map(anyRecord.options.map((o) => [o._zod.def.innerType.shape.type.value, o]));
