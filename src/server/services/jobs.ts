import { and, asc, count, desc, eq, ilike, inArray, isNull, sql } from 'drizzle-orm';
import { changesBetween } from '../../core/document/between.ts';
import { QuarryError } from '../../core/base/errors.ts';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import type { MeshChoices } from '../../core/assembly/mesh-tree.ts';
import type { SheetFormat } from '../../core/format/record.ts';
import type { Recipe } from '../../core/recipe/record.ts';
import type { Standard } from '../../core/sheet/paper.ts';
import { getDatabase } from '../database/client.ts';
import { job, jobFile, OPEN_STATES, type JobState } from '../database/schema.ts';
import { without } from '../../core/base/without.ts';
import { drawingOf, type DrawingDocument } from '../../core/document/records.ts';
import { tell } from '../events.ts';
import { assemblyOf, loadDrawing, presentDocument, writeRecords } from './documents.ts';
import { appendEdit } from './edits.ts';

export interface NewJob {
  readonly title: string;
  /** The top assembly first. */
  readonly files: readonly ImportedFile[];
  readonly standard?: Standard;
  readonly sheet?: string | null;
  readonly recipe?: Recipe | null;
  readonly format?: SheetFormat | null;
  readonly demo?: boolean;
  readonly choices?: MeshChoices | undefined;
}

/** Stores the files and queues the import, both or neither. */
export async function createJob(input: NewJob): Promise<string> {
  return getDatabase().transaction(async (tx) => {
    const bytes = input.files.reduce((s, f) => s + f.bytes.length, 0);
    const [row] = await tx
      .insert(job)
      .values({
        title: input.title,
        fileBytes: bytes,
        standard: input.standard ?? 'iso',
        sheet: input.sheet ?? null,
        recipe: input.recipe ?? null,
        format: input.format ?? null,
        demo: input.demo ?? false,
        choices: input.choices ?? null,
      })
      .returning({ id: job.id });
    const id = row!.id;
    await tx.insert(jobFile).values(input.files.map((f, place) => ({ jobId: id, place, name: f.name, data: f.bytes })));
    // Killed workers cost an attempt: the second one is the last.
    await tx.execute(
      sql`select graphile_worker.add_job('import', json_build_object('job', ${id}::text), max_attempts => 2, job_key => ${`import:${id}`}, priority => -1)`,
    );
    return id;
  });
}

const summary = {
  id: job.id,
  /** As on the title block, once there is one. */
  title: sql<string>`coalesce(nullif((select d.data->>'title' from drawing_record d where d.job_id = job.id and d.id = 'drawing'), ''), ${job.title})`,
  state: job.state,
  stage: job.stage,
  progress: job.progress,
  errorCode: job.errorCode,
  errorText: job.errorText,
  demo: job.demo,
  fileBytes: job.fileBytes,
  version: job.version,
  changedAt: job.changedAt,
  components: job.components,
  parts: job.parts,
  /** What its files, newer models and issues take, bytes; geometry is shared with other jobs. */
  bytes: sql<number>`(${job.fileBytes} + coalesce((select sum(length(f.data)) from job_file f where f.job_id = job.id and f.model_id is not null), 0) + coalesce((select sum(length(i.data)) from issue i where i.job_id = job.id), 0))::float8`,
} as const;

/** Orders in which jobs are listed. */
export const JOB_SORTS = ['changed', 'title', 'size'] as const;

export interface JobQuery {
  /** Words that the title has, all of them. */
  readonly q?: string | undefined;
  readonly sort?: (typeof JOB_SORTS)[number] | undefined;
  readonly offset?: number | undefined;
  readonly limit?: number | undefined;
}

/** Jobs by title, changed last first unless asked otherwise; a page of them, and how many there are in all. */
export async function listJobs({ q = '', sort = 'changed', offset = 0, limit = 1000 }: JobQuery = {}) {
  const words = q.split(/\s+/).filter(Boolean);
  const wanted = and(...words.map((w) => ilike(summary.title, `%${w.replace(/[\\%_]/g, '\\$&')}%`)));
  const order = sort === 'title' ? asc(sql`lower(${summary.title})`) : sort === 'size' ? desc(job.components) : desc(job.changedAt);
  const [jobs, [all]] = await Promise.all([
    getDatabase().select(summary).from(job).where(wanted).orderBy(order, asc(job.id)).limit(limit).offset(offset),
    getDatabase().select({ total: count() }).from(job).where(wanted),
  ]);
  return { jobs, total: all!.total };
}

/** Another name; of a drawing that stands it is the title. @throws QuarryError NOT_FOUND, STALE_VERSION */
export async function renameJob(id: string, title: string): Promise<void> {
  const [row] = await getDatabase().update(job).set({ title, changedAt: new Date() }).where(eq(job.id, id)).returning({ state: job.state });
  if (!row) throw new QuarryError('NOT_FOUND', { what: 'The job' });
  if (OPEN_STATES.includes(row.state)) {
    const { version, document } = await presentDocument(id);
    await appendEdit(id, version, 'Title', [{ op: 'put', record: { ...drawingOf(document), title } }]);
  }
  await tell({ type: 'job', job: id });
}

/**
 * The drawing once more, as a job of its own with the files of the first; its history and issues stay behind.
 * @param from another moment of it; absent: as it stands
 * @param words behind its title, in brackets
 * @throws QuarryError NOT_FOUND
 */
