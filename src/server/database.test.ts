import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { eq, sql } from 'drizzle-orm';
import { BLANK_DRAWING, type DrawingDocument, type DrawingRecord } from '../core/document/records.ts';
import { assemblyOf, box } from '../core/testing/shapes.ts';
import { viewRecord } from '../core/testing/records.ts';
import { closeDatabase, getDatabase } from './database/client.ts';
import { migrateAll } from './database/migrate.ts';
import { job } from './database/schema.ts';
import { appendEdit, editsSince, redo, undo, undoState } from './services/edits.ts';
import { queueStaleViews } from './services/view-requests.ts';
import { isWanted, keyedViews, storeResults } from './services/views.ts';
import { readyJob as jobWith } from './testing/ready-job.ts';
import { cancelJob, createJob, jobSummary } from './services/jobs.ts';
import { loadDrawing } from './services/documents.ts';

// The real database: scripts/test.mjs starts one of its own and names it here.
const drawing: DrawingRecord = { ...BLANK_DRAWING, title: 'First' };
const document: DrawingDocument = { drawing, 'sheet:1': { type: 'sheet', id: 'sheet:1', order: 1, name: 'GA', size: 'A3', landscape: true } };
const retitle = (title: string) => [{ op: 'put' as const, record: { ...drawing, title } }];
const title = async (id: string) => ((await loadDrawing(id)).document['drawing'] as DrawingRecord).title;

const { assembly } = assemblyOf([{ name: 'a', geometry: box([0, 0, 0], [1, 1, 1]) }]);
const readyJob = () => jobWith(assembly, document);

beforeAll(migrateAll);
afterAll(closeDatabase);

describe('edits', () => {
  test('raise the version; undo and redo turn them back and bring them back, read from the log alone', async () => {
    const id = await readyJob();
    expect(await appendEdit(id, 1, 'Title', retitle('Second'))).toMatchObject({ version: 2, canUndo: true, canRedo: false });
    await appendEdit(id, 2, 'Title', retitle('Third'));
    expect(await undo(id, 3)).toMatchObject({ version: 4, canUndo: true, canRedo: true });
    expect(await title(id)).toBe('Second');
    await undo(id, 4);
    expect(await title(id)).toBe('First');
    await expect(undo(id, 5)).rejects.toMatchObject({ code: 'NOTHING_TO_UNDO' });
    await redo(id, 5);
    await redo(id, 6);
    expect(await title(id)).toBe('Third');
    await expect(redo(id, 7)).rejects.toMatchObject({ code: 'NOTHING_TO_REDO' });
    await undo(id, 7);
    await appendEdit(id, 8, 'Title', retitle('Other'));
    expect(await undoState(id)).toEqual({ canUndo: true, canRedo: false });
    await undo(id, 9);
    expect(await title(id)).toBe('Second');
  });

  test('queue, once, the drawing anew of what they make out of date; views that are not stored are queued then', async () => {
    const id = await readyJob();
    const queued = async (key: string) =>
      (await getDatabase().execute<{ key: string }>(sql`select key from graphile_worker.jobs where key like ${key}`)).rows.length;
    await appendEdit(id, 1, 'Title', retitle('Second'));
    await appendEdit(id, 2, 'Title', retitle('Third'));
    expect(await queued(`stale:${id}`)).toBe(1);
    const record = viewRecord({ id: 'view:front', scale: 1 });
    await appendEdit(id, 3, 'View', [{ op: 'put', record }]);
    const { assembly, document: now } = await loadDrawing(id);
    const [keyed] = keyedViews(assembly, now);
    await queueStaleViews(id);
    expect(await queued(`view:${keyed!.key}`)).toBe(1);
    await getDatabase().execute(sql`delete from graphile_worker._private_jobs where key = ${`view:${keyed!.key}`}`);
    await storeResults([[keyed!.key, { data: new Uint8Array([1]), seen: new Uint8Array() }]]);
    await queueStaleViews(id);
    expect(await queued(`view:${keyed!.key}`)).toBe(0);
    // Undone, nobody wants to see it: what computes it stops.
    expect(await isWanted(id, keyed!.key)).toBe(true);
    await undo(id, 4);
    expect(await isWanted(id, keyed!.key)).toBe(false);
  });

  test('made on an old version are refused and change nothing', async () => {
    const id = await readyJob();
    await appendEdit(id, 1, 'Title', retitle('Mine'));
    await expect(appendEdit(id, 1, 'Title', retitle('Yours'))).rejects.toMatchObject({ code: 'STALE_VERSION', details: { have: 1, now: 2 } });
    expect(await title(id)).toBe('Mine');
    expect((await editsSince(id, 1)).map((e) => e.version)).toEqual([2]);
  });

  test('of two at the same moment one wins and the other is told', async () => {
    const id = await readyJob();
    const results = await Promise.allSettled([appendEdit(id, 1, 'Title', retitle('A')), appendEdit(id, 1, 'Title', retitle('B'))]);
    expect(results.map((r) => r.status).sort()).toEqual(['fulfilled', 'rejected']);
    expect((await jobSummary(id)).version).toBe(2);
  });

  test('a change sent again after a lost answer is made once', async () => {
    const id = await readyJob();
    const token = crypto.randomUUID();
    const first = await appendEdit(id, 1, 'Title', retitle('Once'), token);
    expect(await appendEdit(id, 1, 'Title', retitle('Once'), token)).toEqual(first);
    const back = crypto.randomUUID();
    await undo(id, 2, back);
    expect(await undo(id, 2, back)).toMatchObject({ version: 3 });
    expect((await editsSince(id, 1)).map((e) => e.kind)).toEqual(['edit', 'undo']);
  });

  test('that do not fit are refused as a whole', async () => {
    const id = await readyJob();
    await expect(appendEdit(id, 1, 'Both', [...retitle('Half'), { op: 'drop', id: 'nothing' }])).rejects.toMatchObject({ code: 'STEP_DOES_NOT_FIT' });
    expect(await title(id)).toBe('First');
  });
});

