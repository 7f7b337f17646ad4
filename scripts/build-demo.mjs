// Rebuilds demo/*.step with the kernel.
import { runBundled } from './bundle.mjs';

await runBundled('demo/build.ts', 'build-demo.js');
