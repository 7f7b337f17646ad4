import { Worker } from 'node:worker_threads';
import type { Assembly } from '../core/assembly/assembly.ts';
import type { ImportedFile, ImportStage } from '../core/assembly/importing.ts';
import { QuarryError, type ErrorCode, type ErrorDetails } from '../core/base/errors.ts';
import type { FindShapes } from './part-mesher.ts';

export interface KernelRequest {
  readonly files: readonly ImportedFile[];
  /** Threads that help with the meshing; absent: by the size of the files. */
  readonly helpers?: number | undefined;
  /** Ask for what was meshed before. */
  readonly askKnown?: boolean | undefined;
}

/** The answer to `find`. */
export interface KnownAnswer {
  readonly known: Awaited<ReturnType<FindShapes>>;
}

export interface KernelImport {
  readonly assembly: Assembly;
  /** Packed geometry by key. */
  readonly geometries: readonly (readonly [string, Uint8Array])[];
  /** Keys of what was meshed now, by the hash of the packed shape. */
  readonly shapes: readonly (readonly [hash: string, key: string])[];
  /** Milliseconds: start-up of the kernel (0 when warm), reading and meshing. */
  readonly times: { readonly kernel: number; readonly read: number };
  /** Size of the kernel's heap after the job. */
  readonly heapBytes: number;
}

export type KernelReply =
  | { readonly type: 'warm' }
  | { readonly type: 'find'; readonly hashes: readonly string[] }
  | { readonly type: 'progress'; readonly stage: ImportStage; readonly done: number; readonly total: number }
  | ({ readonly type: 'done' } & KernelImport)
  | { readonly type: 'failed'; readonly code: ErrorCode; readonly details: Record<string, unknown>; readonly poisoned: boolean };

export interface ImportOptions {
  readonly signal?: AbortSignal;
  readonly onProgress?: (stage: ImportStage, done: number, total: number) => void;
  /** The thread is killed after this long. Default 300 s. */
  readonly timeoutMs?: number;
  /** Threads that help with the meshing; absent: by the size of the files and the cores there are. */
  readonly helpers?: number;
  /** Where geometry is that was meshed at another time. */
  readonly find?: FindShapes;
}

/** Jobs after which the thread is replaced: the kernel's heap never shrinks. */
const JOBS_PER_THREAD = 20;

/** Keeps one warm kernel thread; replaces it after a trap, a time-out, a cancel, or enough jobs. One job at a time. */
export class KernelHost {
  private worker: Worker | undefined;
  private jobs = 0;
  /** How it was warmed: one that takes its place is warmed too. */
  private warmth: { readonly help: boolean } | undefined;
  private tail: Promise<unknown> = Promise.resolve();
  private readonly threadFile: URL | string;
  private readonly jobsPerThread: number;

  /**
   * @param threadFile the bundled kernel.thread
   * @param jobsPerThread after so many the thread is replaced
   */
  constructor(threadFile: URL | string, jobsPerThread = JOBS_PER_THREAD) {
    this.threadFile = threadFile;
    this.jobsPerThread = jobsPerThread;
  }

  /** Starts the thread before it is needed. @param help with another one that meshes beside it */
  warm(help = false): void {
    this.warmth = { help };
    const thread = this.thread();
    thread.postMessage('warm');
    if (help) thread.postMessage('help');
  }

  /** @throws QuarryError of the file, KERNEL_STOPPED, IMPORT_TIMEOUT or CANCELLED */
  import(files: readonly ImportedFile[], options: ImportOptions = {}): Promise<KernelImport> {
    const job = this.tail.then(() => this.run(files, options));
    this.tail = job.catch(() => undefined);
    return job;
  }

  async close(): Promise<void> {
    const w = this.worker;
    this.worker = undefined;
    this.warmth = undefined;
    await w?.terminate();
  }

  private thread(): Worker {
    if (!this.worker) {
      const worker = new Worker(this.threadFile);
      // A thread may also die between jobs: a message to a dead one would be lost without a word.
      const forget = () => {
        if (this.worker === worker) this.worker = undefined;
      };
      worker.on('exit', forget);
      worker.on('error', forget);
      worker.unref();
      this.worker = worker;
      this.jobs = 0;
    }
    return this.worker;
  }

  private run(files: readonly ImportedFile[], options: ImportOptions): Promise<KernelImport> {
    if (options.signal?.aborted) return Promise.reject(new QuarryError('CANCELLED', {}));
    const worker = this.thread();
    worker.ref();
    const seconds = Math.round((options.timeoutMs ?? 300_000) / 1000);
    return new Promise<KernelImport>((resolve, reject) => {
      const finish = (replace: boolean) => {
        clearTimeout(timer);
        options.signal?.removeEventListener('abort', cancel);
        worker.off('message', hear);
        worker.off('error', broken);
        worker.off('exit', gone);
        worker.unref();
        if (replace || ++this.jobs >= this.jobsPerThread) {
          if (this.worker === worker) this.worker = undefined;
          worker.on('error', () => undefined);
          void worker.terminate();
          if (this.warmth) this.warm(this.warmth.help);
        }
      };
      const fail = (error: Error, replace: boolean) => {
        finish(replace);
        reject(error);
      };
      const cancel = () => fail(new QuarryError('CANCELLED', {}), true);
      const broken = (cause: Error) => fail(new QuarryError('KERNEL_STOPPED', { stage: 'reading the file' }, { cause }), true);
      const gone = () => fail(new QuarryError('KERNEL_STOPPED', { stage: 'reading the file' }), true);
      const timer = setTimeout(() => fail(new QuarryError('IMPORT_TIMEOUT', { seconds }), true), seconds * 1000);
      const hear = (reply: KernelReply) => {
        switch (reply.type) {
          case 'progress':
            options.onProgress?.(reply.stage, reply.done, reply.total);
            return;
          case 'done':
            finish(false);
            resolve(reply);
            return;
          case 'failed':
            fail(new QuarryError(reply.code, reply.details as unknown as ErrorDetails[ErrorCode]), reply.poisoned);
            return;
          case 'find':
            options.find?.(reply.hashes).then(
              (known) => worker.postMessage({ known } satisfies KnownAnswer),
              (e: unknown) => fail(e as Error, true),
            );
            return;
          case 'warm':
            return;
        }
      };
      options.signal?.addEventListener('abort', cancel, { once: true });
      worker.on('message', hear);
      worker.on('error', broken);
      worker.on('exit', gone);
      options.onProgress?.('starting', 0, 1);
      worker.postMessage({ files, helpers: options.helpers, askKnown: options.find !== undefined } satisfies KernelRequest);
    });
  }
}
