import { readFileSync } from 'node:fs';
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import { unpack } from '../core/base/pack.ts';
import { without } from '../core/base/without.ts';
import { translation } from '../core/base/placement.ts';
import { componentsOf } from '../core/assembly/components.ts';
import { packGeometry } from '../core/assembly/geometry-codec.ts';
import { recordsOf, type DrawingDocument, type DrawingRecord, type SpreadRecord, type ViewRecord } from '../core/document/records.ts';
import { featuresOf, unpackFeatures } from '../core/features/part-features.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { draftAll, smallMachine } from '../core/testing/drafting.ts';
import { sizeOf } from '../core/assembly/units.ts';
import { config } from '../server/config.ts';
import { closeDatabase, getDatabase } from '../server/database/client.ts';
import { migrateAll } from '../server/database/migrate.ts';
import { geometry, issuing, job, model } from '../server/database/schema.ts';
import { fromStored, storedForm } from '../server/stored-result.ts';
import { readyJob as jobWith } from '../server/testing/ready-job.ts';
import { stopListening } from '../server/events.ts';
import { closeGeometryPool } from '../server/queue/geometry-pool.ts';
import { runQueuedIssue } from '../server/services/issuing.ts';
import { keyedViews, storeResults } from '../server/services/views.ts';

// A database of its own in the tests' cluster: other tests have workers that would take what is queued here.
await vi.hoisted(async () => {
  const { default: pg } = await import('pg');
  const url = new URL(process.env['DATABASE_URL']!);
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  await client.query('drop database if exists routes');
  await client.query('create database routes');
  await client.end();
  url.pathname = '/routes';
  process.env['DATABASE_URL'] = url.href;
});

// Every route, as the page calls it, on the real database and the real geometry threads; no worker: what is queued stays.

const routes = import.meta.glob('./api/**/+server.ts');
type Handler = (event: unknown) => Promise<Response>;
const asked = new Set<string>();

interface Ask {
  readonly body?: unknown;
  readonly form?: Readonly<Record<string, string | File>>;
  readonly headers?: Readonly<Record<string, string>>;
  readonly signal?: AbortSignal;
}

/** Calls the handler behind an address. */
async function ask(method: string, address: string, { body, form, headers = {}, signal }: Ask = {}): Promise<Response> {
  const url = new URL(address, 'http://127.0.0.1');
  const parts = url.pathname.split('/').slice(1);
  for (const [file, load] of Object.entries(routes)) {
    const pattern = file.slice(2, -'/+server.ts'.length).split('/');
    if (pattern.length !== parts.length) continue;
    const params: Record<string, string> = {};
    const fits = pattern.every((p, i) => (p.startsWith('[') ? ((params[p.slice(1, -1)] = decodeURIComponent(parts[i]!)), true) : p === parts[i]));
    if (!fits) continue;
    const handler = ((await load()) as Record<string, Handler>)[method];
    if (!handler) return new Response(null, { status: 405 });
    asked.add(`${method} ${file}`);
    const data = form ? new FormData() : undefined;
    for (const [k, v] of Object.entries(form ?? {})) data!.append(k, v);
    const payload = data ?? (body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body));
    const request = new Request(url, { method, headers, ...(payload === undefined ? {} : { body: payload }), ...(signal ? { signal } : {}) });
    return handler({ request, url, params, locals: { requestId: 'test' } });
  }
  return new Response(null, { status: 404 });
}
/** Status and body of an answer. */
async function answer(method: string, address: string, what?: Ask): Promise<[number, { error?: { code: string; message: string } } & Record<string, unknown>]> {
  const r = await ask(method, address, what);
  const text = await r.text();
  return [r.status, text === '' ? {} : (JSON.parse(text) as Record<string, unknown>)];
}
/** Status and code of a refusal; its sentence is one. */
async function refusal(method: string, address: string, what?: Ask): Promise<[number, string]> {
  const [status, body] = await answer(method, address, what);
  expect(body.error?.message).toMatch(/^\S.{8,300}[.]$/su);
  return [status, body.error!.code];
}
const lines = async (r: Response) =>
  (await r.text())
    .split('\n')
    .filter(Boolean)
    .map((l) => JSON.parse(l) as Record<string, unknown>);

const NOBODY = '00000000-0000-4000-8000-000000000000';
const machine = smallMachine();
let drawn: Awaited<ReturnType<typeof draftAll>>;

const readyJob = (document: DrawingDocument = drawn.document) => jobWith(machine.assembly, document, { title: 'machine' });
const documentOf = async (id: string) =>
  (await answer('GET', `/api/jobs/${id}/drawing`))[1] as unknown as { document: DrawingDocument; version: number; assembly: typeof machine.assembly };
const put = (record: unknown) => ({ op: 'put', record });

beforeAll(async () => {
  await migrateAll();
  drawn = await draftAll(machine);
  for (const [key, g] of machine.geometries)
    await getDatabase()
      .insert(geometry)
      .values({ key, data: packGeometry(g), picture: `<svg>${key}</svg>` })
      .onConflictDoNothing();
  await storeResults(keyedViews(machine.assembly, drawn.document).map((k) => [k.key, storedForm(drawn.results.get(k.view.id)!)] as const));
});
afterAll(async () => {
  await closeGeometryPool();
  await stopListening();
  await closeDatabase();
});

describe('jobs', () => {
  const stl = (name = 'box.stl') => new File([readFileSync('node_modules/stl-models/objects/gearwheel.bin.stl')], name);
  const step = () => new File([readFileSync('node_modules/occt-import-js/test/testfiles/cube-units/cube-mm.step')], 'cube.step');

  test('a file that says its unit becomes a job that waits for its turn', async () => {
    const [status, { id }] = await answer('POST', '/api/jobs', { form: { file: step(), standard: 'asme', sheet: 'D' } });
    expect(status).toBe(201);
    expect((await answer('GET', `/api/jobs/${id as string}`))[1]).toMatchObject({ title: 'cube', state: 'queued', progress: 0 });
    expect((await answer('GET', '/api/jobs'))[1]).toEqual(expect.arrayContaining([expect.objectContaining({ id })]));
    expect((await ask('POST', `/api/jobs/${id as string}/cancel`)).status).toBe(204);
    expect((await answer('GET', `/api/jobs/${id as string}`))[1]).toMatchObject({ state: 'cancelled' });
    expect((await ask('POST', `/api/jobs/${id as string}/retry`)).status).toBe(204);
    expect((await answer('GET', `/api/jobs/${id as string}`))[1]).toMatchObject({ state: 'queued', errorText: null });
    expect((await ask('DELETE', `/api/jobs/${id as string}`)).status).toBe(204);
    expect(await refusal('GET', `/api/jobs/${id as string}`)).toEqual([404, 'NOT_FOUND']);
    // What was queued finds nothing and does no harm: it goes with the tests’ database.
    await getDatabase().execute(sql`delete from graphile_worker._private_jobs`);
  });
  test('a file that does not is asked for first, with its size; the answer makes the job', async () => {
    const [status, body] = await answer('POST', '/api/jobs', { form: { file: stl() } });
    expect(status).toBe(200);
    const { size, files, guess } = body['question'] as { size: { z: number[] }; files: string[]; guess: unknown };
    expect([files, guess]).toEqual([['box.stl'], { unitMm: 1, up: 'z' }]);
    [41.72, 41.72, 8].forEach((v, k) => expect(size.z[k]).toBeCloseTo(v, 1));
    expect((await answer('POST', '/api/jobs', { form: { file: stl(), unitMm: '25.4', up: 'y' } }))[0]).toBe(201);
    await getDatabase().execute(sql`delete from graphile_worker._private_jobs`);
  });
  test.each<[string, () => Ask, number, string]>([
    ['no file', () => ({ form: { standard: 'iso' } }), 400, 'BAD_REQUEST'],
    ['no form', () => ({ body: 'hello' }), 400, 'BAD_REQUEST'],
    ['a text', () => ({ form: { file: new File(['hello'], 'a.txt') } }), 400, 'FILE_UNKNOWN'],
    ['an empty file', () => ({ form: { file: new File([], 'a.step') } }), 400, 'FILE_EMPTY'],
    ['a zip that is none', () => ({ form: { file: new File(['PKxx'], 'a.zip') } }), 400, 'ZIP_BROKEN'],
    ['a broken mesh', () => ({ form: { file: new File(['solid x\nfacet'], 'a.stl') } }), 400, 'FILE_DAMAGED'],
    ['a size that is none', () => ({ form: { file: step(), sheet: 'A9' } }), 400, 'BAD_REQUEST'],
    ['a standard that is none', () => ({ form: { file: step(), standard: 'din' } }), 400, 'BAD_REQUEST'],
    ['a unit of nothing', () => ({ form: { file: stl(), unitMm: '0' } }), 400, 'BAD_REQUEST'],
    ['too large', () => ({ body: 'x', headers: { 'content-length': String(config.maxUploadBytes + 2e6) } }), 413, 'FILE_TOO_LARGE'],
  ])('%s is refused in words', async (_, what, status, code) => {
    expect(await refusal('POST', '/api/jobs', what())).toEqual([status, code]);
  });
});

