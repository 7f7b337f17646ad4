import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, expect, test } from 'vitest';
import { without } from '../src/core/base/without.ts';
// @ts-expect-error -- scripts without types
import { isServed as untypedServed, startCluster as untyped } from './cluster.mjs';

interface Cluster {
  readonly url: string;
  stop(): Promise<void>;
}
const startCluster = untyped as (folder: string, o: { quick: boolean }) => Promise<Cluster>;
const isServed = untypedServed as (folder: string) => number | undefined;

const home = mkdtempSync(join(tmpdir(), 'q-backup-'));
afterAll(() => rmSync(home, { recursive: true, force: true }));
const file = join(home, 'all.backup');
const env = { ...without(process.env, 'DATABASE_URL'), QUARRY_DATA: home };
const run = (script: string, ...args: string[]) => spawnSync(process.execPath, [join('scripts', script), ...args], { env, encoding: 'utf8' });

/** Does something with the database of the folder, and stops it. */
async function withDatabase<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  const cluster = await startCluster(home, { quick: true });
  const client = new pg.Client({ connectionString: cluster.url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
    await cluster.stop();
  }
}
const kept = () => withDatabase(async (c) => (await c.query<{ t: string }>('select t from kept order by t')).rows.map((r) => r.t));

test('a backup brings back exactly what was kept; one that is broken changes nothing; what is served is not replaced', async () => {
  await withDatabase(async (c) => {
    await c.query('create table kept (t text)');
    await c.query("insert into kept values ('a'), ('b')");
    // While it is served a backup is made all the same.
    expect(isServed(home)).toBeGreaterThan(0);
    const made = run('backup.mjs', file);
    expect([made.status, made.stdout]).toEqual([0, expect.stringContaining('MB')]);
    const refused = run('restore.mjs', file);
    expect([refused.status, refused.stderr]).toEqual([2, expect.stringContaining('Stop npm start first')]);
    await c.query("delete from kept where t = 'a'");
    await c.query("insert into kept values ('later')");
  });
  expect(isServed(home)).toBeUndefined();
  writeFileSync(join(home, 'broken'), 'no backup at all');
  const broken = run('restore.mjs', join(home, 'broken'));
  expect([broken.status, broken.stderr]).toEqual([1, expect.stringContaining('nothing was changed')]);
  expect(await kept()).toEqual(['b', 'later']);
  expect(run('restore.mjs', file).status).toBe(0);
  expect(await kept()).toEqual(['a', 'b']);
  // … and when nothing is served.
  expect(run('backup.mjs', join(home, 'again.backup')).status).toBe(0);
  expect(run('backup.mjs').status).toBe(2);
  expect(run('restore.mjs', join(home, 'not there')).status).toBe(2);
}, 120_000);
