import {
  type AnyPgColumn,
  bigserial,
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  timestamp,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import type { Assembly } from '../../core/assembly/assembly.ts';
import type { MeshChoices } from '../../core/assembly/mesh-tree.ts';
import type { SheetFormat } from '../../core/format/record.ts';
import type { Recipe } from '../../core/recipe/record.ts';
import type { SlotReport } from '../../core/recipe/sheet-maker.ts';
import type { ChangeReport } from '../../core/revision/changes.ts';
import type { Loss } from '../../core/revision/take-over.ts';
import type { ListStyle } from '../../elements/list/record.ts';
import type { IssueRequest } from '../services/issues.ts';
import { DOCUMENT_FORMAT } from '../../core/document/format.ts';
import type { DrawingDocumentRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';

const bytea = customType<{ data: Uint8Array; driverData: Buffer }>({
  dataType: () => 'bytea',
  toDriver: (v) => Buffer.from(v.buffer, v.byteOffset, v.byteLength),
  fromDriver: (v) => new Uint8Array(v.buffer, v.byteOffset, v.byteLength),
});

const moment = (name?: string) => (name ? timestamp(name, { withTimezone: true }) : timestamp({ withTimezone: true }));

export type ModelState = 'queued' | 'working' | 'ready' | 'failed' | 'taken' | 'left';
/** `drafting`: its first sheets stand and can be worked on, the others are still being drawn. */
export type JobState = 'queued' | 'working' | 'drafting' | 'ready' | 'failed' | 'cancelled';
/** States in which there is a drawing. */
export const OPEN_STATES: readonly JobState[] = ['drafting', 'ready'];

/** One assembly with its drawings. */
export const job = pgTable('job', {
  id: uuid().primaryKey().defaultRandom(),
  title: text().notNull(),
  state: text().$type<JobState>().notNull().default('queued'),
  /** Stage of the import and how far it is, 0…1. */
  stage: text().notNull().default('queued'),
  progress: real().notNull().default(0),
  errorCode: text(),
  errorText: text(),
  cancelWanted: boolean().notNull().default(false),
  demo: boolean().notNull().default(false),
  fileBytes: integer().notNull().default(0),
  /** Sheet and standard wanted for the first drawing. */
  sheet: text(),
  /** Decided by the user where a format leaves it open. */
  choices: jsonb().$type<MeshChoices>(),
  standard: text().$type<'iso' | 'asme'>().notNull().default('iso'),
  /** By which its first sheets are made; null: the usual first drawing. */
  recipe: jsonb().$type<Recipe>(),
  /** The sheet format that its first drawing lies on; null: the standard's own. */
  format: jsonb().$type<SheetFormat>(),
  /** What became of the recipe's slots. */
  slots: jsonb().$type<readonly SlotReport[]>(),
  assembly: jsonb().$type<Assembly>(),
  /** Of the assembly; the database counts them when it is stored, so that a list of jobs unpacks none. */
  components: integer().notNull().default(0),
  parts: integer().notNull().default(0),
  /** Of the drawing: `drawing_record` has it as it stands, `edit` tells how it came about. */
  version: integer().notNull().default(0),
  /** What its records are written in; those of an older format are carried over when the program starts. */
  documentFormat: integer().notNull().default(DOCUMENT_FORMAT),
  /** Versions of the edits that undo and redo take next. */
  undoHead: integer(),
  redoHead: integer(),
  /** Milliseconds per stage of the import. */
  timings: jsonb().$type<Record<string, number>>(),
  createdAt: moment().notNull().defaultNow(),
  changedAt: moment().notNull().defaultNow(),
});

/** What users keep under a name for every job; what comes with the application is not here. */
const keptTable = <Body>(name: string) =>
  pgTable(name, {
    id: uuid().primaryKey().defaultRandom(),
    name: text().notNull().unique(),
    body: jsonb().$type<Body>().notNull(),
    /** Counts up whenever it is kept anew. */
    version: integer().notNull().default(1),
    changedAt: moment().notNull().defaultNow(),
  });
export type KeptTable<Body> = ReturnType<typeof keptTable<Body>>;

export const recipe = keptTable<Recipe>('recipe');
export const sheetFormat = keptTable<SheetFormat>('sheet_format');
export const listStyle = keptTable<ListStyle>('list_style');

export const jobFile = pgTable(
  'job_file',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    jobId: uuid()
      .notNull()
      .references(() => job.id, { onDelete: 'cascade' }),
    /** A newer model that it belongs to. */
    modelId: uuid().references((): AnyPgColumn => model.id, { onDelete: 'cascade' }),
    /** The top assembly is 0. */
    place: integer().notNull(),
    name: text().notNull(),
    data: bytea().notNull(),
  },
  (t) => [index().on(t.jobId)],
);

/** A newer model of a job's assembly, from the moment it is brought in. */
export const model = pgTable(
  'model',
  {
    id: uuid().primaryKey().defaultRandom(),
    jobId: uuid()
      .notNull()
      .references(() => job.id, { onDelete: 'cascade' }),
    /** Name of its file. */
    name: text().notNull(),
    state: text().$type<ModelState>().notNull().default('queued'),
    stage: text().notNull().default('queued'),
    progress: real().notNull().default(0),
    errorText: text(),
    /** With the ids of the older model once it is taken over. */
    assembly: jsonb().$type<Assembly>(),
    /** What changed, as it was when it was taken over. */
    report: jsonb().$type<ChangeReport>(),
    /** What lost its target when it was taken over. */
    losses: jsonb().$type<readonly Loss[]>(),
    choices: jsonb().$type<MeshChoices>(),
    createdAt: moment().notNull().defaultNow(),
  },
  (t) => [index().on(t.jobId)],
);

/** Geometry of a part by the hash of its content: shared between jobs. */
export const geometry = pgTable('geometry', {
  key: text().primaryKey(),
  data: bytea().notNull(),
  /** A small line drawing of the part. */
  picture: text(),
  /** What is measured on it, packed. */
  features: bytea(),
});

/** Which geometry the reader's shapes were meshed to, by the hash of their packed form: no shape is meshed twice. */
export const shapeMesh = pgTable(
  'shape_mesh',
  {
    hash: text().primaryKey(),
    geometryKey: text()
      .notNull()
      .references(() => geometry.key, { onDelete: 'cascade' }),
  },
  (t) => [index().on(t.geometryKey)],
);

/** Computed views by the hash of what they show: never computed twice. */
export const viewResult = pgTable('view_result', {
  key: text().primaryKey(),
  /** Packed, gzip. */
  data: bytea().notNull(),
  /** Visible area per component, mm² at 1:1, as Float32. */
  seen: bytea().notNull(),
  createdAt: moment().notNull().defaultNow(),
});

/** What a drawing is made of, a row each: an edit writes the rows that it changes. */
export const drawingRecord = pgTable(
  'drawing_record',
  {
    jobId: uuid()
      .notNull()
      .references(() => job.id, { onDelete: 'cascade' }),
    id: text().notNull(),
    data: jsonb().$type<DrawingDocumentRecord>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.jobId, t.id] })],
);

