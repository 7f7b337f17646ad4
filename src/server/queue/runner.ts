import { sql } from 'drizzle-orm';
import { EventEmitter } from 'node:events';
import { Logger, makeWorkerUtils, run, type Runner, type WorkerEvents } from 'graphile-worker';
import { z } from 'zod';
import { QuarryError } from '../../core/base/errors.ts';
import { KernelHost } from '../../kernel/host.ts';
import { threadFile } from '../config.ts';
import { getDatabase, getPool } from '../database/client.ts';
import { tell, type LiveEvent } from '../events.ts';
import { log } from '../log.ts';
import { failJob } from '../services/jobs.ts';
import { loadDrawing } from '../services/documents.ts';
import { runQueuedIssue } from '../services/issuing.ts';
import { queueStaleViews } from '../services/view-requests.ts';
import { computeAndStore, isWanted, keyedView } from '../services/views.ts';
import { closeGeometryPool } from './geometry-pool.ts';
import { importJob } from './import-task.ts';
import { importModel } from './model-task.ts';

const importPayload = z.object({ job: z.uuid() });
const modelPayload = z.object({ model: z.uuid() });
const viewPayload = z.object({ job: z.uuid(), view: z.string() });

const tellSafely = (event: LiveEvent) => void tell(event).catch((err: unknown) => log.warn({ err }, 'progress was not told'));

/** A worker that has not been heard of for this long is dead; its jobs are given back. */
const DEAD_AFTER_S = 15;
const HEARTBEAT_MS = 4000;
/** How often it is looked whether a view that is being computed is still wanted. */
const LOOK_MS = 1000;

export interface WorkHandle {
  stop(): Promise<void>;
}

/** Works the queue in this process until stopped. */
export async function startWork(): Promise<WorkHandle> {
  const kernel = new KernelHost(threadFile('kernel.thread'));
  kernel.warm(true);
  const logger = new Logger(() => (level, message) => {
    if (level === 'error' || level === 'warning') log.warn({ queue: true }, message);
  });
  // Listening begins before the pool is made: one we do not know of would count as dead.
  const events = new EventEmitter() as WorkerEvents;
  const ids = new Set<string>();
  const beat = async () => {
    for (const w of ids) await getDatabase().execute(sql`insert into worker (id, seen_at) values (${w}, now()) on conflict (id) do update set seen_at = now()`);
    await giveBackJobsOfTheDead();
  };
  const beatSafely = () => void beat().catch((err: unknown) => log.warn({ err }, 'heartbeat failed'));
  // Jobs are locked in the name of the pool.
  events.on('pool:create', ({ workerPool }) => ids.add(workerPool.id));
  events.on('job:start', beatSafely);
  const runner: Runner = await run({
    events,
    pgPool: getPool(),
    concurrency: 3,
    noHandleSignals: true,
    pollInterval: 1000,
    logger,
    taskList: {
      import: async (payload, helpers) => {
        const { job } = importPayload.parse(payload);
        await importJob(job, kernel, helpers.job.attempts >= helpers.job.max_attempts);
      },
      model: async (payload, helpers) => {
        await importModel(modelPayload.parse(payload).model, kernel, helpers.job.attempts >= helpers.job.max_attempts);
      },
      issue: async (payload, helpers) => {
        await runQueuedIssue(importPayload.parse(payload).job, helpers.job.attempts >= helpers.job.max_attempts);
      },
      stale: async (payload) => {
        await queueStaleViews(importPayload.parse(payload).job);
      },
      view: async (payload, helpers) => {
        const { job, view } = viewPayload.parse(payload);
        const { assembly, document } = await loadDrawing(job);
        const record = document[view];
        const keyed = record?.type === 'view' ? keyedView(assembly, document, record) : undefined;
        const unwanted = new AbortController();
        // Undone or changed once more meanwhile: what nobody wants to see is not drawn to its end.
        const look = async () => {
          if (keyed && !(await isWanted(job, keyed.key))) unwanted.abort();
        };
        const watch = setInterval(
          () => void look().catch((err: unknown) => log.warn({ err, job, view }, 'could not look whether a view is still wanted')),
          LOOK_MS,
        );
        try {
          if (keyed) await computeAndStore(assembly, keyed, (share) => tellSafely({ type: 'progress', job, view, share }), unwanted.signal);
          await tell({ type: 'view', job, view });
        } catch (e) {
          if (e instanceof QuarryError && e.code === 'CANCELLED') return;
          if (!(e instanceof QuarryError) && helpers.job.attempts < helpers.job.max_attempts) throw e;
          log.error({ err: e, job, view }, 'a view could not be computed');
          const text = e instanceof QuarryError ? e.message : 'The view could not be computed. Undo the last change of it, or report this.';
          await tell({ type: 'trouble', job, view, text });
        } finally {
          clearInterval(watch);
        }
      },
    },
  });
  await beat();
  const timer = setInterval(beatSafely, HEARTBEAT_MS);
  return {
    async stop() {
      clearInterval(timer);
      await runner.stop();
      await kernel.close();
      await closeGeometryPool();
    },
  };
}

/** Jobs locked by workers that no longer beat are tried again, once; after that they fail with a reason. */
async function giveBackJobsOfTheDead(): Promise<void> {
  const dead = await getDatabase().execute<{ locked_by: string }>(sql`
    select distinct locked_by from graphile_worker.jobs
    where locked_by is not null and locked_at < now() - make_interval(secs => ${DEAD_AFTER_S})
      and locked_by not in (select id from worker where seen_at > now() - make_interval(secs => ${DEAD_AFTER_S}))`);
  if (dead.rows.length) {
    const utils = await makeWorkerUtils({ pgPool: getPool() });
    try {
      await utils.forceUnlockWorkers(dead.rows.map((r) => r.locked_by));
      // An unlocked job keeps the time of its lock as its next run: now.
      await getDatabase().execute(
        sql`select graphile_worker.reschedule_jobs(array(select id from graphile_worker.jobs where locked_by is null and attempts > 0 and attempts < max_attempts), run_at => now())`,
      );
    } finally {
      await utils.release();
    }
    log.warn({ workers: dead.rows.length }, 'jobs of dead workers were given back');
  }
  const lost = await getDatabase().execute<{ id: string }>(sql`
    select id from job where state in ('working', 'queued', 'drafting') and exists (
      select 1 from graphile_worker.jobs q where q.key = 'import:' || job.id and q.locked_by is null and q.attempts >= q.max_attempts)`);
  for (const { id } of lost.rows)
    await failJob(id, 'KERNEL_STOPPED', 'The worker was stopped twice while bringing this file in. Try again, or bring it in in parts.');
}
