import { eq, inArray } from 'drizzle-orm';
import type { Assembly } from '../../core/assembly/assembly.ts';
import type { DrawingDocument } from '../../core/document/records.ts';
import { chosenKs, flatKey } from '../../core/flat/k-factor.ts';
import { isCurrent } from '../../core/features/part-features.ts';
import { getDatabase } from '../database/client.ts';
import { geometry } from '../database/schema.ts';
import { runFeatures } from '../queue/geometry-pool.ts';
import { loadDrawing } from './documents.ts';
import { loadGeometries } from './geometries.ts';

type Stored = readonly (readonly [string, Uint8Array])[];

export async function storeFeatures(features: Stored): Promise<void> {
  for (const [key, data] of features) await getDatabase().update(geometry).set({ features: data }).where(eq(geometry.key, key));
}

/** At most so many parts with chosen Ks are remembered. */
const MOST_FLAT = 500;
const flat = new Map<string, Uint8Array>();

/** What is measured on parts that are laid flat with a K that someone chose: few, and remembered. */
async function flatFeatures(assembly: Assembly, document: DrawingDocument): Promise<Stored> {
  const ks = [...chosenKs(assembly, document)];
  const missing = ks.filter(([key, k]) => !flat.has(flatKey(key, k)));
  if (missing.length) {
    const wanted = new Set(missing.map(([key]) => key));
    const taken = await runFeatures({ ...assembly, parts: assembly.parts.filter((p) => wanted.has(p.geometryKey)), nodes: [] }, loadGeometries, missing);
    if (flat.size + taken.length > MOST_FLAT) flat.clear();
    for (const [key, data] of taken) flat.set(key, data);
  }
  return ks.flatMap(([key, k]) => {
    const data = flat.get(flatKey(key, k));
    return data ? [[flatKey(key, k), data] as const] : [];
  });
}

/** What is measured on the parts of a drawing, packed, by geometry key; with chosen Ks besides. */
export async function drawingFeatures(assembly: Assembly, document: DrawingDocument): Promise<Stored> {
  const [plain, laid] = await Promise.all([loadFeatures(assembly), flatFeatures(assembly, document)]);
  return [...plain, ...laid];
}

/** What is measured on the parts of a model, packed, by geometry key; taken from the geometry where it is not stored yet. */
export async function loadFeatures(assembly: Assembly): Promise<Stored> {
  const keys = [...new Set(assembly.parts.map((p) => p.geometryKey))];
  const rows = await getDatabase().select({ key: geometry.key, features: geometry.features }).from(geometry).where(inArray(geometry.key, keys));
  const there = rows.flatMap((r) => (r.features && isCurrent(r.features) ? [[r.key, r.features] as const] : []));
  const known = new Set(there.map(([key]) => key));
  const parts = assembly.parts.filter((p) => !known.has(p.geometryKey));
  if (!parts.length) return there;
  const taken = await runFeatures({ ...assembly, parts, nodes: [] }, loadGeometries);
  await storeFeatures(taken);
  return [...there, ...taken];
}

/** … of the model that a job shows. @throws QuarryError NOT_FOUND */
export async function jobFeatures(jobId: string): Promise<Stored> {
  const { assembly, document } = await loadDrawing(jobId);
  return drawingFeatures(assembly, document);
}