describe('the list of jobs', () => {
  test('is looked through by words, put in order and paged, without unpacking a model', async () => {
    const ids = [];
    for (const title of ['Zebra winch', 'Alpha winch 100%', 'Middle pump'])
      ids.push(await readyJob({ ...drawn.document, drawing: { ...(drawn.document['drawing'] as DrawingRecord), title } }));
    const titles = async (query: string) => {
      const r = await ask('GET', `/api/jobs?${query}`);
      return [((await r.json()) as { title: string }[]).map((j) => j.title), Number(r.headers.get('x-total'))] as const;
    };
    expect(await titles('q=winch&sort=title')).toEqual([['Alpha winch 100%', 'Zebra winch'], 2]);
    expect(await titles('q=winch%20zeb')).toEqual([['Zebra winch'], 1]);
    expect(await titles('q=100%25')).toEqual([['Alpha winch 100%'], 1]);
    expect(await titles('q=winch&sort=title&limit=1&offset=1')).toEqual([['Zebra winch'], 2]);
    expect((await answer('GET', `/api/jobs/${ids[0]!}`))[1]).toMatchObject({ components: 7, parts: 7 });
    expect(await refusal('GET', '/api/jobs?sort=colour')).toEqual([400, 'BAD_REQUEST']);
    expect((await ask('PATCH', `/api/jobs/${ids[2]!}`, { body: { title: 'Piston pump' } })).status).toBe(204);
    expect((await answer('GET', `/api/jobs/${ids[2]!}`))[1]).toMatchObject({ title: 'Piston pump', version: 2 });
    expect(await refusal('PATCH', `/api/jobs/${ids[2]!}`, { body: { title: ' ' } })).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('PATCH', `/api/jobs/${NOBODY}`, { body: { title: 'x' } })).toEqual([404, 'NOT_FOUND']);
  });
  test('a duplicate has the drawing as it stands, and goes its own way', async () => {
    const id = await readyJob();
    await answer('POST', `/api/jobs/${id}/edits`, { body: { version: 1, label: 'x', steps: [{ op: 'drop', id: 'balloon:Ring' }] } });
    const [status, { id: copy }] = await answer('POST', `/api/jobs/${id}/duplicate`);
    expect(status).toBe(201);
    const [mine, yours] = [await documentOf(id), await documentOf(copy as string)];
    expect(without(yours.document, 'drawing')).toEqual(without(mine.document, 'drawing'));
    expect(yours.document['drawing']).toMatchObject({ title: expect.stringMatching(/\(copy\)$/) as string });
    await answer('POST', `/api/jobs/${copy as string}/edits`, { body: { version: 1, label: 'x', steps: [{ op: 'drop', id: 'balloon:Cap' }] } });
    expect((await documentOf(id)).document['balloon:Cap']).toBeDefined();
    expect(await refusal('POST', `/api/jobs/${NOBODY}/duplicate`)).toEqual([404, 'NOT_FOUND']);
  });
});

describe('addresses of jobs that are not there', () => {
  const reads = ['', '/drawing', '/edits?since=0', '/views/view:front', '/picture', '/models', '/files/drawing.pdf'];
  test.each(reads.flatMap((r) => ['abc', NOBODY].map((id) => [`/api/jobs/${id}${r}`] as const)))('GET %s', async (address) => {
    const [status, body] = await answer('GET', address);
    // Nothing was ever changed in what is not there.
    if (address.includes(NOBODY) && address.includes('edits')) expect([status, body['changes']]).toEqual([200, []]);
    else expect([status, body.error?.code]).toEqual([404, 'NOT_FOUND']);
  });
  const writes: [string, string, unknown][] = [
    ['POST', '/edits', { version: 1, label: 'x', steps: [{ op: 'drop', id: 'x' }] }],
    ['POST', '/undo', { version: 1 }],
    ['POST', '/redo', { version: 1 }],
    ['PUT', '/unit', { version: 1, unit: 'mm' }],
    ['POST', '/section', { frame: namedFrame('front'), cut: { normal: [0, -1, 0], d: 0 } }],
    ['POST', `/models/${NOBODY}`, { decisions: [] }],
    ['PUT', `/models/${NOBODY}`, { version: 1, decisions: [] }],
  ];
  test.each(writes)('%s %s', async (method, what, body) => {
    expect(await refusal(method, `/api/jobs/${NOBODY}${what}`, { body })).toEqual([404, 'NOT_FOUND']);
    expect(await refusal(method, `/api/jobs/xyz${what}`, { body })).toEqual([404, 'NOT_FOUND']);
  });
  test.each(writes)('%s %s with something that is not understood', async (method, what) => {
    const id = await readyJob();
    expect(await refusal(method, `/api/jobs/${id}${what}`, { body: 'no json' })).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal(method, `/api/jobs/${id}${what}`, { body: { version: -1, decisions: 'x' } })).toEqual([400, 'BAD_REQUEST']);
  });
});

describe('edits', () => {
  const retitle = (title: string) => [put({ ...drawn.document['drawing'], title })];
  const title = async (id: string) => ((await documentOf(id)).document['drawing'] as DrawingRecord).title;

  test('are made on the newest version, undone and brought back', async () => {
    const id = await readyJob();
    const [status, made] = await answer('POST', `/api/jobs/${id}/edits`, { body: { version: 1, label: 'Title', steps: retitle('Second') } });
    expect([status, made]).toMatchObject([200, { version: 2, canUndo: true, canRedo: false }]);
    expect((await answer('POST', `/api/jobs/${id}/undo`, { body: { version: 2 } }))[1]).toMatchObject({ version: 3, canUndo: false, canRedo: true });
    expect(await title(id)).toBe('Test assembly');
    expect((await answer('POST', `/api/jobs/${id}/redo`, { body: { version: 3 } }))[1]).toMatchObject({ version: 4 });
    expect(await title(id)).toBe('Second');
    const [, since] = await answer('GET', `/api/jobs/${id}/edits?since=2`);
    expect((since['changes'] as { version: number; kind: string }[]).map((c) => [c.version, c.kind])).toEqual([
      [3, 'undo'],
      [4, 'redo'],
    ]);
  });
  test('on an older version are refused, and change nothing', async () => {
    const id = await readyJob();
    await answer('POST', `/api/jobs/${id}/edits`, { body: { version: 1, label: 'Title', steps: retitle('Mine') } });
    expect(await refusal('POST', `/api/jobs/${id}/edits`, { body: { version: 1, label: 'Title', steps: retitle('Yours') } })).toEqual([409, 'STALE_VERSION']);
    expect(await refusal('POST', `/api/jobs/${id}/undo`, { body: { version: 1 } })).toEqual([409, 'STALE_VERSION']);
    expect(await title(id)).toBe('Mine');
    expect(await refusal('POST', `/api/jobs/${id}/redo`, { body: { version: 2 } })).toEqual([409, 'NOTHING_TO_REDO']);
  });
  test('the same one sent twice is made once', async () => {
    const id = await readyJob();
    const body = { version: 1, label: 'Title', steps: retitle('Once'), token: crypto.randomUUID() };
    expect([
      (await answer('POST', `/api/jobs/${id}/edits`, { body }))[1]['version'],
      (await answer('POST', `/api/jobs/${id}/edits`, { body }))[1]['version'],
    ]).toEqual([2, 2]);
  });
  test.each<[string, unknown[], number, string]>([
    ['a record of no kind', [put({ type: 'cloud', id: 'x' })], 400, 'BAD_REQUEST'],
    ['a view of no scale', [put({ ...drawn?.document['view:front'], type: 'view', id: 'view:front', scale: 0 })], 400, 'BAD_REQUEST'],
    ['no steps', [], 400, 'BAD_REQUEST'],
    ['too many', Array.from({ length: 5001 }, () => ({ op: 'drop', id: 'x' })), 400, 'BAD_REQUEST'],
    ['what is not there', [{ op: 'drop', id: 'nothing' }], 409, 'STEP_DOES_NOT_FIT'],
    ['what every object has', [{ op: 'drop', id: 'constructor' }], 409, 'STEP_DOES_NOT_FIT'],
    ['the ground under it', [put({ type: 'sheet', id: '__proto__', order: 1, name: '', size: 'A3', landscape: true })], 409, 'STEP_DOES_NOT_FIT'],
    [
      'a balloon of no view',
      [put({ type: 'balloon', id: 'b', view: 'view:none', component: 'Cap', anchor: [0, 0], offset: [0, 0], end: 'dot' })],
      409,
      'STEP_DOES_NOT_FIT',
    ],
  ])('%s is refused: nothing is changed', async (_, steps, status, code) => {
    const id = await readyJob();
    expect(await refusal('POST', `/api/jobs/${id}/edits`, { body: { version: 1, label: 'x', steps } })).toEqual([status, code]);
    expect((await documentOf(id)).version).toBe(1);
  });
  test.each(['x', '-1', '1.5', '99999999999'])('since %s is no version', async (since) => {
    expect(await refusal('GET', `/api/jobs/${await readyJob()}/edits?since=${since}`)).toEqual([400, 'BAD_REQUEST']);
  });
});

