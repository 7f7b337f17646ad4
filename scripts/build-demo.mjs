// Rebuilds demo/*.step with the kernel.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { root } from './install.mjs';

const outfile = join(root, 'build', 'node', 'build-demo.js');
await build({
  entryPoints: [join(root, 'demo', 'build.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  logLevel: 'warning',
});
await import(pathToFileURL(outfile).href);
