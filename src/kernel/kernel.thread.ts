import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parentPort, Worker } from 'node:worker_threads';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { QuarryError } from '../core/base/errors.ts';
import { keyedGeometry } from './geometry-key.ts';
import type { KernelReply, KernelRequest, KnownAnswer } from './host.ts';
import { loadKernel, type Kernel } from './load.ts';
import { helpMeshing, meshHere, meshNew, meshWith, type FindShapes, type MeshWish } from './part-mesher.ts';
import { readStep } from './read-step.ts';

const port = parentPort!;
const say = (reply: KernelReply, transfer: ArrayBuffer[] = []) => port.postMessage(reply, transfer);

let kernel: Promise<Kernel> | undefined;
const start = () => (kernel ??= loadKernel());

/** From this size on a file is worth kernels of their own for the meshing: they start while it is read. */
const START_HELP_FROM_BYTES = 2_500_000;
/** … and from this on those are used that are there already. */
const USE_HELP_FROM_BYTES = 300_000;
/** Each takes some 150 MB. */
const MOST_HELPERS = 2;

/** Kernels that help; they stay as long as this thread. */
const helping = new Set<Worker>();

function helpersFor(request: KernelRequest): Worker[] {
  const bytes = request.files.reduce((n, f) => n + f.bytes.length, 0);
  const most = Math.min(MOST_HELPERS, availableParallelism() - 1);
  const count = request.helpers ?? (bytes >= START_HELP_FROM_BYTES ? most : bytes >= USE_HELP_FROM_BYTES ? helping.size : 0);
  while (helping.size < count) startHelper();
  return [...helping].slice(0, count);
}

function startHelper(): void {
  const w = new Worker(fileURLToPath(import.meta.url));
  const gone = () => helping.delete(w);
  // Heard from the start: an error without a listener would end this thread too.
  w.on('error', gone);
  w.on('exit', gone);
  w.postMessage('warm');
  helping.add(w);
}

/** Reads one job. A C++ exception or a trap leaves the instance in doubt: the thread says so and is replaced. */
async function run(request: KernelRequest): Promise<void> {
  const times = { kernel: 0, read: 0 };
  let t = performance.now();
  const helpers = helpersFor(request);
  try {
    const k = await start();
    times.kernel = performance.now() - t;
    t = performance.now();
    const bytes = new Map<string, Uint8Array>();
    const keyOf = (geometry: PartGeometry) => {
      const { key, packed } = keyedGeometry(geometry);
      bytes.set(key, packed);
      return key;
    };
    const keep = (key: string, packed: Uint8Array) => void bytes.set(key, packed);
    const shapes = new Map<string, string>();
    const mesh = helpers.length ? meshWith(k, keyOf, keep, helpers) : meshHere(k, keyOf);
    const result = await readStep(k, request.files, {
      keyOf,
      mesh: request.askKnown ? meshNew(k, mesh, findKnown, keep, (hash, key) => void shapes.set(hash, key)) : mesh,
      onProgress: (stage, done, total) => say({ type: 'progress', stage, done, total }),
    });
    times.read = performance.now() - t;
    say(
      { type: 'done', assembly: result.assembly, geometries: [...bytes], shapes: [...shapes], times, heapBytes: k.HEAPU8.byteLength },
      [...bytes.values()].map((b) => b.buffer as ArrayBuffer),
    );
  } catch (e) {
    // A helper may still be at a part of this file: the next file does not wait for it.
    for (const w of helpers) void w.terminate();
    throw e;
  }
}

/** Answers to what is asked of the host; one job at a time asks. */
let heard: ((answer: KnownAnswer) => void) | undefined;
const findKnown: FindShapes = (hashes) =>
  new Promise((resolve) => {
    heard = ({ known }) => resolve(known);
    say({ type: 'find', hashes });
  });

let help: ((wish: MeshWish) => void) | undefined;

port.on('message', (request: KernelRequest | KnownAnswer | MeshWish | 'warm' | 'help') => {
  if (request === 'warm') {
    void start().then(() => say({ type: 'warm' }));
    return;
  }
  if (request === 'help') {
    // Two at once would take twice as long to be there.
    void start().then(() => helping.size === 0 && availableParallelism() > 1 && startHelper());
    return;
  }
  if ('known' in request) {
    heard?.(request);
    return;
  }
  if ('mesh' in request) {
    help ??= helpMeshing(port, start(), keyedGeometry);
    help(request);
    return;
  }
  run(request).catch((e: unknown) => {
    if (e instanceof QuarryError) say({ type: 'failed', code: e.code, details: e.details as Record<string, unknown>, poisoned: false });
    else say({ type: 'failed', code: 'KERNEL_STOPPED', details: { stage: 'reading the file' }, poisoned: true });
  });
});