describe('views', () => {
  test('one that is stored comes at once, and not again while it is the same', async () => {
    const id = await readyJob();
    const r = await ask('GET', `/api/jobs/${id}/views/view:front`);
    expect(r.status).toBe(200);
    expect(r.headers.get('content-encoding')).toBe('gzip');
    const result = fromStored(new Uint8Array(await r.arrayBuffer()))!;
    expect(result.box).toEqual(drawn.results.get('view:front')!.box);
    const again = await ask('GET', `/api/jobs/${id}/views/view:front`, { headers: { 'if-none-match': r.headers.get('etag')! } });
    expect([again.status, await again.text()]).toEqual([304, '']);
  });
  test('one that is not is queued once, and told to be on its way', async () => {
    const turned = { ...(drawn.document['view:front'] as ViewRecord), ...namedFrame('back'), hidden: true };
    const id = await readyJob({ ...drawn.document, 'view:front': turned });
    const [status, { key }] = await answer('GET', `/api/jobs/${id}/views/view:front`);
    expect(status).toBe(202);
    await answer('GET', `/api/jobs/${id}/views/view:front`);
    const rows = await getDatabase().execute(sql`select 1 from graphile_worker.jobs where key = ${`view:${key as string}`}`);
    expect(rows.rows).toHaveLength(1);
    await getDatabase().execute(sql`delete from graphile_worker._private_jobs`);
  });
  test('one that the drawing does not have', async () => {
    expect(await refusal('GET', `/api/jobs/${await readyJob()}/views/view:none`)).toEqual([404, 'NOT_FOUND']);
  });
});

describe('what is computed on demand', () => {
  test('ways to show an item, line by line; an item that there is not', async () => {
    const id = await readyJob();
    const said = await lines(await ask('POST', `/api/jobs/${id}/cures`, { body: { part: 'Ring' } }));
    const { result } = said.at(-1) as { result: { kind: string; share: number; areaMm2: number; picture: string }[] };
    expect(new Set(result.map((c) => c.kind))).toContain('direction');
    for (const c of result) {
      expect(c.picture).toMatch(/^data:image\/png;base64,/);
      expect(c.share > 0 && c.share <= 1 && c.areaMm2 > 0).toBe(true);
    }
    expect((await lines(await ask('POST', `/api/jobs/${id}/cures`, { body: { part: 'gone' } }))).at(-1)).toMatchObject({ error: { code: 'NOT_FOUND' } });
    expect(await refusal('POST', `/api/jobs/${id}/cures`, { body: {} })).toEqual([400, 'BAD_REQUEST']);
  });
  test('what a section keeps whole', async () => {
    const [status, body] = await answer('POST', `/api/jobs/${await readyJob()}/section`, {
      body: { frame: namedFrame('front'), cut: { normal: [0, -1, 0], d: 25 } },
    });
    expect(status).toBe(200);
    expect((body['keptWhole'] as { path: string }[]).map((k) => k.path).sort()).toEqual(['Post']);
    expect(body['depths']).toHaveLength(7);
  });
  test('a cut that cannot be', async () => {
    const cut = { normal: [0, -1, 0], d: 0, shape: { kind: 'half', across: [0, 1, 0], from: 0 } };
    expect(await refusal('POST', `/api/jobs/${await readyJob()}/section`, { body: { frame: namedFrame('front'), cut } })).toEqual([400, 'BAD_REQUEST']);
  });
  test('ways of an exploded view, line by line', async () => {
    const pulls = [{ components: [6], direction: [0, 0, 1], distanceMm: 30 }];
    const said = await lines(await ask('POST', `/api/jobs/${await readyJob()}/explode`, { body: { kind: 'check', pulls } }));
    expect(said.at(-1)).toMatchObject({ result: { clear: [true], hits: [] } });
  });
  test('a question about what is not there is answered in the same way', async () => {
    const said = await lines(await ask('POST', `/api/jobs/${NOBODY}/explode`, { body: { kind: 'directions', pulls: [] } }));
    expect(said).toMatchObject([{ error: { code: 'NOT_FOUND' } }]);
    expect(await refusal('POST', `/api/jobs/${NOBODY}/explode`, { body: { kind: 'guess' } })).toEqual([400, 'BAD_REQUEST']);
  });
  test('whoever hangs up stops it', async () => {
    const r = await ask('POST', `/api/jobs/${await readyJob()}/explode`, { body: { kind: 'plan', frame: namedFrame('isometric') } });
    await r.body!.cancel();
    // The thread is free for the next one.
    const said = await lines(await ask('POST', `/api/jobs/${await readyJob()}/explode`, { body: { kind: 'check', pulls: [] } }));
    expect(said.at(-1)).toHaveProperty('result');
  });
});

describe('pictures and parts', () => {
  test('of the whole, of some components, of a part; its mesh', async () => {
    const id = await readyJob();
    const whole = await ask('GET', `/api/jobs/${id}/picture`);
    expect([whole.headers.get('content-type'), (await whole.text()).slice(0, 4)]).toEqual(['image/svg+xml', '<svg']);
    const some = await (await ask('GET', `/api/jobs/${id}/picture?of=4,5`)).text();
    expect(some).toContain('<path');
    const part = await ask('GET', '/api/parts/g0');
    expect([await part.text(), part.headers.get('cache-control')]).toEqual(['<svg>g0</svg>', 'max-age=31536000, immutable']);
    const mesh = new Uint8Array(await (await ask('GET', '/api/parts/g0/mesh')).arrayBuffer());
    expect(Buffer.compare(mesh, packGeometry(machine.geometries.get('g0')!))).toBe(0);
  });
  test.each([
    ['/api/parts/none', 404, 'NOT_FOUND'],
    ['/api/parts/none/mesh', 404, 'NOT_FOUND'],
  ])('%s', async (address, status, code) => {
    expect(await refusal('GET', address)).toEqual([status, code]);
  });
  test('of components that the model does not have, or of no numbers', async () => {
    const id = await readyJob();
    expect(await refusal('GET', `/api/jobs/${id}/picture?of=99`)).toEqual([404, 'NOT_FOUND']);
    expect(await refusal('GET', `/api/jobs/${id}/picture?of=1;drop`)).toEqual([400, 'BAD_REQUEST']);
  });
});

