import type { Vec2 } from '../base/vector.ts';
import type { ViewRecord } from '../document/records.ts';
import { gapsAlong, type Gap } from './outline.ts';

/** What is seen of a gap on paper unless said otherwise, mm. */
export const GAP_MM = 4;

/**
 * The map between a view (model mm, y up) and its sheet (paper mm from the top left corner, y down). There is no other. Over
 * the gaps of an interrupted view it is steeper: they shrink to a strip, and what lies beyond moves up.
 */
export interface ViewMap {
  /** Paper mm per model mm, outside gaps. */
  readonly scale: number;
  x(viewX: number): number;
  y(viewY: number): number;
  toPaper(at: Vec2): Vec2;
  toView(at: Vec2): Vec2;
}

type Placed = Pick<ViewRecord, 'at' | 'pivot' | 'scale'> & Pick<Partial<ViewRecord>, 'gaps' | 'gapMm'>;

export function viewMapOf(view: Placed): ViewMap {
  const { at, pivot, scale } = view;
  const strip = (view.gapMm ?? GAP_MM) / scale;
  const [across, upward] = [axis(view.gaps, 'x', strip), axis(view.gaps, 'y', strip)];
  const [px, py] = [across.closed(pivot[0]), upward.closed(pivot[1])];
  const x = (v: number) => at[0] + (across.closed(v) - px) * scale;
  const y = (v: number) => at[1] - (upward.closed(v) - py) * scale;
  return {
    scale,
    x,
    y,
    toPaper: (p) => [x(p[0]), y(p[1])],
    toView: (p) => [across.open(px + (p[0] - at[0]) / scale), upward.open(py - (p[1] - at[1]) / scale)],
  };
}

interface AxisOfGaps {
  /** From true places to places with the gaps closed but for a strip. */
  closed(v: number): number;
  open(v: number): number;
}

const WHOLE: AxisOfGaps = { closed: (v) => v, open: (v) => v };

function axis(all: readonly Gap[] | undefined, which: Gap['axis'], strip: number): AxisOfGaps {
  const gaps = all ? gapsAlong(all, which) : [];
  if (gaps.length === 0) return WHOLE;
  return {
    closed(v) {
      let out = v;
      for (const g of gaps) out -= (Math.max(0, Math.min(v, g.to) - g.from) * (g.to - g.from - strip)) / (g.to - g.from);
      return out;
    },
    open(v) {
      let out = v;
      for (const g of gaps) {
        const into = out - g.from;
        if (into <= 0) break;
        out = into < strip ? g.from + (into * (g.to - g.from)) / strip : out + g.to - g.from - strip;
      }
      return out;
    },
  };
}
