import { MessageChannel, type MessagePort } from 'node:worker_threads';
import pLimit from 'p-limit';
import { Piscina } from 'piscina';
import type { StoredResult } from '../stored-result.ts';
import type { Assembly } from '../../core/assembly/assembly.ts';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import { QuarryError, type ErrorCode, type ErrorDetails } from '../../core/base/errors.ts';
import { config, threadFile } from '../config.ts';
import { log } from '../log.ts';
import type { ExplodeAnswer, Interim } from '../../core/explode/requests.ts';
import type { GuideWords } from '../../core/guide/guide.ts';
import type { ShownCure } from '../../core/proof/cure-search.ts';
import type { Difference } from '../../core/revision/compare-drawings.ts';
import type { GeometryAnswer, Told } from './geometry-cache.ts';
import type {
  CompareTask,
  Comparison,
  DraftMessage,
  DraftReply,
  DraftResult,
  DraftTask,
  ExplodeTask,
  ExportTask,
  FeaturesTask,
  GeometryTask,
  DifferenceTask,
  CuresTask,
  GroupPictureTask,
  GuideTask,
  IssueMade,
  IssueTask,
  MeasureResult,
  PicturesTask,
  RescaleTask,
  ReadResult,
  ReadTask,
  SectionProposal,
  SectionTask,
  FlatFileTask,
  SpreadFileTask,
  ViewTask,
} from './geometry-tasks.ts';

/**
 * Drafts wait for views; were all threads drafting, none would be left to compute them. Two at a time: a large assembly
 * does not hold up the small one that comes after it.
 */
const DRAFTS = 2;
const drafts = pLimit(DRAFTS);

let pool: Piscina | undefined;

function getPool(): Piscina {
  if (!pool) {
    // More than compute: threads that draft wait for the views that the others compute.
    pool = new Piscina({
      filename: threadFile('geometry.thread'),
      maxThreads: config.geometryThreads + DRAFTS,
      minThreads: 1,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: config.geometryThreadMb },
    });
    pool.on('error', (err) => log.error({ err }, 'a geometry thread broke'));
  }
  return pool;
}

/** Fetches packed geometry by key for a thread that does not have it. */
export type GeometrySource = (keys: readonly string[]) => Promise<GeometryAnswer>;

/** A thread that has not stopped by itself this long after it was asked to is ended. */
const PATIENCE_MS = 150;

/** @throws QuarryError of the task, or CANCELLED soon after the signal fires */
async function run<T>(task: GeometryTask, signal: AbortSignal | undefined, transfer: readonly MessagePort[]): Promise<T> {
  const end = new AbortController();
  let patience: NodeJS.Timeout | undefined;
  const stop = () => {
    if ('stop' in task) Atomics.store(task.stop, 0, 1);
    patience = setTimeout(() => end.abort(), PATIENCE_MS);
  };
  if (signal?.aborted) throw new QuarryError('CANCELLED', {});
  signal?.addEventListener('abort', stop, { once: true });
  try {
    const result: unknown = await getPool().run(task, { signal: end.signal, transferList: transfer as never });
    if (typeof result === 'object' && result !== null && 'failed' in result) {
      const { failed, details } = result as { failed: ErrorCode; details: ErrorDetails[ErrorCode] };
      throw new QuarryError(failed, details);
    }
    return result as T;
  } catch (e) {
    if (signal?.aborted) throw new QuarryError('CANCELLED', {}, { cause: e });
    throw e;
  } finally {
    clearTimeout(patience);
    signal?.removeEventListener('abort', stop);
  }
}

/** Runs a task that needs geometry, and answers its wishes while it runs. */
async function compute<T>(
  task:
    | ViewTask
    | DraftTask
    | SectionTask
    | ExplodeTask
    | CuresTask
    | SpreadFileTask
    | FlatFileTask
    | CompareTask
    | RescaleTask
    | PicturesTask
    | FeaturesTask
    | GroupPictureTask
    | IssueTask
    | GuideTask,
  source: GeometrySource,
  signal: AbortSignal | undefined,
  transfer: readonly MessagePort[],
  tell?: (message: Interim) => void,
): Promise<T> {
  const { port1, port2 } = new MessageChannel();
  let failure: unknown;
  const end = new AbortController();
  const both = signal ? AbortSignal.any([signal, end.signal]) : end.signal;
  port1.on('message', (told: Told) => {
    if (!('need' in told)) {
      tell?.(told);
      return;
    }
    source(told.need).then(
      (answer) => port1.postMessage(answer),
      (e: unknown) => {
        failure = e;
        end.abort();
      },
    );
  });
  try {
    const stop = new Int32Array(new SharedArrayBuffer(4));
    return await run<T>({ ...task, geometry: port2, stop }, both, [port2, ...transfer]);
  } catch (e) {
    throw failure ?? e;
  } finally {
    port1.close();
  }
}

export const runView = (task: ViewTask, source: GeometrySource, signal?: AbortSignal, onProgress?: (share: number) => void): Promise<StoredResult> =>
  compute(task, source, signal, [], (told) => 'progress' in told && onProgress?.(told.progress));

export const runSection = (task: SectionTask, source: GeometrySource): Promise<SectionProposal> => compute(task, source, undefined, []);

/** @throws QuarryError CANCELLED */
export const runExplode = (task: ExplodeTask, source: GeometrySource, signal: AbortSignal, tell: (message: Interim) => void): Promise<ExplodeAnswer> =>
  compute(task, source, signal, [], tell);

