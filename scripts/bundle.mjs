// Bundles what Node runs besides the page server: the command line, the worker process, and the threads.
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
const out = join(root, 'build', 'node');

/** Newest change under the folders, as a number that grows. */
export function newest(...folders) {
  let time = 0;
  const visit = (path) => {
    const s = statSync(path);
    if (s.isDirectory()) for (const f of readdirSync(path)) visit(join(path, f));
    else time = Math.max(time, s.mtimeMs);
  };
  for (const f of folders) if (existsSync(join(root, f))) visit(join(root, f));
  return time;
}

const ENTRIES = {
  'kernel.thread': 'src/kernel/kernel.thread.ts',
  'geometry.thread': 'src/server/queue/geometry.thread.ts',
  quarry: 'src/cli/main.ts',
  worker: 'src/server/queue/worker-process.ts',
  migrate: 'src/server/database/migrate.ts',
  demo: 'src/server/demo.ts',
};

const COMMAND_LINE = 'quarry';

/** Bundles if anything under src is newer than the last bundle. */
export async function bundle({ force = false } = {}) {
  const stamp = join(out, '.stamp');
  const now = String(newest('src', 'scripts/bundle.mjs'));
  if (!force && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return out;
  const { build } = await import('esbuild');
  const all = Object.entries(ENTRIES).filter(([, f]) => existsSync(join(root, f)));
  for (const f of existsSync(out) ? readdirSync(out) : []) if (f.startsWith('chunk')) rmSync(join(out, f), { recursive: true });
  const options = {
    absWorkingDir: root,
    outdir: out,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    sourcemap: 'linked',
    logLevel: 'warning',
  };
  // Threads are files of their own: they are loaded whole, and again and again.
  await build({ ...options, entryPoints: Object.fromEntries(all.filter(([name]) => name !== COMMAND_LINE)) });
  // What a command does not need is not loaded. Pieces stand beside the entry: they find the threads by their place.
  await build({ ...options, entryPoints: Object.fromEntries(all.filter(([name]) => name === COMMAND_LINE)), splitting: true, chunkNames: 'chunk-[hash]' });
  // What pages that stand alone carry with them to show a model.
  await build({
    ...options,
    entryPoints: { viewer: 'src/viewer/index.ts' },
    platform: 'browser',
    target: 'es2022',
    format: 'iife',
    packages: 'bundle',
    minify: true,
    sourcemap: false,
  });
  mkdirSync(out, { recursive: true });
  writeFileSync(stamp, now);
  return out;
}

/** Bundles one entry that is no part of the product, and runs it. */
export async function runBundled(entry, name) {
  const { build } = await import('esbuild');
  const outfile = join(out, name);
  await build({
    entryPoints: [join(root, entry)],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  });
  await import(pathToFileURL(outfile).href);
}