describe('files', () => {
  test.each([
    ['drawing.pdf', 'application/pdf', '%PDF'],
    ['parts-list.csv', 'text/csv', '\ufeffIte'],
    ['drawing.json', 'application/json', '{'],
    ['sheet-2.svg', 'image/svg+xml', '<?xm'],
    ['sheet-1.png?dpi=50', 'image/png', '\ufffdPNG'],
    ['findings.xlsx', 'application/vnd.openxmlformats', 'PK'],
    ['apart.html', 'text/html', '<!do'],
    ['units.csv', 'text/csv', '\ufeffSer'],
    ['properties.csv', 'text/csv', '\ufeffPar'],
    ['properties.xlsx', 'application/vnd.openxmlformats', 'PK'],
  ])('%s', async (name, type, start) => {
    const r = await ask('GET', `/api/jobs/${await readyJob()}/files/${name}`);
    expect(r.headers.get('content-type')).toContain(type);
    expect(r.headers.get('content-disposition')).toMatch(/^attachment; filename=".+"$/);
    expect(
      Buffer.from(await r.arrayBuffer())
        .toString('utf8')
        .startsWith(start),
    ).toBe(true);
  });
  test.each(['nothing.txt', 'sheet-9.svg', '../../etc/passwd', 'changes.csv'])('%s is not to be had', async (name) => {
    expect((await refusal('GET', `/api/jobs/${await readyJob()}/files/${encodeURIComponent(name)}`))[0]).toBe(404);
  });
  test('the PDF as it is wanted: half as large, one sheet, in tiles; what is no paper or no sheet is said', async () => {
    const id = await readyJob();
    const boxes = async (query: string) => {
      const text = Buffer.from(await (await ask('GET', `/api/jobs/${id}/files/drawing.pdf?${query}`)).arrayBuffer()).toString('latin1');
      return [...text.matchAll(/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/g)].map((m) => [m[1], m[2]].map((v) => Math.round((Number(v) * 25.4) / 72)));
    };
    const whole = await boxes('');
    expect(await boxes('print=half')).toEqual(whole.map((b) => b.map((v) => Math.round(v / 2))));
    expect(await boxes('sheets=2')).toEqual([whole[1]]);
    const tiles = await boxes('print=tiles&paper=A4&sheets=1&grey=1&layers=1');
    expect(tiles.length).toBeGreaterThan(1);
    for (const t of tiles) expect(t.sort((a, b) => a - b)).toEqual([210, 297]);
    expect(await refusal('GET', `/api/jobs/${id}/files/drawing.pdf?print=fit&paper=bedsheet`)).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('GET', `/api/jobs/${id}/files/drawing.pdf?sheets=99`)).toEqual([404, 'NOT_FOUND']);
    expect(await refusal('GET', `/api/jobs/${id}/files/sheet-1.png?dpi=5`)).toEqual([400, 'BAD_REQUEST']);
  });
  test('a spread that the drawing does not have gives no model', async () => {
    expect((await refusal('GET', `/api/jobs/${await readyJob()}/files/apart.glb?spread=none`))[0]).toBe(404);
  });
  test('properties come back as a preview of what would change', async () => {
    const id = await readyJob();
    const file = new File(['Part,Finish\nCap,zinc\nnobody,x\n'], 'p.csv');
    expect((await answer('POST', `/api/jobs/${id}/properties`, { form: { file } }))[1]).toMatchObject({
      changes: [{ part: 'Cap', key: 'finish', text: 'zinc' }],
      unknown: ['nobody'],
    });
    expect(await refusal('POST', `/api/jobs/${id}/properties`, { form: { note: 'no file' } })).toEqual([400, 'BAD_REQUEST']);
    expect((await refusal('POST', `/api/jobs/${id}/properties`, { form: { file: new File(['x'], 'p.xlsx') } }))[1]).toBe('FILE_DAMAGED');
  });
});

/** The machine with its cap 5 mm higher, as if it had been read. */
async function offered(id: string): Promise<string> {
  const newer = { ...machine.assembly, nodes: machine.assembly.nodes.map((n) => (n.name === 'Cap' ? { ...n, placement: translation([0, -25, 53]) } : n)) };
  const [row] = await getDatabase().insert(model).values({ jobId: id, name: 'rev2.step', state: 'ready', assembly: newer }).returning({ id: model.id });
  return row!.id;
}

describe('what the ledger asks for', () => {
  test('areas of all views that are computed, and pictures of parts, each in one request', async () => {
    const id = await readyJob();
    const seen = unpack<Record<string, Uint8Array>>('NQsn', 1, new Uint8Array(await (await ask('GET', `/api/jobs/${id}/seen`)).arrayBuffer()))!;
    expect(Object.keys(seen).sort()).toEqual(
      recordsOf(drawn.document, 'view')
        .map((v) => v.id)
        .sort(),
    );
    const areas = new Float32Array(seen['view:front']!.slice().buffer);
    expect([...areas]).toEqual([...drawn.results.get('view:front')!.visibleArea].map((a) => expect.closeTo(a, 2) as number));
    const [key] = machine.assembly.parts.map((p) => p.geometryKey);
    expect(await answer('GET', `/api/parts?of=${key},nothing`)).toEqual([200, { [key!]: `<svg>${key}</svg>` }]);
    expect(await refusal('GET', '/api/parts?of=')).toEqual([400, 'BAD_REQUEST']);
  });
  test('what is measured on parts: taken from their geometry once, then as it is stored', async () => {
    const id = await readyJob();
    const features = async () => {
      const packed = unpack<Record<string, Uint8Array>>('NQfs', 1, new Uint8Array(await (await ask('GET', `/api/jobs/${id}/features`)).arrayBuffer()))!;
      return new Map(Object.entries(packed).map(([key, bytes]) => [key, unpackFeatures(bytes)]));
    };
    const taken = await features();
    for (const [key, g] of machine.geometries) expect(taken.get(key)?.rounds).toEqual(featuresOf(g).rounds);
    expect(await features()).toEqual(taken);
    expect(await refusal('GET', '/api/jobs/00000000-0000-4000-8000-000000000000/features')).toEqual([404, 'NOT_FOUND']);
  });
});

describe('a drawing given away as JSON', () => {
  const file = async (id: string) => (await ask('GET', `/api/jobs/${id}/files/drawing.json`)).text();
  const back = (id: string, version: number, text: string) => refusal('PUT', `/api/jobs/${id}/drawing`, { body: { version, file: text } });

  test('comes back as one edit, also into another job, and undo takes it away again', async () => {
    const [mine, yours] = [await readyJob(), await readyJob()];
    await answer('POST', `/api/jobs/${mine}/edits`, { body: { version: 1, label: 'x', steps: [{ op: 'drop', id: 'balloon:Ring' }] } });
    const text = await file(mine);
    expect(JSON.parse(text)).toMatchObject({ format: 'nimble-quarry-drawing', version: 3 });
    const [status, outcome] = await answer('PUT', `/api/jobs/${yours}/drawing`, { body: { version: 1, file: text } });
    expect([status, outcome]).toMatchObject([200, { version: 2, canUndo: true, steps: [{ op: 'drop', id: 'balloon:Ring' }] }]);
    expect((await documentOf(yours)).document).toEqual((await documentOf(mine)).document);
    await answer('POST', `/api/jobs/${yours}/undo`, { body: { version: 2 } });
    // -0 is 0 once it was written.
    expect((await documentOf(yours)).document).toEqual(JSON.parse(JSON.stringify(drawn.document)));
  });
  test('written by the first version it is carried over: what pointed at nothing is let go', async () => {
    const id = await readyJob();
    const first = JSON.parse(await file(id)) as { version: number; records: Record<string, unknown> };
    first.version = 1;
    (first.records['view:section'] as { cut: { shownIn: string } }).cut.shownIn = 'view:gone';
    expect((await answer('PUT', `/api/jobs/${id}/drawing`, { body: { version: 1, file: JSON.stringify(first) } }))[0]).toBe(200);
    expect((await documentOf(id)).document['view:section']).toMatchObject({ cut: { shownIn: null } });
  });
  test('that is none, is newer, or does not hold together is refused in a sentence, and nothing is changed', async () => {
    const id = await readyJob();
    const good = JSON.parse(await file(id)) as { version: number; records: Record<string, Record<string, unknown>> };
    const changed = (change: (d: typeof good) => void) => {
      const copy = structuredClone(good);
      change(copy);
      return JSON.stringify(copy);
    };
    for (const text of [
      'no JSON',
      '[]',
      '{"format":"other","version":1,"records":{}}',
      changed((d) => (d.version = 99)),
      changed((d) => delete d.records['drawing']),
      changed((d) => delete d.records['sheet:1']),
      changed((d) => (d.records['view:front']!['scale'] = 'large')),
      changed((d) => (d.records['view:front']!['id'] = 'view:other')),
      JSON.stringify(good),
    ])
      expect(await back(id, 1, text)).toEqual([400, 'BAD_REQUEST']);
    expect(
      await back(
        id,
        7,
        changed((d) => delete d.records['balloon:Ring']),
      ),
    ).toEqual([409, 'STALE_VERSION']);
    expect(await documentOf(id)).toMatchObject({ version: 1, document: { 'view:front': { scale: expect.any(Number) as number } } });
  });
});

