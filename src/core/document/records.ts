import type { CutShape } from '../cut/cut-shape.ts';
import type { Standard } from '../sheet/formats.ts';

/** Everything that people decide about a drawing is one of these records; what can be computed is not stored. */
export interface DrawingRecord {
  readonly type: 'drawing';
  readonly id: 'drawing';
  readonly standard: Standard;
  readonly title: string;
  readonly number: string;
  readonly revision: string;
  readonly date: string;
  readonly drawnBy: string;
  readonly checkedBy: string;
  readonly approvedBy: string;
  readonly owner: string;
  readonly quantity: number;
  /** What someone said of a size that could not be: files of the job that state this unit mean so many mm by it. */
  readonly unit?: { readonly stated: string; readonly mm: number };
}

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

export interface SheetRecord {
  readonly type: 'sheet';
  readonly id: string;
  /** Place in the set, ascending. */
  readonly order: number;
  readonly name: string;
  /** Name of a format. */
  readonly size: string;
  readonly landscape: boolean;
}

export interface CutRecord {
  readonly normal: readonly [number, number, number];
  /** n·x = d, model mm; the side towards the reader is removed. */
  readonly d: number;
  readonly letter: string;
  /** Paths of components that stay uncut. */
  readonly keptWhole: readonly string[];
  /** What is taken away, when it is not everything in front of the plane. */
  readonly shape?: CutShape;
  /** How far behind the plane is shown, mm; absent: everything. */
  readonly behindMm?: number;
  /** View that carries the cutting-plane line, if any. */
  readonly shownIn: string | null;
}

export interface ViewRecord {
  readonly type: 'view';
  readonly id: string;
  readonly sheet: string;
  readonly name: string;
  readonly right: readonly [number, number, number];
  readonly up: readonly [number, number, number];
  readonly toward: readonly [number, number, number];
  /** Paper mm per model mm. */
  readonly scale: number;
  /** Where `pivot` lies on the sheet, mm from the top left corner, y down. */
  readonly at: readonly [number, number];
  /** A point of view space, model mm. */
  readonly pivot: readonly [number, number];
  readonly hidden: boolean;
  /** Hidden lines only of components that begin within this depth, mm; absent: of all. */
  readonly hiddenWithinMm?: number;
  readonly tangent: boolean;
  readonly shaded: boolean;
  /** Shaded with one tone per face of the mesh; absent: smooth. */
  readonly flat?: boolean;
  /** Shaded with a colour for each item; absent: as in the model. */
  readonly colorByItem?: boolean;
  /** Lines of one component closer than this on paper thin out, mm; absent: none do. */
  readonly thinMm?: number;
  readonly label: boolean;
  /** View it keeps level (`x`) or in line (`y`) with. */
  readonly parent: string | null;
  readonly align: 'level' | 'upright' | null;
  readonly cut: CutRecord | null;
  readonly spread: string | null;
  readonly pullLines: boolean;
}

export interface PullRecord {
  /** Paths of components. */
  readonly components: readonly string[];
  readonly direction: readonly [number, number, number];
  readonly distanceMm: number;
  /** The components turn about an axis instead; radians. */
  readonly turn?: { readonly axis: readonly [number, number, number]; readonly through: readonly [number, number, number]; readonly angle: number };
  /** Evenly spaced: the place of each component in the row, from 1; the last goes the whole distance. */
  readonly ranks?: readonly number[];
  /** The distance was chosen by someone: tightening leaves it. */
  readonly typed?: boolean;
  /** The first leg of a way round a corner: tightening leaves it too. */
  readonly leg?: true;
  /** It is kept, but not made. */
  readonly off?: boolean;
  readonly name?: string;
}

export interface SpreadRecord {
  readonly type: 'spread';
  readonly id: string;
  readonly name: string;
  readonly pulls: readonly PullRecord[];
  /** Sets of components that move as one, as paths. */
  readonly together?: readonly (readonly string[])[];
  /** No pull lines in any view. */
  readonly noLines?: boolean;
  /** Components whose pull line is not drawn. */
  readonly linesOff?: readonly string[];
}

