import type { z } from 'zod';
import { distance2, type Vec2 } from '../base/vector.ts';
import type { gapShape, outlineShape } from './record.ts';

export type Outline = z.infer<typeof outlineShape>;
export type Gap = z.infer<typeof gapShape>;

/** Corners that stand for a circle: they lie less than 4e-4 of its radius inside it. */
const CIRCLE_CORNERS = 128;

/** The outline as one closed ring, flat `[x, y, …]`, view space, model mm. */
export function ringOf(outline: Outline): Float64Array {
  switch (outline.kind) {
    case 'circle': {
      const { at, radius } = outline;
      const ring = new Float64Array(2 * CIRCLE_CORNERS);
      for (let i = 0; i < CIRCLE_CORNERS; i++) {
        const t = (2 * Math.PI * i) / CIRCLE_CORNERS;
        ring[2 * i] = at[0] + radius * Math.cos(t);
        ring[2 * i + 1] = at[1] + radius * Math.sin(t);
      }
      return ring;
    }
    case 'box': {
      const [[x0, y0], [x1, y1]] = [outline.from, outline.to];
      return Float64Array.of(x0, y0, x1, y0, x1, y1, x0, y1);
    }
    case 'free':
      return Float64Array.from(outline.points.flat());
  }
}

/** minX minY maxX maxY of an outline. */
export function outlineBox(outline: Outline): [number, number, number, number] {
  if (outline.kind === 'circle') {
    const { at, radius } = outline;
    return [at[0] - radius, at[1] - radius, at[0] + radius, at[1] + radius];
  }
  const points = outline.kind === 'box' ? [outline.from, outline.to] : outline.points;
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

/** The outline with every point taken elsewhere; a circle stays one. */
export function movedOutline(outline: Outline, to: (p: Vec2) => Vec2): Outline {
  switch (outline.kind) {
    case 'circle': {
      const at = to(outline.at);
      return { ...outline, at, radius: distance2(at, to([outline.at[0] + outline.radius, outline.at[1]])) };
    }
    case 'box':
      return { ...outline, from: to(outline.from), to: to(outline.to) };
    case 'free':
      return { ...outline, points: outline.points.map(to) };
  }
}

/** The gap with both its borders taken elsewhere. */
export function movedGap(gap: Gap, to: (p: Vec2) => Vec2): Gap {
  const k = gap.axis === 'x' ? 0 : 1;
  const ends = [gap.from, gap.to].map((v) => to(k ? [0, v] : [v, 0])[k]);
  return { ...gap, from: Math.min(...ends), to: Math.max(...ends) };
}

/** Gaps along one axis in order, those that meet as one. */
export function gapsAlong(gaps: readonly Gap[], axis: Gap['axis']): Gap[] {
  const out: Gap[] = [];
  for (const g of gaps.filter((one) => one.axis === axis).sort((a, b) => a.from - b.from)) {
    const last = out.at(-1);
    if (last && g.from <= last.to) out[out.length - 1] = { ...last, to: Math.max(last.to, g.to) };
    else out.push(g);
  }
  return out;
}
