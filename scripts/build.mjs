// Builds the pages and bundles the threads, if anything changed since the last build.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { installPackages, root, run, say } from './install.mjs';

export async function buildAll() {
  await installPackages();
  const { bundle, newest } = await import('./bundle.mjs');
  const stamp = join(root, 'build', 'app', '.stamp');
  const now = String(newest('src', 'static', 'svelte.config.js', 'vite.config.ts', 'package-lock.json'));
  if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== now) {
    say('Building …');
    run(process.execPath, [join(root, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'error']);
    writeFileSync(stamp, now);
  }
  await bundle();
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await buildAll();
