import { z } from 'zod';
import { valueStyle, valueText } from '../../core/dimension/record.ts';
import { id, number, ref } from '../../core/document/fields.ts';
import { target } from '../../core/features/record.ts';

export const dimensionRecord = z
  .object({
    type: z.literal('dimension'),
    id,
    view: ref('view', 'dropWith'),
    /** What is measured. `level` and `upright`: across and up the sheet; `aligned`: along the line between both. */
    kind: z.enum(['level', 'upright', 'aligned', 'diameter', 'radius', 'angle', 'arc', 'chamfer', 'slope']),
    /** What it goes to: one or two; more with `row`. */
    of: z.array(target).min(1).max(200).readonly(),
    /** More than two in one go: one after the other on one line, each from the first on a line of its own, or running from a zero. */
    row: z.enum(['chain', 'baseline', 'running']).exactOptional(),
    /** Of `level` and `upright`: on which side of the view the line stands. */
    side: z.enum(['left', 'right', 'top', 'bottom']).exactOptional(),
    /**
     * Paper mm. Distance of the line from that side of the view, outwards; of others from what is measured: square to it, along
     * the radius past the rim, or the radius of the arc that the value stands on.
     */
    away: number,
    /** Of `diameter` and `radius`: where the line points, rad, against the clock from level. */
    turn: number.exactOptional(),
    /** How far the text stands from the middle of its line, along it, paper mm. */
    slide: number.exactOptional(),
    /** … and how far the line is cranked to carry it, square to it. */
    jog: number.exactOptional(),
    /** How far the extension lines at the first and the second target are jogged along the dimension line, paper mm: where several would stand on each other. */
    jogs: z.tuple([number, number]).readonly().exactOptional(),
    arrows: z.enum(['inside', 'outside']).exactOptional(),
    /** Only one half is drawn: the end at this target is left out. */
    half: z.enum(['first', 'last']).exactOptional(),
    text: valueText.exactOptional(),
    style: valueStyle.exactOptional(),
    /** The values as someone last saw them, mm or rad. */
    seen: z.array(number).max(200).readonly().exactOptional(),
    /** An awkward value that someone accepted. */
    accepted: number.exactOptional(),
  })
  .readonly();
