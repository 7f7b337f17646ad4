import { and, asc, desc, eq, gt, sql } from 'drizzle-orm';
import { QuarryError } from '../../core/base/errors.ts';
import type { DrawingDocument } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { getDatabase, type Database } from '../database/client.ts';
import { edit, job } from '../database/schema.ts';
import { tell } from '../events.ts';

export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

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

/** Turns back the latest edit that still stands. @throws QuarryError NOTHING_TO_UNDO, STALE_VERSION */
export function undo(jobId: string, version: number, token?: string): Promise<EditOutcome> {
  return change(jobId, version, token, async (tx) => {
    const last = (await standing(tx, jobId)).undo.at(-1);
    if (!last) throw new QuarryError('NOTHING_TO_UNDO', {});
    return { kind: 'undo', label: last.label, steps: last.inverse, turns: last.version };
  });
}

/** Brings back what the latest undo took away. @throws QuarryError NOTHING_TO_REDO, STALE_VERSION */
export function redo(jobId: string, version: number, token?: string): Promise<EditOutcome> {
  return change(jobId, version, token, async (tx) => {
    const last = (await standing(tx, jobId)).redo.at(-1);
    if (!last) throw new QuarryError('NOTHING_TO_REDO', {});
    return { kind: 'redo', label: last.label, steps: last.inverse, turns: last.version };
  });
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
  const s = await standing(getDatabase(), jobId);
  return { canUndo: s.undo.length > 0, canRedo: s.redo.length > 0 };
}

interface Planned {
  readonly kind: 'edit' | 'undo' | 'redo';
  readonly label: string;
  readonly steps: readonly Step[];
  readonly turns: number | null;
}

async function change(jobId: string, version: number, token: string | undefined, plan: (tx: Transaction) => Promise<Planned>): Promise<EditOutcome> {
  const outcome = await getDatabase().transaction(async (tx) => {
    const [row] = await tx.select({ version: job.version, document: job.document }).from(job).where(eq(job.id, jobId)).for('update');
    if (!row?.document) throw new QuarryError('NOT_FOUND', { what: 'The drawing' });
    const made = token ? await madeBefore(tx, jobId, token) : undefined;
    if (made) return made;
    if (row.version !== version) throw new QuarryError('STALE_VERSION', { have: version, now: row.version });
    const planned = await plan(tx);
    const result = applySteps(row.document as DrawingDocument, planned.steps);
    if (!result.ok) throw new QuarryError('STEP_DOES_NOT_FIT', { reason: result.reason });
    const next = version + 1;
    await tx.insert(edit).values({
      jobId,
      version: next,
      kind: planned.kind,
      label: planned.label,
      steps: planned.steps,
      inverse: result.inverse,
      turns: planned.turns,
      token: token ?? null,
    });
    await tx.update(job).set({ document: result.document, version: next, changedAt: new Date() }).where(eq(job.id, jobId));
    const s = await standing(tx, jobId);
    // What the change makes out of date is drawn anew in the background, once the drafter pauses.
    await tx.execute(
      sql`select graphile_worker.add_job('stale', json_build_object('job', ${jobId}::text), max_attempts => 3, job_key => ${`stale:${jobId}`}, run_at => now() + interval '2 seconds', priority => 10)`,
    );
    return { version: next, steps: planned.steps, canUndo: s.undo.length > 0, canRedo: s.redo.length > 0 };
  });
  await tell({ type: 'document', job: jobId, version: outcome.version });
  return outcome;
}

/** The outcome of a change whose answer got lost on the way: it is sent again with the same token. */
async function madeBefore(tx: Transaction, jobId: string, token: string): Promise<EditOutcome | undefined> {
  const [row] = await tx
    .select({ version: edit.version, steps: edit.steps })
    .from(edit)
    .where(and(eq(edit.jobId, jobId), eq(edit.token, token)));
  if (!row) return undefined;
  const s = await standing(tx, jobId);
  return { ...row, canUndo: s.undo.length > 0, canRedo: s.redo.length > 0 };
}

/** How far back undo reaches. */
const HISTORY = 500;

/** The undo and redo stacks, read from the log: that is why they survive a reload. */
async function standing(tx: Transaction | Database, jobId: string) {
  const rows = await tx
    .select({ version: edit.version, kind: edit.kind, label: edit.label, inverse: edit.inverse })
    .from(edit)
    .where(eq(edit.jobId, jobId))
    .orderBy(desc(edit.version))
    .limit(HISTORY);
  const undoStack: typeof rows = [];
  let redoStack: typeof rows = [];
  for (const r of rows.reverse()) {
    if (r.kind === 'undo') {
      undoStack.pop();
      redoStack.push(r);
    } else {
      if (r.kind === 'redo') redoStack.pop();
      else redoStack = [];
      undoStack.push(r);
    }
  }
  return { undo: undoStack, redo: redoStack };
}
