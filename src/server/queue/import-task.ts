import { and, eq, inArray } from 'drizzle-orm';
import type { Assembly } from '../../core/assembly/assembly.ts';
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
import { changesBetween } from '../../core/document/between.ts';
import type { DrawingDocument } from '../../core/document/records.ts';
import { writeRecords } from '../services/documents.ts';
import { appendDrawn } from '../services/edits.ts';
import { failJob, loadFiles, setProgress } from '../services/jobs.ts';
import { storeFeatures } from '../services/features.ts';
import { findShapes, loadGeometries, storeGeometries } from '../services/geometries.ts';
import { storeResults } from '../services/views.ts';
import { fileGroups, isStep } from '../../formats/readers/file-groups.ts';
import type { DraftResult, ReadResult } from './geometry-tasks.ts';
import { runDraft, runRead } from './geometry-pool.ts';

/** Share of the whole that each stage takes, for the progress bar. */
const STAGE_START: Readonly<Record<string, number>> = { starting: 0.02, reading: 0.15, translating: 0.2, meshing: 0.35, storing: 0.6, drawing: 0.65 };

/**
 * Brings a job in: files → kernel → parts → first sheets, which are opened → the rest of the first drawing. Expected failures end in the job's state, not in a retry.
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
  const laps = new Laps();
  // Sheets that stand from an earlier try are kept: only the rest is drawn.
  const resumed = row.state === 'drafting' && row.assembly !== null;
  const progress = throttled((stage: string, share: number) => setProgress(id, stage, share));
  let assembly = row.assembly!;
  let source = loadGeometries;
  if (!resumed) {
    const files = await loadFiles(id);
    const read = await readFiles(files, row.title, row.choices ?? { unitMm: 1, up: 'z' }, kernel, signal, (stage, done, total) =>
      progress(
        total > 1 ? `${stage} ${Math.min(done + 1, total)} of ${total}` : stage,
        (STAGE_START[stage] ?? 0) + (stage === 'meshing' ? (0.25 * done) / total : 0),
      ),
    );
    laps.lap('read');
    await setProgress(id, 'storing', STAGE_START['storing']!);
    await storeGeometries(read.geometries, read.shapes);
    laps.lap('store');
    await setProgress(id, 'drawing', STAGE_START['drawing']!);
    const packed = new Map(read.geometries);
    source = async (keys) => keys.map((k) => [k, packed.get(k)!] as const);
    assembly = read.assembly;
  }
  const drawing = new DrawnJob(id, assembly, assembly.name || row.title, laps);
  let shown: { readonly document: DrawingDocument; readonly kept: Promise<void> } | undefined;
  const drawn = await runDraft(
    {
      assembly,
      standard: row.standard,
      sheet: row.sheet,
      recipe: row.recipe,
      format: row.format,
      date: (resumed ? row.createdAt : new Date()).toISOString().slice(0, 10),
    },
    source,
    {
      onProgress: (at, total, what) => progress(what, STAGE_START['drawing']! + (0.33 * at) / total),
      onSheets: (first) => {
        shown = { document: first.document, kept: resumed ? Promise.resolve() : drawing.open(first, 'drafting') };
        // Its failure is heard below; until then nobody listens.
        shown.kept.catch(() => undefined);
      },
    },
    signal,
  );
  laps.lap('draw');
  progress.stop();
  for (const [key, picture] of drawn.pictures) await getDatabase().update(geometry).set({ picture }).where(eq(geometry.key, key));
  if (!shown) await drawing.open(drawn, 'ready');
  else {
    await shown.kept;
    await drawing.complete(drawn, shown.document);
  }
  await tell({ type: 'job', job: id });
  log.info({ job: id, timings: laps.timings }, 'brought in');
}

/** Milliseconds by stage. */
class Laps {
  readonly timings: Record<string, number> = {};
  private from = performance.now();

  lap(name: string): void {
    this.timings[name] = Math.round(performance.now() - this.from);
    this.from = performance.now();
  }
}

/** A job on its way from its first sheets to the whole first drawing. */
class DrawnJob {
  private readonly id: string;
  private readonly assembly: Assembly;
  private readonly title: string;
  private readonly laps: Laps;

  constructor(id: string, assembly: Assembly, title: string, laps: Laps) {
    this.id = id;
    this.assembly = assembly;
    this.title = title;
    this.laps = laps;
  }

  /** Opens the drawing. A second worker may have been given this job: whoever comes first wins, and edits made since are not overwritten. */
  async open(drawn: Omit<DraftResult, 'pictures' | 'slots'> & { readonly slots?: DraftResult['slots'] }, state: 'drafting' | 'ready'): Promise<void> {
    const { id, assembly, title } = this;
    await storeResults(drawn.results);
    await storeFeatures(drawn.features);
    await getDatabase().transaction(async (tx) => {
      const [first] = await tx
        .update(job)
        .set({
          title,
          assembly,
          version: 1,
          documentFormat: DOCUMENT_FORMAT,
          undoHead: null,
          redoHead: null,
          state,
          ...(state === 'ready' ? { stage: 'ready', progress: 1 } : {}),
          timings: this.laps.timings,
          ...(drawn.slots ? { slots: drawn.slots } : {}),
          changedAt: new Date(),
        })
        .where(and(eq(job.id, id), inArray(job.state, ['queued', 'working'])))
        .returning({ id: job.id });
      if (first) await writeRecords(tx, id, changesBetween({}, drawn.document), drawn.document);
    });
    await tell({ type: 'job', job: id });
  }

  /** The rest of the sheets. @param before as the first sheets were opened */
  async complete(drawn: DraftResult, before: DrawingDocument): Promise<void> {
    await storeResults(drawn.results);
    await storeFeatures(drawn.features);
    await appendDrawn(this.id, 'The rest of the first drawing', before, drawn.document, async (tx) => {
      const { timings } = this.laps;
      await tx
        .update(job)
        .set({ state: 'ready', stage: 'ready', progress: 1, timings, slots: drawn.slots })
        .where(and(eq(job.id, this.id), eq(job.state, 'drafting')));
    });
  }
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
      if (isStep(top.name))
        results.push(await kernel.import([top, ...beside], { signal: both, timeoutMs: config.importTimeoutMs, onProgress: tell, find: findShapes }));
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
    shapes: results.flatMap((r) => r.shapes ?? []),
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
