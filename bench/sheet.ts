import { eq } from 'drizzle-orm';
import type { Assembly } from '../src/core/assembly/assembly.ts';
import { translation } from '../src/core/base/placement.ts';
import {
  BLANK_DRAWING,
  PLAIN_VIEW,
  type BalloonRecord,
  type DrawingDocument,
  type DrawingDocumentRecord,
  type ViewRecord,
} from '../src/core/document/records.ts';
import { namedFrame } from '../src/core/outline/directions.ts';
import { ARC_STRIDE, EMPTY_LINEWORK, type Linework } from '../src/core/outline/linework.ts';
import { coverageOf } from '../src/core/proof/coverage.ts';
import { sheetFindings } from '../src/core/proof/findings.ts';
import type { ViewResult } from '../src/core/views/compute-view.ts';
import { composeSheet } from '../src/elements/compose.ts';
import { Scene } from '../src/elements/scene.ts';
import { closeDatabase, getDatabase, getPool } from '../src/server/database/client.ts';
import { job } from '../src/server/database/schema.ts';
import { appendEdit } from '../src/server/services/edits.ts';
import { requestView } from '../src/server/services/view-requests.ts';
import { keyedViews, storeResults } from '../src/server/services/views.ts';
import { storedForm } from '../src/server/stored-result.ts';
import { readyJob } from '../src/server/testing/ready-job.ts';

const [COMPONENTS, PARTS, SHEETS, BALLOONS] = [1000, 1000, 200, 2000];
const RUNS = 4000;
const MANY_RUNS = 50_000;

/** A row of parts; nothing in it is ever computed: views come from generated results. */
function assembly(): Assembly {
  const parts = Array.from({ length: PARTS }, (_, i) => ({
    id: `part-${i}`,
    name: `Part ${i}`,
    geometryKey: `none-${i}`,
    box: [0, 0, 0, 10, 10, 10],
    volumeMm3: 1000,
    areaMm2: 600,
    centroid: [5, 5, 5],
    properties: {},
  }));
  const nodes = [
    { name: 'Machine', parent: -1, part: -1, placement: translation([0, 0, 0]) },
    ...Array.from({ length: COMPONENTS }, (_, i) => ({
      name: `Part ${i % PARTS}`,
      parent: 0,
      part: i % PARTS,
      placement: translation([(i % 40) * 12, Math.floor(i / 40) * 12, 0]),
    })),
  ];
  return { name: 'Machine', unit: 'mm', schema: '', parts, nodes, warnings: [] } as unknown as Assembly;
}

/** Short lines in a square of 400 mm, an item map and areas. */
function result(runs: number): ViewResult {
  const xy = new Float64Array(runs * 4);
  for (let i = 0; i < runs; i++) {
    const [x, y] = [(i * 7.31) % 400, (i * 3.17) % 400];
    xy.set([x, y, x + 6, y + ((i % 5) - 2)], i * 4);
  }
  const lines: Linework = {
    xy,
    start: Uint32Array.from({ length: runs + 1 }, (_, i) => i * 2),
    kind: new Uint8Array(runs),
    component: Uint32Array.from({ length: runs }, (_, i) => i % COMPONENTS),
    edge: Int32Array.from({ length: runs }, (_, i) => i),
    arc: new Float64Array(runs * ARC_STRIDE),
  };
  const window = { minX: 0, maxY: 400, pixelMm: 0.5, width: 800, height: 800 };
  return {
    lines,
    phantom: EMPTY_LINEWORK,
    caps: [],
    box: [0, 0, 406, 402],
    visibleArea: Float64Array.from({ length: COMPONENTS }, (_, i) => (i % 3 ? 50 : 0)),
    visibleShare: new Float64Array(COMPONENTS).fill(0.5),
    map: { window, component: Int16Array.from({ length: 800 * 800 }, (_, i) => (Math.floor(i / 40) % COMPONENTS) - 1) },
    pulls: [],
    shading: null,
    uncut: [],
    unhatched: [],
  };
}

function document(): DrawingDocument {
  const records: DrawingDocumentRecord[] = [{ ...BLANK_DRAWING, title: 'Machine', number: 'M-1' }];
  for (let s = 0; s < SHEETS; s++) {
    records.push({ type: 'sheet', id: `sheet:${s}`, order: s, name: `Sheet ${s + 1}`, size: 'A1', landscape: true });
    for (const k of [0, 1]) {
      const view: ViewRecord = {
        type: 'view',
        id: `view:${s}.${k}`,
        sheet: `sheet:${s}`,
        name: 'Front',
        ...namedFrame('front'),
        ...PLAIN_VIEW,
        at: [60 + k * 420, 500],
        hidden: true,
        // Each view is its own picture.
        hiddenWithinMm: 1 + s * 2 + k,
      };
      records.push(view);
      for (let b = 0; b < BALLOONS / SHEETS / 2; b++) {
        const balloon: BalloonRecord = {
          type: 'balloon',
          id: `balloon:${s}.${k}.${b}`,
          view: view.id,
          component: `Part ${b}`,
          anchor: [b * 40, b * 30],
          offset: [b * 40 + 20, -440],
          end: 'arrow',
        };
        records.push(balloon);
      }
    }
  }
  return Object.fromEntries(records.map((r) => [r.id, r]));
}

