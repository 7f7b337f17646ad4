// npm run backup -- FILE: everything that is kept (jobs, drawings, files, geometry, issues) in one file, while it is served or not.
import { spawnSync } from 'node:child_process';
import { statSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensurePostgres, root, say } from './install.mjs';
import { isServed, startCluster } from './cluster.mjs';

const [file] = process.argv.slice(2);
if (!file) {
  say('Say where it goes: npm run backup -- FILE');
  process.exit(2);
}
const home = process.env.QUARRY_DATA ?? join(root, 'data');
const bin = ensurePostgres();
const served = isServed(home);
const cluster = served ? undefined : await startCluster(home);
const port = served ?? cluster.port;
const r = spawnSync(join(bin, 'pg_dump'), ['-h', '127.0.0.1', '-p', String(port), '-U', 'quarry', '-Fc', '-f', resolve(file), 'quarry'], {
  stdio: ['ignore', 'ignore', 'pipe'],
  encoding: 'utf8',
});
await cluster?.stop();
if (r.status !== 0) {
  say(`The backup failed: ${r.stderr.trim()}`);
  process.exit(1);
}
console.log(`${file}: ${(statSync(file).size / 1e6).toFixed(1)} MB. npm run restore -- ${file} brings it back.`);
