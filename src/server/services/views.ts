import { eq, inArray } from 'drizzle-orm';
import type { Assembly } from '../../core/assembly/assembly.ts';
import { componentsOf } from '../../core/assembly/components.ts';
import { QuarryError } from '../../core/base/errors.ts';
import type { Cut } from '../../core/cut/keep-whole.ts';
import type { ViewFrame } from '../../core/outline/directions.ts';
import type { SectionProposal } from '../queue/geometry-tasks.ts';
import { recordsOf, type DrawingDocument, type ViewRecord } from '../../core/document/records.ts';
import { specOf, type ViewSpec } from '../../core/views/view-spec.ts';
import { getDatabase } from '../database/client.ts';
import { geometry, viewResult } from '../database/schema.ts';
import { loadDrawing } from './documents.ts';
import { viewKey } from '../view-key.ts';
import type { ExplodeAnswer, ExplodeRequest, Interim } from '../../core/explode/requests.ts';
import { runExplode, runSection, runView } from '../queue/geometry-pool.ts';

export interface KeyedView {
  readonly view: ViewRecord;
  readonly spec: ViewSpec;
  readonly key: string;
}

/** Every view of a document with the key of its result. */
export function keyedViews(assembly: Assembly, document: DrawingDocument): KeyedView[] {
  const components = componentsOf(assembly);
  return recordsOf(document, 'view').map((view) => {
    const spec = specOf(view, document, components);
    return {
      view,
      spec,
      key: viewKey(spec, assembly, components),
    };
  });
}

export async function storedResult(key: string): Promise<Uint8Array | undefined> {
  const [row] = await getDatabase().select({ data: viewResult.data }).from(viewResult).where(eq(viewResult.key, key));
  return row?.data;
}

/** Those of the keys whose results are there. */
export async function storedKeys(keys: readonly string[]): Promise<Set<string>> {
  const rows = await getDatabase()
    .select({ key: viewResult.key })
    .from(viewResult)
    .where(inArray(viewResult.key, [...keys]));
  return new Set(rows.map((r) => r.key));
}

export async function storeResults(results: readonly (readonly [string, Uint8Array])[]): Promise<void> {
  for (const [key, data] of results) await getDatabase().insert(viewResult).values({ key, data }).onConflictDoNothing();
}

/** Packed geometry by key. @throws QuarryError NOT_FOUND when one is missing */
export async function loadGeometries(keys: readonly string[]): Promise<[string, Uint8Array][]> {
  const rows = await getDatabase()
    .select({ key: geometry.key, data: geometry.data })
    .from(geometry)
    .where(inArray(geometry.key, [...keys]));
  if (rows.length < keys.length) throw new QuarryError('NOT_FOUND', { what: 'The geometry of a part' });
  return rows.map((r) => [r.key, r.data]);
}

/** What this process computes now: asked for twice, it is computed once. */
const underWay = new Map<string, Promise<void>>();

/** Computes a view in a geometry thread and stores it; a result that is there already is left alone. */
export function computeAndStore(assembly: Assembly, keyed: KeyedView, onProgress?: (share: number) => void): Promise<void> {
  const known = underWay.get(keyed.key);
  if (known) return known;
  const work = compute(assembly, keyed, onProgress).finally(() => underWay.delete(keyed.key));
  underWay.set(keyed.key, work);
  return work;
}

async function compute(assembly: Assembly, { spec, key }: KeyedView, onProgress?: (share: number) => void): Promise<void> {
  if ((await storedKeys([key])).size) return;
  const data = await runView({ type: 'view', assembly, spec }, loadGeometries, undefined, onProgress);
  await storeResults([[key, data]]);
}

/** What a section of the job along a cut would keep whole, and its size. @throws QuarryError NOT_FOUND */
export async function proposeSection(jobId: string, request: { frame: ViewFrame; cut: Cut }): Promise<SectionProposal> {
  const { assembly } = await loadDrawing(jobId);
  return runSection({ type: 'section', assembly, ...request }, loadGeometries);
}

/** Computes something of an exploded view of the job's model. @throws QuarryError NOT_FOUND, BAD_REQUEST, CANCELLED */
export async function computeExploded(jobId: string, request: ExplodeRequest, signal: AbortSignal, tell: (message: Interim) => void): Promise<ExplodeAnswer> {
  const { assembly } = await loadDrawing(jobId);
  const count = componentsOf(assembly).length;
  const named = [
    ...('pulls' in request ? request.pulls.flatMap((p) => p.components) : []),
    ...(request.kind === 'plan' ? [...request.together.flat(), ...(request.only ?? [])] : []),
    ...(request.kind === 'clear' ? request.components : []),
  ];
  if (named.some((c) => c >= count)) throw new QuarryError('BAD_REQUEST', { text: 'The model has changed meanwhile. Reload the page.' });
  return runExplode({ type: 'explode', assembly, request }, loadGeometries, signal, tell);
}
