// A PostgreSQL cluster of our own: loopback, free port, data in a folder of the project. Never touches another one.
import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, chownSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { ensurePostgres, say } from './install.mjs';
import { commandOf, ended } from './running.mjs';
import { keepUp } from './watch.mjs';

export const freePort = () =>
  new Promise((resolve, reject) => {
    const s = createServer();
    s.on('error', reject);
    s.listen(0, '127.0.0.1', () => {
      const { port } = s.address();
      s.close(() => resolve(port));
    });
  });

const isRoot = () => process.getuid?.() === 0;

/** uid and gid of the user the server runs as: it refuses root. */
function serverUser() {
  if (!isRoot()) return undefined;
  const line = readFileSync('/etc/passwd', 'utf8')
    .split('\n')
    .find((l) => l.startsWith('postgres:'));
  if (!line) throw new Error('There is no user “postgres”: install PostgreSQL from Debian’s packages.');
  const [, , uid, gid] = line.split(':');
  return { uid: Number(uid), gid: Number(gid) };
}

/** As root the postgres user must be able to pass through every parent folder; where it cannot, data goes to /var/lib. */
function placeFor(folder, user) {
  if (!user) return folder;
  mkdirSync(folder, { recursive: true });
  const test = spawnSync('setpriv', [`--reuid=${user.uid}`, `--regid=${user.gid}`, '--clear-groups', 'test', '-x', folder], { cwd: '/' });
  if (test.status === 0) return folder;
  const other = join('/var/lib/nimble-quarry', Buffer.from(folder).toString('hex').slice(-24));
  say(`The database user cannot reach ${folder}: using ${other}.`);
  return other;
}

/**
 * Makes the cluster if there is none and starts it.
 * It is kept up: what kills it has it started again on the same port.
 * @returns {Promise<{ url: string, gaveUp: Promise<void>, stop: () => Promise<void> }>}
 */
export async function startCluster(folder, { quick = false } = {}) {
  const bin = ensurePostgres();
  const user = serverUser();
  const home = placeFor(folder, user);
  const data = join(home, 'pg');
  mkdirSync(home, { recursive: true });
  const as = (command, args) => (user ? ['setpriv', [`--reuid=${user.uid}`, `--regid=${user.gid}`, '--init-groups', '--', command, ...args]] : [command, args]);
  if (!existsSync(join(data, 'PG_VERSION'))) {
    rmSync(data, { recursive: true, force: true });
    mkdirSync(data, { mode: 0o700 });
    if (user) {
      chownSync(data, user.uid, user.gid);
      chmodSync(home, 0o755);
    }
    const [c, a] = as(join(bin, 'initdb'), ['-D', data, '-U', 'quarry', '-A', 'trust', '-E', 'UTF8', '--locale=C.UTF-8', ...(quick ? ['--no-sync'] : [])]);
    const r = spawnSync(c, a, { cwd: '/', stdio: ['ignore', 'pipe', 'pipe'], encoding: 'utf8' });
    if (r.status !== 0) throw new Error(`initdb failed: ${r.stderr}`);
  }
  const port = await freePort();
  const args = [
    '-D',
    data,
    '-p',
    String(port),
    '-c',
    'listen_addresses=127.0.0.1',
    '-c',
    `unix_socket_directories=${data}`,
    '-c',
    'max_connections=100',
    ...(quick ? ['-c', 'fsync=off', '-c', 'full_page_writes=off'] : []),
  ];
  const [c, a] = as(join(bin, 'postgres'), args);
  const startPostmaster = async () => {
    await endLeftover(data);
    // A group of its own: Ctrl-C reaches us first, and we stop it in order.
    const server = spawn(c, a, { cwd: '/', stdio: ['ignore', 'ignore', 'pipe'], detached: true });
    let noise = '';
    server.stderr.on('data', (d) => (noise = (noise + d).slice(-4000)));
    const gone = new Promise((resolve) => server.once('exit', resolve));
    for (let i = 0; ; i++) {
      const ready = spawnSync(join(bin, 'pg_isready'), ['-h', '127.0.0.1', '-p', String(port), '-q']);
      if (ready.status === 0) break;
      if (server.exitCode !== null || i > 600) throw new Error(`PostgreSQL did not start: ${noise}`);
      await new Promise((r) => setTimeout(r, 50));
    }
    return {
      gone,
      pid: server.pid,
      async stop() {
        if (server.exitCode !== null || server.signalCode !== null) return;
        server.kill('SIGINT');
        const late = setTimeout(() => server.kill('SIGQUIT'), 8000);
        await gone;
        clearTimeout(late);
      },
    };
  };
  const postmaster = await keepUp({ name: 'The database', start: startPostmaster, say });
  // Says so and goes on when it is there.
  const createDatabase = (name) => spawnSync(join(bin, 'createdb'), ['-h', '127.0.0.1', '-p', String(port), '-U', 'quarry', name], { stdio: 'ignore' });
  createDatabase('quarry');
  writeFileSync(join(home, 'port'), String(port));
  return {
    port,
    bin,
    url: `postgres://quarry@127.0.0.1:${port}/quarry`,
    createDatabase,
    gaveUp: postmaster.gaveUp,
    stop: () => postmaster.stop(),
  };
}

/** A server of ours that outlived a killed start is ended; the lock file names it. */
async function endLeftover(data) {
  const lock = join(data, 'postmaster.pid');
  if (!existsSync(lock)) return;
  const pid = Number(readFileSync(lock, 'utf8').split('\n')[0]);
  // Fast shutdown writes out what is in memory: under load that takes its time.
  await ended(pid, () => commandOf(pid)?.includes(data) ?? false, { ask: 'SIGINT', insist: 'SIGQUIT', say, name: 'The database' });
}

/** Is a cluster of this folder served now? A program that runs it must not be worked under. */
export function isServed(folder) {
  const data = join(placeFor(folder, serverUser()), 'pg');
  const lock = join(data, 'postmaster.pid');
  if (!existsSync(lock)) return undefined;
  const [pid, , , port] = readFileSync(lock, 'utf8').split('\n');
  try {
    process.kill(Number(pid), 0);
    return Number(port);
  } catch {
    return undefined;
  }
}
