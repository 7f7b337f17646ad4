import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { QuarryError } from '../core/base/errors.ts';
import { exitCode, type Answer } from './answer.ts';
import { readingLimitMs } from './arguments.ts';

/** What the thread tells: that reading began or ended, and how it all ended. */
export type Told = { readonly reading: boolean } | Answer;

/** How often it is looked whether whoever started the program is still there. */
const LOOK_MS = 1000;

/**
 * Who started the program, and who started that: npm puts a shell between. An orphan gets another parent, on either level.
 */
function ancestors(): string[] {
  try {
    const stat = readFileSync(`/proc/${process.ppid}/stat`, 'latin1');
    // pid (name) state parent …; a name may hold brackets and blanks (proc(5)).
    return [`${process.ppid}`, stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1] ?? ''];
  } catch {
    // No such table on this system, or the parent is gone: its number tells.
    return [`${process.ppid}`];
  }
}

/**
 * Runs the command in a thread of its own, so that it can be stopped whatever it does: when reading takes longer than its
 * limit, on a signal, and when the process that started it has died. Prints its answer and sets the exit code.
 */
export function supervise(): void {
  const argv = process.argv.slice(2);
  const worker = new Worker(new URL(import.meta.url), { argv });
  const above = ancestors();
  const stop = (code: number): never => process.exit(code);
  setInterval(() => {
    if (ancestors().join() !== above.join()) stop(3);
  }, LOOK_MS).unref();
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.once(signal, () => stop(3));

  let limit: NodeJS.Timeout | undefined;
  let answered = false;
  const answer = (text: string, code: number, message?: string) => {
    if (answered) return;
    answered = true;
    clearTimeout(limit);
    if (message) process.stderr.write(`${message}\n`);
    // The exit waits until a reader at the other end of a pipe has taken everything.
    process.stdout.write(`${text}\n`, () => process.exit(code));
  };
  const fail = ({ code, message }: { readonly code: string; readonly message: string }) =>
    answer(JSON.stringify({ error: { code, message } }), exitCode({ failed: { code, message } }), message);
  worker.on('message', (told: Told) => {
    if ('reading' in told) {
      clearTimeout(limit);
      const ms = readingLimitMs(argv);
      if (told.reading) limit = setTimeout(() => fail(new QuarryError('IMPORT_TIMEOUT', { seconds: ms / 1000 })), ms);
    } else if ('failed' in told) fail(told.failed);
    else answer(JSON.stringify(told.result, null, 2), 0);
  });
  worker.on('error', (e) => {
    process.stderr.write(`${e.stack ?? e.message}\n`);
    fail(
      new QuarryError('INTERNAL', {
        id: fileURLToPath(import.meta.url)
          .split('/')
          .pop()!,
      }),
    );
  });
}
