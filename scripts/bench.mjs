// npm run bench -- outline|cut|import|explode: prints one JSON line per case, ratios measured in the same run.
import { installPackages } from './install.mjs';

await installPackages();
const { bundle, runBundled } = await import('./bundle.mjs');
await bundle();
await runBundled('bench/main.ts', 'bench.js');