describe('issues', () => {
  const said = { revision: 'A', date: '2026-01-31', drawn: 'A. Drafter', words: ['First issue'] };
  const issue = async (id: string, body: Record<string, unknown>) => {
    const r = await ask('POST', `/api/jobs/${id}/issues`, { body });
    return (await lines(r)).at(-1) as { result?: Record<string, unknown>; error?: { code: string; message: string } };
  };
  const bytesOf = async (address: string) => new Uint8Array(await (await ask('GET', address)).arrayBuffer());
  const ready = () => readyJob();

  test('title block, revision table, package: everything of an issue is frozen, whatever is drawn afterwards', async () => {
    const id = await ready();
    const { result, error } = await issue(id, {
      version: 1,
      ...said,
      outputs: ['pdf', 'sheets', 'half', 'list', 'json', 'svg', 'png', 'findings', 'glb', 'steps', 'apart', 'guide'],
      dpi: 50,
      layers: true,
      grey: true,
    });
    expect(error).toBeUndefined();
    const files = (result!['files'] as { name: string }[]).map((f) => f.name);
    for (const what of [
      'drawing.pdf',
      'sheet-1.svg',
      'sheet-1.pdf',
      'sheet-1.png',
      'half-size.pdf',
      'steps.zip',
      'apart.html',
      'parts-list.xlsx',
      'parts-list.csv',
      'drawing.json',
      'model.json',
      'findings.xlsx',
      'apart.glb',
      'guide.html',
      'guide.pdf',
    ])
      expect([what, files.some((f) => f.endsWith(`-A-${what}`))]).toEqual([what, true]);
    const { document, version } = await documentOf(id);
    expect(version).toBe(2);
    expect(document['drawing']).toMatchObject({ revision: 'A', date: '2026-01-31', drawnBy: 'A. Drafter' });
    expect(recordsOf(document, 'revision')).toMatchObject([{ letter: 'A', text: 'First issue', date: '2026-01-31', by: 'A. Drafter' }]);
    expect(recordsOf(document, 'revisions')).toHaveLength(1);

    const pdf = files.find((f) => f.endsWith('drawing.pdf'))!;
    const address = `/api/jobs/${id}/issues/${result!['id'] as string}`;
    const first = await bytesOf(`${address}/${pdf}`);
    await answer('POST', `/api/jobs/${id}/edits`, { body: { version: 2, label: 'x', steps: [put({ ...document['drawing'], title: 'Another title' })] } });
    expect(await bytesOf(`${address}/${pdf}`)).toEqual(first);
    expect((await answer('GET', `${address}/verify`))[1]).toEqual({ sha256: result!['sha256'] });
    // Not even by the database's own hand.
    await expect(getDatabase().execute(sql`update issue set revision = 'Z'`)).rejects.toThrow();

    // Compared, and taken back as a start.
    const [, difference] = await answer('GET', `/api/jobs/${id}/compare?from=${result!['id'] as string}`);
    const sheets = difference['sheets'] as { kind: string; changes: { role: string }[]; svg: string }[];
    expect(sheets.every((x) => x.kind === 'changed' && x.changes.every((c) => c.role === 'title'))).toBe(true);
    expect(sheets[0]!.svg).toContain('Another title');
    expect((await answer('GET', `/api/jobs/${id}/compare?from=v2&to=v2`))[1]).toMatchObject({ rows: [], words: [] });
    expect((await answer('POST', `${address}/back`, { body: { version: 3 } }))[0]).toBe(200);
    expect((await documentOf(id)).document['drawing']).toMatchObject({ title: (document['drawing'] as DrawingRecord).title });
    expect((await answer('GET', `/api/jobs/${id}/history`))[1]).toMatchObject([{ version: 4 }, { version: 3 }, { version: 2, label: 'Issue A' }]);
  }, 120_000);

  test('the same letter is not issued twice; one for review is marked and takes none; nothing goes out on a stale version', async () => {
    const id = await ready();
    expect((await issue(id, { version: 1, ...said, revision: 'P1', kind: 'review', outputs: ['json'] })).error).toBeUndefined();
    expect((await issue(id, { version: 2, ...said, outputs: ['json'] })).error).toBeUndefined();
    expect((await issue(id, { version: 3, ...said, outputs: ['json'] })).error).toMatchObject({ code: 'BAD_REQUEST' });
    expect((await issue(id, { version: 1, ...said, revision: 'B', outputs: ['json'] })).error).toMatchObject({ code: 'STALE_VERSION' });
    expect((await answer('GET', `/api/jobs/${id}/issues`))[1]).toMatchObject([
      { revision: 'A', kind: 'issued', place: 2 },
      { revision: 'P1', kind: 'review', place: 1 },
    ]);
  }, 60_000);

  test('the making of an issue is queued: it goes on without the page, is told, and can be stopped; nothing of a stopped one is kept', async () => {
    const id = await ready();
    const asked = { version: 1, ...said, outputs: ['json'] };
    expect((await answer('GET', `/api/jobs/${id}/issuing`))[1]).toBeNull();
    expect(await refusal('POST', `/api/jobs/${id}/issuing`, { body: { ...asked, version: 9 } })).toEqual([409, 'STALE_VERSION']);
    const [status, queued] = await answer('POST', `/api/jobs/${id}/issuing`, { body: asked });
    expect([status, queued]).toMatchObject([201, { state: 'queued', revision: 'A', progress: 0 }]);
    expect(await refusal('POST', `/api/jobs/${id}/issuing`, { body: asked })).toEqual([400, 'BAD_REQUEST']);
    // Stopped before a worker has it: it is never made.
    expect((await ask('DELETE', `/api/jobs/${id}/issuing`)).status).toBe(204);
    await runQueuedIssue(id, true);
    expect((await answer('GET', `/api/jobs/${id}/issuing`))[1]).toMatchObject({ state: 'stopped' });
    expect((await answer('GET', `/api/jobs/${id}/issues`))[1]).toEqual([]);
    // Asked for again, and worked.
    await answer('POST', `/api/jobs/${id}/issuing`, { body: asked });
    await runQueuedIssue(id, true);
    expect((await answer('GET', `/api/jobs/${id}/issuing`))[1]).toMatchObject({ state: 'done', progress: 1 });
    expect((await answer('GET', `/api/jobs/${id}/issues`))[1]).toMatchObject([{ revision: 'A' }]);
    // Worked once more after a kill nothing is made twice.
    await getDatabase().update(issuing).set({ state: 'working' }).where(eq(issuing.jobId, id));
    await runQueuedIssue(id, true);
    expect((await answer('GET', `/api/jobs/${id}/issuing`))[1]).toMatchObject({ state: 'done' });
    expect((await answer('GET', `/api/jobs/${id}/issues`))[1]).toHaveLength(1);
    // What cannot be made says why.
    await answer('POST', `/api/jobs/${id}/issuing`, { body: { ...asked, version: 2, revision: 'B' } });
    await answer('POST', `/api/jobs/${id}/edits`, {
      body: { version: 2, label: 'x', steps: [put({ ...(await documentOf(id)).document['drawing'], title: 'Changed' })] },
    });
    await runQueuedIssue(id, true);
    expect((await answer('GET', `/api/jobs/${id}/issuing`))[1]).toMatchObject({ state: 'failed', errorText: expect.stringMatching(/\S/) as string });
  }, 60_000);

  test('nothing goes out while sheets of the first drawing are still drawn; a page that is told so can wait', async () => {
    const id = await ready();
    await getDatabase().update(job).set({ state: 'drafting' }).where(eq(job.id, id));
    const asked = { version: 1, ...said, outputs: ['json'] };
    const { error } = await issue(id, asked);
    expect(error).toMatchObject({ code: 'STILL_DRAFTING' });
    expect(error!.message).toContain('still being drawn');
    await getDatabase().update(job).set({ state: 'ready' }).where(eq(job.id, id));
    expect((await issue(id, asked)).error).toBeUndefined();
  }, 60_000);

  test('what must be put right stops it, until it is accepted with a reason', async () => {
    const bad = { ...drawn.document };
    delete bad['balloon:Ring'];
    const id = await readyJob(bad);
    const { error } = await issue(id, { version: 1, ...said, outputs: ['json'] });
    expect(error).toMatchObject({ code: 'ISSUE_STOPPED' });
    expect((await documentOf(id)).version).toBe(1);
    expect((await answer('GET', `/api/jobs/${id}/issues`))[1]).toEqual([]);
    const proof = { type: 'proof', id: 'proof', off: ['NOT_IDENTIFIED'], severity: {}, accepted: [] };
    await answer('POST', `/api/jobs/${id}/edits`, { body: { version: 1, label: 'x', steps: [put(proof)] } });
    expect((await issue(id, { version: 2, ...said, outputs: ['json'] })).error).toBeUndefined();
  }, 60_000);

  test('the bench answers: ticks and remarks are kept once, a remark waits until it is answered', async () => {
    const id = await ready();
    const { result } = await issue(id, { version: 1, ...said, outputs: ['guide'] });
    const at = `/api/issues/${result!['id'] as string}/answers`;
    const when = '2026-02-01T10:00:00.000Z';
    const photo = `data:image/jpeg;base64,${Buffer.from('not really').toString('base64')}`;
    const remark = {
      id: '11111111-1111-4111-8111-111111111111',
      kind: 'remark',
      step: 2,
      text: 'The ring does not fit',
      serial: '0107',
      who: 'M',
      when,
      photo,
    };
    for (let i = 0; i < 2; i++) expect((await ask('POST', at, { body: { ...remark, part: 'Ring' } })).status).toBe(200);
    for (const step of [1, 2, 2]) await ask('POST', at, { body: { id: crypto.randomUUID(), kind: 'tick', step, serial: '0107', who: 'M', when } });
    const told = async () => (await answer('GET', `/api/jobs/${id}/remarks`))[1] as { remarks?: Record<string, unknown>[]; units?: Record<string, unknown>[] };
    expect(await told()).toMatchObject({
      remarks: [{ revision: 'A', step: 2, text: 'The ring does not fit', part: 'Ring', photo: true, serial: '0107', answer: null }],
      units: [{ serial: '0107', revision: 'A', steps: 2, total: expect.any(Number) }],
    });
    expect((await told()).units![0]!['total']).toBeGreaterThanOrEqual(2);
    const table = await (await ask('GET', `/api/jobs/${id}/files/units.csv`)).text();
    expect(table.split('\r\n').filter((l) => l.startsWith('0107'))).toHaveLength(4);
    expect(table).toContain('The ring does not fit');
    expect(Buffer.from(await bytesOf(`/api/jobs/${id}/remarks/${remark.id}`)).toString()).toBe('not really');
    expect((await answer('POST', `/api/jobs/${id}/remarks/${remark.id}`, { body: { answer: 'Ream it to 12.4' } }))[0]).toBe(200);
    expect(await told()).toMatchObject({ remarks: [{ answer: 'Ream it to 12.4' }] });
    expect((await documentOf(id)).version).toBe(2);
    expect(await refusal('POST', at, { body: { ...remark, photo: 'data:text/html;base64,AAAA' } })).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('POST', `/api/issues/${NOBODY}/answers`, { body: remark })).toEqual([404, 'NOT_FOUND']);
    expect(await refusal('POST', `/api/jobs/${id}/remarks/${NOBODY}`, { body: { answer: 'x' } })).toEqual([404, 'NOT_FOUND']);
  }, 60_000);

  test('what the guide says: words of the drafter go before those made up', async () => {
    const id = await ready();
    type Words = { checked: boolean; steps: { key: string; text: string; own: boolean; kit: string[]; checks: string[] }[] };
    const words = async () => (await answer('GET', `/api/jobs/${id}/guide`))[1] as unknown as Words;
    const before = await words();
    expect(before.checked).toBe(true);
    expect(before.steps.flatMap((s) => s.kit)).toHaveLength(7);
    const { key } = before.steps[1]!;
    const record = { type: 'guide', id: 'guide', words: { [key]: { text: 'Set it down.', checks: ['It sits flat'] } } };
    await answer('POST', `/api/jobs/${id}/edits`, { body: { version: 1, label: 'x', steps: [put(record)] } });
    expect((await words()).steps[1]).toMatchObject({ text: 'Set it down.', own: true, checks: ['It sits flat'] });
  }, 60_000);

  test('requests that are not understood, and issues that are not there', async () => {
    const id = await ready();
    for (const wrong of [{ date: 'yesterday' }, { outputs: [] }, { outputs: ['dwf'] }, { revision: '' }, { revision: '<b>' }])
      expect(await refusal('POST', `/api/jobs/${id}/issues`, { body: { version: 1, ...said, ...wrong } })).toEqual([400, 'BAD_REQUEST']);
    for (const name of ['package.zip', 'verify', 'x.pdf']) expect(await refusal('GET', `/api/jobs/${id}/issues/${NOBODY}/${name}`)).toEqual([404, 'NOT_FOUND']);
    expect(await refusal('GET', `/api/jobs/${id}/compare?from=then`)).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('GET', `/api/jobs/${id}/compare?from=v99`)).toEqual([404, 'NOT_FOUND']);
  });
});