export async function duplicateJob(id: string, from?: DrawingDocument, words = 'copy'): Promise<string> {
  const document = from ?? (await loadDrawing(id)).document;
  const assembly = await assemblyOf(id, document);
  const records = without(document, 'model');
  const drawing = drawingOf(document);
  const copy = { ...records, drawing: { ...drawing, title: `${drawing.title || 'Drawing'} (${words})`, revision: '' } };
  const made = await getDatabase().transaction(async (tx) => {
    const [own] = await tx.select().from(job).where(eq(job.id, id));
    if (!own) throw new QuarryError('NOT_FOUND', { what: 'The job' });
    const [row] = await tx
      .insert(job)
      .values({
        title: `${own.title} (${words})`,
        state: 'ready',
        stage: 'ready',
        progress: 1,
        fileBytes: own.fileBytes,
        sheet: own.sheet,
        standard: own.standard,
        choices: own.choices,
        assembly,
        version: 1,
      })
      .returning({ id: job.id });
    // The files of the model that is shown; the bytes do not leave the database.
    const shown = document['model']?.type === 'model' ? document['model'].model : null;
    await tx.execute(
      sql`insert into job_file (job_id, place, name, data) select ${row!.id}::uuid, place, name, data from job_file where job_id = ${id}::uuid and model_id is not distinct from ${shown}::uuid`,
    );
    await writeRecords(tx, row!.id, changesBetween({}, copy), copy);
    return row!.id;
  });
  await tell({ type: 'job', job: made });
  return made;
}

/** @throws QuarryError NOT_FOUND */
export async function jobSummary(id: string) {
  const [row] = await getDatabase()
    .select({ ...summary, slots: job.slots })
    .from(job)
    .where(eq(job.id, id));
  if (!row) throw new QuarryError('NOT_FOUND', { what: 'The job' });
  return row;
}

/** Files of a job, or of a newer model of it. */
export async function loadFiles(id: string, modelId?: string): Promise<ImportedFile[]> {
  const rows = await getDatabase()
    .select({ name: jobFile.name, data: jobFile.data })
    .from(jobFile)
    .where(and(eq(jobFile.jobId, id), modelId ? eq(jobFile.modelId, modelId) : isNull(jobFile.modelId)))
    .orderBy(asc(jobFile.place));
  return rows.map((r) => ({ name: r.name, bytes: r.data }));
}

/** How far it is. Sheets that stand meanwhile stay open. */
export async function setProgress(id: string, stage: string, progress: number): Promise<void> {
  await getDatabase()
    .update(job)
    .set({ stage, progress, state: sql`case when ${job.state} = 'queued' then 'working' else ${job.state} end` })
    .where(and(eq(job.id, id), inArray(job.state, ['queued', 'working', 'drafting'])));
  await tell({ type: 'job', job: id });
}

export async function failJob(id: string, code: string, text: string): Promise<void> {
  const state: JobState = code === 'CANCELLED' ? 'cancelled' : 'failed';
  // Where sheets stand already nobody loses them: what could not be drawn is left out.
  const [open] = await getDatabase()
    .update(job)
    .set({ state: 'ready', stage: 'ready', progress: 1, ...(state === 'failed' ? { errorCode: code, errorText: text } : {}) })
    .where(and(eq(job.id, id), eq(job.state, 'drafting')))
    .returning({ id: job.id });
  if (!open) await getDatabase().update(job).set({ state, errorCode: code, errorText: text, changedAt: new Date() }).where(eq(job.id, id));
  await tell({ type: 'job', job: id });
}

/** Asks the worker to stop; a job still in the queue is cancelled at once. Sheets that stand already stay. */
export async function cancelJob(id: string): Promise<void> {
  await getDatabase()
    .update(job)
    .set({ cancelWanted: true })
    .where(and(eq(job.id, id), inArray(job.state, ['queued', 'working', 'drafting'])));
  const [row] = await getDatabase()
    .update(job)
    .set({ state: 'cancelled', errorCode: 'CANCELLED', errorText: 'Cancelled.' })
    .where(and(eq(job.id, id), eq(job.state, 'queued')))
    .returning({ id: job.id });
  if (row) await getDatabase().execute(sql`select graphile_worker.remove_job(${`import:${id}`})`);
  await tell({ type: 'job', job: id });
}

/** Queues the import of a failed or cancelled job again. */
export async function retryJob(id: string): Promise<void> {
  await getDatabase().transaction(async (tx) => {
    const [row] = await tx
      .update(job)
      .set({ state: 'queued', stage: 'queued', progress: 0, errorCode: null, errorText: null, cancelWanted: false })
      .where(and(eq(job.id, id), inArray(job.state, ['failed', 'cancelled'])))
      .returning({ id: job.id });
    if (row)
      await tx.execute(
        sql`select graphile_worker.add_job('import', json_build_object('job', ${id}::text), max_attempts => 2, job_key => ${`import:${id}`}, priority => -1)`,
      );
  });
  await tell({ type: 'job', job: id });
}

export async function deleteJob(id: string): Promise<void> {
  await getDatabase().delete(job).where(eq(job.id, id));
  await tell({ type: 'job', job: id });
}
