import { and, eq, inArray, isNull } from 'drizzle-orm';
import { QuarryError } from '../../core/base/errors.ts';
import type { KernelHost } from '../../kernel/host.ts';
import { getDatabase } from '../database/client.ts';
import { geometry, job, model } from '../database/schema.ts';
import { tell } from '../events.ts';
import { log } from '../log.ts';
import { presentDocument } from '../services/documents.ts';
import { loadFiles } from '../services/jobs.ts';
import { storeGeometries } from '../services/geometries.ts';
import { inUnitOf } from '../services/units.ts';
import { runPictures } from './geometry-pool.ts';
import { readFiles, throttled } from './import-task.ts';

const STAGE_START: Readonly<Record<string, number>> = { starting: 0.02, reading: 0.1, translating: 0.25, meshing: 0.45 };

/** Reads a newer model of a job: files → parts; it waits then until someone takes it over. */
export async function importModel(id: string, kernel: KernelHost, last: boolean): Promise<void> {
  const [row] = await getDatabase().select().from(model).where(eq(model.id, id));
  if (!row || (row.state !== 'queued' && row.state !== 'working')) return;
  const set = async (change: Partial<typeof model.$inferInsert>) => {
    await getDatabase()
      .update(model)
      .set(change)
      .where(and(eq(model.id, id), inArray(model.state, ['queued', 'working'])));
    await tell({ type: 'model', job: row.jobId });
  };
  const abort = new AbortController();
  const watch = setInterval(() => {
    void getDatabase()
      .select({ state: model.state })
      .from(model)
      .where(eq(model.id, id))
      .then(([now]) => {
        if (!now || now.state === 'left') abort.abort();
      })
      .catch((err: unknown) => log.warn({ err, model: id }, 'could not look whether the model is still wanted'));
  }, 300);
  try {
    const [known] = await getDatabase().select({ choices: job.choices }).from(job).where(eq(job.id, row.jobId));
    const report = throttled((stage: string, progress: number) => set({ stage, progress, state: 'working' }));
    const files = await loadFiles(row.jobId, id);
    const stated = await readFiles(files, row.name, row.choices ?? known?.choices ?? { unitMm: 1, up: 'z' }, kernel, abort.signal, (stage, done, total) =>
      report(
        total > 1 ? `${stage} ${Math.min(done + 1, total)} of ${total}` : stage,
        (STAGE_START[stage] ?? 0) + (stage === 'meshing' ? (0.4 * done) / total : 0),
      ),
    );
    const read = await inUnitOf((await presentDocument(row.jobId)).document, stated);
    await storeGeometries(read.geometries, stated.shapes);
    const packed = new Map(read.geometries);
    const pictures = await runPictures(read.assembly, async (keys) => keys.map((k) => [k, packed.get(k)!] as const), abort.signal);
    for (const [key, picture] of pictures)
      await getDatabase()
        .update(geometry)
        .set({ picture })
        .where(and(eq(geometry.key, key), isNull(geometry.picture)));
    report.stop();
    await set({ assembly: read.assembly, state: 'ready', stage: 'ready', progress: 1 });
  } catch (e) {
    if (e instanceof QuarryError && e.code === 'CANCELLED') return;
    if (!last && !(e instanceof QuarryError)) throw e;
    if (!(e instanceof QuarryError)) log.error({ err: e, model: id }, 'a newer model could not be read');
    const shown = e instanceof QuarryError ? e : new QuarryError('KERNEL_STOPPED', { stage: 'reading the newer model' });
    await set({ state: 'failed', errorText: shown.message });
  } finally {
    clearInterval(watch);
  }
}
