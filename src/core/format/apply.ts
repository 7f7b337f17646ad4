import { without } from '../base/without.ts';
import type { DrawingDocumentRecord, DrawingRecord, SheetRecord } from '../document/records.ts';
import { resizeSheet } from '../document/moves.ts';
import { dropWithDependants, type Step } from '../document/steps.ts';
import type { Scene } from '../../elements/scene.ts';
import { FORMAT_FILE, FORMAT_SHEET, FORMAT_TYPES, type FormatElement, type SheetFormat } from './record.ts';

type FreshId = (base: string) => string;

const put = (record: DrawingDocumentRecord): Step => ({ op: 'put', record });

/** Places in the set mean nothing to a format: it stands behind all sheets. */
const ORDER = 1e6;

/** A format as records of a drawing: the sheet that is its canvas, and what stands on it. @param id of its canvas */
export function formatRecords(body: SheetFormat, id: string, freshId: FreshId): readonly [SheetRecord, ...FormatElement[]] {
  const canvas: SheetRecord = {
    type: 'sheet',
    id,
    order: ORDER,
    name: body.name,
    size: body.size,
    landscape: body.landscape,
    form: { ...body.form, ...(body.version === undefined ? {} : { version: body.version }) },
    ...(body.noFrame ? { noFrame: true as const } : {}),
  };
  return [canvas, ...body.elements.map((e): FormatElement => ({ ...e, id: freshId(e.id.split('~')[0]!), sheet: id }))];
}

/** A format of a drawing as it is kept under its name and given away; undefined where there is no such format. */
export function formatFrom(scene: Scene, id: string, words = ''): SheetFormat | undefined {
  const canvas = scene.one('sheet', id);
  if (!canvas?.form) return undefined;
  const elements = scene
    .at(id)
    .flatMap((r, i): FormatElement[] => (FORMAT_TYPES.has(r.type) ? [{ ...(r as FormatElement), id: `${r.type}:${i + 1}`, sheet: FORMAT_SHEET }] : []));
  return {
    format: FORMAT_FILE,
    name: canvas.name,
    words,
    size: canvas.size,
    landscape: canvas.landscape,
    ...(canvas.noFrame ? { noFrame: true as const } : {}),
    ...(canvas.form.version === undefined ? {} : { version: canvas.form.version }),
    form: without(canvas.form, 'version', 'stays'),
    elements,
  };
}

export interface FormatWanted {
  readonly body: SheetFormat;
  /** The sheets take its size and way up too. */
  readonly sized?: boolean;
}

/**
 * Puts sheets on a format. A format of that name that the drawing has already becomes this one, and all sheets on it follow.
 * @param sheets ids @returns the steps, and the id of the format's canvas
 */
export function applyFormat(scene: Scene, wanted: FormatWanted, sheets: readonly string[], freshId: FreshId): { readonly steps: Step[]; readonly id: string } {
  const { body } = wanted;
  const known = scene.formats.find((f) => f.name === body.name);
  const id = known?.id ?? freshId('format');
  const steps = [...(known ? emptied(scene, known.id) : []), ...formatRecords(body, id, freshId).map(put), ...fieldSteps(scene, body)];
  return { steps: [...steps, ...laidOn(scene, id, sheets, wanted.sized ? body : undefined)], id };
}

/** Puts sheets on a format that the drawing has, or with null back on their standard's own. @param like whose size they take */
export function laidOn(scene: Scene, format: string | null, sheets: readonly string[], like?: Pick<SheetRecord, 'size' | 'landscape'>): Step[] {
  return sheets.flatMap((id) => {
    const sheet = scene.one('sheet', id);
    if (!sheet || sheet.form) return [];
    const resized = like && (like.size !== sheet.size || like.landscape !== sheet.landscape) ? resizeSheet(scene.document, id, like.size, like.landscape) : [];
    const now = resized.flatMap((s) => (s.op === 'put' && s.record.id === id ? [s.record as SheetRecord] : []))[0] ?? sheet;
    const record: SheetRecord = format === null ? without(now, 'format') : { ...now, format };
    return [...resized.filter((s) => !(s.op === 'put' && s.record.id === id)), put(record)];
  });
}

/**
 * A format of one's own to be changed: the one that a sheet lies on, or a copy of it.
 * @param alone only this sheet goes over to the copy; the others stay
 */
export function formatToChange(scene: Scene, sheet: string, freshId: FreshId, alone: boolean): { readonly steps: Step[]; readonly id: string } {
  const now = scene.formatOf(sheet);
  const users = scene.sheets.filter((s) => scene.formatOf(s.id).name === now.name && scene.formatOf(s.id).id === now.id);
  if (now.id !== undefined && (!alone || users.length < 2)) return { steps: [], id: now.id };
  const id = freshId('format');
  const own = scene.one('sheet', sheet)!;
  // A copy of what comes with the application is made on the sheet's own size.
  const { size, landscape } = now.id === undefined ? own : now;
  const canvas: SheetRecord = {
    type: 'sheet',
    id,
    order: ORDER,
    name: freeName(scene, now.name),
    size,
    landscape,
    form: without(now.form, 'version', 'stays'),
    ...(now.noFrame ? { noFrame: true as const } : {}),
  };
  const elements = now.elements.map((e): FormatElement => ({ ...e, id: freshId(e.id.split('~')[0]!), sheet: id }));
  return { steps: [...[canvas, ...elements].map(put), ...laidOn(scene, id, alone ? [sheet] : users.map((s) => s.id))], id };
}

/** A name that no format of the drawing has. */
export function freeName(scene: Scene, name: string): string {
  const base = name.replace(/, own( \d+)?$/, '');
  for (let n = 1; ; n++) {
    const free = n === 1 ? `${base}, own` : `${base}, own ${n}`;
    if (!scene.formats.some((f) => f.name === free)) return free;
  }
}

/** A drawing with the fields that a format brings, those that it has not; the same where it has them all. */
export function withFields(drawing: DrawingRecord, { fields }: SheetFormat): DrawingRecord {
  const missing = Object.entries(fields ?? {}).filter(([name]) => drawing.fields?.[name] === undefined);
  return missing.length ? { ...drawing, fields: { ...Object.fromEntries(missing), ...drawing.fields } } : drawing;
}

function fieldSteps({ drawing }: Scene, body: SheetFormat): Step[] {
  const next = withFields(drawing, body);
  return next === drawing ? [] : [put(next)];
}

/** Takes everything off a format's canvas. */
const emptied = (scene: Scene, id: string): Step[] => scene.at(id).flatMap((r) => dropWithDependants(scene.document, r.id));

/** Takes a format out of a drawing: its sheets go back to their standard's own. */
export const formatRemoved = (scene: Scene, id: string): Step[] => dropWithDependants(scene.document, id);
