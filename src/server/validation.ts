import { z } from 'zod';
import { UNIT_NAMES } from '../core/assembly/units.ts';
import { QuarryError } from '../core/base/errors.ts';
import { cutShape } from '../core/cut/record.ts';
import { id, length, NOT_SQUARE, number, square, text, vector } from '../core/document/fields.ts';
import { anyRecord } from '../core/document/schemas.ts';
import type { Step } from '../core/document/steps.ts';
import type { ExplodeRequest } from '../core/explode/requests.ts';
import { sheetFormat } from '../core/format/record.ts';
import { listStyle } from '../elements/list/record.ts';
import { PNG_DPI, PRINT_MARKS, PRINT_MODES } from '../core/picture/print.ts';
import { paperByName } from '../core/sheet/paper.ts';
import { ISSUE_OUTPUTS } from './queue/geometry-tasks.ts';
import { recipe } from '../core/recipe/record.ts';
import { sheetSize } from '../elements/sheet/record.ts';
import { cuttable } from '../elements/view/record.ts';

const step = z.discriminatedUnion('op', [
  z.object({ op: z.literal('put'), record: anyRecord }),
  z.object({ op: z.literal('drop'), id }),
]) satisfies z.ZodType<Step>;

export const editRequest = z.object({
  version: z.int().min(0),
  token: z.uuid().optional(),
  label: z.string().min(1).max(200),
  steps: z.array(step).min(1).max(5000),
});
const frame = z.object({ right: vector, up: vector, toward: vector }).refine(square, { path: ['toward'], message: NOT_SQUARE });
/** A drawing that was given away as JSON comes back. */
export const drawingRequest = z.object({ version: z.int().min(0), token: z.uuid().optional(), file: z.string().max(200_000_000) });
export const sectionRequest = z.object({
  frame,
  cut: z.object({ normal: vector, d: number, shape: cutShape.optional() }).superRefine(cuttable),
});
/** Of which item ways to show it are wanted: the id of its part. */
export const curesRequest = z.object({ part: z.string().min(1).max(500) });
const component = z.int().min(0);
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
/** Keys of parts, as in `a1,b2`. */
export const keyList = z
  .string()
  .regex(/^[\w-]{1,80}(,[\w-]{1,80}){0,99}$/)
  .transform((text) => text.split(','));
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
export const jobQuery = z.object({
  q: z.string().max(200).optional(),
  sort: z.enum(['changed', 'title', 'size']).optional(),
  offset: z.coerce.number().int().min(0).max(1e6).optional(),
  limit: z.coerce.number().int().min(1).max(1000).optional(),
});
export const renameRequest = z.object({ title: z.string().trim().min(1).max(300) });
const said = z.string().max(200);
const dpi = z.coerce.number().min(PNG_DPI.least).max(PNG_DPI.most).default(PNG_DPI.usual);
export const issueRequest = z.object({
  version: z.int().min(0),
  kind: z.enum(['issued', 'review']).default('issued'),
  revision: z.string().regex(/^[A-Za-z0-9][A-Za-z0-9.-]{0,11}$/, 'A revision is a letter or a number, up to 12 characters.'),
  date: z.string().regex(/^\d{4}-\d\d-\d\d$/, 'A date is written like 2026-01-31.'),
  drawn: said.default(''),
  checked: said.default(''),
  approved: said.default(''),
  words: z.array(text).max(100).default([]),
  outputs: z.array(z.enum(ISSUE_OUTPUTS)).min(1).default(['pdf', 'list', 'json']),
  names: z.string().min(1).max(200).default('{number}-{revision}-{what}'),
  grey: z.boolean().default(false),
  layers: z.boolean().default(false),
  dpi,
});
const yes = z.enum(['0', '1']).transform((v) => v === '1');
const paperSize = z.string().transform((name, ctx): readonly [number, number] => {
  const size = paperByName(name);
  if (size) return [size.short, size.long];
  ctx.addIssue({ code: 'custom', message: `“${name}” is no paper: write A4, or its width and height like 210x297.` });
  return z.NEVER;
});
/** How a file of the drawing is wanted. */
export const fileFields = z.object({
  spread: z.string().max(500).optional(),
  list: z.string().max(500).optional(),
  part: z.string().max(500).optional(),
  sheets: z
    .string()
    .regex(/^\d{1,4}(,\d{1,4})*$/, 'Sheets are numbers with commas, like 1,3.')
    .transform((s) => s.split(',').map(Number))
    .optional(),
  print: z.enum(PRINT_MODES).optional(),
  paper: paperSize.optional(),
  bar: yes.optional(),
  grey: yes.optional(),
  layers: yes.optional(),
  mark: z.enum(PRINT_MARKS).optional(),
  dpi: dpi.optional(),
});
export const fileQuery = fileFields.transform(({ print, paper, bar, grey, layers, mark, ...rest }) => ({
  ...rest,
  how: {
    ...(print ? { print: { mode: print, ...(paper ? { paper } : {}), ...(bar ? { bar } : {}) } } : {}),
    ...(grey ? { grey } : {}),
    ...(layers ? { layers } : {}),
    ...(mark ? { watermark: mark } : {}),
  },
}));
/** `now`, an issue, or a version of the history. */
const moment = z.string().regex(/^(now|v\d{1,9}|[0-9a-f]{8}-[0-9a-f-]{27})$/);
export const compareRequest = z.object({ from: moment, to: moment.default('now') });
export const answerRequest = z.object({
  id: z.uuid(),
  kind: z.enum(['tick', 'check', 'remark']),
  step: z.int().min(0).max(100_000),
  check: z.int().min(0).max(1000).optional(),
  done: z.boolean().optional(),
  text: z.string().max(4000).optional(),
  part: z.string().max(500).optional(),
  photo: z
    .string()
    .max(6_000_000)
    .regex(/^data:image\/jpeg;base64,[A-Za-z0-9+/]+={0,2}$/, 'A photo is a JPEG.')
    .nullish(),
  serial: z.string().max(80).default(''),
  who: z.string().max(80).default(''),
  when: z.iso.datetime(),
});
export const remarkAnswer = z.object({ answer: z.string().min(1).max(2000) });
export const sinceVersion = z.coerce
  .number()
  .int()
  .min(0)
  .max(2 ** 31 - 1);
