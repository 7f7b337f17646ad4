import { and, asc, eq, gt, inArray, lt, sql } from 'drizzle-orm';
import type { Assembly } from '../../core/assembly/assembly.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { changesBetween } from '../../core/document/between.ts';
import { carriedOver } from '../../core/document/file.ts';
import { DOCUMENT_FORMAT } from '../../core/document/format.ts';
import type { DrawingDocument } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { getDatabase, type Database } from '../database/client.ts';
import { drawingRecord, edit, job, model, OPEN_STATES, type JobState } from '../database/schema.ts';
import { log } from '../log.ts';
import { Recent } from './recent.ts';

export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

/** Documents as this process last saw them: only what came since is read. */
const documents = new Recent<{ readonly version: number; readonly document: DrawingDocument }>(40);
/** Assemblies never change once they are there: by job, or by model. */
const assemblies = new Recent<Assembly>(12);

/** The document of a job at its present version, which the caller has read in the same transaction: locked, or of one moment. */
export async function documentAt(db: Transaction | Database, jobId: string, version: number): Promise<DrawingDocument> {
  const known = documents.get(jobId);
  if (known?.version === version) return known.document;
  const document = (known && known.version < version && (await caughtUp(db, jobId, known, version))) || (await readWhole(db, jobId));
  remember(jobId, version, document);
  return document;
}

/** Keeps a document that was just written and committed. */
export function remember(jobId: string, version: number, document: DrawingDocument): void {
  documents.set(jobId, { version, document });
}

async function readWhole(db: Transaction | Database, jobId: string): Promise<DrawingDocument> {
  const rows = await db.select({ id: drawingRecord.id, data: drawingRecord.data }).from(drawingRecord).where(eq(drawingRecord.jobId, jobId));
  return Object.fromEntries(rows.map((r) => [r.id, r.data]));
}

/** A known document with the edits since; undefined when they do not lead to `version`. */
async function caughtUp(
  db: Transaction | Database,
  jobId: string,
  known: { readonly version: number; readonly document: DrawingDocument },
  version: number,
): Promise<DrawingDocument | undefined> {
  const since = await db
    .select({ steps: edit.steps })
    .from(edit)
    .where(and(eq(edit.jobId, jobId), gt(edit.version, known.version)))
    .orderBy(asc(edit.version));
  if (since.length !== version - known.version) return undefined;
  let document = known.document;
  for (const { steps } of since) {
    const result = applySteps(document, steps);
    if (!result.ok) return undefined;
    document = result.document;
  }
  return document;
}

/** Writes the rows that steps change, and no others. @param document after the steps */
export async function writeRecords(tx: Transaction, jobId: string, steps: readonly Step[], document: DrawingDocument): Promise<void> {
  const ids = [...new Set(steps.map((s) => (s.op === 'put' ? s.record.id : s.id)))];
  const put = ids.flatMap((id) => (Object.hasOwn(document, id) ? [{ jobId, id, data: document[id]! }] : []));
  const gone = ids.filter((id) => !Object.hasOwn(document, id));
  for (let i = 0; i < put.length; i += 500)
    await tx
      .insert(drawingRecord)
      .values(put.slice(i, i + 500))
      .onConflictDoUpdate({ target: [drawingRecord.jobId, drawingRecord.id], set: { data: sql`excluded.data` } });
  if (gone.length) await tx.delete(drawingRecord).where(and(eq(drawingRecord.jobId, jobId), inArray(drawingRecord.id, gone)));
}

/** The document of a job as it stands. @throws QuarryError NOT_FOUND when it has none yet */
export async function presentDocument(
  id: string,
): Promise<{ readonly title: string; readonly version: number; readonly state: JobState; readonly document: DrawingDocument }> {
  const read = async (db: Transaction | Database) => {
    const [row] = await db.select({ title: job.title, version: job.version, state: job.state }).from(job).where(eq(job.id, id));
    if (!row || !OPEN_STATES.includes(row.state)) throw new QuarryError('NOT_FOUND', { what: 'The drawing' });
    return row;
  };
  const { title, version, state } = await read(getDatabase());
  const known = documents.get(id);
  if (known?.version === version) return { title, state, ...known };
  // One moment for version and rows: somebody may be editing.
  return getDatabase().transaction(
    async (tx) => {
      const row = await read(tx);
      return { title: row.title, version: row.version, state: row.state, document: await documentAt(tx, id, row.version) };
    },
    { isolationLevel: 'repeatable read' },
  );
}

/** Assembly and document of a job that is ready. @throws QuarryError NOT_FOUND */
export async function loadDrawing(id: string) {
  const present = await presentDocument(id);
  return { ...present, assembly: await assemblyOf(id, present.document) };
}

/** The assembly that a document shows: the job's first one, or the newer model it names. */
export async function assemblyOf(jobId: string, document: DrawingDocument): Promise<Assembly> {
  const named = document['model'];
  const key = named?.type === 'model' ? named.model : jobId;
  const known = assemblies.get(key);
  if (known) return known;
  const [row] =
    named?.type === 'model'
      ? await getDatabase()
          .select({ assembly: model.assembly })
          .from(model)
          .where(and(eq(model.id, named.model), eq(model.jobId, jobId)))
      : await getDatabase().select({ assembly: job.assembly }).from(job).where(eq(job.id, jobId));
  if (!row?.assembly) throw new QuarryError('NOT_FOUND', { what: 'The model of the drawing' });
  assemblies.set(key, row.assembly);
  return row.assembly;
}

/** Drawings in an older format are written anew in the present one, each on its own. */
export async function carryDrawingsOver(): Promise<void> {
  const db = getDatabase();
  const old = await db.select({ id: job.id }).from(job).where(lt(job.documentFormat, DOCUMENT_FORMAT));
  for (const { id } of old)
    await db.transaction(async (tx) => {
      const [row] = await tx.select({ format: job.documentFormat }).from(job).where(eq(job.id, id)).for('update');
      if (!row || row.format >= DOCUMENT_FORMAT) return;
      const before = await readWhole(tx, id);
      const after = carriedOver(before, row.format);
      await writeRecords(tx, id, changesBetween(before, after), after);
      await tx.update(job).set({ documentFormat: DOCUMENT_FORMAT }).where(eq(job.id, id));
      log.info({ job: id, from: row.format, to: DOCUMENT_FORMAT }, 'drawing carried over to the present format');
    });
}
