import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { QuarryError } from '../../core/base/errors.ts';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import type { MeshChoices } from '../../core/assembly/mesh-tree.ts';
import type { Standard } from '../../core/sheet/formats.ts';
import { getDatabase } from '../database/client.ts';
import { job, jobFile, type JobState } from '../database/schema.ts';
import { tell } from '../events.ts';

export interface NewJob {
  readonly title: string;
  /** The top assembly first. */
  readonly files: readonly ImportedFile[];
  readonly standard?: Standard;
  readonly sheet?: string | null;
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
  components: sql<number>`coalesce((select count(*)::int from jsonb_array_elements(${job.assembly}->'nodes') n where (n->>'part')::int >= 0), 0)`,
  parts: sql<number>`coalesce(jsonb_array_length(${job.assembly}->'parts'), 0)`,
} as const;

export function listJobs() {
  return getDatabase().select(summary).from(job).orderBy(desc(job.changedAt));
}

/** @throws QuarryError NOT_FOUND */
export async function jobSummary(id: string) {
  const [row] = await getDatabase().select(summary).from(job).where(eq(job.id, id));
  if (!row) throw new QuarryError('NOT_FOUND', { what: 'The job' });
  return row;
}

/** @throws QuarryError NOT_FOUND */
export async function jobState(id: string): Promise<JobState> {
  const [row] = await getDatabase().select({ state: job.state }).from(job).where(eq(job.id, id));
  if (!row) throw new QuarryError('NOT_FOUND', { what: 'The job' });
  return row.state;
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

export async function setProgress(id: string, stage: string, progress: number, state: JobState = 'working'): Promise<void> {
  await getDatabase().update(job).set({ stage, progress, state }).where(eq(job.id, id));
  await tell({ type: 'job', job: id });
}

export async function failJob(id: string, code: string, text: string): Promise<void> {
  const state: JobState = code === 'CANCELLED' ? 'cancelled' : 'failed';
  await getDatabase().update(job).set({ state, errorCode: code, errorText: text, changedAt: new Date() }).where(eq(job.id, id));
  await tell({ type: 'job', job: id });
}

/** Asks the worker to stop; a job still in the queue is cancelled at once. */
export async function cancelJob(id: string): Promise<void> {
  await getDatabase()
    .update(job)
    .set({ cancelWanted: true })
    .where(and(eq(job.id, id), inArray(job.state, ['queued', 'working'])));
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
