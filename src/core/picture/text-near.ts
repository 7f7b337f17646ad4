import { contains } from '../base/rect.ts';
import type { Vec2 } from '../base/vector.ts';
import type { Drawn, Source } from './display-list.ts';

/** A press this far from a line of text is not meant for it, mm: lines count three times as much as columns. */
const MOST_MM = 14;

/** Where the text nearest to a place comes from, in a table or a block of fields. Undefined beside it, or with none near. */
export function textNear(drawn: Drawn, [x, y]: Vec2): Source | undefined {
  if (!contains(drawn.ink, [x, y])) return undefined;
  let best: { readonly d: number; readonly source: Source } | undefined;
  for (const i of drawn.items) {
    if (i.kind !== 'text' || !i.source) continue;
    // Of fields beside each other it is the one that begins last before the press; a cell's row is all the same item.
    const beyond = i.source.item === undefined ? (x - i.x) / 10 : 0;
    const d = Math.abs(y - i.y + i.height / 2) * 3 + Math.max(0, i.x - x - 2, beyond);
    if (!best || d < best.d) best = { d, source: i.source };
  }
  return best && (best.source.item === undefined || best.d < MOST_MM) ? best.source : undefined;
}
