import { createHash } from 'node:crypto';
import { parentPort, type MessagePort } from 'node:worker_threads';
import type { KernelHost, KernelImport } from '../../kernel/host.ts';
import { answer, exitCode } from '../answer.ts';
import { kernel, useKernel } from '../kernel.ts';

/** Commands are answered one after the other, on one kernel that reads each file once. */
interface Asked {
  readonly argv: readonly string[];
  /** Set when the answer is there. */
  readonly flag: Int32Array;
}

const host = kernel();
const known = new Map<string, Promise<KernelImport>>();
useKernel({
  import(files, options = {}) {
    const hash = createHash('sha256').update(JSON.stringify([files.map((f) => f.name), options.helpers]));
    for (const f of files) hash.update(f.bytes);
    const key = hash.digest('hex');
    const before = known.get(key);
    if (before) return before;
    const made = host.import(files, options);
    known.set(key, made);
    return made;
  },
} satisfies Pick<KernelHost, 'import'>);

parentPort!.once('message', (port: MessagePort) => {
  port.on('message', ({ argv, flag }: Asked) => {
    void answer(argv)
      .then((a) => ({ status: exitCode(a), out: 'result' in a ? a.result : { error: a.failed } }))
      .catch((e: unknown) => ({ status: 3, out: { error: { code: 'INTERNAL', message: String(e) } } }))
      .then((told) => {
        // As a program prints it: what JSON does not have is gone.
        port.postMessage(JSON.stringify(told));
        Atomics.store(flag, 0, 1);
        Atomics.notify(flag, 0);
      });
  });
});
