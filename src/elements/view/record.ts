import { z } from 'zod';
import { whyNoShape } from '../../core/cut/cut-shape.ts';
import { cutShape } from '../../core/cut/record.ts';
import { gapShape, outlineShape } from '../../core/views/record.ts';
import { id, NOT_SQUARE, number, path, paths, point, ref, square, text, vector } from '../../core/document/fields.ts';

/** Adds the reason why a cut's shape cannot be cut. */
export function cuttable(
  cut: { readonly normal: readonly [number, number, number]; readonly shape?: z.infer<typeof cutShape> | undefined },
  c: z.RefinementCtx,
): void {
  const wrong = cut.shape && whyNoShape(cut.shape, cut.normal);
  if (wrong) c.addIssue({ code: 'custom', path: ['shape'], message: wrong });
}

export const cutRecord = z
  .object({
    normal: vector,
    /** n·x = d, model mm; the side towards the reader is removed. */
    d: number,
    letter: z.string().max(4),
    /** Components that stay uncut. */
    keptWhole: paths(),
    /** What is taken away, when it is not everything in front of the plane. */
    shape: cutShape.exactOptional(),
    /** How far behind the plane is shown, mm; absent: everything. */
    behindMm: z.number().min(0).max(1e7).exactOptional(),
    /** View that carries the cutting-plane line, if any. */
    shownIn: ref('view', 'clear').nullable(),
    /** How the line is drawn there; absent: all of it. */
    line: z.enum(['ends', 'none']).exactOptional(),
    /** Its letters are not written. */
    noLetter: z.literal(true).exactOptional(),
  })
  .superRefine(cuttable)
  .readonly();

/** An end of a line drawn by hand: a place on a component, view space, model mm. */
const lineEnd = z.object({ of: path(), at: point }).readonly();

export const viewRecord = z
  .object({
    type: z.literal('view'),
    id,
    sheet: ref('sheet', 'dropWith'),
    name: text,
    right: vector,
    up: vector,
    toward: vector,
    /** Paper mm per model mm. */
    scale: z.number().positive().max(1e9),
    /** Where `pivot` lies on the sheet, mm from the top left corner, y down. */
    at: point,
    /** A point of view space, model mm. */
    pivot: point,
    hidden: z.boolean(),
    /** Hidden lines only of components that begin within this depth, mm; absent: of all. */
    hiddenWithinMm: z.number().positive().max(1e7).exactOptional(),
    tangent: z.boolean(),
    shaded: z.boolean(),
    /** Shaded with one tone per face of the mesh; absent: smooth. */
    flat: z.boolean().exactOptional(),
    /** Shaded with a colour for each item; absent: as in the model. */
    colorByItem: z.boolean().exactOptional(),
    /** The one component that it shows is laid flat: a part bent from sheet. Its axes are those of the pattern. */
    laid: z.literal(true).exactOptional(),
    /** Lines of one component closer than this on paper thin out, mm; absent: none do. */
    thinMm: z.number().min(0).max(10).exactOptional(),
    label: z.boolean(),
    /** View it keeps level (`x`) or in line (`y`) with; without it, it stands free. */
    parent: ref('view', 'clear', 'align').nullable(),
    align: z.enum(['level', 'upright']).nullable(),
    /** Arranging its sheet leaves it where it is. */
    locked: z.literal(true).exactOptional(),
    /** It is not drawn, with all that belongs to it; what was projected from it stays. */
    off: z.literal(true).exactOptional(),
    /** Letter of the arrow that stands for it on its parent: it is placed elsewhere (ISO 128-3). */
    arrow: z.string().min(1).max(4).exactOptional(),
    /** Where its balloons are arranged; absent: all around. */
    rail: z.enum(['ring', 'rows', 'columns', 'top', 'foot', 'left', 'right']).exactOptional(),
    /** Leaders of its balloons share a slant where there is room. */
    parallel: z.literal(true).exactOptional(),
    /** Its scale is its own: it does not follow the view that it is in line with. */
    ownScale: z.literal(true).exactOptional(),
    cut: cutRecord.nullable(),
    spread: ref('spread', 'clear').nullable(),
    pullLines: z.boolean(),
    /** Components whose pull line this view leaves out. */
    linesOff: paths().exactOptional(),
    /** Pull lines that someone drew, from place to place. */
    handLines: z
      .array(z.object({ from: lineEnd, to: lineEnd }).readonly())
      .min(1)
      .max(500)
      .readonly()
      .exactOptional(),
    /** Spread whose positions are drawn over the first ones in phantom lines. */
    second: ref('spread', 'clear').nullable().exactOptional(),
    /** Components that are shown: only these, or all but these; absent: all. */
    shows: z.object({ only: z.boolean(), of: paths() }).readonly().exactOptional(),
    /** Components in narrow phantom lines, which hide nothing. */
    faint: paths().exactOptional(),
    /** Only what lies inside is shown. */
    within: outlineShape.exactOptional(),
    /** How the border of `within` is drawn; absent: a line around details, else a free-hand line where something is broken off. */
    border: z.enum(['none', 'line', 'break', 'symmetry']).exactOptional(),
    /** A detail of another view: direction, cut and components are that view's. Where the component `on` goes it goes too. */
    detail: z
      .object({ of: ref('view', 'clear').nullable(), letter: z.string().max(4), on: path().exactOptional() })
      .readonly()
      .exactOptional(),
    /** Stretches that are left out. */
    gaps: z.array(gapShape).min(1).max(20).readonly().exactOptional(),
    /** What is seen of a gap on paper, mm; absent: 4. */
    gapMm: z.number().min(2).max(10).exactOptional(),
    /** Break lines of gaps; absent: free-hand. */
    breaks: z.enum(['free', 'zigzag', 'round']).exactOptional(),
    /** Hidden lines only of these components; absent: of all. */
    hiddenOf: paths().exactOptional(),
    /** Hatching of components in this view that is not the usual one. */
    hatch: z
      .array(
        z
          .object({
            of: paths({ least: 1 }),
            pattern: z.enum(['metal', 'plastic', 'wood', 'glass', 'filled', 'none']).exactOptional(),
            /** Slope, rad. */
            angle: z.number().min(-7).max(7).exactOptional(),
            /** Distance of the lines on paper, mm. */
            spacingMm: z.number().min(0.5).max(30).exactOptional(),
          })
          .readonly(),
      )
      .max(500)
      .readonly()
      .exactOptional(),
    /** Tangent edges as wide as others; absent: narrow. */
    tangentWide: z.literal(true).exactOptional(),
    /** Shaded without edges. */
    noEdges: z.literal(true).exactOptional(),
    /** Pens of components in this view: a multiple of the usual width, and a colour. */
    pens: z
      .array(
        z
          .object({
            of: paths({ least: 1 }),
            width: z.number().min(0.25).max(4).exactOptional(),
            color: z
              .string()
              .regex(/^#[0-9a-f]{6}$/)
              .exactOptional(),
          })
          .readonly(),
      )
      .max(200)
      .readonly()
      .exactOptional(),
  })
  .refine(square, { path: ['toward'], message: NOT_SQUARE })
  .readonly();
