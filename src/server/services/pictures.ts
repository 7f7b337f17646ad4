import { and, eq, inArray, isNotNull } from 'drizzle-orm';
import { componentsOf } from '../../core/assembly/components.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { linesAsSvg } from '../../formats/lines-svg.ts';
import { getDatabase } from '../database/client.ts';
import { geometry } from '../database/schema.ts';
import { runGroupPicture } from '../queue/geometry-pool.ts';
import { fromStored } from '../stored-result.ts';
import { loadDrawing } from './documents.ts';
import { loadGeometries } from './geometries.ts';
import { keyedViews, storedResult } from './views.ts';

/** Small line drawing of a part. @throws QuarryError NOT_FOUND */
export async function partPicture(key: string): Promise<string> {
  const [row] = await getDatabase()
    .select({ picture: geometry.picture })
    .from(geometry)
    .where(and(eq(geometry.key, key), isNotNull(geometry.picture)));
  if (!row?.picture) throw new QuarryError('NOT_FOUND', { what: 'The picture' });
  return row.picture;
}

/** Small line drawings of parts by their keys; those that there is none of are left out. */
export async function partPictures(keys: readonly string[]): Promise<Record<string, string>> {
  const rows = await getDatabase()
    .select({ key: geometry.key, picture: geometry.picture })
    .from(geometry)
    .where(and(inArray(geometry.key, [...keys]), isNotNull(geometry.picture)));
  return Object.fromEntries(rows.map((r) => [r.key, r.picture!]));
}

/** Small line drawing of components of a job as they stand together. @throws QuarryError NOT_FOUND for one that the model does not have */
export async function componentsPicture(jobId: string, components: readonly number[]): Promise<string> {
  const { assembly } = await loadDrawing(jobId);
  const known = componentsOf(assembly).length;
  if (components.some((c) => c >= known)) throw new QuarryError('NOT_FOUND', { what: 'A component of the picture' });
  return runGroupPicture({ type: 'group-picture', assembly, components }, loadGeometries);
}

/** The assembly seen from the isometric view of its drawing, or from the first view there is. @throws QuarryError NOT_FOUND */
export async function jobPicture(jobId: string): Promise<string> {
  const { assembly, document } = await loadDrawing(jobId);
  const views = keyedViews(assembly, document);
  const view = views.find((v) => v.view.id === 'view:isometric') ?? views[0];
  const data = view && (await storedResult(view.key));
  const result = data && fromStored(data);
  if (!result) throw new QuarryError('NOT_FOUND', { what: 'The picture' });
  return linesAsSvg(result.lines, true);
}

/** Packed geometry of a part, for the 3D view. @throws QuarryError NOT_FOUND */
export async function packedGeometry(key: string): Promise<Uint8Array> {
  const [row] = await getDatabase().select({ data: geometry.data }).from(geometry).where(eq(geometry.key, key));
  if (!row) throw new QuarryError('NOT_FOUND', { what: 'The geometry of a part' });
  return row.data;
}
