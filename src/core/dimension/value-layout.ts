import { textWidth } from '../picture/lettering.ts';
import type { Figure, ValueParts, WholeStyle } from './value.ts';

/** A piece of lettering; its baseline begins at (x, y), y down, paper mm. */
export interface Piece {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly height: number;
}

/** A value as it is written: pieces and strokes about the left end of its baseline. */
export interface ValuePicture {
  readonly pieces: readonly Piece[];
  readonly strokes: readonly (readonly [number, number, number, number])[];
  readonly width: number;
  /** Above the baseline, and below it. */
  readonly rise: number;
  readonly drop: number;
}

/** Air between a letter and a stroke, as a share of the height. */
const AIR = 0.3;
/** Distance of lines of text, as a share of the height of capitals (ISO 3098). */
const LINE = 1.6;
/** Deviations are written a size smaller, but never smaller than text may be on the smaller sheets (ISO 129-1, ISO 3098). */
const DEVIATION_SHARE = 0.7;
const LEAST_MM = 2.5;

/** Lays a value out. @param height of its capitals, paper mm */
export function layOutValue(p: ValueParts, style: WholeStyle, height: number): ValuePicture {
  const pieces: Piece[] = [];
  const strokes: [number, number, number, number][] = [];
  let x = 0;
  let [rise, drop] = [height, 0];
  const put = (text: string, h = height, dy = 0, advance = true) => {
    if (text === '') return 0;
    // A space at the beginning is a distance: writers of pictures would leave it out.
    const letters = text.trimStart();
    const lead = text.length - letters.length;
    const indent = lead ? textWidth(' '.repeat(lead), h) : 0;
    if (letters) pieces.push({ text: letters, x: x + indent, y: dy, height: h });
    rise = Math.max(rise, h - dy);
    drop = Math.max(drop, dy);
    const width = textWidth(text, h);
    if (advance) x += width;
    return width;
  };
  const figure = (f: Figure) => {
    put(f.text);
    if (!f.fraction) return;
    const { over, under } = f.fraction;
    const h = height * style.stackShare;
    if (f.text) x += height * AIR;
    if (style.stack === 'line') {
      put(`${over}/${under}`);
      return;
    }
    const [wide, wider] = [textWidth(String(over), h), textWidth(String(under), h)];
    if (style.stack === 'slanted') {
      put(String(over), h, -height * (1 - style.stackShare));
      const from = x + height * 0.02;
      x += height * 0.45;
      strokes.push([from, height * 0.1, x, -height * 1.1]);
      put(String(under), h, 0);
      return;
    }
    // One over the other about the middle of the figures beside.
    const middle = -height / 2;
    const width = Math.max(wide, wider);
    const start = x;
    const gap = height * AIR * 0.7;
    x = start + (width - wide) / 2;
    put(String(over), h, middle - gap, false);
    x = start + (width - wider) / 2;
    put(String(under), h, middle + gap + h, false);
    strokes.push([start, middle, start + width, middle]);
    x = start + width;
  };
  if (p.brackets) put('(');
  put(p.lead);
  figure(p.main);
  if (p.second) {
    x += height * AIR;
    put('[');
    figure(p.second);
    put(']');
  }
  if (p.upper !== undefined) {
    const h = Math.min(height, Math.max(LEAST_MM, height * DEVIATION_SHARE));
    if (x > 0) x += height * AIR * 0.7;
    const [a, b] = [p.upper, p.lower!];
    const width = Math.max(textWidth(a, h), textWidth(b, h));
    const start = x;
    put(a, h, -height / 2 - height * 0.12, false);
    put(b, h, -height / 2 + height * 0.12 + h, false);
    x = start + width;
  }
  put(p.trail);
  if (p.brackets) put(')');
  const width = x;
  for (const [text, dy] of [
    [p.above, -(rise + height * (LINE - 1))],
    [p.below, drop + height * LINE],
  ] as const) {
    if (!text) continue;
    const w = textWidth(text, height);
    pieces.push({ text, x: (width - w) / 2, y: dy, height });
    rise = Math.max(rise, height - dy);
    drop = Math.max(drop, dy);
  }
  if (p.frame) {
    const air = height * AIR;
    const [l, t, r, b] = [-air, -rise - air, width + air, drop + air];
    strokes.push([l, t, r, t], [r, t, r, b], [r, b, l, b], [l, b, l, t]);
    rise += air;
    drop += air;
  }
  if (p.underline) {
    const y = drop + height * AIR * 0.7;
    strokes.push([0, y, width, y]);
    drop = y;
  }
  return { pieces, strokes, width, rise, drop };
}
