import { vi } from 'vitest';
import { componentsOf } from '$core/assembly/components';
import type { Assembly } from '$core/assembly/assembly';
import type { PartGeometry } from '$core/assembly/part-geometry';
import { viewBox } from '$core/shade/raster';
import { suggestForCut } from '$core/cut/keep-whole';
import { middleOf } from '$core/cut/cut-scene';
import { pack } from '$core/base/pack';
import { dot } from '$core/base/vector';
import type { DrawingDocument } from '$core/document/records';
import { applySteps, type Step } from '$core/document/steps';
import { sceneOf } from '$core/outline/scene-of';
import { featuresOf, packFeatures } from '$core/features/part-features';
import { draftAll, smallMachine } from '$core/testing/drafting';
import { explode, type ExplodeRequest } from '$core/explode/requests';
import { computeView } from '$core/views/compute-view';
import { packResult } from '$core/views/result-codec';
import { specified } from '$core/views/view-spec';
import { Drawing } from '../shared/drawing.svelte';

/** What a test of a store sees: the open drawing, the server's side of it, and what the user was told. */
export interface Bench {
  readonly drawing: Drawing;
  /** As the server has it. */
  document(): DrawingDocument;
  /** Labels of the edits that were kept, oldest first. */
  readonly kept: string[];
  /** Requests besides edits, as `METHOD path`. */
  readonly asked: string[];
  readonly said: [string, string][];
  /** Waits until everything sent is answered. */
  settled(): Promise<void>;
  /** The next request fails as if the server were away. */
  away: boolean;
}

const json = (data: unknown, status = 200) => new Response(JSON.stringify(data), { status, headers: { 'content-type': 'application/json' } });

let jobs = 0;

/** Views that were computed, as the server keeps them. */
const computed = new Map<string, Uint8Array>();

/** The small machine with its first drawing, drafted once. */
const machine = smallMachine();
let drafted: ReturnType<typeof draftAll> | undefined;

/**
 * A drawing as a page opens it, on a server in memory that keeps edits and computes what is asked of it, as the real one
 * does. Call inside a test file that mocks `shared/notices.svelte`.
 */
export async function openBench(
  said: [string, string][],
  change: (doc: DrawingDocument) => DrawingDocument = (d) => d,
  model: { assembly: Assembly; geometries: ReadonlyMap<string, PartGeometry> } = machine,
): Promise<Bench> {
  const first = model === machine ? await (drafted ??= draftAll(machine, { bare: true })) : await draftAll(model, { bare: true });
  const { assembly, geometries } = model;
  const id = `job-${++jobs}`;
  for (const [id, r] of first.results) {
    const view = first.document[id];
    if (view?.type === 'view') computed.set(specified(view, first.document, assembly).text, packResult(r));
  }
  let document = change(first.document);
  const log: { steps: readonly Step[]; inverse: readonly Step[]; label: string }[] = [];
  const undone: typeof log = [];
  let version = 1;
  const bench = { kept: [] as string[], asked: [] as string[], away: false };
  const made = (steps: readonly Step[]) => {
    const r = applySteps(document, steps);
    if (!r.ok) return { error: json({ error: { code: 'STEP_DOES_NOT_FIT', message: r.reason } }, 409) };
    document = r.document;
    version++;
    return r;
  };
  const outcome = (steps: readonly Step[]) => json({ version, steps, canUndo: log.length > 0, canRedo: undone.length > 0 });
  const handle = async (path: string, method: string, body: unknown): Promise<Response> => {
    // What a test before this one still sends is none of this server's business.
    if (!path.startsWith(`/api/jobs/${id}/`)) return json({ error: { code: 'NOT_FOUND', message: 'another job' } }, 404);
    const what = path.slice(`/api/jobs/${id}/`.length);
    if (what === 'edits' && method === 'POST') {
      const { steps, label, version: on } = body as { steps: Step[]; label: string; version: number };
      if (on !== version) return json({ error: { code: 'STALE_VERSION', message: 'stale' } }, 409);
      const r = made(steps);
      if ('error' in r) return r.error;
      log.push({ steps, inverse: r.inverse, label });
      undone.length = 0;
      bench.kept.push(label);
      return outcome(steps);
    }
    if (what === 'undo' || what === 'redo') {
      const [from, to] = what === 'undo' ? [log, undone] : [undone, log];
      const last = from.pop();
      if (!last) return json({ error: { code: 'NOTHING_TO_UNDO', message: 'nothing' } }, 409);
      const r = made(last.inverse);
      if ('error' in r) return r.error;
      to.push({ steps: last.inverse, inverse: r.inverse, label: last.label });
      bench.kept.push(`${what} ${last.label}`);
      return outcome(last.inverse);
    }
    if (what.startsWith('edits?since')) return json({ changes: [], canUndo: log.length > 0, canRedo: undone.length > 0 });
    if (what === 'features')
      return new Response(pack('NQfs', 1, Object.fromEntries([...geometries].map(([key, g]) => [key, packFeatures(featuresOf(g))]))) as BodyInit);
    bench.asked.push(`${method} ${what}`);
    const components = componentsOf(assembly);
    if (what === 'seen') return new Response(pack('NQsn', 1, {}) as BodyInit);
    if (what.startsWith('views/')) {
      const view = document[decodeURIComponent(what.slice(6))];
      if (view?.type !== 'view') return json({ error: { code: 'NOT_FOUND', message: 'no view' } }, 404);
      const { spec, text: key } = specified(view, document, assembly);
      if (!computed.has(key)) computed.set(key, packResult(computeView(assembly, geometries, spec)));
      return new Response(computed.get(key) as BodyInit);
    }
    if (what === 'section') {
      const { frame, cut } = body as { frame: Parameters<typeof viewBox>[1]; cut: Parameters<typeof suggestForCut>[3] };
      const bodies = sceneOf(assembly, geometries);
      const keptWhole = suggestForCut(assembly, components, bodies, cut).map((k) => ({ path: components[k.component]!.path, why: k.why }));
      return json({ keptWhole, box: viewBox(bodies, frame), depths: bodies.map((b) => dot(middleOf(b), frame.toward)) });
    }
    if (what === 'explode') {
      const result = explode(
        assembly,
        geometries,
        body as ExplodeRequest,
        { aborted: false },
        () => undefined,
        () => performance.now(),
      );
      return new Response(`${JSON.stringify({ result })}\n`);
    }
    return json({ error: { code: 'NOT_FOUND', message: `no ${what}` } }, 404);
  };
  let open = 0;
  vi.stubGlobal('fetch', async (path: string, init?: RequestInit) => {
    if (bench.away) throw new TypeError('fetch failed');
    open++;
    try {
      return await handle(path, init?.method ?? 'GET', typeof init?.body === 'string' ? JSON.parse(init.body) : undefined);
    } finally {
      open--;
    }
  });
  const drawing = new Drawing({ id, title: 'T', assembly, document, version, canUndo: false, canRedo: false });
  for (const [id, r] of first.results) drawing.results.set(id, r);
  return {
    ...bench,
    drawing,
    said,
    document: () => document,
    kept: bench.kept,
    asked: bench.asked,
    get away() {
      return bench.away;
    },
    set away(v) {
      bench.away = v;
    },
    async settled() {
      for (let i = 0; i < 400; i++) {
        await new Promise((r) => setTimeout(r, 5));
        if (open === 0 && drawing.kept && i > 2) return;
      }
      throw new Error('The drawing was not kept in time.');
    },
  };
}
