import { sql } from 'drizzle-orm';
import { QuarryError } from '../../core/base/errors.ts';
import { getDatabase } from '../database/client.ts';
import { loadDrawing } from './jobs.ts';
import { keyedViews, storedResult } from './views.ts';

/**
 * The packed result of a view as its record stands now; when it was never computed, a queued job computes it and
 * undefined comes back: a `view` event tells when it is there.
 * @throws QuarryError NOT_FOUND
 */
export async function requestView(jobId: string, viewId: string): Promise<{ key: string; data: Uint8Array | undefined }> {
  const { assembly, document } = await loadDrawing(jobId);
  const keyed = keyedViews(assembly, document).find((k) => k.view.id === viewId);
  if (!keyed) throw new QuarryError('NOT_FOUND', { what: 'The view' });
  const data = await storedResult(keyed.key);
  if (!data)
    await getDatabase().execute(
      sql`select graphile_worker.add_job('view', json_build_object('job', ${jobId}::text, 'view', ${viewId}::text), max_attempts => 3, job_key => ${`view:${keyed.key}`})`,
    );
  return { key: keyed.key, data };
}
