import { eq, inArray } from 'drizzle-orm';
import type { Assembly } from '../../core/assembly/assembly.ts';
import { componentsOf } from '../../core/assembly/components.ts';
import { QuarryError } from '../../core/base/errors.ts';
import type { Cut } from '../../core/cut/keep-whole.ts';
import type { ViewFrame } from '../../core/outline/directions.ts';
import type { SectionProposal } from '../queue/geometry-tasks.ts';
import { recordsOf, type DrawingDocument, type ViewRecord } from '../../core/document/records.ts';
import { specified, type ViewSpec } from '../../core/views/view-spec.ts';
import { getDatabase } from '../database/client.ts';
import { viewResult } from '../database/schema.ts';
import { loadDrawing } from './documents.ts';
import { loadGeometries } from './geometries.ts';
import type { StoredResult } from '../stored-result.ts';
import { keyOfText } from '../view-key.ts';
import type { ExplodeAnswer, ExplodeRequest, Interim } from '../../core/explode/requests.ts';
import type { ShownCure } from '../../core/proof/cure-search.ts';
import { runCures, runExplode, runSection, runView } from '../queue/geometry-pool.ts';

export interface KeyedView {
  readonly view: ViewRecord;
  readonly spec: ViewSpec;
  readonly key: string;
}

/** A view of a document with the key of its result. */
export function keyedView(assembly: Assembly, document: DrawingDocument, view: ViewRecord): KeyedView {
  const { spec, text } = specified(view, document, assembly);
  return { view, spec, key: keyOfText(text) };
}

export const keyedViews = (assembly: Assembly, document: DrawingDocument): KeyedView[] =>
  recordsOf(document, 'view').map((view) => keyedView(assembly, document, view));

/** @throws QuarryError NOT_FOUND */
export function viewOf(document: DrawingDocument, id: string): ViewRecord {
  const view = Object.hasOwn(document, id) ? document[id] : undefined;
  if (view?.type !== 'view') throw new QuarryError('NOT_FOUND', { what: 'The view' });
  return view;
}

/** The result of a view as it is stored, compressed. */
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

export async function storeResults(results: readonly (readonly [string, StoredResult])[]): Promise<void> {
  for (const [key, { data, seen }] of results) await getDatabase().insert(viewResult).values({ key, data, seen }).onConflictDoNothing();
}

/** What of each component the views of a drawing show, as far as they are computed; by view id. */
export async function seenAreas(jobId: string): Promise<Map<string, Uint8Array>> {
  const { assembly, document } = await loadDrawing(jobId);
  const keyed = keyedViews(assembly, document);
  const rows = await getDatabase()
    .select({ key: viewResult.key, seen: viewResult.seen })
    .from(viewResult)
    .where(inArray(viewResult.key, [...new Set(keyed.map((k) => k.key))]));
  const byKey = new Map(rows.map((r) => [r.key, r.seen]));
  return new Map(keyed.flatMap((k) => (byKey.has(k.key) ? [[k.view.id, byKey.get(k.key)!]] : [])));
}

/** What this process computes now: asked for twice, it is computed once. */
const underWay = new Map<string, Promise<void>>();

/** Does any view of a job's drawing, as it stands now, show what this key stands for? */
export async function isWanted(jobId: string, key: string): Promise<boolean> {
  const { assembly, document } = await loadDrawing(jobId);
  return keyedViews(assembly, document).some((k) => k.key === key);
}

/** Computes a view in a geometry thread and stores it; a result that is there already is left alone. @throws QuarryError CANCELLED */
export function computeAndStore(assembly: Assembly, keyed: KeyedView, onProgress?: (share: number) => void, signal?: AbortSignal): Promise<void> {
  const known = underWay.get(keyed.key);
  if (known) return known;
  const work = compute(assembly, keyed, onProgress, signal).finally(() => underWay.delete(keyed.key));
  underWay.set(keyed.key, work);
  return work;
}

async function compute(assembly: Assembly, { spec, key }: KeyedView, onProgress?: (share: number) => void, signal?: AbortSignal): Promise<void> {
  if ((await storedKeys([key])).size) return;
  await storeResults([[key, await runView({ type: 'view', assembly, spec }, loadGeometries, signal, onProgress)]]);
}

/** What a section of the job along a cut would keep whole, and its size. @throws QuarryError NOT_FOUND */
export async function proposeSection(jobId: string, request: { frame: ViewFrame; cut: Cut }): Promise<SectionProposal> {
  const { assembly } = await loadDrawing(jobId);
  return runSection({ type: 'section', assembly, ...request }, loadGeometries);
}

/** Ways to show an item that is seen nowhere or badly. @throws QuarryError NOT_FOUND, CANCELLED */
export async function findCures(jobId: string, part: string, signal: AbortSignal, onProgress: (share: number) => void): Promise<ShownCure[]> {
  const { assembly, document } = await loadDrawing(jobId);
  return runCures({ type: 'cures', assembly, document, part }, loadGeometries, signal, onProgress);
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
