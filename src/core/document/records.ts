import type { z } from 'zod';
import type { balloonRecord } from '../../elements/balloon/record.ts';
import type { listColumn, listRecord } from '../../elements/list/record.ts';
import type { cutRecord, viewRecord } from '../../elements/view/record.ts';
import type { ownColumn, pullRecord, spreadRecord } from './record.ts';
import type { AnyRecord } from './schemas.ts';

/** Everything that people decide about a drawing is one of these records; what can be computed is not stored. Their schemas say what they are. */
export type DrawingDocumentRecord = AnyRecord;
export type RecordType = DrawingDocumentRecord['type'];
export type RecordOf<T extends RecordType> = Extract<DrawingDocumentRecord, { type: T }>;

export type DrawingRecord = RecordOf<'drawing'>;
export type SheetRecord = RecordOf<'sheet'>;
export type ViewRecord = z.infer<typeof viewRecord>;
export type CutRecord = z.infer<typeof cutRecord>;
export type SpreadRecord = z.infer<typeof spreadRecord>;
export type PullRecord = z.infer<typeof pullRecord>;
export type HeldRecord = NonNullable<SpreadRecord['held']>[number];
export type BalloonRecord = z.infer<typeof balloonRecord>;
export type ListRecord = z.infer<typeof listRecord>;
export type ListColumn = z.infer<typeof listColumn>;
export type PropertyRecord = RecordOf<'property'>;
export type LedgerRecord = RecordOf<'ledger'>;
export type OwnColumn = z.infer<typeof ownColumn>;
export type ColumnKind = OwnColumn['kind'];
export type NumbersRecord = RecordOf<'numbers'>;
export type ModelRecord = RecordOf<'model'>;

/** A drawing in which nothing is filled in yet. */
export const BLANK_DRAWING: DrawingRecord = {
  type: 'drawing',
  id: 'drawing',
  standard: 'iso',
  title: '',
  number: '',
  revision: '',
  date: '',
  drawnBy: '',
  checkedBy: '',
  approvedBy: '',
  owner: '',
  quantity: 1,
};

/** What a view shows before anything is asked of it: its lines at 1:1, by themselves. */
export const PLAIN_VIEW = {
  scale: 1,
  at: [0, 0],
  pivot: [0, 0],
  hidden: false,
  tangent: false,
  shaded: false,
  label: false,
  parent: null,
  align: null,
  cut: null,
  spread: null,
  pullLines: false,
} as const satisfies Partial<ViewRecord>;

export type DrawingDocument = Readonly<Record<string, DrawingDocumentRecord>>;

export function recordsOf<T extends RecordType>(doc: DrawingDocument, type: T): RecordOf<T>[] {
  return Object.values(doc).filter((r): r is RecordOf<T> => r.type === type);
}

export function drawingOf(doc: DrawingDocument): DrawingRecord {
  const d = doc['drawing'];
  if (d?.type !== 'drawing') throw new RangeError('The document has no drawing record.');
  return d;
}

/** The sheets of the set, in their order; not the formats that they lie on. */
export function sheetsOf(doc: DrawingDocument): SheetRecord[] {
  return recordsOf(doc, 'sheet')
    .filter((s) => !s.form)
    .sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
}

export function viewsOn(doc: DrawingDocument, sheet: string): ViewRecord[] {
  return recordsOf(doc, 'view')
    .filter((v) => v.sheet === sheet)
    .sort((a, b) => (a.id < b.id ? -1 : 1));
}

export const PLAIN_LEDGER: LedgerRecord = {
  type: 'ledger',
  id: 'ledger',
  own: [],
  order: [],
  hidden: [],
  widths: {},
  frozen: 2,
  scheme: { prefix: '', digits: 2 },
  materials: [],
  massUnit: 'kg',
};

export function ledgerOf(doc: DrawingDocument): LedgerRecord {
  const l = doc['ledger'];
  return l?.type === 'ledger' ? l : PLAIN_LEDGER;
}
