import { createHash } from 'node:crypto';
import { parentPort } from 'node:worker_threads';
import { packGeometry } from '../core/assembly/geometry-codec.ts';
import { QuarryError } from '../core/base/errors.ts';
import type { KernelReply, KernelRequest } from './host.ts';
import { loadKernel, type Kernel } from './load.ts';
import { readStep } from './read-step.ts';

const port = parentPort!;
const say = (reply: KernelReply, transfer: ArrayBuffer[] = []) => port.postMessage(reply, transfer);

let kernel: Promise<Kernel> | undefined;
const start = () => (kernel ??= loadKernel());

/** Reads one job. A C++ exception or a trap leaves the instance in doubt: the thread says so and is replaced. */
async function run(request: KernelRequest): Promise<void> {
  const times = { kernel: 0, read: 0 };
  let t = performance.now();
  const k = await start();
  times.kernel = performance.now() - t;
  t = performance.now();
  const bytes = new Map<string, Uint8Array>();
  const result = readStep(k, request.files, {
    keyOf(geometry) {
      const packed = packGeometry(geometry);
      const key = createHash('sha256').update(packed).digest('hex').slice(0, 40);
      bytes.set(key, packed);
      return key;
    },
    onProgress: (stage, done, total) => say({ type: 'progress', stage, done, total }),
  });
  times.read = performance.now() - t;
  say(
    { type: 'done', assembly: result.assembly, geometries: [...bytes], times, heapBytes: k.HEAPU8.byteLength },
    [...bytes.values()].map((b) => b.buffer as ArrayBuffer),
  );
}

port.on('message', (request: KernelRequest | 'warm') => {
  if (request === 'warm') {
    void start().then(() => say({ type: 'warm' }));
    return;
  }
  run(request).catch((e: unknown) => {
    if (e instanceof QuarryError) say({ type: 'failed', code: e.code, details: e.details as Record<string, unknown>, poisoned: false });
    else say({ type: 'failed', code: 'KERNEL_STOPPED', details: { stage: 'reading the file' }, poisoned: true });
  });
});
