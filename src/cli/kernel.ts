import { fileURLToPath } from 'node:url';
import { isStep } from '../formats/readers/file-groups.ts';
import { KernelHost } from '../kernel/host.ts';

/** One warm kernel for all the files of a command; it ends with the program. */
let host: KernelHost | undefined;

export const kernel = (): KernelHost => (host ??= new KernelHost(fileURLToPath(new URL('./kernel.thread.js', import.meta.url))));

/** Starts the kernel where a command names a STEP file: that takes longer than all that is loaded beside it. */
export function warmKernel(argv: readonly string[]): void {
  if (argv.some((a) => !a.startsWith('--') && isStep(a))) kernel().warm();
}
