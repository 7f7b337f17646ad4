import { eq, sql } from 'drizzle-orm';
import { QuarryError } from '../../core/base/errors.ts';
import { getDatabase } from '../database/client.ts';
import { issuing, type IssuingState } from '../database/schema.ts';
import { tell } from '../events.ts';
import { log } from '../log.ts';
import { issuesOf, makeIssue, mayIssue, type IssueRequest } from './issues.ts';

/** How often it is looked whether someone stopped it, and how often at most its progress is told, ms. */
const LOOK_MS = 500;

/** The issue of a job that is being made, or how the last one ended. */
export interface Issuing {
  readonly state: IssuingState;
  readonly revision: string;
  readonly kind: 'issued' | 'review';
  readonly progress: number;
  readonly errorText: string | null;
}

/** The issue that is being made, or the last one; undefined where none was asked for. */
export async function issuingOf(jobId: string): Promise<Issuing | undefined> {
  const [row] = await getDatabase()
    .select({
      state: issuing.state,
      revision: issuing.revision,
      kind: issuing.kind,
      progress: issuing.progress,
      errorText: issuing.errorText,
    })
    .from(issuing)
    .where(eq(issuing.jobId, jobId));
  return row;
}

/**
 * Queues the making of an issue: it goes on whoever leaves the page. What can be said at once is said at once.
 * @throws QuarryError STILL_DRAFTING, STALE_VERSION, BAD_REQUEST, NOT_FOUND
 */
export async function queueIssue(jobId: string, request: IssueRequest, address: string): Promise<Issuing> {
  await mayIssue(jobId, request);
  const before = await issuingOf(jobId);
  if (before?.state === 'queued' || before?.state === 'working')
    throw new QuarryError('BAD_REQUEST', { text: `Revision ${before.revision} is being made. Wait for it, or stop it.` });
  const fresh = {
    request,
    address,
    revision: request.revision,
    kind: request.kind,
    state: 'queued',
    progress: 0,
    errorText: null,
    cancelWanted: false,
  } as const;
  await getDatabase()
    .insert(issuing)
    .values({ jobId, ...fresh })
    .onConflictDoUpdate({ target: issuing.jobId, set: fresh });
  await getDatabase().execute(
    sql`select graphile_worker.add_job('issue', json_build_object('job', ${jobId}::text), max_attempts => 2, job_key => ${`issue:${jobId}`}, priority => 0)`,
  );
  await tell({ type: 'issuing', job: jobId });
  return (await issuingOf(jobId))!;
}

/** Stops the making of an issue; nothing of it is kept. */
export async function stopIssuing(jobId: string): Promise<void> {
  await getDatabase()
    .update(issuing)
    .set({ cancelWanted: true, state: sql`case when ${issuing.state} = 'queued' then 'stopped' else ${issuing.state} end` })
    .where(eq(issuing.jobId, jobId));
  await tell({ type: 'issuing', job: jobId });
}

/** Makes the issue that is queued. @param last nobody tries again after this */
export async function runQueuedIssue(jobId: string, last: boolean): Promise<void> {
  const [row] = await getDatabase().select().from(issuing).where(eq(issuing.jobId, jobId));
  if (!row || row.state === 'done' || row.state === 'stopped') return;
  const set = async (values: Partial<typeof issuing.$inferInsert>) => {
    await getDatabase().update(issuing).set(values).where(eq(issuing.jobId, jobId));
    await tell({ type: 'issuing', job: jobId });
  };
  // A worker that was killed after the issue was kept has nothing left to do.
  if ((await issuesOf(jobId)).some((i) => i.revision === row.revision && i.version === row.request.version + 1)) return set({ state: 'done', progress: 1 });
  await set({ state: 'working', progress: 0 });
  const stop = new AbortController();
  const look = async () => {
    const [now] = await getDatabase().select({ cancelWanted: issuing.cancelWanted }).from(issuing).where(eq(issuing.jobId, jobId));
    if (!now || now.cancelWanted) stop.abort();
  };
  const watch = setInterval(() => void look().catch((err: unknown) => log.warn({ err, job: jobId }, 'could not look whether an issue was stopped')), LOOK_MS);
  let told = 0;
  const onProgress = (progress: number) => {
    const now = performance.now();
    if (now - told < LOOK_MS) return;
    told = now;
    void set({ progress }).catch((err: unknown) => log.warn({ err, job: jobId }, 'progress of an issue could not be told'));
  };
  try {
    await makeIssue(jobId, row.request, row.address, stop.signal, onProgress);
    await set({ state: 'done', progress: 1 });
  } catch (e) {
    if (stop.signal.aborted) return await set({ state: 'stopped' });
    if (!(e instanceof QuarryError) && !last) throw e;
    log.error({ err: e, job: jobId }, 'an issue could not be made');
    await set({ state: 'failed', errorText: e instanceof QuarryError ? e.message : 'The issue could not be made. Try again, or report this.' });
  } finally {
    clearInterval(watch);
  }
}
