import Flatbush from 'flatbush';
import type { MaterialFamily } from '../ledger/materials.ts';
import type { Cap } from './cut-scene.ts';
import { measureLoops, type HatchStyle } from './hatch.ts';

/** What a cap looks like on paper: lines, or solid where it is too thin for lines (ISO 128-50). */
export type CapStyle =
  | { readonly solid: true }
  | {
      readonly solid: false;
      readonly hatch: HatchStyle;
      /** A second set of lines: across the first for plastics, close beside it for wood. */
      readonly also?: HatchStyle;
      /** Broken lines, mm: glass. */
      readonly dash?: readonly number[];
    };

/** Hatching that someone chose for a component. */
export interface OwnHatch {
  readonly pattern?: MaterialFamily | 'filled' | undefined;
  /** Slope, rad. */
  readonly angle?: number | undefined;
  /** Paper mm. */
  readonly spacingMm?: number | undefined;
}

/** Thinner than this on paper and lines would not show. mm */
const SOLID_BELOW_MM = 0.9;
/** Caps closer than this on paper touch. mm */
const TOUCH_MM = 0.5;
/** Looks in the order in which they are given out: direction, and spacing as a multiple of the component's own. */
const LOOKS = [
  [Math.PI / 4, 1],
  [(3 * Math.PI) / 4, 1],
  [Math.PI / 4, 0.6],
  [(3 * Math.PI) / 4, 0.6],
  [Math.PI / 4, 1.5],
  [(3 * Math.PI) / 4, 1.5],
  [Math.PI / 4, 0.8],
  [(3 * Math.PI) / 4, 0.8],
] as const;

/**
 * Styles for the caps of a view, in paper mm: touching caps differ in direction, spacing or both; a component has one
 * style in all its caps. Looks are given out in the order of the components and depend on neighbours alone, so that a
 * change elsewhere leaves them as they are; the lines are counted from the view's origin, wherever the view stands.
 * Metal and what is not known get the general pattern (ISO 128-50); plastics and rubber crossed lines, wood lines in pairs,
 * glass broken ones (common practice, no source).
 * @param scale paper mm per model mm
 * @param family of a component's material
 * @param own what someone chose for a component; what is left open of it is as usual
 */
export function capStyles(
  caps: readonly Cap[],
  scale: number,
  family: (component: number) => MaterialFamily = () => 'metal',
  own: (component: number) => OwnHatch | undefined = () => undefined,
): CapStyle[] {
  const areas = new Map<number, number>();
  const sizes = caps.map((c) => measureLoops(c.loops));
  caps.forEach((c, i) => areas.set(c.component, (areas.get(c.component) ?? 0) + sizes[i]!.area));
  const neighbours = touching(caps, TOUCH_MM / scale);
  const look = new Map<number, number>();
  for (const component of [...areas.keys()].sort((a, b) => a - b)) {
    const taken = new Set([...(neighbours.get(component) ?? [])].map((n) => look.get(n)));
    let n = 0;
    while (taken.has(n) && n < LOOKS.length - 1) n++;
    look.set(component, n);
  }
  return caps.map((c, i) => {
    const { area, perimeter } = sizes[i]!;
    const wanted = own(c.component);
    if (wanted?.pattern === 'filled' || (!wanted && ((2 * area) / perimeter) * scale < SOLID_BELOW_MM)) return { solid: true };
    const n = look.get(c.component)!;
    const [angle, share] = LOOKS[n]!;
    const spacing = Math.min(4, Math.max(1.6, 1.2 + Math.sqrt(areas.get(c.component)!) * scale * 0.03)) * share;
    const hatch = { angle: wanted?.angle ?? angle, spacing: wanted?.spacingMm ?? spacing, phase: n * 0.37 };
    return patternOf(wanted?.pattern ?? family(c.component), hatch);
  });
}

