import type { Vec2 } from '../core/base/vector.ts';
import type { FlatPattern } from '../core/flat/unfold.ts';
import type { DisplayItem, DisplayList } from '../core/picture/display-list.ts';
import { line, num, text } from '../core/picture/shapes.ts';
import { bendWords, MARGIN_MM, outlinePath } from './flat-svg.ts';
import { writePdf } from './pdf/write.ts';

const CUT_MM = 0.35;
const BEND_MM = 0.18;
const WORDS_MM = 3.5;
/** A line of this length below the pattern: whoever prints it measures whether it was printed 1:1. */
const CHECK_MM = 100;
const BELOW_MM = 14;
/** The same input gives the same bytes: the file says nothing of the day. */
const NO_DATE = new Date('2000-01-01T00:00:00Z');

/** A flat pattern as one page, in its true size, with a line to measure. @param font the lettering, a TrueType font */
export function flatAsPdf(name: string, { contours, bends, sizeMm, thicknessMm }: FlatPattern, font: Uint8Array): Promise<Uint8Array> {
  const [width, height] = [Math.max(sizeMm[0], CHECK_MM) + 2 * MARGIN_MM, sizeMm[1] + 2 * MARGIN_MM + BELOW_MM];
  const put = ([x, y]: Vec2): Vec2 => [x + MARGIN_MM, sizeMm[1] - y + MARGIN_MM];
  const at = (p: Vec2) => put(p).map(num).join(' ');
  const foot = sizeMm[1] + 2 * MARGIN_MM;
  const items: DisplayItem[] = [
    ...contours.map((c): DisplayItem => ({ kind: 'stroke', d: outlinePath(c, at), width: CUT_MM })),
    ...bends.flatMap((b): DisplayItem[] => {
      const [p, q] = b.line.map(put) as [Vec2, Vec2];
      return [
        line(...p, ...q, BEND_MM, b.up ? [6, 2] : [6, 1.5, 1, 1.5]),
        text((p[0] + q[0]) / 2 + 1.5, (p[1] + q[1]) / 2 - 1.5, bendWords(b), WORDS_MM, 'start'),
      ];
    }),
    line(MARGIN_MM, foot, MARGIN_MM + CHECK_MM, foot, BEND_MM),
    line(MARGIN_MM, foot - 1.5, MARGIN_MM, foot + 1.5, BEND_MM),
    line(MARGIN_MM + CHECK_MM, foot - 1.5, MARGIN_MM + CHECK_MM, foot + 1.5, BEND_MM),
    text(MARGIN_MM, foot + 6, `${name}, ${num(Math.round(thicknessMm * 100) / 100)} thick, 1:1. This line is ${CHECK_MM} mm long.`, WORDS_MM, 'start'),
  ];
  const page: DisplayList = { width, height, groups: [{ id: 'flat', role: 'view', label: name, box: [0, 0, width, height], items }] };
  return writePdf([page], { title: name, font, images: new Map(), date: NO_DATE });
}
