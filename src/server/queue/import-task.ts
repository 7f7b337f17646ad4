import { and, eq, inArray } from 'drizzle-orm';
import type { ImportedFile, ImportStage } from '../../core/assembly/importing.ts';
import { mergeAssemblies } from '../../core/assembly/merge.ts';
import type { MeshChoices } from '../../core/assembly/mesh-tree.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { DOCUMENT_FORMAT } from '../../core/document/format.ts';
import type { KernelHost } from '../../kernel/host.ts';
import { config } from '../config.ts';
import { getDatabase } from '../database/client.ts';
import { geometry, job } from '../database/schema.ts';
import { tell } from '../events.ts';
import { log } from '../log.ts';
import { changesBetween, writeRecords } from '../services/documents.ts';
import { failJob, loadFiles, setProgress } from '../services/jobs.ts';
import { storeFeatures } from '../services/features.ts';
import { storeResults } from '../services/views.ts';
import { fileGroups, isStep } from '../../formats/readers/file-groups.ts';
import type { ReadResult } from './geometry-tasks.ts';
import { runDraft, runRead } from './geometry-pool.ts';

/** Share of the whole that each stage takes, for the progress bar. */
const STAGE_START: Readonly<Record<string, number>> = { starting: 0.02, reading: 0.15, translating: 0.2, meshing: 0.35, storing: 0.6, drawing: 0.65 };

/**
 * Brings a job in: files → kernel → parts → first drawing. Expected failures end in the job's state, not in a retry.
 * @param last this is the last attempt: whatever goes wrong is final
 */
export async function importJob(id: string, kernel: KernelHost, last: boolean): Promise<void> {
  const abort = new AbortController();
  const watch = watchCancel(id, abort);
  try {
    await work(id, kernel, abort.signal);
  } catch (e) {
    if (e instanceof QuarryError && e.code !== 'KERNEL_STOPPED') {
      await failJob(id, e.code, e.message);
      return;
    }
    log.error({ err: e, job: id }, 'import broke');
    if (!last && !(e instanceof QuarryError)) throw e;
    const shown = e instanceof QuarryError ? e : new QuarryError('KERNEL_STOPPED', { stage: 'bringing the file in' });
    await failJob(id, shown.code, shown.message);
  } finally {
    clearInterval(watch);
  }
}

/** The wish to cancel travels through the job's row: it may come from another process. */
function watchCancel(id: string, abort: AbortController): NodeJS.Timeout {
  return setInterval(() => {
    void getDatabase()
      .select({ wanted: job.cancelWanted })
      .from(job)
      .where(eq(job.id, id))
      .then(([row]) => {
        // A deleted job is cancelled too.
        if (!row || row.wanted) abort.abort();
      })
      .catch((err: unknown) => log.warn({ err, job: id }, 'could not look for a cancel'));
  }, 300);
}

async function work(id: string, kernel: KernelHost, signal: AbortSignal): Promise<void> {
  const [row] = await getDatabase().select().from(job).where(eq(job.id, id));
  if (!row || row.state === 'cancelled' || row.state === 'ready') return;
  const timings: Record<string, number> = {};
  let t = performance.now();
  const lap = (name: string) => {
    timings[name] = Math.round(performance.now() - t);
    t = performance.now();
  };
  const report = throttled((stage: string, share: number) => setProgress(id, stage, share));
  const files = await loadFiles(id);
  const read = await readFiles(files, row.title, row.choices ?? { unitMm: 1, up: 'z' }, kernel, signal, (stage, done, total) =>
    report(
      total > 1 ? `${stage} ${Math.min(done + 1, total)} of ${total}` : stage,
      (STAGE_START[stage] ?? 0) + (stage === 'meshing' ? (0.25 * done) / total : 0),
    ),
  );
  lap('read');
  await setProgress(id, 'storing', STAGE_START['storing']!);
  for (const [key, data] of read.geometries) await getDatabase().insert(geometry).values({ key, data }).onConflictDoNothing();
  lap('store');
  await setProgress(id, 'drawing', STAGE_START['drawing']!);
  const packed = new Map(read.geometries);
  const drawn = await runDraft(
    { assembly: read.assembly, standard: row.standard, sheet: row.sheet, date: new Date().toISOString().slice(0, 10) },
    async (keys) => keys.map((k) => [k, packed.get(k)!] as const),
    (at, total, what) => report(what, STAGE_START['drawing']! + (0.33 * at) / total),
    signal,
  );
  lap('draw');
  await storeResults(drawn.results);
  for (const [key, picture] of drawn.pictures) await getDatabase().update(geometry).set({ picture }).where(eq(geometry.key, key));
  await storeFeatures(drawn.features);
  report.stop();
  // A second worker may have been given this job; whoever comes first wins, and edits made since are not overwritten.
  await getDatabase().transaction(async (tx) => {
    const [first] = await tx
      .update(job)
      .set({
        title: read.assembly.name || row.title,
        assembly: read.assembly,
        version: 1,
        documentFormat: DOCUMENT_FORMAT,
        undoHead: null,
        redoHead: null,
        state: 'ready',
        stage: 'ready',
        progress: 1,
        timings,
        changedAt: new Date(),
      })
      .where(and(eq(job.id, id), inArray(job.state, ['queued', 'working'])))
      .returning({ id: job.id });
    if (first) await writeRecords(tx, id, changesBetween({}, drawn.document), drawn.document);
  });
  await tell({ type: 'job', job: id });
  log.info({ job: id, timings }, 'brought in');
}

/** Every group of files is an assembly; several become one. The time limit is for all of them together. */
export async function readFiles(
  files: readonly ImportedFile[],
  title: string,
  choices: MeshChoices,
  kernel: KernelHost,
  signal: AbortSignal,
  onProgress: (stage: ImportStage, done: number, total: number) => void,
): Promise<ReadResult> {
  const groups = fileGroups(files);
  const limit = AbortSignal.timeout(config.importTimeoutMs);
  const both = AbortSignal.any([signal, limit]);
  const results: ReadResult[] = [];
  try {
    for (const [i, { top, beside }] of groups.entries()) {
      const tell = (stage: ImportStage, done: number, total: number) =>
        groups.length > 1 ? onProgress(stage, i, groups.length) : onProgress(stage, done, total);
      if (isStep(top.name)) results.push(await kernel.import([top, ...beside], { signal: both, timeoutMs: config.importTimeoutMs, onProgress: tell }));
      else {
        tell('reading', 0, 1);
        results.push(await runRead({ file: top, beside, choices }, (done, total) => tell('meshing', done, total), both));
      }
    }
  } catch (e) {
    if (limit.aborted && !signal.aborted) throw new QuarryError('IMPORT_TIMEOUT', { seconds: config.importTimeoutMs / 1000 }, { cause: e });
    throw e;
  }
  if (results.length === 1) return results[0]!;
  return {
    assembly: mergeAssemblies(
      title,
      results.map((r) => r.assembly),
    ),
    geometries: results.flatMap((r) => r.geometries),
  };
}

/** At most a few writes a second; none after `stop`. */
export function throttled(write: (stage: string, share: number) => Promise<void>) {
  let next = 0;
  let stopped = false;
  const report = (stage: string, share: number) => {
    const now = performance.now();
    if (stopped || now < next) return;
    next = now + 200;
    write(stage, share).catch((err: unknown) => log.warn({ err }, 'progress was not written'));
  };
  return Object.assign(report, { stop: () => (stopped = true) });
}