const timed = <T>(work: () => T, times = 5): number => {
  const all = Array.from({ length: times }, () => {
    const t = performance.now();
    work();
    return performance.now() - t;
  });
  return all.sort((a, b) => a - b)[times >> 1]!;
};
const say = (line: Record<string, unknown>) => console.log(JSON.stringify(line));
const ms = (v: number) => Number(v.toFixed(2));

/** Fills a database with the job, and measures core and server. Prints a line per case; the last names the job. */
export async function benchSheet(): Promise<void> {
  const [a, doc] = [assembly(), document()];
  const results = new Map<string, ViewResult>();
  const [few, many] = [result(RUNS), result(MANY_RUNS)];
  for (const r of Object.values(doc)) if (r.type === 'view') results.set(r.id, r.id === 'view:1.0' ? many : few);
  say({ case: 'core: scene of the drawing, ms', ms: ms(timed(() => new Scene({ document: { ...doc }, assembly: a, results }))) });
  const scene = new Scene({ document: doc, assembly: a, results });
  say({
    case: 'core: one sheet composed anew, ms',
    ms: ms(
      timed(() =>
        composeSheet(
          new Scene({
            document: Object.fromEntries(Object.entries(doc).map(([id, r]) => [id, id === 'view:3.0' ? { ...r } : r])) as DrawingDocument,
            assembly: a,
            results,
          }),
          'sheet:3',
        ),
      ),
    ),
  });
  say({ case: 'core: a sheet composed again, ms', ms: ms(timed(() => composeSheet(scene, 'sheet:3'))) });
  say({ case: 'core: findings of one sheet, ms', ms: ms(timed(() => sheetFindings(scene, 'sheet:3'))) });
  say({ case: 'core: coverage of all items on all sheets, ms', ms: ms(timed(() => coverageOf(scene))) });

  const id = await readyJob(a, doc, { title: 'Machine' });
  const [smallForm, largeForm] = [storedForm(few), storedForm(many)];
  await storeResults(keyedViews(a, doc).map((k) => [k.key, k.view.id === 'view:1.0' ? largeForm : smallForm] as const));
  say({ case: 'transfer: a view of 4,000 runs, kB', kB: Math.round(smallForm.data.length / 1000) });
  say({ case: 'transfer: a view of 50,000 runs, kB', kB: Math.round(largeForm.data.length / 1000) });
  const [row] = await getDatabase().select({ version: job.version }).from(job).where(eq(job.id, id));
  let version = row!.version;
  const lsn = async () => (await getPool().query<{ at: string }>('select pg_current_wal_insert_lsn() as at')).rows[0]!.at;
  const written = async (from: string) =>
    Number((await getPool().query<{ n: string }>('select pg_wal_lsn_diff(pg_current_wal_insert_lsn(), $1) as n', [from])).rows[0]!.n);
  const balloon = doc['balloon:3.0.1'] as BalloonRecord;
  const edits: number[] = [];
  const bytes: number[] = [];
  for (let i = 0; i < 30; i++) {
    const from = await lsn();
    const t = performance.now();
    const done = await appendEdit(id, version, 'Move balloon', [{ op: 'put', record: { ...balloon, offset: [i, i] } }]);
    edits.push(performance.now() - t);
    bytes.push(await written(from));
    version = done.version;
  }
  edits.sort((x, y) => x - y);
  bytes.sort((x, y) => x - y);
  say({ case: 'server: one edit, ms (median, worst of 30)', ms: ms(edits[15]!), worst: ms(edits[29]!) });
  say({ case: 'server: written to the log by one edit, bytes (median)', bytes: bytes[15] });
  const views: number[] = [];
  for (let i = 0; i < 10; i++) {
    const t = performance.now();
    await requestView(id, `view:${i + 5}.0`);
    views.push(performance.now() - t);
  }
  views.sort((x, y) => x - y);
  say({ case: 'server: one view asked for, ms (median of 10)', ms: ms(views[5]!) });
  say({ job: id });
  await closeDatabase();
}
