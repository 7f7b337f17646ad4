import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { packGeometry } from '../core/assembly/geometry-codec.ts';
import type { CheckAnswer, FitAnswer, Interim, PlanAnswer } from '../core/explode/requests.ts';
import { plainPull, pullsOf } from '../core/explode/records.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { componentsOf } from '../core/assembly/components.ts';
import { BLANK_DRAWING, type DrawingDocument, type SpreadRecord } from '../core/document/records.ts';
import { assemblyOf, box, cylinder } from '../core/testing/shapes.ts';
import { closeDatabase, getDatabase } from './database/client.ts';
import { migrateAll } from './database/migrate.ts';
import { geometry } from './database/schema.ts';
import { readyJob } from './testing/ready-job.ts';
import { closeGeometryPool } from './queue/geometry-pool.ts';
import { exportFile } from './services/exports.ts';
import { componentsPicture } from './services/pictures.ts';
import { computeExploded } from './services/views.ts';

// The real database and the real geometry threads.
const frame = namedFrame('isometric');
const { assembly, geometries } = assemblyOf([
  { name: 'base', geometry: box([0, 0, 0], [60, 40, 10]) },
  { name: 'lid', geometry: box([0, 0, 10], [60, 40, 18]) },
  { name: 'pin', geometry: cylinder(4, 12, 32), at: [30, 20, 18] },
]);
const spread: SpreadRecord = {
  type: 'spread',
  id: 'spread:1',
  name: 'Spread 1',
  pulls: [
    { components: ['pin'], direction: [0, 0, 1], distanceMm: 60 },
    { components: ['lid'], direction: [0, 0, 1], distanceMm: 30 },
  ],
};
const document: DrawingDocument = {
  drawing: BLANK_DRAWING,
  'sheet:1': { type: 'sheet', id: 'sheet:1', order: 1, name: 'GA', size: 'A3', landscape: true },
  'spread:1': spread,
};
const pulls = pullsOf(spread, componentsOf(assembly)).map(plainPull);
const never = new AbortController().signal;
const silent = () => undefined;
let id = '';

beforeAll(async () => {
  await migrateAll();
  for (const [key, g] of geometries)
    await getDatabase()
      .insert(geometry)
      .values({ key, data: packGeometry(g) })
      .onConflictDoNothing();
  id = await readyJob(assembly, document, { title: 'explode' });
});
afterAll(async () => {
  await closeGeometryPool();
  await closeDatabase();
});

describe('exploded views on the server', () => {
  test('are checked along every way and on paper', async () => {
    const request = { kind: 'check', pulls, paper: { frame, scale: 1, gapMm: 1 } } as const;
    const answer = (await computeExploded(id, request, never, silent)) as CheckAnswer;
    expect(answer.clear).toEqual([true, true]);
    expect(answer.paper!.size[1]).toBeGreaterThan(60);
    // The lid first, under the pin that is still there.
    const wrong = (await computeExploded(id, { kind: 'check', pulls: [pulls[1]!, pulls[0]!] }, never, silent)) as CheckAnswer;
    expect(wrong.hits).toMatchObject([{ pull: 0, component: 1, through: 2 }]);
    // Only the last pull, as while its handle is dragged.
    const last = (await computeExploded(id, { kind: 'check', pulls: [pulls[1]!, pulls[0]!], from: 1 }, never, silent)) as CheckAnswer;
    expect(last.hits).toEqual([]);
  });

  test('are planned, fitted and cleared', async () => {
    const told: Interim[] = [];
    const plan = (await computeExploded(id, { kind: 'plan', frame, together: [] }, never, (m) => told.push(m))) as PlanAnswer;
    expect(plan.order).toEqual([2, 1, 0]);
    expect(plan.clear.every(Boolean)).toBe(true);
    const request = {
      kind: 'fit',
      pulls: plan.pulls.map(({ components, direction, distanceMm }) => ({ components, direction, distanceMm })),
      kept: [],
    } as const;
    const fit = (await computeExploded(id, { ...request, frame, room: [120, 120], scales: [2, 1, 0.5] }, never, silent)) as FitAnswer;
    expect([fit.fits, fit.scale]).toEqual([true, 1]);
    const clear = await computeExploded(id, { kind: 'clear', pulls: [], components: [1], direction: [1, 0, 0], gapMm: 5 }, never, silent);
    expect(clear).toEqual({ distanceMm: expect.closeTo(65, 6) });
  });

  test('of a model that has changed meanwhile are refused with a word what to do', async () => {
    const stale = { kind: 'check', pulls: [{ ...pulls[0]!, components: [7] }] } as const;
    await expect(computeExploded(id, stale, never, silent)).rejects.toMatchObject({ code: 'BAD_REQUEST', message: expect.stringContaining('Reload the page') });
  });

  test('are stopped when nobody waits for them any more', async () => {
    const stop = new AbortController();
    const work = computeExploded(id, { kind: 'plan', frame, together: [] }, stop.signal, silent);
    stop.abort();
    await expect(work).rejects.toMatchObject({ code: 'CANCELLED' });
  });

  test('have small pictures of what a pull moves', async () => {
    const svg = await componentsPicture(id, [1, 2]);
    expect(svg).toMatch(/^<svg .*viewBox/);
    // A box shows nine edges from a corner, a pin besides its two sides and its rims.
    expect(svg.match(/<path/g)!.length).toBeGreaterThanOrEqual(9);
    await expect(componentsPicture(id, [9])).rejects.toMatchObject({ code: 'NOT_FOUND' });
  });

  test('are taken along as an animated model and as a picture for each step', async () => {
    const glb = await exportFile(id, 'apart.glb', { spread: 'spread:1' });
    expect([glb.type, Buffer.from(glb.data).subarray(0, 4).toString()]).toEqual(['model/gltf-binary', 'glTF']);
    const zip = Buffer.from((await exportFile(id, 'steps.zip', { spread: 'spread:1' })).data);
    expect([1, 2, 3, 4].map((n) => zip.includes(`step-00${n}.svg`))).toEqual([true, true, true, false]);
    await expect(exportFile(id, 'apart.glb', { spread: 'spread:9' })).rejects.toMatchObject({ code: 'NOT_FOUND' });
  });
});