/** @throws QuarryError CANCELLED, NOT_FOUND */
export const runCures = (task: CuresTask, source: GeometrySource, signal: AbortSignal, onProgress: (share: number) => void): Promise<ShownCure[]> =>
  compute(task, source, signal, [], (told) => 'progress' in told && onProgress(told.progress));

export const runFlatFile = (task: FlatFileTask, source: GeometrySource): Promise<Uint8Array> => compute(task, source, undefined, []);
export const runSpreadFile = (task: SpreadFileTask, source: GeometrySource): Promise<Uint8Array> => compute(task, source, undefined, []);

/** Drafts in one thread; its views are computed by the others, side by side. */
export function runDraft(task: Omit<DraftTask, 'port' | 'type'>, source: GeometrySource, heard: DraftListener, signal?: AbortSignal): Promise<DraftResult> {
  return drafts(() => draft(task, source, heard, signal));
}

/** Who wants a draft hears how far it is, and gets the first sheets while the rest is drawn. */
export interface DraftListener {
  onProgress(at: number, total: number, what: string): void;
  onSheets(first: Omit<DraftResult, 'pictures' | 'slots'>): void;
}

async function draft(
  task: Omit<DraftTask, 'port' | 'type'>,
  source: GeometrySource,
  heard: DraftListener,
  signal: AbortSignal | undefined,
): Promise<DraftResult> {
  const { port1, port2 } = new MessageChannel();
  const end = new AbortController();
  const both = signal ? AbortSignal.any([signal, end.signal]) : end.signal;
  let failure: unknown;
  port1.on('message', (m: DraftMessage) => {
    if ('progress' in m) {
      heard.onProgress(m.progress.at, m.progress.total, m.progress.what);
      return;
    }
    if ('first' in m) {
      heard.onSheets(m.first);
      return;
    }
    runView({ type: 'view', assembly: task.assembly, spec: m.view }, source, both).then(
      (packed) => port1.postMessage({ id: m.id, packed } satisfies DraftReply),
      (e: unknown) => {
        failure ??= e;
        port1.postMessage({ id: m.id, failed: true } satisfies DraftReply);
      },
    );
  });
  try {
    return await compute<DraftResult>({ ...task, type: 'draft', port: port2 }, source, signal, [port2]);
  } catch (e) {
    throw failure ?? e;
  } finally {
    end.abort();
    port1.close();
  }
}

/** Reads a mesh file. @throws QuarryError of the file, CANCELLED */
export async function runRead(
  task: Omit<ReadTask, 'type' | 'port' | 'stop'>,
  onProgress: (done: number, total: number) => void,
  signal: AbortSignal,
): Promise<ReadResult> {
  const { port1, port2 } = new MessageChannel();
  port1.on('message', ([done, total]: [number, number]) => onProgress(done, total));
  try {
    return await run<ReadResult>({ ...task, type: 'read', port: port2, stop: new Int32Array(new SharedArrayBuffer(4)) }, signal, [port2]);
  } finally {
    port1.close();
  }
}

/** @throws QuarryError of the files, IMPORT_TIMEOUT */
export async function runMeasure(files: readonly ImportedFile[]): Promise<MeasureResult> {
  const limit = AbortSignal.timeout(config.importTimeoutMs);
  try {
    return await run<MeasureResult>({ type: 'measure', files }, limit, []);
  } catch (e) {
    throw limit.aborted ? new QuarryError('IMPORT_TIMEOUT', { seconds: config.importTimeoutMs / 1000 }, { cause: e }) : e;
  }
}

export const runCompare = (task: Omit<CompareTask, 'type'>, source: GeometrySource): Promise<Comparison> =>
  compute({ ...task, type: 'compare' }, source, undefined, []);

/** @returns the model in the unit, and its new geometries packed with their pictures left out */
export const runRescale = (assembly: Assembly, unitMm: number, source: GeometrySource): Promise<ReadResult> =>
  compute({ type: 'rescale', assembly, unitMm }, source, undefined, []);

export const runPictures = (assembly: Assembly, source: GeometrySource, signal?: AbortSignal): Promise<(readonly [string, string])[]> =>
  compute({ type: 'pictures', assembly }, source, signal, []);

export const runFeatures = (assembly: Assembly, source: GeometrySource, ks?: readonly (readonly [string, number])[]): Promise<[string, Uint8Array][]> =>
  compute({ type: 'features', assembly, ...(ks ? { ks } : {}) }, source, undefined, []);

export const runGroupPicture = (task: GroupPictureTask, source: GeometrySource): Promise<string> => compute(task, source, undefined, []);

/** @throws QuarryError FILE_DAMAGED, FILE_TOO_MANY */
export const runTable = (file: ImportedFile): Promise<string[][]> => run({ type: 'table', file }, undefined, []);

export const runExport = (task: ExportTask): Promise<readonly Uint8Array[]> => run(task, undefined, []);

/** @throws QuarryError ISSUE_STOPPED, CANCELLED */
export const runIssue = (task: IssueTask, source: GeometrySource, signal: AbortSignal, onProgress: (share: number) => void): Promise<IssueMade> =>
  compute(task, source, signal, [], (told) => 'progress' in told && onProgress(told.progress));

export const runGuide = (task: GuideTask, source: GeometrySource): Promise<GuideWords> => compute(task, source, undefined, []);

export const runDifference = (task: DifferenceTask): Promise<Difference> => run(task, undefined, []);

export async function closeGeometryPool(): Promise<void> {
  await pool?.destroy();
  pool = undefined;
}
