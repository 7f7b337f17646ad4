// npm run bench -- outline|cut|import|items: prints one JSON line per case, ratios measured in the same run.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { installPackages, root } from './install.mjs';

await installPackages();
const { bundle } = await import('./bundle.mjs');
await bundle();
const { build } = await import('esbuild');
const outfile = join(root, 'build', 'node', 'bench.js');
await build({
  entryPoints: [join(root, 'bench', 'main.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  logLevel: 'warning',
});
await import(pathToFileURL(outfile).href);
