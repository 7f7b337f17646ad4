import { eq, inArray } from 'drizzle-orm';
import { QuarryError } from '../../core/base/errors.ts';
import type { FindShapes } from '../../kernel/part-mesher.ts';
import { getDatabase } from '../database/client.ts';
import { geometry, shapeMesh } from '../database/schema.ts';

export type PackedGeometries = readonly (readonly [key: string, packed: Uint8Array])[];

/** @param shapes keys by the hash of the shape that was meshed to them */
export async function storeGeometries(geometries: PackedGeometries, shapes: readonly (readonly [hash: string, key: string])[] = []): Promise<void> {
  for (const [key, data] of geometries) await getDatabase().insert(geometry).values({ key, data }).onConflictDoNothing();
  const stored = new Set(geometries.map(([key]) => key));
  const rows = shapes.flatMap(([hash, geometryKey]) => (stored.has(geometryKey) ? [{ hash, geometryKey }] : []));
  for (let i = 0; i < rows.length; i += 500)
    await getDatabase()
      .insert(shapeMesh)
      .values(rows.slice(i, i + 500))
      .onConflictDoNothing();
}

/** Geometry of shapes that were meshed before, for whichever job. */
export const findShapes: FindShapes = async (hashes) => {
  const rows = await getDatabase()
    .select({ hash: shapeMesh.hash, key: geometry.key, data: geometry.data })
    .from(shapeMesh)
    .innerJoin(geometry, eq(geometry.key, shapeMesh.geometryKey))
    .where(inArray(shapeMesh.hash, [...hashes]));
  return rows.map((r) => [r.hash, r.key, r.data] as const);
};

/** @throws QuarryError NOT_FOUND */
export async function loadGeometries(keys: readonly string[]): Promise<[string, Uint8Array][]> {
  const rows = await getDatabase()
    .select({ key: geometry.key, data: geometry.data })
    .from(geometry)
    .where(inArray(geometry.key, [...keys]));
  if (rows.length < keys.length) throw new QuarryError('NOT_FOUND', { what: 'The geometry of a part' });
  return rows.map((r) => [r.key, r.data]);
}