describe('models that an edit names', () => {
  test('must be read and be of the same job: any other would leave a drawing that cannot be opened', async () => {
    const [mine, yours] = [await readyJob(), await readyJob()];
    const other = await offered(yours);
    for (const name of [NOBODY, other]) {
      const steps = [put({ type: 'model', id: 'model', model: name, name: 'x.step' })];
      expect(await refusal('POST', `/api/jobs/${mine}/edits`, { body: { version: 1, label: 'x', steps } })).toEqual([409, 'STEP_DOES_NOT_FIT']);
    }
    expect((await answer('GET', `/api/jobs/${mine}/drawing`))[0]).toBe(200);
  });
});

describe('a newer model', () => {
  test('is stored and queued; the one before is left', async () => {
    const id = await readyJob();
    const first = await offered(id);
    const file = () => new File([readFileSync('node_modules/occt-import-js/test/testfiles/cube-units/cube-mm.step')], 'rev3.step');
    const [status, { id: second }] = await answer('POST', `/api/jobs/${id}/models`, { form: { file: file() } });
    expect(status).toBe(201);
    expect((await answer('GET', `/api/jobs/${id}/models`))[1]).toMatchObject({
      offer: { id: second, name: 'rev3.step', state: 'queued' },
      demo: false,
      taken: null,
    });
    expect(await refusal('POST', `/api/jobs/${id}/models/${first}`, { body: { decisions: [] } })).toEqual([404, 'NOT_FOUND']);
    expect((await ask('DELETE', `/api/jobs/${id}/models/${second as string}`)).status).toBe(204);
    expect((await answer('GET', `/api/jobs/${id}/models`))[1]).toMatchObject({ offer: null });
    await getDatabase().execute(sql`delete from graphile_worker._private_jobs`);
  });
  test('a mesh without a unit is asked for first', async () => {
    const stl = new File([readFileSync('node_modules/stl-models/objects/gearwheel.bin.stl')], 'rev.stl');
    expect((await answer('POST', `/api/jobs/${await readyJob()}/models`, { form: { file: stl } }))[1]).toHaveProperty('question');
  });
  test('says what it would change, and is taken over as one edit', async () => {
    const id = await readyJob();
    const newer = await offered(id);
    const [, changes] = await answer('POST', `/api/jobs/${id}/models/${newer}`, { body: { decisions: [] } });
    expect(changes).toMatchObject({ report: { changes: [{ kind: 'moved', name: 'Cap', mm: 5, pieces: 1 }], unchanged: 6 }, doubtful: [], losses: [] });
    expect(await refusal('PUT', `/api/jobs/${id}/models/${newer}`, { body: { version: 7, decisions: [] } })).toEqual([409, 'STALE_VERSION']);
    expect((await answer('PUT', `/api/jobs/${id}/models/${newer}`, { body: { version: 1, decisions: [], accepted: ['moved/Cap'] } }))[0]).toBe(200);
    const now = await documentOf(id);
    expect(now.document['model']).toMatchObject({ model: newer, accepted: ['moved/Cap'] });
    expect(componentsOf(now.assembly).find((c) => c.name === 'Cap')!.placement[11]).toBe(53);
    expect((await answer('GET', `/api/jobs/${id}/models`))[1]).toMatchObject({ offer: null, taken: { report: { changes: [{ kind: 'moved' }] } } });
    const csv = await (await ask('GET', `/api/jobs/${id}/files/changes.csv`)).text();
    expect(csv).toContain('moved,Cap');
    // One undo, and the old one shows again.
    await answer('POST', `/api/jobs/${id}/undo`, { body: { version: 2 } });
    expect(componentsOf((await documentOf(id)).assembly).find((c) => c.name === 'Cap')!.placement[11]).toBe(48);
  });
  test('of another job is nobody’s business here', async () => {
    const [mine, yours] = [await readyJob(), await readyJob()];
    const newer = await offered(yours);
    expect(await refusal('POST', `/api/jobs/${mine}/models/${newer}`, { body: { decisions: [] } })).toEqual([404, 'NOT_FOUND']);
    expect(await refusal('PUT', `/api/jobs/${mine}/models/${newer}`, { body: { version: 1, decisions: [] } })).toEqual([404, 'NOT_FOUND']);
    await ask('DELETE', `/api/jobs/${mine}/models/${newer}`);
    expect((await answer('GET', `/api/jobs/${yours}/models`))[1]).toMatchObject({ offer: { id: newer, state: 'ready' } });
  });
  test('the demo’s second revision is at hand for the demo alone', async () => {
    const id = await jobWith(machine.assembly, drawn.document, { title: 'd', demo: true });
    expect((await answer('GET', `/api/jobs/${id}/models`))[1]).toMatchObject({ demo: true });
    expect((await answer('POST', `/api/jobs/${id}/models?demo`))[0]).toBe(201);
    expect((await answer('GET', `/api/jobs/${id}/models`))[1]).toMatchObject({ demo: false, offer: { state: 'queued' } });
    await getDatabase().execute(sql`delete from graphile_worker._private_jobs`);
  });
});

