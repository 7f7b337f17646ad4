import { parentPort } from 'node:worker_threads';
import { answer } from './answer.ts';

/** The thread that does what the command says and tells its supervisor. */
export async function work(): Promise<void> {
  parentPort!.postMessage(await answer(process.argv.slice(2)));
}
