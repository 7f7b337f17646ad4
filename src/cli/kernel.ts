import { fileURLToPath } from 'node:url';
import { isStep } from '../formats/readers/file-groups.ts';
import { KernelHost } from '../kernel/host.ts';

/** One warm kernel for all the files of a command; it ends with the program. */
let host: KernelHost | undefined;
/** What reads files instead of it. */
let other: Pick<KernelHost, 'import'> | undefined;

/** Files are read by another one from here on: tests read each once. */
export const useKernel = (instead: Pick<KernelHost, 'import'>): void => {
  other = instead;
};

/** What reads STEP files. */
export const reader = (): Pick<KernelHost, 'import'> => other ?? kernel();

export const kernel = (): KernelHost => (host ??= new KernelHost(fileURLToPath(new URL('./kernel.thread.js', import.meta.url))));

/** Starts the kernel where a command names a STEP file: that takes longer than all that is loaded beside it. */
export function warmKernel(argv: readonly string[]): void {
  if (argv.some((a) => !a.startsWith('--') && isStep(a))) kernel().warm();
}
