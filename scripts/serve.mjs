// Runs the built application against a database.
import { spawn, spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './install.mjs';

export function environmentFor(databaseUrl, port, extra = {}) {
  return {
    ...process.env,
    DATABASE_URL: databaseUrl,
    QUARRY_ROOT: root,
    HOST: process.env.HOST ?? '127.0.0.1',
    PORT: String(port),
    BODY_SIZE_LIMIT: `${Number(process.env.QUARRY_MAX_UPLOAD_MB ?? 200) + 2}M`,
    SHUTDOWN_TIMEOUT: '3',
    ...extra,
  };
}

export function runNode(script, args, env) {
  const r = spawnSync(process.execPath, [join(root, 'build', 'node', script), ...args], { cwd: root, env, stdio: ['ignore', 2, 2] });
  if (r.status !== 0) throw new Error(`${script} failed`);
}

/** Starts the page server; resolves when it answers. @param {string} [pidFile] where its number is written, for who looks after it */
export async function startServer(env, pidFile) {
  const server = spawn(process.execPath, [join(root, 'build', 'app', 'index.js')], { cwd: root, env, stdio: ['ignore', 'ignore', 'inherit'], detached: true });
  if (pidFile) writeFileSync(pidFile, String(server.pid));
  const address = `http://127.0.0.1:${env.PORT}`;
  let exited = false;
  const gone = new Promise((resolve) => server.once('exit', () => resolve((exited = true))));
  for (let i = 0; i < 400; i++) {
    if (exited) throw new Error('it ended before it answered.');
    try {
      if ((await fetch(`${address}/api/health`)).ok) break;
    } catch {
      // Not listening yet.
    }
    await new Promise((r) => setTimeout(r, 50));
    if (i === 399) {
      server.kill('SIGKILL');
      throw new Error('it does not answer.');
    }
  }
  return {
    address,
    pid: server.pid,
    gone,
    async stop() {
      if (exited) return;
      server.kill('SIGTERM');
      const late = setTimeout(() => server.kill('SIGKILL'), 8000);
      await gone;
      clearTimeout(late);
    },
  };
}