export interface BalloonRecord {
  readonly type: 'balloon';
  readonly id: string;
  readonly view: string;
  /** Path of the component it points at. */
  readonly component: string;
  /** End of the leader in view space, model mm. */
  readonly anchor: readonly [number, number];
  /** Centre of the circle relative to the view's place on the sheet, paper mm, y down. */
  readonly offset: readonly [number, number];
  readonly end: 'arrow' | 'dot';
  /** Someone put it there: arranging leaves it. */
  readonly byHand?: true;
}

export interface ListColumn {
  readonly key: string;
  readonly title: string;
  readonly widthMm: number;
}

export interface ListRecord {
  readonly type: 'list';
  readonly id: string;
  readonly sheet: string;
  readonly columns: readonly ListColumn[];
  /** A long list goes over several sheets: which part of it this is, from 1. */
  readonly share?: { readonly part: number; readonly of: number };
}

/** What was typed for a part; an absent key falls back to the file. */
export interface PropertyRecord {
  readonly type: 'property';
  /** `property:` and the part's id. */
  readonly id: string;
  readonly part: string;
  /** Typed texts by property key; those of own columns too. */
  readonly values: Readonly<Record<string, string>>;
  /** When each was typed, ISO 8601. */
  readonly when?: Readonly<Record<string, string>>;
}

export type ColumnKind = 'text' | 'number' | 'choice' | 'yesno' | 'link';

/** A column of the user's own. */
export interface OwnColumn {
  /** `own:` and a word. */
  readonly key: string;
  readonly title: string;
  readonly kind: ColumnKind;
  /** Of a number. */
  readonly unit?: string;
  /** Of a choice. */
  readonly options?: readonly string[];
}

/** How the ledger is kept in this job. */
export interface LedgerRecord {
  readonly type: 'ledger';
  readonly id: 'ledger';
  readonly own: readonly OwnColumn[];
  /** Column keys in order; keys that are missing come after, in their usual order. */
  readonly order: readonly string[];
  readonly hidden: readonly string[];
  /** Pixels by column key. */
  readonly widths: Readonly<Record<string, number>>;
  /** Columns at the left that stay in sight. */
  readonly frozen: number;
  /** Drawing numbers of made parts: prefix and digits of the running number. */
  readonly scheme: { readonly prefix: string; readonly digits: number };
  /** Materials besides the common ones. */
  readonly materials: readonly { readonly name: string; readonly densityKgM3: number }[];
  readonly massUnit: 'kg' | 'lb';
}

/** Item numbers that stay with their parts whatever the next model brings; without it they follow the tree. */
export interface NumbersRecord {
  readonly type: 'numbers';
  readonly id: 'numbers';
  readonly of: Readonly<Record<string, number>>;
  /** The highest number ever given. */
  readonly last: number;
}

/** Which model the drawing shows; without it the one it was first made from. */
export interface ModelRecord {
  readonly type: 'model';
  readonly id: 'model';
  /** Id of the stored assembly. */
  readonly model: string;
  /** File it came from. */
  readonly name: string;
  /** Changes of the report that someone has looked at and accepted, as `changeId` names them. */
  readonly accepted?: readonly string[];
}

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

export type DrawingDocumentRecord =
  DrawingRecord | SheetRecord | ViewRecord | SpreadRecord | BalloonRecord | ListRecord | PropertyRecord | LedgerRecord | NumbersRecord | ModelRecord;
export type RecordType = DrawingDocumentRecord['type'];

export type DrawingDocument = Readonly<Record<string, DrawingDocumentRecord>>;

export function recordsOf<T extends RecordType>(doc: DrawingDocument, type: T): Extract<DrawingDocumentRecord, { type: T }>[] {
  return Object.values(doc).filter((r): r is Extract<DrawingDocumentRecord, { type: T }> => r.type === type);
}

export function drawingOf(doc: DrawingDocument): DrawingRecord {
  const d = doc['drawing'];
  if (d?.type !== 'drawing') throw new RangeError('The document has no drawing record.');
  return d;
}

export function sheetsOf(doc: DrawingDocument): SheetRecord[] {
  return recordsOf(doc, 'sheet').sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
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
