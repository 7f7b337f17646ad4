import { z } from 'zod';
import { NOT_SQUARE, point, square, text, vector } from '../document/fields.ts';
import { listRecord } from '../../elements/list/record.ts';
import { sheetFormat } from '../format/record.ts';
import { sheetSize } from '../../elements/sheet/record.ts';
import { tableRecord } from '../../elements/table/record.ts';

/** Counts up when recipes are written another way. */
export const RECIPE_FORMAT = 1;

export const LOOKS = ['front', 'back', 'right', 'left', 'top', 'bottom', 'isometric'] as const;

const on = z.literal(true).exactOptional();

/** What is put onto a view besides its lines. */
const besides = {
  /** What the slot is called. */
  name: text,
  balloons: on,
  dimensions: on,
  centrelines: on,
};
/** How a view is drawn. */
const drawn = { hidden: on, tangent: on, shaded: on };

/** A list as it stood; without columns it has the usual ones. */
const listLike = listRecord
  .unwrap()
  .omit({ type: true, id: true, sheet: true, of: true, view: true, share: true })
  .extend({ columns: listRecord.unwrap().shape.columns.exactOptional() })
  .readonly();

/** A note as it stood on its sheet. */
const noteLike = z
  .object({
    at: point,
    text: z.string().max(20_000),
    heightMm: z.number().min(1).max(100).exactOptional(),
    widthMm: z.number().min(5).max(2000).exactOptional(),
    frame: on,
  })
  .readonly();

/** A place that is filled from whatever assembly the recipe is applied to. */
export const recipeSlot = z.discriminatedUnion('want', [
  /** Front, top, right and a pictorial, as the first drawing arranges them. */
  z.object({ want: z.literal('arrangement'), name: text }).readonly(),
  /** A view from one side, by its name, or by the axes it had. */
  z
    .object({
      want: z.literal('view'),
      ...besides,
      ...drawn,
      look: z.enum(LOOKS).exactOptional(),
      axes: z
        .object({ right: vector, up: vector, toward: vector })
        .refine(square, { path: ['toward'], message: NOT_SQUARE })
        .readonly()
        .exactOptional(),
      /** It stands in line with this slot of its sheet, from 0. */
      beside: z.int().min(0).max(99).exactOptional(),
    })
    .readonly(),
  /** The fewest views of a part that show all of its holes and steps, with a section where it has insides, and a pictorial. */
  z.object({ want: z.literal('part views'), ...besides }).readonly(),
  /** A full section through the main axis. */
  z.object({ want: z.literal('section'), ...besides }).readonly(),
  /** Pulled apart as it comes apart; planned when it is filled. */
  z.object({ want: z.literal('exploded view'), ...besides, shaded: on }).readonly(),
  /** A bent sheet part laid flat, or the table of its bends. */
  z.object({ want: z.literal('flat pattern'), ...besides }).readonly(),
  z.object({ want: z.literal('bend table'), name: text }).readonly(),
  /** Every item, or those of what the sheet shows. */
  z
    .object({
      want: z.literal('list'),
      name: text,
      /** As the list stood; absent: the usual columns. */
      like: listLike.exactOptional(),
    })
    .readonly(),
  /** Where the holes of a part are, from a corner of its first view that shows them end-on. */
  z.object({ want: z.literal('hole table'), name: text }).readonly(),
  z.object({ want: z.literal('note'), name: text, like: noteLike }).readonly(),
  z.object({ want: z.literal('table'), name: text, like: tableRecord.unwrap().omit({ type: true, id: true, sheet: true }).readonly() }).readonly(),
]);

export const SUBJECTS = ['whole', 'sub-assembly', 'made part', 'bent part'] as const;

/** Which of the subjects get a sheet. */
export const recipeOnly = z
  .object({
    /** Parts whose source says so; `made` takes in what says nothing and does not look bought. */
    source: z.enum(['made', 'bought', 'standard']).exactOptional(),
    /** Shorter ones are left out, mm. */
    leastMm: z.number().positive().max(1e6).exactOptional(),
    /** A property or the name (`name`) that has this text in it. */
    property: z.string().max(200).exactOptional(),
    contains: z.string().max(200).exactOptional(),
  })
  .readonly();

export const recipeSheet = z
  .object({
    /** `{subject}` stands for the name of what the sheet shows. */
    name: text,
    /** One sheet for the whole, or one for each. */
    per: z.enum(SUBJECTS),
    only: recipeOnly.exactOptional(),
    /** Absent: the size chosen when the recipe is applied, and the smallest that does for a part. */
    size: sheetSize.exactOptional(),
    landscape: z.boolean().exactOptional(),
    /** Of made parts: so many that are small share a sheet. */
    together: z.int().min(2).max(9).exactOptional(),
    noFrame: on,
    noTitle: on,
    /** Name of one of the recipe's formats; absent: the one chosen when the recipe is applied. */
    format: z.string().min(1).max(100).exactOptional(),
    slots: z.array(recipeSlot).min(1).max(100).readonly(),
  })
  .readonly();

export const recipe = z
  .object({
    format: z.literal(RECIPE_FORMAT),
    name: z.string().min(1).max(100),
    /** What it is for, one or two sentences. */
    words: z.string().max(1000),
    sheets: z.array(recipeSheet).min(1).max(100).readonly(),
    /** Sheet formats that its sheets lie on. */
    formats: z.array(sheetFormat).max(20).readonly().exactOptional(),
  })
  .refine((r) => r.sheets.every((s) => s.format === undefined || r.formats?.some((f) => f.name === s.format)), {
    message: 'A sheet lies on a format that the recipe does not have.',
  })
  .readonly();

export type Recipe = z.infer<typeof recipe>;
export type RecipeSheet = z.infer<typeof recipeSheet>;
export type RecipeSlot = z.infer<typeof recipeSlot>;
export type RecipeOnly = z.infer<typeof recipeOnly>;
export type Look = (typeof LOOKS)[number];
