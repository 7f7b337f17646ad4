// npm start: sets up what is missing, starts the database, loads the demo, serves. Ctrl-C stops everything.
import { join } from 'node:path';
import { ensurePostgres, installPackages, root, say } from './install.mjs';
import { freePort, startCluster } from './cluster.mjs';
import { addressOf, claim, endLeftoverServer, isFree } from './running.mjs';
import { keepUp } from './watch.mjs';

const began = performance.now();
const home = process.env.QUARRY_DATA ?? join(root, 'data');
const claimed = claim(home);
if (!claimed.mine) {
  const address = claimed.address ?? (say('Nimble Quarry is being started here already: waiting for it.'), await addressOf(home, claimed.pid));
  console.log(address ? `Nimble Quarry runs already at ${address} (process ${claimed.pid}).` : 'The other start ended: run npm start once more.');
  process.exit(address ? 0 : 1);
}
// Whatever ends this process leaves the folder to the next start.
process.on('exit', claimed.release);
await endLeftoverServer(home, say);
const host = process.env.HOST ?? '127.0.0.1';
if (process.env.PORT && !(await isFree(Number(process.env.PORT), host))) {
  say(`Port ${process.env.PORT} is taken by another program: choose another one with PORT=…, or leave it out.`);
  process.exit(1);
}
ensurePostgres();
await installPackages();
const { buildAll } = await import('./build.mjs');
const { environmentFor, runNode, startServer } = await import('./serve.mjs');
await buildAll();
const cluster = await startCluster(home);
let server;
let stopping = false;
async function stop(code) {
  if (stopping) return;
  stopping = true;
  await server?.stop();
  await cluster.stop();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
try {
  const port = process.env.PORT ?? (await freePort());
  const env = environmentFor(cluster.url, port, { QUARRY_LOG: process.env.QUARRY_LOG ?? 'warn' });
  runNode('migrate.js', [], env);
  if (process.env.QUARRY_DEMO !== 'no') runNode('demo.js', [], env);
  server = await keepUp({ name: 'The page server', start: () => startServer(env, join(home, 'server.pid')), say });
  const address = `http://127.0.0.1:${port}`;
  claimed.servedAt(address);
  console.log(`Nimble Quarry is ready at ${address} (after ${((performance.now() - began) / 1000).toFixed(1)} s). Ctrl-C stops it.`);
  void Promise.race([server.gaveUp, cluster.gaveUp]).then(() => stop(1));
} catch (e) {
  say(String(e instanceof Error ? e.message : e));
  await stop(1);
}
