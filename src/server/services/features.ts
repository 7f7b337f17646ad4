import { eq, inArray } from 'drizzle-orm';
import type { Assembly } from '../../core/assembly/assembly.ts';
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
  return loadFeatures((await loadDrawing(jobId)).assembly);
}
