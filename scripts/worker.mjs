// npm run worker: works the queue of the database at DATABASE_URL, here or on any other machine.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { installPackages, root, say } from './install.mjs';

if (!process.env.DATABASE_URL) {
  say('Give the address of the database: DATABASE_URL=postgres://… npm run worker');
  process.exit(2);
}
await installPackages();
const { bundle } = await import('./bundle.mjs');
process.env.QUARRY_ROOT ??= root;
await import(pathToFileURL(join(await bundle(), 'worker.js')).href);
