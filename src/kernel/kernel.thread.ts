import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { parentPort, Worker } from 'node:worker_threads';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { QuarryError } from '../core/base/errors.ts';
import { keyedGeometry } from './geometry-key.ts';
import type { KernelReply, KernelRequest } from './host.ts';
import { loadKernel, type Kernel } from './load.ts';
import { helpMeshing, meshWith, type MeshWish } from './part-mesher.ts';
import { readStep } from './read-step.ts';

const port = parentPort!;
const say = (reply: KernelReply, transfer: ArrayBuffer[] = []) => port.postMessage(reply, transfer);

let kernel: Promise<Kernel> | undefined;
const start = () => (kernel ??= loadKernel());

/** From this size on a file is worth kernels of their own for the meshing: they start while it is read. */
const HELP_FROM_BYTES = 2_500_000;
/** Each takes some 150 MB. */
const MOST_HELPERS = 2;

function helpersFor(request: KernelRequest): Worker[] {
  const bytes = request.files.reduce((n, f) => n + f.bytes.length, 0);
  const count = request.helpers ?? (bytes < HELP_FROM_BYTES ? 0 : Math.min(MOST_HELPERS, availableParallelism() - 1));
  return Array.from({ length: count }, () => {
    const w = new Worker(fileURLToPath(import.meta.url));
    // Heard from the start: an error without a listener would end this thread too.
    w.on('error', () => undefined);
    w.postMessage('warm');
    return w;
  });
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
    const result = await readStep(k, request.files, {
      keyOf,
      ...(helpers.length ? { mesh: meshWith(k, keyOf, (key, packed) => bytes.set(key, packed), helpers) } : {}),
      onProgress: (stage, done, total) => say({ type: 'progress', stage, done, total }),
    });
    times.read = performance.now() - t;
    say(
      { type: 'done', assembly: result.assembly, geometries: [...bytes], times, heapBytes: k.HEAPU8.byteLength },
      [...bytes.values()].map((b) => b.buffer as ArrayBuffer),
    );
  } finally {
    for (const w of helpers) void w.terminate();
  }
}

let help: ((wish: MeshWish) => void) | undefined;

port.on('message', (request: KernelRequest | MeshWish | 'warm') => {
  if (request === 'warm') {
    void start().then(() => say({ type: 'warm' }));
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
