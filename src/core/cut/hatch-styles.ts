import type { Cap } from './cut-scene.ts';
import { measureLoops, type HatchStyle } from './hatch.ts';

/** What a cap looks like on paper: lines, or solid where it is too thin for lines (ISO 128-50). */
export type CapStyle = { readonly solid: true } | { readonly solid: false; readonly hatch: HatchStyle };

/** Thinner than this on paper and lines would not show. mm */
const SOLID_BELOW_MM = 0.9;

/**
 * Styles for the caps of a view, in paper mm: touching caps differ in direction, spacing or both; a component has one style.
 * @param scale paper mm per model mm
 */
export function capStyles(caps: readonly Cap[], scale: number): CapStyle[] {
  const boxes = caps.map((c) => boxOf(c.loops));
  const sizes = caps.map((c) => measureLoops(c.loops));
  const chosen = new Map<number, number>();
  // The largest first: it keeps the plain style.
  const order = caps.map((_, i) => i).sort((a, b) => sizes[b]!.area - sizes[a]!.area || a - b);
  for (const i of order) {
    const taken = new Set<number>();
    caps.forEach((c, j) => {
      if (j !== i && chosen.has(c.component) && touch(boxes[i]!, boxes[j]!, 0.5 / scale)) taken.add(chosen.get(c.component)!);
    });
    let n = 0;
    while (taken.has(n) && n < 7) n++;
    chosen.set(caps[i]!.component, n);
  }
  return caps.map((c, i) => {
    const { area, perimeter } = sizes[i]!;
    if (((2 * area) / perimeter) * scale < SOLID_BELOW_MM) return { solid: true };
    const n = chosen.get(c.component)!;
    const base = Math.min(4, Math.max(1.6, 1.2 + Math.sqrt(area) * scale * 0.03));
    const spacing = base * [1, 1, 0.6, 0.6, 1.5, 1.5, 0.8, 0.8][n]!;
    return { solid: false, hatch: { angle: n % 2 === 0 ? Math.PI / 4 : (3 * Math.PI) / 4, spacing, phase: n * 0.37 } };
  });
}

function boxOf(loops: readonly Float64Array[]): [number, number, number, number] {
  const b: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const l of loops)
    for (let i = 0; i < l.length; i += 2) {
      b[0] = Math.min(b[0], l[i]!);
      b[1] = Math.min(b[1], l[i + 1]!);
      b[2] = Math.max(b[2], l[i]!);
      b[3] = Math.max(b[3], l[i + 1]!);
    }
  return b;
}

const touch = (a: readonly number[], b: readonly number[], gap: number) =>
  a[0]! <= b[2]! + gap && b[0]! <= a[2]! + gap && a[1]! <= b[3]! + gap && b[1]! <= a[3]! + gap;
