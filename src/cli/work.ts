import { parentPort } from 'node:worker_threads';
import { QuarryError } from '../core/base/errors.ts';
import { parseArguments } from './arguments.ts';
import type { Told } from './supervise.ts';
import { USAGE } from './usage.ts';
import { VERBS } from './verbs.ts';

/** The thread that does what the command says and tells its supervisor. */
export async function work(): Promise<void> {
  const tell = (told: Told) => parentPort!.postMessage(told);
  try {
    const args = parseArguments(process.argv.slice(2));
    const load = Object.hasOwn(VERBS, args.verb) ? VERBS[args.verb] : undefined;
    if (!load) throw new QuarryError('BAD_USAGE', { text: USAGE });
    const verb = await load();
    tell({ result: await verb(args) });
  } catch (e) {
    if (!(e instanceof QuarryError)) throw e;
    tell({ failed: { code: e.code, message: e.message } });
  }
}
