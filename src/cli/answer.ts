import { QuarryError } from '../core/base/errors.ts';
import { parseArguments } from './arguments.ts';
import { USAGE } from './usage.ts';
import { VERBS } from './verbs.ts';

/** How a command ended: with its result, or with what was wrong. */
export type Answer = { readonly result: unknown } | { readonly failed: { readonly code: string; readonly message: string } };

/** Does what a command says. @param argv the words after the program's name @throws what is no fault of the input */
export async function answer(argv: readonly string[]): Promise<Answer> {
  try {
    const args = parseArguments([...argv]);
    const load = Object.hasOwn(VERBS, args.verb) ? VERBS[args.verb] : undefined;
    if (!load) throw new QuarryError('BAD_USAGE', { text: USAGE });
    const verb = await load();
    return { result: await verb(args) };
  } catch (e) {
    if (!(e instanceof QuarryError)) throw e;
    return { failed: { code: e.code, message: e.message } };
  }
}

/** The exit code of an answer: 0, or 2 for wrong use, or 3. */
export const exitCode = (a: Answer): number => ('result' in a ? 0 : a.failed.code === 'BAD_USAGE' ? 2 : 3);
