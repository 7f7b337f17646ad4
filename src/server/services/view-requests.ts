import { sql } from 'drizzle-orm';
import { getDatabase } from '../database/client.ts';
import { loadDrawing } from './documents.ts';
import { keyedView, keyedViews, storedKeys, storedResult, viewOf } from './views.ts';

/**
 * The packed and compressed result of a view as its record stands now; when it was never computed, a queued job computes it and
 * undefined comes back: a `view` event tells when it is there.
 * @throws QuarryError NOT_FOUND
 */
export async function requestView(jobId: string, viewId: string): Promise<{ key: string; data: Uint8Array | undefined }> {
  const { assembly, document } = await loadDrawing(jobId);
  const keyed = keyedView(assembly, document, viewOf(document, viewId));
  const data = await storedResult(keyed.key);
  if (!data) await queueView(jobId, viewId, keyed.key, SOON);
  return { key: keyed.key, data };
}

/** Smaller is earlier: what someone waits for comes before what is made ready. */
const SOON = 0;
const LATER = 10;

async function queueView(jobId: string, viewId: string, key: string, priority: number): Promise<void> {
  await getDatabase().execute(
    sql`select graphile_worker.add_job('view', json_build_object('job', ${jobId}::text, 'view', ${viewId}::text), max_attempts => 3, job_key => ${`view:${key}`}, priority => ${priority}::int)`,
  );
}

/** Queues every view of a drawing that is out of date, whether or not a page is open that would ask for it. */
export async function queueStaleViews(jobId: string): Promise<void> {
  const { assembly, document } = await loadDrawing(jobId);
  const keyed = keyedViews(assembly, document);
  const stored = await storedKeys(keyed.map((k) => k.key));
  for (const k of keyed) if (!stored.has(k.key)) await queueView(jobId, k.view.id, k.key, LATER);
}
