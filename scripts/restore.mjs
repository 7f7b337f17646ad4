// npm run restore -- FILE: what a backup holds takes the place of what is kept now. Only all of it, or nothing.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensurePostgres, root, say } from './install.mjs';
import { isServed, startCluster } from './cluster.mjs';

const [file] = process.argv.slice(2);
const refuse = (sentence, code = 2) => {
  say(sentence);
  process.exit(code);
};
if (!file) refuse('Say which backup: npm run restore -- FILE');
if (!existsSync(file)) refuse(`There is no file ${file}.`);
const home = process.env.QUARRY_DATA ?? join(root, 'data');
if (isServed(home)) refuse('Stop npm start first: what is served cannot be replaced.');
const bin = ensurePostgres();
const cluster = await startCluster(home);
const run = (tool, ...args) =>
  spawnSync(join(bin, tool), ['-h', '127.0.0.1', '-p', String(cluster.port), '-U', 'quarry', ...args], {
    stdio: ['ignore', 'ignore', 'pipe'],
    encoding: 'utf8',
  });
const sql = (text) => run('psql', '-d', 'postgres', '-v', 'ON_ERROR_STOP=1', '-c', text);
// Beside what is there: that goes only when all has come.
sql('drop database if exists coming');
const steps = [
  () => run('createdb', 'coming'),
  () => run('pg_restore', '--no-owner', '--exit-on-error', '-d', 'coming', resolve(file)),
  () => sql('drop database if exists replaced'),
  () => sql('alter database quarry rename to replaced'),
  () => sql('alter database coming rename to quarry'),
  () => sql('drop database replaced'),
];
let failed;
for (const step of steps) {
  const r = step();
  if (r.status !== 0) {
    failed = r.stderr.trim();
    break;
  }
}
if (failed) sql('drop database if exists coming');
await cluster.stop();
if (failed) refuse(`The backup could not be read, and nothing was changed: ${failed.split('\n')[0]}`, 1);
console.log('Brought back. npm start serves it; what an older version kept is carried over then.');
