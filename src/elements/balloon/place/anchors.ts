import { HIDDEN, LineClass } from '../../../core/outline/linework.ts';
import { componentAt, type ViewResult } from '../../../core/views/compute-view.ts';

/** A place where a leader may end: on a visible outside edge of the component. View space, model mm. */
export interface Anchor {
  readonly x: number;
  readonly y: number;
  /** The way out of the component there, unit. */
  readonly outX: number;
  readonly outY: number;
}

/**
 * Visible outside edges of the components asked for: beside the edge lies another component, or nothing.
 * @param components whose edges; the first one that can be seen well wins later
 * @param most how many anchors are kept, spread evenly
 */
export function anchorsOf(view: ViewResult, components: ReadonlySet<number>, most = 24): Anchor[] {
  const { lines } = view;
  const step = view.map.window.pixelMm;
  const out: Anchor[] = [];
  for (let i = 0; i < lines.kind.length; i++) {
    const kind = lines.kind[i]!;
    if (kind & HIDDEN || kind === LineClass.tangent || !components.has(lines.component[i]!)) continue;
    const own = lines.component[i]!;
    for (let p = lines.start[i]!; p < lines.start[i + 1]! - 1; p++) {
      const [ax, ay, bx, by] = [lines.xy[p * 2]!, lines.xy[p * 2 + 1]!, lines.xy[p * 2 + 2]!, lines.xy[p * 2 + 3]!];
      const length = Math.hypot(bx - ax, by - ay);
      if (length < 1e-9) continue;
      const n = Math.max(1, Math.min(6, Math.floor(length / (6 * step))));
      const [nx, ny] = [-(by - ay) / length, (bx - ax) / length];
      for (let k = 0; k < n; k++) {
        const t = (k + 0.5) / n;
        const [x, y] = [ax + (bx - ax) * t, ay + (by - ay) * t];
        const left = componentAt(view, x + nx * 2.5 * step, y + ny * 2.5 * step);
        const right = componentAt(view, x - nx * 2.5 * step, y - ny * 2.5 * step);
        if (left === own && right !== own) out.push({ x, y, outX: -nx, outY: -ny });
        else if (right === own && left !== own) out.push({ x, y, outX: nx, outY: ny });
      }
    }
  }
  if (out.length <= most) return out;
  return Array.from({ length: most }, (_, k) => out[Math.floor(((k + 0.5) * out.length) / most)]!);
}
