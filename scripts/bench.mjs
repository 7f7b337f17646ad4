// npm run bench -- outline|cut|import|explode|sheet: prints one JSON line per case, ratios measured in the same run.
import { installPackages } from './install.mjs';

await installPackages();
if (process.argv[2] === 'sheet') {
  const { benchSheet } = await import('./bench-sheet.mjs');
  await benchSheet();
} else {
  const { bundle, runBundled } = await import('./bundle.mjs');
  await bundle();
  await runBundled('bench/main.ts', 'bench.js');
}
