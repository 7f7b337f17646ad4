import { spawnSync } from 'node:child_process';
import { buildSync } from 'esbuild';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { MessageChannel, receiveMessageOnPort, Worker, type MessagePort } from 'node:worker_threads';

/** What a command printed, read back. */
export interface Told<T> {
  readonly status: number | null;
  readonly out: T & { readonly error?: { readonly code: string; readonly message: string } };
}

const MOST_MS = 300_000;

/** The thread of this process: shared by all files that a test worker goes through. */
const shared = globalThis as { quarryPort?: MessagePort };

function port(): MessagePort {
  if (shared.quarryPort) return shared.quarryPort;
  // Beside the other threads: they are found by their place.
  const outfile = join(process.cwd(), 'build/node', `many-${process.pid}.js`);
  buildSync({
    entryPoints: ['src/cli/testing/many.thread.ts'],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  });
  const worker = new Worker(outfile);
  worker.unref();
  worker.once('online', () => rmSync(outfile, { force: true }));
  const { port1, port2 } = new MessageChannel();
  worker.postMessage(port2, [port2]);
  port1.unref();
  shared.quarryPort = port1;
  return port1;
}

/** Runs a command in a thread of this process that keeps its kernel warm: what the program would print, and its exit code. */
export function quarry<T = Record<string, never>>(...argv: string[]): Told<T> {
  const flag = new Int32Array(new SharedArrayBuffer(4));
  const to = port();
  to.postMessage({ argv, flag });
  if (Atomics.wait(flag, 0, 0, MOST_MS) === 'timed-out') throw new Error(`${argv.join(' ')}: no answer`);
  return JSON.parse(receiveMessageOnPort(to)!.message as string) as Told<T>;
}

/** Runs the built program in a process of its own, as people do: once for each verb is enough. */
export function spawned<T = Record<string, never>>(...argv: string[]): Told<T> {
  const r = spawnSync(process.execPath, ['build/node/quarry.js', ...argv], { encoding: 'utf8', maxBuffer: 1 << 26 });
  return { status: r.status, out: JSON.parse(r.stdout) as Told<T>['out'] };
}
