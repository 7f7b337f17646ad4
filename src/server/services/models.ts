import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import type { MeshChoices } from '../../core/assembly/mesh-tree.ts';
import type { ModelRecord } from '../../core/document/records.ts';
import { QuarryError } from '../../core/base/errors.ts';
import type { ChangeReport } from '../../core/revision/changes.ts';
import type { Decision } from '../../core/revision/match.ts';
import type { Loss } from '../../core/revision/take-over.ts';
import { getDatabase } from '../database/client.ts';
import { job, jobFile, model } from '../database/schema.ts';
import { tell } from '../events.ts';
import { runCompare } from '../queue/geometry-pool.ts';
import type { Comparison } from '../queue/geometry-tasks.ts';
import { appendEdit, type EditOutcome } from './edits.ts';
import { loadDrawing } from './documents.ts';
import { loadGeometries } from './geometries.ts';

/** A newer model as the page shows it. */
export interface ModelOffer {
  readonly id: string;
  readonly name: string;
  readonly state: 'queued' | 'working' | 'ready' | 'failed';
  readonly stage: string;
  readonly progress: number;
  readonly errorText: string | null;
}

/** Stores a newer model of a job and queues its reading. An older one that waits is left. */
export async function offerModel(jobId: string, name: string, files: readonly ImportedFile[], choices?: MeshChoices): Promise<string> {
  const id = await getDatabase().transaction(async (tx) => {
    const [known] = await tx.select({ state: job.state }).from(job).where(eq(job.id, jobId));
    if (known?.state !== 'ready') throw new QuarryError('NOT_FOUND', { what: 'The drawing' });
    await tx
      .update(model)
      .set({ state: 'left' })
      .where(and(eq(model.jobId, jobId), inArray(model.state, ['queued', 'working', 'ready', 'failed'])));
    const [row] = await tx
      .insert(model)
      .values({ jobId, name, choices: choices ?? null })
      .returning({ id: model.id });
    await tx.insert(jobFile).values(files.map((f, place) => ({ jobId, modelId: row!.id, place, name: f.name, data: f.bytes })));
    await tx.execute(
      sql`select graphile_worker.add_job('model', json_build_object('model', ${row!.id}::text), max_attempts => 2, job_key => ${`model:${row!.id}`}, priority => -1)`,
    );
    return row!.id;
  });
  await tell({ type: 'model', job: jobId });
  return id;
}

/** The newer model that waits for a word, if any. */
export async function modelOffer(jobId: string): Promise<ModelOffer | undefined> {
  const [row] = await getDatabase()
    .select({ id: model.id, name: model.name, state: model.state, stage: model.stage, progress: model.progress, errorText: model.errorText })
    .from(model)
    .where(and(eq(model.jobId, jobId), inArray(model.state, ['queued', 'working', 'ready', 'failed'])))
    .orderBy(desc(model.createdAt))
    .limit(1);
  return row as ModelOffer | undefined;
}

/** What the drafter decides about a newer model. */
export interface TakeChoices {
  readonly decisions: readonly Decision[];
  /** See `TakeOverOptions`. */
  readonly reuseNumbers: boolean;
  /** Changes looked at and accepted. */
  readonly accepted: readonly string[];
}

async function compareWith(
  jobId: string,
  modelId: string,
  { decisions, reuseNumbers, accepted }: TakeChoices,
): Promise<Comparison & { readonly name: string }> {
  const [row] = await getDatabase()
    .select({ name: model.name, assembly: model.assembly, state: model.state })
    .from(model)
    .where(and(eq(model.id, modelId), eq(model.jobId, jobId)));
  if (!row?.assembly || row.state !== 'ready') throw new QuarryError('NOT_FOUND', { what: 'The newer model' });
  const { assembly, document } = await loadDrawing(jobId);
  const record: ModelRecord = { type: 'model', id: 'model', model: modelId, name: row.name, ...(accepted.length ? { accepted } : {}) };
  const options = { reuseNumbers };
  const task = { before: assembly, after: row.assembly, document, decisions, model: record, options };
  return { ...(await runCompare(task, loadGeometries)), name: row.name };
}

/** What taking a newer model over would change. @throws QuarryError NOT_FOUND */
export async function modelChanges(
  jobId: string,
  modelId: string,
  decisions: readonly Decision[],
): Promise<Pick<Comparison, 'report' | 'doubtful' | 'losses'>> {
  const { report, doubtful, losses } = await compareWith(jobId, modelId, { decisions, reuseNumbers: false, accepted: [] });
  return { report, doubtful, losses };
}

/** Takes a newer model over: one edit of the drawing. @throws QuarryError NOT_FOUND, STALE_VERSION */
export async function takeModel(jobId: string, modelId: string, version: number, choices: TakeChoices): Promise<EditOutcome> {
  const { assembly, steps, report, losses, name } = await compareWith(jobId, modelId, choices);
  const outcome = await appendEdit(jobId, version, `Model of ${name}`, steps, undefined, async (tx) => {
    await tx.update(model).set({ assembly, report, losses, state: 'taken' }).where(eq(model.id, modelId));
  });
  await tell({ type: 'model', job: jobId });
  return outcome;
}

/** A newer model that is not wanted. */
export async function leaveModel(jobId: string, modelId: string): Promise<void> {
  await getDatabase()
    .update(model)
    .set({ state: 'left' })
    .where(and(eq(model.id, modelId), eq(model.jobId, jobId), inArray(model.state, ['queued', 'working', 'ready', 'failed'])));
  await tell({ type: 'model', job: jobId });
}

/** Has a newer model ever been taken over, or does one wait? */
export async function hasNewerModel(jobId: string): Promise<boolean> {
  const [row] = await getDatabase()
    .select({ id: model.id })
    .from(model)
    .where(and(eq(model.jobId, jobId), inArray(model.state, ['queued', 'working', 'ready', 'failed', 'taken'])))
    .limit(1);
  return row !== undefined;
}

/** The change report of the model that the drawing shows; undefined when it shows its first one. */
export async function takenChanges(jobId: string): Promise<{ readonly report: ChangeReport; readonly losses: readonly Loss[] } | undefined> {
  const { document } = await loadDrawing(jobId);
  const shown = document['model'];
  if (shown?.type !== 'model') return undefined;
  const [row] = await getDatabase()
    .select({ report: model.report, losses: model.losses })
    .from(model)
    .where(and(eq(model.jobId, jobId), eq(model.id, shown.model)));
  return row?.report ? { report: row.report, losses: row.losses ?? [] } : undefined;
}

/** That report as rows of a table. @throws QuarryError NOT_FOUND */
export async function changeTable(jobId: string): Promise<string[][]> {
  const taken = await takenChanges(jobId);
  if (!taken) throw new QuarryError('NOT_FOUND', { what: 'A change report' });
  return [['Kind', 'Part', 'What changed', 'Components'], ...taken.report.changes.map((c) => [c.kind, c.name, c.text, c.components.join('; ')])];
}