describe('the unit that a file means', () => {
  test('everything follows, as one edit that undo takes back; the answer is remembered', async () => {
    const id = await readyJob();
    const before = await documentOf(id);
    expect((await answer('PUT', `/api/jobs/${id}/unit`, { body: { version: 1, unit: 'inch' } }))[0]).toBe(200);
    const after = await documentOf(id);
    expect(after.assembly.unit).toBe('inch');
    sizeOf(after.assembly).forEach((v, k) => expect(v / sizeOf(before.assembly)[k]!).toBeCloseTo(25.4, 9));
    expect(after.document['drawing']).toMatchObject({ unit: { stated: 'mm', mm: 25.4 } });
    const pull = (d: DrawingDocument) => (d['spread:1'] as SpreadRecord).pulls[0]!.distanceMm;
    expect(pull(after.document) / pull(before.document)).toBeCloseTo(25.4, 9);
    for (const v of recordsOf(after.document, 'view')) expect(v.scale).toBeLessThan((before.document[v.id] as ViewRecord).scale / 25);
    // Parts keep their pictures under their new keys.
    const key = after.assembly.parts[0]!.geometryKey;
    expect(key).not.toBe('g0');
    expect(await (await ask('GET', `/api/parts/${key}`)).text()).toBe('<svg>g0</svg>');
    await answer('POST', `/api/jobs/${id}/undo`, { body: { version: 2 } });
    expect((await documentOf(id)).document).toEqual(before.document);
  });
  test('confirmed it changes nothing but that', async () => {
    const id = await readyJob();
    await answer('PUT', `/api/jobs/${id}/unit`, { body: { version: 1, unit: 'mm' } });
    const { document } = await documentOf(id);
    const sent = JSON.parse(JSON.stringify(drawn.document)) as DrawingDocument;
    expect(document).toEqual({ ...sent, drawing: { ...sent['drawing'], unit: { stated: 'mm', mm: 1 } } });
  });
  test('on an older version, or for no unit, it is refused', async () => {
    const id = await readyJob();
    expect(await refusal('PUT', `/api/jobs/${id}/unit`, { body: { version: 9, unit: 'cm' } })).toEqual([409, 'STALE_VERSION']);
    expect(await refusal('PUT', `/api/jobs/${id}/unit`, { body: { version: 1, unit: 'cubit' } })).toEqual([400, 'BAD_REQUEST']);
  });
});

describe('layouts of parts lists', () => {
  test('are kept in versions and removed; shipped ones stay', async () => {
    const own = { name: 'Ours', columns: [{ key: 'item', title: 'No', widthMm: 12 }], headBold: true };
    expect((await answer('POST', '/api/list-styles', { body: own }))[1]).toEqual({ ...own, shipped: false, version: 1 });
    expect((await answer('POST', '/api/list-styles', { body: { ...own, rows: 'top' } }))[1]).toMatchObject({ version: 2, rows: 'top' });
    const listed = (await answer('GET', '/api/list-styles'))[1] as unknown as { name: string; shipped: boolean }[];
    expect(listed.map((s) => [s.name, s.shipped])).toEqual([
      ['ISO 7573', true],
      ['ASME Y14.34', true],
      ['Cut list', true],
      ['Buying', true],
      ['Ours', false],
    ]);
    expect(await refusal('POST', '/api/list-styles', { body: { ...own, name: 'Buying' } })).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('POST', '/api/list-styles', { body: { ...own, columns: [] } })).toEqual([400, 'BAD_REQUEST']);
    expect((await answer('DELETE', '/api/list-styles/Ours'))[0]).toBe(204);
    expect(await refusal('DELETE', '/api/list-styles/Ours')).toEqual([404, 'NOT_FOUND']);
    expect(await refusal('DELETE', '/api/list-styles/Buying')).toEqual([400, 'BAD_REQUEST']);
  });
});

describe('what is laid flat', () => {
  test('a tube’s outside comes 1:1 as SVG and as PDF; a part that cannot be laid flat, or is none, is not found', async () => {
    const id = await readyJob();
    const svg = await ask('GET', `/api/jobs/${id}/files/flat.svg?part=Ring`);
    expect([svg.status, svg.headers.get('content-type')]).toEqual([200, 'image/svg+xml']);
    const text = await svg.text();
    // 22 round and 5 long, with 10 mm of air around.
    expect(Number(/width="([\d.]+)mm"/.exec(text)![1])).toBeCloseTo(22 * Math.PI + 20, 0);
    expect(Number(/height="([\d.]+)mm"/.exec(text)![1])).toBeCloseTo(25, 3);
    const pdf = await ask('GET', `/api/jobs/${id}/files/flat.pdf?part=Ring`);
    expect([pdf.status, new TextDecoder().decode((await pdf.arrayBuffer()).slice(0, 5))]).toEqual([200, '%PDF-']);
    expect((await refusal('GET', `/api/jobs/${id}/files/flat.svg?part=Plate`))[1]).toBe('NOT_FOUND');
    expect((await refusal('GET', `/api/jobs/${id}/files/flat.svg?part=Nobody`))[1]).toBe('NOT_FOUND');
  });
});

describe('sheet formats', () => {
  const own = async () => ({ ...((await answer('GET', '/api/formats/ISO title block'))[1] as object), name: 'Our A3', words: 'Ours.' });

  test('are listed, kept in versions, given out and removed; shipped ones stay', async () => {
    const body = await own();
    expect((await answer('POST', '/api/formats', { body }))[1]).toMatchObject({ name: 'Our A3', version: 1, shipped: false, size: 'A3' });
    // What a file says of its version is not believed.
    expect((await answer('POST', '/api/formats', { body: { ...body, words: 'More', version: 40 } }))[1]).toMatchObject({ version: 2 });
    const listed = (await answer('GET', '/api/formats'))[1] as unknown as { name: string; shipped: boolean }[];
    expect(listed.filter((f) => f.shipped).length).toBeGreaterThan(10);
    expect(listed.at(-1)).toMatchObject({ name: 'Our A3', version: 2 });
    expect((await answer('GET', '/api/formats/Our A3'))[1]).toEqual({ ...body, words: 'More', version: 2 });
    expect(await refusal('POST', '/api/formats', { body: { ...body, name: 'ISO folded' } })).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('POST', '/api/formats', { body: { ...body, size: 'A9' } })).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('DELETE', '/api/formats/ISO folded')).toEqual([400, 'BAD_REQUEST']);
    expect((await answer('DELETE', '/api/formats/Our A3'))[0]).toBe(204);
    expect(await refusal('DELETE', '/api/formats/Our A3')).toEqual([404, 'NOT_FOUND']);
    expect(await refusal('GET', '/api/formats/Our A3')).toEqual([404, 'NOT_FOUND']);
  });
});

