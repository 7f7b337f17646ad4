// npm run -s quarry -- VERB …: bundles what changed, then runs the command line. Messages go to standard error.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { installPackages } from './install.mjs';

await installPackages();
const { bundle } = await import('./bundle.mjs');
const out = await bundle();
await import(pathToFileURL(join(out, 'quarry.js')).href);
