import { parentPort } from 'node:worker_threads';
import type { Told } from './supervise.ts';

/** Around everything that reads files: the limit of time counts only there. */
export async function reading<T>(read: () => Promise<T>): Promise<T> {
  parentPort?.postMessage({ reading: true } satisfies Told);
  const out = await read();
  parentPort?.postMessage({ reading: false } satisfies Told);
  return out;
}
