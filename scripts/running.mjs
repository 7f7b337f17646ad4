// One start for each folder of data: who runs it says so in a file, with its number and where it is served.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';

const fileOf = (home) => join(home, 'running.json');

/** What a process was started as; undefined for one that is gone. */
export function commandOf(pid) {
  try {
    const words = readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ').trim();
    // One that has ended and was not waited for has no words.
    return words || undefined;
  } catch {
    return undefined;
  }
}

/**
 * Takes a folder of data for this process, unless a living start has it.
 * @returns {{ mine: true, servedAt: (address: string) => void, release: () => void } | { mine: false, pid: number, address: string | undefined }}
 */
export function claim(home) {
  mkdirSync(home, { recursive: true });
  const file = fileOf(home);
  for (let attempt = 0; ; attempt++) {
    try {
      writeFileSync(file, JSON.stringify({ pid: process.pid }), { flag: 'wx' });
      break;
    } catch (e) {
      if (e.code !== 'EEXIST' || attempt > 3) throw e;
      const other = readRunning(home);
      if (other && other.pid !== process.pid && commandOf(other.pid)?.includes('start.mjs')) return { mine: false, ...other };
      rmSync(file, { force: true });
    }
  }
  return {
    mine: true,
    servedAt: (address) => writeFileSync(file, JSON.stringify({ pid: process.pid, address })),
    release: () => {
      if (readRunning(home)?.pid === process.pid) rmSync(file, { force: true });
    },
  };
}

function readRunning(home) {
  try {
    const { pid, address } = JSON.parse(readFileSync(fileOf(home), 'utf8'));
    return Number.isInteger(pid) ? { pid, address } : undefined;
  } catch {
    return undefined;
  }
}

/** Where the start that has a folder is served, once it is; undefined when it ended first, or took too long. */
export async function addressOf(home, pid, mostMs = 300_000) {
  for (const end = Date.now() + mostMs; Date.now() < end; await new Promise((r) => setTimeout(r, 250))) {
    const now = readRunning(home);
    if (!now || now.pid !== pid || !commandOf(pid)) return undefined;
    if (now.address) return now.address;
  }
  return undefined;
}

/** Can a port be listened on? */
export const isFree = (port, host) =>
  new Promise((resolve) => {
    const s = createServer();
    s.once('error', () => resolve(false));
    s.listen(port, host, () => s.close(() => resolve(true)));
  });

/** Asks a process to end, and waits until it has, however long that takes; what does not end by itself is made to. */
export async function ended(pid, isIt, { ask = 'SIGTERM', insist = 'SIGKILL', patienceMs = 60_000, say = () => {}, name = 'A process' } = {}) {
  if (!isIt()) return;
  const signal = (s) => {
    try {
      process.kill(pid, s);
    } catch {
      // It ended in between.
    }
  };
  signal(ask);
  const began = Date.now();
  let said = false;
  for (let insisted = false; isIt(); await new Promise((r) => setTimeout(r, 100))) {
    const waited = Date.now() - began;
    if (waited > 3000 && !said) {
      say(`${name} of an earlier start is still ending: waiting for it.`);
      said = true;
    }
    if (waited > patienceMs && !insisted) {
      signal(insist);
      insisted = true;
    }
  }
}

/** The page server of a start that was killed is ended: it would keep the port. */
export async function endLeftoverServer(home, say) {
  const file = join(home, 'server.pid');
  if (!existsSync(file)) return;
  const pid = Number(readFileSync(file, 'utf8'));
  if (Number.isInteger(pid) && pid > 1)
    await ended(pid, () => commandOf(pid)?.includes(join('build', 'app', 'index.js')) ?? false, { say, name: 'The page server', patienceMs: 5000 });
  rmSync(file, { force: true });
}
