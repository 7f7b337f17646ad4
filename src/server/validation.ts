import { z } from 'zod';
import { UNIT_NAMES } from '../core/assembly/units.ts';
import { QuarryError } from '../core/base/errors.ts';
import type { Vec3 } from '../core/base/vector.ts';
import { whyNoShape, type CutShape } from '../core/cut/cut-shape.ts';
import type { DrawingDocumentRecord } from '../core/document/records.ts';
import type { Step } from '../core/document/steps.ts';
import type { ExplodeRequest } from '../core/explode/requests.ts';
import { SHEET_FORMATS } from '../core/sheet/formats.ts';

const id = z.string().min(1).max(200);
const text = z.string().max(2000);
const number = z.number();
const vector = z.tuple([number, number, number]).readonly();
const point = z.tuple([number, number]).readonly();
const size = z.string().refine((s) => SHEET_FORMATS.some((f) => f.name === s), 'There is no such sheet size.');

const cutShape = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('half'), across: vector, from: number }),
  z.object({
    kind: z.literal('stepped'),
    across: vector,
    steps: z
      .array(z.object({ from: number, d: number }))
      .min(1)
      .max(50)
      .readonly(),
  }),
  z.object({ kind: z.literal('aligned'), across: vector, from: number, turn: number }),
  z.object({ kind: z.literal('local'), outline: z.array(number).min(6).max(2000).readonly() }),
]);

function cuttable(cut: { readonly normal: Vec3; readonly shape?: CutShape | undefined }, c: z.RefinementCtx): void {
  const wrong = cut.shape && whyNoShape(cut.shape, cut.normal);
  if (wrong) c.addIssue({ code: 'custom', path: ['shape'], message: wrong });
}

const cutRecord = z
  .object({
    normal: vector,
    d: number,
    letter: z.string().max(4),
    keptWhole: z.array(z.string()).readonly(),
    shape: cutShape.exactOptional(),
    behindMm: z.number().min(0).max(1e7).exactOptional(),
    shownIn: id.nullable(),
  })
  .superRefine(cuttable);

const record = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('drawing'),
    id: z.literal('drawing'),
    standard: z.enum(['iso', 'asme']),
    title: text,
    number: text,
    revision: text,
    date: text,
    drawnBy: text,
    checkedBy: text,
    approvedBy: text,
    owner: text,
    quantity: z.int().min(1).max(1_000_000),
    unit: z.object({ stated: z.string().max(40), mm: z.number().positive().max(1e7) }).exactOptional(),
  }),
  z.object({ type: z.literal('sheet'), id, order: number, name: text, size, landscape: z.boolean() }),
  z.object({
    type: z.literal('view'),
    id,
    sheet: id,
    name: text,
    right: vector,
    up: vector,
    toward: vector,
    scale: z.number().positive().max(1e9),
    at: point,
    pivot: point,
    hidden: z.boolean(),
    hiddenWithinMm: z.number().positive().max(1e7).exactOptional(),
    tangent: z.boolean(),
    shaded: z.boolean(),
    flat: z.boolean().exactOptional(),
    colorByItem: z.boolean().exactOptional(),
    thinMm: z.number().min(0).max(10).exactOptional(),
    label: z.boolean(),
    parent: id.nullable(),
    align: z.enum(['level', 'upright']).nullable(),
    cut: cutRecord.nullable(),
    spread: id.nullable(),
    pullLines: z.boolean(),
  }),
  z.object({
    type: z.literal('spread'),
    id,
    name: text,
    pulls: z
      .array(
        z.object({
          components: z.array(z.string()).max(100_000).readonly(),
          direction: vector,
          distanceMm: z.number().min(-1e7).max(1e7),
          turn: z.object({ axis: vector, through: vector, angle: z.number().min(-100).max(100) }).exactOptional(),
          ranks: z.array(z.int().min(1)).readonly().exactOptional(),
          leg: z.literal(true).exactOptional(),
          typed: z.boolean().exactOptional(),
          off: z.boolean().exactOptional(),
          name: text.exactOptional(),
        }),
      )
      .max(10_000)
      .readonly(),
    together: z.array(z.array(z.string()).readonly()).max(10_000).readonly().exactOptional(),
    noLines: z.boolean().exactOptional(),
    linesOff: z.array(z.string()).max(100_000).readonly().exactOptional(),
  }),
  z.object({
    type: z.literal('balloon'),
    id,
    view: id,
    component: z.string(),
    anchor: point,
    offset: point,
    end: z.enum(['arrow', 'dot']),
    byHand: z.literal(true).exactOptional(),
  }),
  z.object({
    type: z.literal('list'),
    share: z.object({ part: z.int().min(1).max(100), of: z.int().min(1).max(100) }).exactOptional(),
    id,
    sheet: id,
    columns: z
      .array(z.object({ key: z.string(), title: text, widthMm: z.number().positive().max(400) }))
      .min(1)
      .readonly(),
  }),
  z.object({
    type: z.literal('property'),
    id,
    part: z.string(),
    values: z.record(z.string(), text),
    when: z.record(z.string(), z.string().max(40)).exactOptional(),
  }),
  z.object({
    type: z.literal('ledger'),
    id: z.literal('ledger'),
    own: z
      .array(
        z.object({
          key: z.string().regex(/^own:.{1,80}$/),
          title: z.string().min(1).max(100),
          kind: z.enum(['text', 'number', 'choice', 'yesno', 'link']),
          unit: z.string().max(20).exactOptional(),
          options: z.array(z.string().max(200)).max(200).readonly().exactOptional(),
        }),
      )
      .max(100)
      .readonly(),
    order: z.array(z.string()).max(200).readonly(),
    hidden: z.array(z.string()).max(200).readonly(),
    widths: z.record(z.string(), z.number().min(20).max(2000)),
    frozen: z.int().min(0).max(20),
    scheme: z.object({ prefix: z.string().max(60), digits: z.int().min(1).max(8) }),
    materials: z
      .array(z.object({ name: z.string().min(1).max(100), densityKgM3: z.number().positive().max(30_000) }))
      .max(500)
      .readonly(),
    massUnit: z.enum(['kg', 'lb']),
  }),
  z.object({ type: z.literal('model'), id: z.literal('model'), model: z.uuid(), name: text, accepted: z.array(text).max(20_000).readonly().exactOptional() }),
  z.object({ type: z.literal('numbers'), id: z.literal('numbers'), of: z.record(z.string(), z.int().min(1)), last: z.int().min(0) }),
]) satisfies z.ZodType<DrawingDocumentRecord>;