function patternOf(family: MaterialFamily, hatch: HatchStyle): CapStyle {
  switch (family) {
    case 'metal':
      return { solid: false, hatch };
    case 'plastic':
      return { solid: false, hatch, also: { ...hatch, angle: hatch.angle + Math.PI / 2 } };
    case 'wood':
      return {
        solid: false,
        hatch: { ...hatch, spacing: hatch.spacing * 1.6 },
        also: { ...hatch, spacing: hatch.spacing * 1.6, phase: hatch.phase + hatch.spacing * 0.5 },
      };
    case 'glass':
      return { solid: false, hatch, dash: [3, 1.5] };
  }
}

/** Components whose caps touch in a view. @param scale paper mm per model mm */
export const touchingCaps = (caps: readonly Cap[], scale: number): ReadonlyMap<number, ReadonlySet<number>> => touching(caps, TOUCH_MM / scale);

/** Components whose caps come closer than `gap` to each other, in the caps' own unit. */
function touching(caps: readonly Cap[], gap: number): Map<number, Set<number>> {
  const out = new Map<number, Set<number>>();
  const ends: number[] = [];
  const owner: number[] = [];
  for (const c of caps)
    for (const l of c.loops)
      for (let i = 0, j = l.length - 2; i < l.length; j = i, i += 2) {
        ends.push(l[j]!, l[j + 1]!, l[i]!, l[i + 1]!);
        owner.push(c.component);
      }
  if (owner.length === 0) return out;
  const tree = new Flatbush(owner.length);
  const box = (s: number) =>
    [
      Math.min(ends[s * 4]!, ends[s * 4 + 2]!),
      Math.min(ends[s * 4 + 1]!, ends[s * 4 + 3]!),
      Math.max(ends[s * 4]!, ends[s * 4 + 2]!),
      Math.max(ends[s * 4 + 1]!, ends[s * 4 + 3]!),
    ] as const;
  for (let s = 0; s < owner.length; s++) tree.add(...box(s));
  tree.finish();
  for (let s = 0; s < owner.length; s++) {
    const [x0, y0, x1, y1] = box(s);
    const mine = owner[s]!;
    for (const o of tree.search(x0 - gap, y0 - gap, x1 + gap, y1 + gap, (k) => k < s && owner[k] !== mine)) {
      const other = owner[o]!;
      if (out.get(mine)?.has(other) || !segmentsClose(ends, s * 4, o * 4, gap)) continue;
      out.set(mine, (out.get(mine) ?? new Set()).add(other));
      out.set(other, (out.get(other) ?? new Set()).add(mine));
    }
  }
  return out;
}

function segmentsClose(e: readonly number[], s: number, o: number, gap: number): boolean {
  const cross = (ax: number, ay: number, bx: number, by: number) => ax * by - ay * bx;
  const [ax, ay, bx, by] = [e[s]!, e[s + 1]!, e[s + 2]!, e[s + 3]!];
  const [cx, cy, dx, dy] = [e[o]!, e[o + 1]!, e[o + 2]!, e[o + 3]!];
  const p = cross(bx - ax, by - ay, cx - ax, cy - ay);
  const q = cross(bx - ax, by - ay, dx - ax, dy - ay);
  const r = cross(dx - cx, dy - cy, ax - cx, ay - cy);
  const t = cross(dx - cx, dy - cy, bx - cx, by - cy);
  if (p * q < 0 && r * t < 0) return true;
  return (
    pointDistance(ax, ay, cx, cy, dx, dy) <= gap ||
    pointDistance(bx, by, cx, cy, dx, dy) <= gap ||
    pointDistance(cx, cy, ax, ay, bx, by) <= gap ||
    pointDistance(dx, dy, ax, ay, bx, by) <= gap
  );
}

function pointDistance(x: number, y: number, ax: number, ay: number, bx: number, by: number): number {
  const [dx, dy] = [bx - ax, by - ay];
  const l2 = dx * dx + dy * dy;
  const t = l2 > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / l2)) : 0;
  return Math.hypot(x - ax - dx * t, y - ay - dy * t);
}
