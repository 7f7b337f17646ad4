import { Piscina } from 'piscina';
import { QuarryError, type ErrorCode, type ErrorDetails } from '../../core/base/errors.ts';
import { config, threadFile } from '../config.ts';
import { log } from '../log.ts';
import type { DraftResult, DraftTask, ExportTask, GeometryTask, ViewTask } from './geometry-tasks.ts';

let pool: Piscina | undefined;

function getPool(): Piscina {
  if (!pool) {
    pool = new Piscina({ filename: threadFile('geometry.thread'), maxThreads: config.geometryThreads, minThreads: 1, idleTimeout: 60_000 });
    pool.on('error', (err) => log.error({ err }, 'a geometry thread broke'));
  }
  return pool;
}

/** @throws QuarryError of the task, or CANCELLED when the signal fires: the thread is then ended */
async function run<T>(task: GeometryTask, signal?: AbortSignal, transfer: readonly unknown[] = []): Promise<T> {
  try {
    const result: unknown = await getPool().run(task, { ...(signal ? { signal } : {}), transferList: transfer as never });
    if (typeof result === 'object' && result !== null && 'failed' in result) {
      const { failed, details } = result as { failed: ErrorCode; details: ErrorDetails[ErrorCode] };
      throw new QuarryError(failed, details);
    }
    return result as T;
  } catch (e) {
    if (signal?.aborted) throw new QuarryError('CANCELLED', {}, { cause: e });
    throw e;
  }
}

export const runDraft = (task: DraftTask, signal?: AbortSignal): Promise<DraftResult> => run(task, signal, task.port ? [task.port] : []);
export const runView = (task: ViewTask, signal?: AbortSignal): Promise<Uint8Array> => run(task, signal);
export const runExport = (task: ExportTask): Promise<readonly Uint8Array[]> => run(task);

export async function closeGeometryPool(): Promise<void> {
  await pool?.destroy();
  pool = undefined;
}