const step = z.discriminatedUnion('op', [z.object({ op: z.literal('put'), record }), z.object({ op: z.literal('drop'), id })]) satisfies z.ZodType<Step>;

export const editRequest = z.object({
  version: z.int().min(0),
  token: z.uuid().optional(),
  label: z.string().min(1).max(200),
  steps: z.array(step).min(1).max(5000),
});
export const sectionRequest = z.object({
  frame: z.object({ right: vector, up: vector, toward: vector }),
  cut: z.object({ normal: vector, d: number, shape: cutShape.optional() }).superRefine(cuttable),
});
const frame = z.object({ right: vector, up: vector, toward: vector });
const component = z.int().min(0);
const length = z.number().min(-1e7).max(1e7);
const pulls = z
  .array(
    z.object({
      components: z.array(component).readonly(),
      direction: vector.refine((v) => Math.hypot(...v) > 0.5, 'A direction needs a length.'),
      distanceMm: length,
      turn: z.object({ axis: vector, through: vector, angle: z.number().min(-100).max(100) }).exactOptional(),
      ranks: z.array(z.int().min(1)).readonly().exactOptional(),
      leg: z.literal(true).exactOptional(),
    }),
  )
  .max(10_000);
/** Components of a picture, as in `3,5,8`. */
export const componentList = z
  .string()
  .regex(/^\d{1,6}(,\d{1,6}){0,199}$/)
  .transform((text) => text.split(',').map(Number));
export const explodeRequest = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('check'),
    pulls,
    from: z.int().min(0).optional(),
    paper: z.object({ frame, scale: z.number().positive(), gapMm: z.number().min(0).max(1000), linesOff: z.array(component).optional() }).optional(),
  }),
  z.object({ kind: z.literal('plan'), frame, together: z.array(z.array(component)).default([]), only: z.array(component).optional() }),
  z.object({
    kind: z.literal('fit'),
    pulls,
    kept: z.array(component).default([]),
    frame,
    room: z.tuple([z.number().positive(), z.number().positive()]),
    scales: z.array(z.number().positive()).min(1).max(100),
  }),
  z.object({ kind: z.literal('clear'), pulls, components: z.array(component).min(1), direction: vector, gapMm: length }),
  z.object({ kind: z.literal('directions'), pulls }),
]) satisfies z.ZodType<ExplodeRequest>;
const decisions = z
  .array(z.object({ before: z.string(), after: z.string(), same: z.boolean() }))
  .max(5000)
  .default([]);
export const decisionsRequest = z.object({ decisions });
export const takeRequest = z.object({
  version: z.int().min(0),
  decisions,
  reuseNumbers: z.boolean().default(false),
  accepted: z.array(text).max(20_000).default([]),
});
export const unitRequest = z.object({ version: z.int().min(0), unit: z.enum(UNIT_NAMES as [string, ...string[]]) });
export const sinceVersion = z.coerce
  .number()
  .int()
  .min(0)
  .max(2 ** 31 - 1);
export const versionRequest = z.object({ version: z.int().min(0), token: z.uuid().optional() });
export const uploadOptions = z.object({
  standard: z.enum(['iso', 'asme']).default('iso'),
  sheet: size.nullable().default(null),
  /** Millimetres per unit and the axis that is up, where the files do not say. */
  unitMm: z.coerce.number().positive().max(1e6).optional(),
  up: z.enum(['y', 'z']).default('z'),
});

/** @throws QuarryError BAD_REQUEST that names the first thing wrong */
export function check<T>(schema: z.ZodType<T>, value: unknown): T {
  const r = schema.safeParse(value);
  if (r.success) return r.data;
  const issue = r.error.issues[0]!;
  throw new QuarryError('BAD_REQUEST', { text: `The request is not understood: ${issue.path.join('.') || 'body'}: ${issue.message.replace(/\.?$/, '.')}` });
}
