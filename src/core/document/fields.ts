import { z } from 'zod';
import { number, point, vector } from '../base/fields.ts';
import { cross, dot } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';

/** Fields that records are made of. What points at something says so here: see `refs.ts`. */

export const id = z.string().min(1).max(200);
export const text = z.string().max(2000);
/** A picture is kept in the drawing: at most so many characters of base64, 1 MB of file. */
export const MOST_CHARACTERS = 1_400_000;
/** A PNG file, base64. */
export const png = z
  .string()
  .max(MOST_CHARACTERS)
  .regex(/^iVBORw0KGgo[A-Za-z0-9+/]*={0,2}$/, 'A picture is a PNG file.');
export { number, point, vector };
/** mm; larger than anything that is drawn. */
export const length = z.number().min(-1e7).max(1e7);

/** At most so many components in one choice. */
const MOST_PATHS = 100_000;

/**
 * What a field points at, and what becomes of it when that is gone.
 * - record: another record of the drawing. The record that points goes with it (`dropWith`), or the field becomes null and
 *   the fields named by `also` with it (`clear`).
 * - path: a component of the model. The field stays and is stale, which the findings show (`stale`), or it is taken out of
 *   the list that it is in (`leaveOut`).
 * - edge, face: an edge or a face of a component. It is marked as lost (`stale`), or taken out of its list (`leaveOut`).
 */
export type Reference =
  | { readonly to: 'record'; readonly type: string; readonly whenGone: 'dropWith' | 'clear'; readonly also?: readonly string[] }
  | { readonly to: 'path'; readonly whenGone: 'stale' | 'leaveOut' }
  | { readonly to: 'edge'; readonly whenGone: 'stale' | 'leaveOut' }
  | { readonly to: 'face'; readonly whenGone: 'stale' | 'leaveOut' };

/** How a list of references shrinks. */
export interface Shrinking {
  /** With fewer left, what the list belongs to is left out too. */
  readonly least?: number;
  /** Lists of the same object that run beside it, entry by entry. */
  readonly beside?: readonly string[];
}

const references = z.registry<Reference>();
const shrinkings = z.registry<Shrinking>();
export const referenceOf = (schema: z.core.$ZodType): Reference | undefined => references.get(schema);
export const shrinkingOf = (schema: z.core.$ZodType): Shrinking | undefined => shrinkings.get(schema);

/** The id of another record. */
export function ref(type: string, whenGone: 'dropWith' | 'clear', ...also: readonly string[]) {
  return z
    .string()
    .min(1)
    .max(200)
    .register(references, { to: 'record', type, whenGone, ...(also.length ? { also } : {}) });
}

const pathText = () => z.string().max(10_000);

/** The path of a component that is pointed at, whether it is there or not. */
export const path = () => pathText().register(references, { to: 'path', whenGone: 'stale' });

/** Paths of components, of which those that are gone are left out. */
export function paths(shrinking: Shrinking = {}) {
  const list = z.array(pathText().register(references, { to: 'path', whenGone: 'leaveOut' })).max(MOST_PATHS);
  return list.register(shrinkings, shrinking).readonly();
}

const edgeFields = () =>
  z.object({
    /** Path of the component. */
    component: pathText(),
    /** Key of the geometry in which `edge` counts: with another one the edge has to be found again. */
    geometry: z.string().max(200),
    edge: z.int().min(0),
    /** It could not be found again in a newer model. */
    lost: z.literal(true).exactOptional(),
  });
export type EdgeReference = Readonly<z.infer<ReturnType<typeof edgeFields>>>;

/** An edge that is pointed at; lost, it stays and is shown as such. */
export const edge = () => edgeFields().register(references, { to: 'edge', whenGone: 'stale' }).readonly();

/** Edges of which those that are gone are left out. */
export const edges = () =>
  z
    .array(edgeFields().register(references, { to: 'edge', whenGone: 'leaveOut' }).readonly())
    .max(10_000)
    .readonly();

const faceFields = () =>
  z.object({
    component: pathText(),
    geometry: z.string().max(200),
    face: z.int().min(0),
    lost: z.literal(true).exactOptional(),
  });
export type FaceReference = Readonly<z.infer<ReturnType<typeof faceFields>>>;

/** A face that is pointed at, as `edge`. */
export const face = () => faceFields().register(references, { to: 'face', whenGone: 'stale' }).readonly();

/** Faces of which those that are gone are left out. */
export const faces = () =>
  z
    .array(faceFields().register(references, { to: 'face', whenGone: 'leaveOut' }).readonly())
    .max(10_000)
    .readonly();

const LEVEL = 1e-4;

/** Right, up and towards the reader stand square, have the length 1 and are a right-handed frame. */
export function square({ right, up, toward }: ViewFrame): boolean {
  const unit = [right, up, toward].every((v) => Math.abs(dot(v, v) - 1) < LEVEL);
  return unit && Math.abs(dot(right, up)) < LEVEL && dot(cross(right, up), toward) > 1 - 10 * LEVEL;
}
/** How something is seen: unit vectors square to one another, model space; right and up on paper, and towards the reader. */
export const frame = z
  .object({ right: vector, up: vector, toward: vector })
  .readonly()
  .refine(square, { message: 'The directions of a front must have the length 1 and stand square: right × up = towards the reader.' });
export const NOT_SQUARE = 'The directions of a view must have the length 1 and stand square: right × up = towards the reader.';