/** Every change of a drawing, in order. */
export const edit = pgTable(
  'edit',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    jobId: uuid()
      .notNull()
      .references(() => job.id, { onDelete: 'cascade' }),
    /** Version of the document after it. */
    version: integer().notNull(),
    kind: text().$type<'edit' | 'undo' | 'redo'>().notNull(),
    label: text().notNull(),
    steps: jsonb().$type<readonly Step[]>().notNull(),
    inverse: jsonb().$type<readonly Step[]>().notNull(),
    /** Version of the edit that an undo or redo turns back. */
    turns: integer(),
    /** Version of the edit that comes next when this one is undone or redone: the stacks are lists through the log. */
    below: integer(),
    /** Given by the page: a change sent again after a lost answer is made once. */
    token: uuid(),
    createdAt: moment().notNull().defaultNow(),
  },
  (t) => [unique().on(t.jobId, t.version), unique().on(t.jobId, t.token)],
);

/** Workers that are alive say so every few seconds. */
export const worker = pgTable('worker', {
  id: text().primaryKey(),
  seenAt: moment().notNull().defaultNow(),
});

/** What was issued: a frozen copy. The database refuses to change a row of it. */
export const issue = pgTable(
  'issue',
  {
    id: uuid().primaryKey().defaultRandom(),
    jobId: uuid()
      .notNull()
      .references(() => job.id, { onDelete: 'cascade' }),
    /** In the order in which they were issued, from 1. */
    place: integer().notNull(),
    revision: text().notNull(),
    kind: text().$type<'issued' | 'review'>().notNull(),
    date: text().notNull(),
    people: jsonb().$type<{ readonly drawn: string; readonly checked: string; readonly approved: string }>().notNull(),
    /** What changed, in sentences. */
    words: jsonb().$type<readonly string[]>().notNull(),
    /** Version and records of the drawing. */
    version: integer().notNull(),
    document: jsonb().$type<Readonly<Record<string, DrawingDocumentRecord>>>().notNull(),
    /** What its records are written in. */
    documentFormat: integer().notNull(),
    /** Of the package. */
    sha256: text().notNull(),
    files: jsonb().$type<readonly { readonly name: string; readonly bytes: number; readonly sha256: string }[]>().notNull(),
    /** The package: every file that went out, sealed. */
    data: bytea().notNull(),
    createdAt: moment().notNull().defaultNow(),
  },
  (t) => [unique().on(t.jobId, t.place)],
);

export type IssuingState = 'queued' | 'working' | 'done' | 'failed' | 'stopped';

/** The issue of a job that is being made, or how the last one ended. */
export const issuing = pgTable('issuing', {
  jobId: uuid()
    .primaryKey()
    .references(() => job.id, { onDelete: 'cascade' }),
  request: jsonb().$type<IssueRequest>().notNull(),
  /** Of this server, as who asked knows it. */
  address: text().notNull(),
  revision: text().notNull(),
  kind: text().$type<'issued' | 'review'>().notNull(),
  state: text().$type<IssuingState>().notNull(),
  progress: real().notNull().default(0),
  errorText: text(),
  cancelWanted: boolean().notNull().default(false),
});

/** What workers at the bench tick, check and remark on an issue. */
export const benchAnswer = pgTable(
  'bench_answer',
  {
    /** Given by the page: sent again after a lost answer it is kept once. */
    id: uuid().primaryKey(),
    issueId: uuid()
      .notNull()
      .references(() => issue.id, { onDelete: 'cascade' }),
    kind: text().$type<'tick' | 'check' | 'remark'>().notNull(),
    step: integer().notNull(),
    /** Which point of the step. */
    point: integer(),
    done: boolean(),
    text: text(),
    /** JPEG. */
    photo: bytea(),
    /** Of the unit that is built, and by whom. */
    serial: text().notNull(),
    who: text().notNull(),
    saidAt: moment().notNull(),
    /** Id of the part that a remark is about. */
    part: text(),
    /** What the drafter answered, and when. */
    answer: text(),
    answeredAt: moment(),
  },
  (t) => [index().on(t.issueId)],
);
