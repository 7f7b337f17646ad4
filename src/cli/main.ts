import { isMainThread } from 'node:worker_threads';
import { warmKernel } from './kernel.ts';
import { supervise } from './supervise.ts';

// The same file is the program and its thread. The thread starts the kernel before it loads what it does with it.
if (isMainThread) supervise();
else {
  warmKernel(process.argv.slice(2));
  const { work } = await import('./work.ts');
  await work();
}
