import { and, asc, eq, gt, sql } from 'drizzle-orm';
import { changesBetween, changesOnto } from '../../core/document/between.ts';
import type { DrawingDocument } from '../../core/document/records.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { without } from '../../core/base/without.ts';
import { readDrawing } from '../../core/document/file.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { getDatabase } from '../database/client.ts';
import { edit, job, model, OPEN_STATES } from '../database/schema.ts';
import { tell } from '../events.ts';
import { documentAt, presentDocument, remember, writeRecords, type Transaction } from './documents.ts';

export interface EditOutcome {
  readonly version: number;
  readonly steps: readonly Step[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

/**
 * Appends an edit made on `version`.
 * @param token names this try of this change: sent twice, it is made once
 * @param beside is written in the same transaction
 * @throws QuarryError STALE_VERSION when the drawing has moved on (nothing is changed), STEP_DOES_NOT_FIT, NOT_FOUND
 */
export function appendEdit(
  jobId: string,
  version: number,
  label: string,
  steps: readonly Step[],
  token?: string,
  beside?: (tx: Transaction) => Promise<void>,
): Promise<EditOutcome> {
  return change(jobId, version, token, async (tx) => {
    await beside?.(tx);
    return { kind: 'edit', label, steps, turns: null };
  });
}

/**
 * Adds what the program drew while the drafter worked on what stood before: on top of whatever stands now, and beside the
 * stack of undo. What the drafter changed meanwhile stays.
 * @param beside is written in the same transaction
 */
export async function appendDrawn(
  jobId: string,
  label: string,
  before: DrawingDocument,
  after: DrawingDocument,
  beside: (tx: Transaction) => Promise<void>,
): Promise<void> {
  const made = await getDatabase().transaction(async (tx) => {
    await beside(tx);
    const [row] = await tx.select({ version: job.version, state: job.state }).from(job).where(eq(job.id, jobId)).for('update');
    if (!row || !OPEN_STATES.includes(row.state)) return undefined;
    const present = await documentAt(tx, jobId, row.version);
    const steps = changesOnto(present, before, after);
    const result = applySteps(present, steps);
    if (!result.ok || steps.length === 0) return undefined;
    const version = row.version + 1;
    await tx.insert(edit).values({ jobId, version, kind: 'edit', label, steps, inverse: result.inverse, turns: null, below: null });
    await writeRecords(tx, jobId, steps, result.document);
    await tx.update(job).set({ version, changedAt: new Date() }).where(eq(job.id, jobId));
    return { version, document: result.document };
  });
  if (!made) return;
  remember(jobId, made.version, made.document);
  await tell({ type: 'document', job: jobId, version: made.version });
}

/**
 * Puts a drawing that was given away as JSON in the place of the one that stands; undo brings that back. The model that is
 * shown stays: the file may come from another job.
 * @throws QuarryError BAD_REQUEST that says what is wrong with the file, STALE_VERSION, NOT_FOUND
 */
export async function readDrawingBack(jobId: string, version: number, file: string, token?: string): Promise<EditOutcome> {
  const read = readDrawing(file);
  if ('wrong' in read) throw new QuarryError('BAD_REQUEST', { text: read.wrong });
  const { document } = await presentDocument(jobId);
  const { model } = document;
  const steps = changesBetween(document, { ...without(read.document, 'model'), ...(model ? { model } : {}) });
  if (steps.length === 0) throw new QuarryError('BAD_REQUEST', { text: 'The file holds the drawing as it stands: there is nothing to change.' });
  return appendEdit(jobId, version, 'Drawing read back in', steps, token);
}

/** Turns back the latest edit that still stands. @throws QuarryError NOTHING_TO_UNDO, STALE_VERSION */
export function undo(jobId: string, version: number, token?: string): Promise<EditOutcome> {
  return change(jobId, version, token, (tx, heads) => turned(tx, jobId, 'undo', heads.undo));
}

/** Brings back what the latest undo took away. @throws QuarryError NOTHING_TO_REDO, STALE_VERSION */
export function redo(jobId: string, version: number, token?: string): Promise<EditOutcome> {
  return change(jobId, version, token, (tx, heads) => turned(tx, jobId, 'redo', heads.redo));
}

async function turned(tx: Transaction, jobId: string, kind: 'undo' | 'redo', head: number | null): Promise<Planned> {
  const [last] =
    head === null
      ? []
      : await tx
          .select({ version: edit.version, label: edit.label, inverse: edit.inverse, below: edit.below })
          .from(edit)
          .where(and(eq(edit.jobId, jobId), eq(edit.version, head)));
  if (!last) throw new QuarryError(kind === 'undo' ? 'NOTHING_TO_UNDO' : 'NOTHING_TO_REDO', {});
  return { kind, label: last.label, steps: last.inverse, turns: last.version, next: last.below };
}

/** Edits after a version, oldest first. */
export async function editsSince(jobId: string, version: number) {
  return getDatabase()
    .select({ version: edit.version, kind: edit.kind, label: edit.label, steps: edit.steps })
    .from(edit)
    .where(and(eq(edit.jobId, jobId), gt(edit.version, version)))
    .orderBy(asc(edit.version));
}

export async function undoState(jobId: string): Promise<{ canUndo: boolean; canRedo: boolean }> {
  const [row] = await getDatabase().select({ undo: job.undoHead, redo: job.redoHead }).from(job).where(eq(job.id, jobId));
  return { canUndo: typeof row?.undo === 'number', canRedo: typeof row?.redo === 'number' };
}

/** Versions of the edits that undo and redo take next. Each names the one below it. */
interface Heads {
  readonly undo: number | null;
  readonly redo: number | null;
}

interface Planned {
  readonly kind: 'edit' | 'undo' | 'redo';
  readonly label: string;
  readonly steps: readonly Step[];
  readonly turns: number | null;
  /** What lies below the edit that is turned back, in its own stack. */
  readonly next?: number | null;
}

/** The stacks after a change of this version, and what lies below it in the one that it goes onto. */
function stacked(heads: Heads, { kind, next = null }: Planned, version: number): { readonly heads: Heads; readonly below: number | null } {
  if (kind === 'undo') return { heads: { undo: next, redo: version }, below: heads.redo };
  return { heads: { undo: version, redo: kind === 'redo' ? next : null }, below: heads.undo };
}

async function change(
  jobId: string,
  version: number,
  token: string | undefined,
  plan: (tx: Transaction, heads: Heads) => Promise<Planned>,
): Promise<EditOutcome> {
  const made = await getDatabase().transaction(async (tx) => {
    const [row] = await tx
      .select({ version: job.version, state: job.state, undo: job.undoHead, redo: job.redoHead })
      .from(job)
      .where(eq(job.id, jobId))
      .for('update');
    if (!row || !OPEN_STATES.includes(row.state)) throw new QuarryError('NOT_FOUND', { what: 'The drawing' });
    const before = token ? await madeBefore(tx, jobId, token) : undefined;
    if (before) return { outcome: { ...before, ...can(row) }, document: undefined };
    if (row.version !== version) throw new QuarryError('STALE_VERSION', { have: version, now: row.version });
    const planned = await plan(tx, row);
    await checkModel(tx, jobId, planned.steps);
    const result = applySteps(await documentAt(tx, jobId, version), planned.steps);
    if (!result.ok) throw new QuarryError('STEP_DOES_NOT_FIT', { reason: result.reason });
    const next = version + 1;
    const { heads, below } = stacked(row, planned, next);
    await tx.insert(edit).values({
      jobId,
      version: next,
      kind: planned.kind,
      label: planned.label,
      steps: planned.steps,
      inverse: result.inverse,
      turns: planned.turns,
      below,
      token: token ?? null,
    });
    await writeRecords(tx, jobId, planned.steps, result.document);
    await tx.update(job).set({ version: next, undoHead: heads.undo, redoHead: heads.redo, changedAt: new Date() }).where(eq(job.id, jobId));
    // What the change makes out of date is drawn anew in the background, once the drafter pauses.
    await tx.execute(
      sql`select graphile_worker.add_job('stale', json_build_object('job', ${jobId}::text), max_attempts => 3, job_key => ${`stale:${jobId}`}, run_at => now() + interval '2 seconds', priority => 10)`,
    );
    return { outcome: { version: next, steps: planned.steps, ...can(heads) }, document: result.document };
  });
  if (made.document) remember(jobId, made.outcome.version, made.document);
  await tell({ type: 'document', job: jobId, version: made.outcome.version });
  return made.outcome;
}

const can = ({ undo, redo }: Heads) => ({ canUndo: undo !== null, canRedo: redo !== null });

/** A drawing shows a model of its own job that was read whole: any other could not be opened. */
async function checkModel(tx: Transaction, jobId: string, steps: readonly Step[]): Promise<void> {
  for (const s of steps) {
    if (s.op !== 'put' || s.record.type !== 'model') continue;
    const [row] = await tx
      .select({ there: sql<boolean>`${model.assembly} is not null` })
      .from(model)
      .where(and(eq(model.id, s.record.model), eq(model.jobId, jobId)));
    if (!row?.there) throw new QuarryError('STEP_DOES_NOT_FIT', { reason: 'the model that it names is none of this job' });
  }
}

/** A change whose answer got lost on the way: it is sent again with the same token. */
async function madeBefore(tx: Transaction, jobId: string, token: string): Promise<Pick<EditOutcome, 'version' | 'steps'> | undefined> {
  const [row] = await tx
    .select({ version: edit.version, steps: edit.steps })
    .from(edit)
    .where(and(eq(edit.jobId, jobId), eq(edit.token, token)));
  return row;
}
