// Installs what is missing. Plain Node: it runs before any package is there.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Tells how things stand; never on standard output, which belongs to the programs. */
export const say = (text) => process.stderr.write(`${text}\n`);

export function run(command, args, options = {}) {
  const r = spawnSync(command, args, { cwd: root, stdio: ['ignore', 2, 2], ...options });
  if (r.status !== 0) throw new Error(`${command} ${args.join(' ')} failed`);
}

/**
 * The packages of the lock file, if it changed since the last time. `npm ci` also wants the optional packages of other
 * platforms to be in the lock file; a registry that does not carry them all leaves gaps there, and then `npm install`
 * brings the same versions.
 */
export async function installPackages() {
  const file = join(root, 'package-lock.json');
  const lock = readFileSync(file);
  const hash = createHash('sha256').update(lock).digest('hex');
  const stamp = join(root, 'node_modules', '.lock-hash');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return;
  say('Installing packages …');
  const clean = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel', 'error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'pipe'],
    encoding: 'utf8',
  });
  if (clean.status !== 0) {
    if (!clean.stderr.includes('EUSAGE')) say(clean.stderr);
    run('npm', ['install', '--no-audit', '--no-fund', '--loglevel', 'error'], { stdio: ['ignore', 'ignore', 2] });
    writeFileSync(file, lock);
  }
  writeFileSync(stamp, hash);
}

const isRoot = () => process.getuid?.() === 0;

/** Debian packages by name; as an ordinary user one clear sentence instead. */
export function installDebian(packages, what) {
  if (!isRoot()) {
    say(`${what} is missing. Install it with: sudo apt-get install ${packages.join(' ')}`);
    process.exit(1);
  }
  say(`Installing ${what} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update', '-qq'], { env });
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], { env, stdio: ['ignore', 'ignore', 2] });
}

/** Folder with initdb, pg_ctl and postgres. */
export function findPostgres() {
  const at = (dir) => (existsSync(join(dir, 'initdb')) && existsSync(join(dir, 'postgres')) ? dir : undefined);
  for (const version of ['17', '16', '15', '14']) {
    const found = at(`/usr/lib/postgresql/${version}/bin`);
    if (found) return found;
  }
  for (const dir of (process.env.PATH ?? '').split(':')) if (dir && at(dir)) return dir;
  return undefined;
}

export function ensurePostgres() {
  let dir = findPostgres();
  if (!dir) {
    installDebian(['postgresql'], 'PostgreSQL');
    dir = findPostgres();
  }
  if (!dir) throw new Error('PostgreSQL was installed but its programs were not found.');
  return dir;
}

export const findChromium = () => ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].find((f) => existsSync(f));

export function ensureChromium() {
  if (!findChromium()) installDebian(['chromium'], 'Chromium');
  return findChromium();
}

export function ensurePoppler() {
  if (!existsSync('/usr/bin/pdftotext')) installDebian(['poppler-utils'], 'poppler-utils');
}