export const versionRequest = z.object({ version: z.int().min(0), token: z.uuid().optional() });
export const uploadOptions = z.object({
  standard: z.enum(['iso', 'asme']).default('iso'),
  sheet: sheetSize.nullable().default(null),
  /** Name of a recipe; absent: the usual first drawing. */
  recipe: z.string().min(1).max(100).nullable().default(null),
  /** Name of a sheet format; absent: the standard's own. */
  format: z.string().min(1).max(100).nullable().default(null),
  /** Millimetres per unit and the axis that is up, where the files do not say. */
  unitMm: z.coerce.number().positive().max(1e6).optional(),
  up: z.enum(['y', 'z']).default('z'),
});

/** A layout of parts lists to be kept. */
export const listStyleBody = listStyle;
/** A sheet format to be kept: as a whole. */
export const formatBody = sheetFormat;
/** A recipe to be kept: as a whole. */
export const recipeBody = recipe;
/** A recipe by its name, to be applied to a job. */
export const recipeRequest = z.object({ recipe: z.string().min(1).max(100), version: z.int().min(0), token: z.uuid().optional() });
export const recipeQuery = z.object({ recipe: z.string().min(1).max(100) });
export const keepRequest = z.object({ name: z.string().trim().min(1, 'A recipe wants a name.').max(100), words: z.string().max(1000).default('') });

/** @throws QuarryError BAD_REQUEST that names the first thing wrong */
export function check<T>(schema: z.ZodType<T>, value: unknown): T {
  const r = schema.safeParse(value);
  if (r.success) return r.data;
  const issue = r.error.issues[0]!;
  // Whatever could stand there instead is a long list.
  const said = issue.code === 'invalid_union' ? 'no kind that is known' : issue.message;
  throw new QuarryError('BAD_REQUEST', { text: `The request is not understood: ${issue.path.join('.') || 'body'}: ${said.replace(/\.?$/, '.')}` });
}