describe('recipes', () => {
  const own = {
    format: 1,
    name: 'Ours',
    words: '',
    sheets: [{ name: 'Part: {subject}', per: 'made part', slots: [{ want: 'part views', name: 'Views', dimensions: true }] }],
  };

  test('are listed, kept in versions, given out and removed; shipped ones stay', async () => {
    expect((await answer('POST', '/api/recipes', { body: own }))[1]).toMatchObject({ name: 'Ours', version: 1, shipped: false });
    expect((await answer('POST', '/api/recipes', { body: { ...own, words: 'More' } }))[1]).toMatchObject({ version: 2 });
    const listed = (await answer('GET', '/api/recipes'))[1] as unknown as { name: string; shipped: boolean }[];
    expect(listed.filter((r) => r.shipped)).toHaveLength(4);
    expect(listed.at(-1)).toMatchObject({ name: 'Ours', version: 2 });
    expect((await answer('GET', '/api/recipes/Ours'))[1]).toEqual({ ...own, words: 'More' });
    expect(await refusal('POST', '/api/recipes', { body: { ...own, name: 'Bench set' } })).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('POST', '/api/recipes', { body: { ...own, sheets: [] } })).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('DELETE', '/api/recipes/Arrangement')).toEqual([400, 'BAD_REQUEST']);
    expect((await answer('DELETE', '/api/recipes/Ours'))[0]).toBe(204);
    expect(await refusal('DELETE', '/api/recipes/Ours')).toEqual([404, 'NOT_FOUND']);
    expect(await refusal('GET', '/api/recipes/Ours')).toEqual([404, 'NOT_FOUND']);
  });

  test('one is looked at beforehand and applied as one edit, once; undo takes its sheets away', async () => {
    const id = await readyJob();
    const before = await documentOf(id);
    await answer('POST', '/api/recipes', { body: own });
    const preview = (await answer('GET', `/api/jobs/${id}/recipe?recipe=Ours`))[1] as { sheets: { name: string; stands: boolean }[] };
    expect(preview.sheets[0]).toMatchObject({ name: 'Part: Plate', stands: false });
    const done = (await lines(await ask('POST', `/api/jobs/${id}/recipe`, { body: { recipe: 'Ours', version: 1 } }))).at(-1) as {
      result: { version: number; sheets: number; slots: { filled: boolean }[] };
    };
    expect(done.result).toMatchObject({ version: 2, sheets: preview.sheets.length });
    expect(done.result.slots.every((s) => s.filled)).toBe(true);
    const { document } = await documentOf(id);
    expect(recordsOf(document, 'sheet').filter((s) => s.part)).toHaveLength(preview.sheets.length);
    // What its views show is stored with it.
    const view = recordsOf(document, 'view').find((v) => v.shows?.of[0] === 'Plate')!;
    expect((await ask('GET', `/api/jobs/${id}/views/${view.id}`)).status).toBe(200);
    const again = (await lines(await ask('POST', `/api/jobs/${id}/recipe`, { body: { recipe: 'Ours', version: 2 } }))).at(-1);
    expect(again).toMatchObject({ result: { version: 2, sheets: 0 } });
    expect((await lines(await ask('POST', `/api/jobs/${id}/recipe`, { body: { recipe: 'Ours', version: 1 } }))).at(-1)).toMatchObject({
      error: { code: 'STALE_VERSION' },
    });
    await answer('POST', `/api/jobs/${id}/undo`, { body: { version: 2 } });
    expect((await documentOf(id)).document).toEqual(before.document);
    expect(await refusal('GET', `/api/jobs/${id}/recipe?recipe=Nobody`)).toEqual([404, 'NOT_FOUND']);
    await answer('DELETE', '/api/recipes/Ours');
  }, 60_000);

  test('the sheets of a drawing are kept as one', async () => {
    const id = await readyJob();
    expect((await answer('POST', `/api/jobs/${id}/recipe/keep`, { body: { name: 'From a machine' } }))[1]).toMatchObject({
      name: 'From a machine',
      sheets: [{ per: 'whole' }, { per: 'whole' }],
    });
    expect(await refusal('POST', `/api/jobs/${id}/recipe/keep`, { body: { name: ' ' } })).toEqual([400, 'BAD_REQUEST']);
    expect(await refusal('POST', `/api/jobs/${id}/recipe/keep`, { body: { name: 'Bench set' } })).toEqual([400, 'BAD_REQUEST']);
    await answer('DELETE', '/api/recipes/From a machine');
  });

  test('a job is dropped with one, or refused for one that is not there', async () => {
    const file = () => new File([readFileSync('node_modules/stl-models/objects/gearwheel.bin.stl')], 'wheel.stl');
    expect(await refusal('POST', '/api/jobs', { form: { file: file(), unitMm: '1', recipe: 'Nobody' } })).toEqual([404, 'NOT_FOUND']);
    const [status, made] = await answer('POST', '/api/jobs', { form: { file: file(), unitMm: '1', recipe: 'Bench set' } });
    expect(status).toBe(201);
    const [row] = await getDatabase()
      .select({ recipe: job.recipe })
      .from(job)
      .where(eq(job.id, made['id'] as string));
    expect(row!.recipe).toMatchObject({ name: 'Bench set' });
  });
});

describe('live', () => {
  const first = async (r: Response) => {
    const reader = r.body!.getReader();
    return { reader, text: async () => new TextDecoder().decode((await reader.read()).value) };
  };
  test('changes of a job are told to those who listen to it, and to those who listen to all', async () => {
    const [id, other] = [await readyJob(), await readyJob()];
    const own = await ask('GET', `/api/jobs/${id}/events`);
    const all = await ask('GET', '/api/events');
    expect(own.headers.get('content-type')).toContain('text/event-stream');
    const [a, b] = [await first(own), await first(all)];
    const until = async (s: Awaited<ReturnType<typeof first>>, wanted: string) => {
      let seen = '';
      for (let i = 0; i < 20 && !seen.includes(wanted); i++) seen += await s.text();
      return seen;
    };
    await new Promise((r) => setTimeout(r, 300));
    for (const j of [other, id])
      await answer('POST', `/api/jobs/${j}/edits`, { body: { version: 1, label: 'x', steps: [put({ ...drawn.document['drawing'], title: 'Told' })] } });
    const told = await until(a, id);
    expect(told).toContain('"type":"document"');
    expect(told).not.toContain(other);
    expect(await until(b, id)).toContain('"version":2');
    await a.reader.cancel();
    await b.reader.cancel();
  });
  test('the server says how it is', async () => {
    expect(await answer('GET', '/api/health')).toEqual([200, { ok: true, database: 'up' }]);
  });
});

describe('the interface for programs', () => {
  test('items and findings are given as JSON', async () => {
    const id = await readyJob();
    const items = (await answer('GET', `/api/jobs/${id}/files/items.json`))[1] as unknown as {
      number: string;
      part: string;
      quantity: number;
      properties: Record<string, string>;
    }[];
    expect(items).toHaveLength(7);
    expect(items[0]).toMatchObject({ number: '1', part: 'Plate', quantity: 1, properties: { drawingNumber: 'P-1', material: 'S355' } });
    const findings = (await answer('GET', `/api/jobs/${id}/files/findings.json`))[1] as unknown as { code: string; severity: string; text: string }[];
    expect(findings.some((f) => f.code === 'TITLE_GAP' && f.text.length > 10)).toBe(true);
    expect(findings.filter((f) => f.severity === 'must')).toEqual([]);
  });

  test('its description names every address with every method, and only those', async () => {
    const said = (await answer('GET', '/api/openapi.json'))[1] as {
      openapi: string;
      paths: Record<string, Record<string, { summary: string; requestBody?: unknown }>>;
    };
    expect(said.openapi).toBe('3.1.0');
    const described = Object.entries(said.paths).flatMap(([path, methods]) => Object.keys(methods).map((m) => `${m.toUpperCase()} ${path}`));
    const there: string[] = [];
    for (const [file, load] of Object.entries(routes)) {
      const path = `/${file.slice(2, -'/+server.ts'.length)}`.replace(/\[(\w+)\]/g, '{$1}');
      for (const method of Object.keys((await load()) as object)) if (/^(GET|POST|PUT|DELETE|PATCH)$/.test(method)) there.push(`${method} ${path}`);
    }
    expect(described.sort()).toEqual(there.sort());
  });

  test('what is sent is described by the schema it is checked by', async () => {
    const { paths } = (await answer('GET', '/api/openapi.json'))[1] as {
      paths: Record<
        string,
        Record<string, { requestBody: { content: Record<string, { schema: { properties: Record<string, unknown>; required: string[] } }> } }>
      >;
    };
    const { schema } = paths['/api/jobs/{id}/recipe']!['post']!.requestBody.content['application/json']!;
    expect(Object.keys(schema.properties).sort()).toEqual(['recipe', 'token', 'version']);
    expect(schema.required.sort()).toEqual(['recipe', 'version']);
  });
});

test('every route was asked, by every method it knows', async () => {
  const known: string[] = [];
  for (const [file, load] of Object.entries(routes))
    for (const method of Object.keys((await load()) as object)) if (/^(GET|POST|PUT|DELETE|PATCH)$/.test(method)) known.push(`${method} ${file}`);
  expect(known.filter((k) => !asked.has(k))).toEqual([]);
});
