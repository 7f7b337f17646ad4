import { eq, inArray } from 'drizzle-orm';
import { mmPerUnit } from '../../core/assembly/units.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { drawingOf, type DrawingDocument } from '../../core/document/records.ts';
import { rescaleDrawing } from '../../core/document/rescale.ts';
import type { Step } from '../../core/document/steps.ts';
import { getDatabase } from '../database/client.ts';
import { geometry, model } from '../database/schema.ts';
import { tell } from '../events.ts';
import { runRescale } from '../queue/geometry-pool.ts';
import type { ReadResult } from '../queue/geometry-tasks.ts';
import { appendEdit, type EditOutcome } from './edits.ts';
import { loadDrawing } from './documents.ts';
import { loadGeometries } from './geometries.ts';

/**
 * Says what the unit of a job's files means: the model, everything that is measured in it and the scales follow, as one
 * edit that can be undone. The answer counts for newer models too. The unit it has already is confirmed by it.
 * @throws QuarryError NOT_FOUND, STALE_VERSION, BAD_REQUEST for a unit that is none
 */
export async function setUnit(jobId: string, version: number, unit: string): Promise<EditOutcome> {
  const mm = mmPerUnit(unit);
  if (mm === undefined) throw new QuarryError('BAD_REQUEST', { text: `“${unit}” is no unit of length that is known here.` });
  const { title, assembly, document } = await loadDrawing(jobId);
  const drawing = drawingOf(document);
  const answer: Step = { op: 'put', record: { ...drawing, unit: { stated: drawing.unit?.stated ?? assembly.unit, mm } } };
  const now = mmPerUnit(assembly.unit) ?? 1;
  if (now === mm) return appendEdit(jobId, version, `Lengths are in ${unit}`, [answer]);

  const scaled = await runRescale(assembly, mm, loadGeometries);
  await storeScaled(
    assembly.parts.map((p) => p.geometryKey),
    scaled,
  );
  const shown = document['model']?.type === 'model' ? document['model'] : undefined;
  const name = (shown?.name ?? title).replace(/, lengths in .*$/, '') + `, lengths in ${unit}`;
  // What the shown model had changed is still what it changed.
  const [last] = shown ? await getDatabase().select({ report: model.report, losses: model.losses }).from(model).where(eq(model.id, shown.model)) : [];
  const [row] = await getDatabase()
    .insert(model)
    .values({ jobId, name, assembly: scaled.assembly, state: 'left', ...last })
    .returning({ id: model.id });
  const steps: Step[] = [
    ...rescaleDrawing(document, mm / now, new Map(assembly.parts.map((p, i) => [p.geometryKey, scaled.assembly.parts[i]!.geometryKey]))),
    answer,
    { op: 'put', record: { type: 'model', id: 'model', model: row!.id, name, ...(shown?.accepted ? { accepted: shown.accepted } : {}) } },
  ];
  const outcome = await appendEdit(jobId, version, `Lengths in ${unit}`, steps);
  await tell({ type: 'model', job: jobId });
  return outcome;
}

/** Part by part as before; their pictures are the same. */
async function storeScaled(keys: readonly string[], scaled: ReadResult): Promise<void> {
  const db = getDatabase();
  const rows = await db
    .select({ key: geometry.key, picture: geometry.picture })
    .from(geometry)
    .where(inArray(geometry.key, [...new Set(keys)]));
  const pictures = new Map(rows.map((r) => [r.key, r.picture]));
  const oldKey = new Map(scaled.assembly.parts.map((p, i) => [p.geometryKey, keys[i]!]));
  for (const [key, data] of scaled.geometries)
    await db
      .insert(geometry)
      .values({ key, data, picture: pictures.get(oldKey.get(key)!) ?? null })
      .onConflictDoNothing();
}

/** A model that was read, in the unit that the drafter said its files mean. */
export async function inUnitOf(document: DrawingDocument, read: ReadResult): Promise<ReadResult> {
  const { unit } = drawingOf(document);
  if (!unit || unit.stated !== read.assembly.unit || mmPerUnit(unit.stated) === unit.mm) return read;
  const packed = new Map(read.geometries);
  return runRescale(read.assembly, unit.mm, async (keys) => keys.map((k) => [k, packed.get(k)!] as const));
}
