// npm start: sets up what is missing, starts the database, loads the demo, serves. Ctrl-C stops everything.
import { join } from 'node:path';
import { ensurePostgres, installPackages, root, say } from './install.mjs';
import { freePort, startCluster } from './cluster.mjs';

const began = performance.now();
ensurePostgres();
await installPackages();
const { buildAll } = await import('./build.mjs');
const { environmentFor, runNode, startServer } = await import('./serve.mjs');
await buildAll();
const cluster = await startCluster(join(root, 'data'));
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
  runNode('demo.js', [], env);
  server = await startServer(env);
  console.log(`Nimble Quarry is ready at ${server.address} (after ${((performance.now() - began) / 1000).toFixed(1)} s). Ctrl-C stops it.`);
  void server.gone.then(() => stop(1));
} catch (e) {
  say(String(e instanceof Error ? e.message : e));
  await stop(1);
}