describe('jobs', () => {
  const bytes = new Uint8Array(readFileSync(join(process.cwd(), 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp')));
  const work = (): ChildProcess =>
    spawn(process.execPath, [join(process.cwd(), 'build/node/worker.js')], { stdio: 'ignore', env: { ...process.env, QUARRY_ROOT: process.cwd() } });
  const until = async (id: string, wanted: (s: Awaited<ReturnType<typeof jobSummary>>) => boolean) => {
    for (let i = 0; i < 900; i++) {
      const s = await jobSummary(id);
      if (wanted(s)) return s;
      await new Promise((r) => setTimeout(r, 100));
    }
    throw new Error('waited too long');
  };

  test('a job in the queue is cancelled at once', async () => {
    const id = await createJob({ title: 'x', files: [{ name: 'a.stp', bytes }] });
    await cancelJob(id);
    expect(await jobSummary(id)).toMatchObject({ state: 'cancelled', errorCode: 'CANCELLED' });
  });

  test('a job survives a killed worker: another one takes it up and finishes it', async () => {
    const id = await createJob({ title: 'x', files: [{ name: 'a.stp', bytes }] });
    const first = work();
    await until(id, (s) => s.state === 'working');
    first.kill('SIGKILL');
    const second = work();
    try {
      expect(await until(id, (s) => s.state !== 'working')).toMatchObject({ components: 18, parts: 5 });
      expect(await until(id, (s) => s.state === 'ready')).toMatchObject({ version: 2 });
    } finally {
      second.kill('SIGTERM');
    }
  });

  test('first sheets stand while the others are drawn: what is changed meanwhile stays, and another worker goes on where one was killed', async () => {
    const id = await createJob({ title: 'x', files: [{ name: 'a.stp', bytes }] });
    const first = work();
    await until(id, (s) => s.state === 'drafting');
    first.kill('SIGKILL');
    const early = (await loadDrawing(id)).document;
    expect(early['view:front']).toBeDefined();
    expect(early['view:exploded']).toBeUndefined();
    const own = early['drawing'] as DrawingRecord;
    await appendEdit(id, 1, 'Title', [{ op: 'put', record: { ...own, title: 'Mine' } }]);
    const second = work();
    try {
      expect(await until(id, (s) => s.state === 'ready')).toMatchObject({ version: 3, title: 'Mine' });
    } finally {
      second.kill('SIGTERM');
    }
    const { document: whole } = await loadDrawing(id);
    expect(whole['view:exploded']).toMatchObject({ spread: 'spread:1' });
    // Undo takes back what the drafter did, not what was drawn.
    await undo(id, 3);
    expect(await title(id)).toBe(own.title);
    expect((await loadDrawing(id)).document['view:exploded']).toBeDefined();
  });

  test('stopped while the rest is drawn, the first sheets stay', async () => {
    const id = await createJob({ title: 'x', files: [{ name: 'a.stp', bytes }] });
    const worker = work();
    try {
      await until(id, (s) => s.state === 'drafting');
      await cancelJob(id);
      await until(id, (s) => s.state === 'ready');
      expect((await loadDrawing(id)).document['view:front']).toBeDefined();
    } finally {
      worker.kill('SIGTERM');
    }
  });

  test('a file the reader refuses ends in its sentence, and the worker goes on to the next', async () => {
    const bad = await createJob({ title: 'bad', files: [{ name: 'bad.stp', bytes: bytes.slice(0, 5000) }] });
    const cube = new Uint8Array(readFileSync(join(process.cwd(), 'node_modules/occt-import-js/test/testfiles/cube-units/cube-mm.step')));
    const good = await createJob({ title: 'good', files: [{ name: 'cube.step', bytes: cube }] });
    const worker = work();
    try {
      expect(await until(bad, (s) => s.state === 'failed')).toMatchObject({ errorCode: 'FILE_TRUNCATED' });
      await until(good, (s) => s.state === 'ready');
    } finally {
      worker.kill('SIGTERM');
    }
    await getDatabase().delete(job).where(eq(job.id, bad));
  });
});
