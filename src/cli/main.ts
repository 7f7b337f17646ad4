import { isMainThread } from 'node:worker_threads';
import { supervise } from './supervise.ts';
import { work } from './work.ts';

// The same file is the program and its thread.
if (isMainThread) supervise();
else await work();
