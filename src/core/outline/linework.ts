/** What a line is; hidden ones add `HIDDEN`. */
export const LineClass = { sharp: 0, outline: 1, tangent: 2, cut: 3 } as const;
export const HIDDEN = 4;
export const LINE_CLASS_NAMES = ['sharp', 'outline', 'tangent', 'cut'] as const;
export const ARC_STRIDE = 7;

/**
 * Lines of a view: view space (x right, y up, origin of the model), model mm. Struct of arrays.
 * Run `i` is the points `start[i]` to `start[i + 1]` of `xy`.
 */
export interface Linework {
  readonly xy: Float64Array;
  readonly start: Uint32Array;
  /** `LineClass`, plus `HIDDEN`. */
  readonly kind: Uint8Array;
  readonly component: Uint32Array;
  /** Edge of the part; the outline of face f, and where face f was cut, has `-1 - f`. */
  readonly edge: Int32Array;
  /**
   * Per run: centre x, y, half axes, turn of the first axis (rad), start and end parameter (rad, counter-clockwise when
   * end > start). First half axis 0: the run is the polyline itself.
   */
  readonly arc: Float64Array;
}

export const EMPTY_LINEWORK: Linework = {
  xy: new Float64Array(0),
  start: new Uint32Array(1),
  kind: new Uint8Array(0),
  component: new Uint32Array(0),
  edge: new Int32Array(0),
  arc: new Float64Array(0),
};

export interface ClassLengths {
  sharp: number;
  outline: number;
  tangent: number;
  cut: number;
}

/** Length per class, mm in the model; runs are unions already, so nothing is counted twice. */
export function lengthsOf(lines: Linework): { visible: ClassLengths; hidden: ClassLengths } {
  const zero = (): ClassLengths => ({ sharp: 0, outline: 0, tangent: 0, cut: 0 });
  const out = { visible: zero(), hidden: zero() };
  for (let i = 0; i < lines.kind.length; i++) {
    const kind = lines.kind[i]!;
    out[kind & HIDDEN ? 'hidden' : 'visible'][LINE_CLASS_NAMES[kind & 3]!] += runLength(lines, i);
  }
  return out;
}

/** Length of one run, mm in the model. Circle arcs exactly, ellipse arcs along a fine polyline. */
export function runLength(lines: Linework, i: number): number {
  const a = i * ARC_STRIDE;
  const rx = lines.arc[a + 2]!;
  const ry = lines.arc[a + 3]!;
  if (rx > 0) {
    const t0 = lines.arc[a + 5]!;
    const sweep = lines.arc[a + 6]! - t0;
    if (rx === ry) return Math.abs(rx * sweep);
    const n = Math.max(2, Math.ceil(Math.abs(sweep) * 64));
    let sum = 0;
    for (let k = 0; k < n; k++) {
      const t = t0 + (sweep * (k + 0.5)) / n;
      sum += Math.hypot(rx * Math.sin(t), ry * Math.cos(t));
    }
    return (sum * Math.abs(sweep)) / n;
  }
  let sum = 0;
  for (let p = lines.start[i]! * 2; p < lines.start[i + 1]! * 2 - 2; p += 2)
    sum += Math.hypot(lines.xy[p + 2]! - lines.xy[p]!, lines.xy[p + 3]! - lines.xy[p + 1]!);
  return sum;
}

/**
 * `[minX, minY, maxX, maxY]`, infinite and inverted when there is no line.
 * @param counts whether a run is looked at
 */
export function linesBox(lines: Linework, counts: (run: number) => boolean = () => true): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < lines.kind.length; i++) {
    if (!counts(i)) continue;
    for (let p = lines.start[i]! * 2; p < lines.start[i + 1]! * 2; p += 2) {
      const x = lines.xy[p]!;
      const y = lines.xy[p + 1]!;
      if (x < box[0]) box[0] = x;
      if (y < box[1]) box[1] = y;
      if (x > box[2]) box[2] = x;
      if (y > box[3]) box[3] = y;
    }
    if (lines.arc[i * ARC_STRIDE + 2]! > 0) reachOfArc(lines.arc.subarray(i * ARC_STRIDE, (i + 1) * ARC_STRIDE), box);
  }
  return box;
}

/** An arc reaches past its points where it turns back. */
function reachOfArc(arc: Float64Array, box: [number, number, number, number]): void {
  const [cx, cy, rx, ry, turn, t0, t1] = arc as unknown as [number, number, number, number, number, number, number];
  const [low, high] = [Math.min(t0, t1), Math.max(t0, t1)];
  const extremes = [Math.atan2(-ry * Math.sin(turn), rx * Math.cos(turn)), Math.atan2(ry * Math.cos(turn), rx * Math.sin(turn))];
  for (const t of extremes)
    for (let k = Math.ceil((low - t) / Math.PI); t + k * Math.PI <= high; k++) {
      const [c, s] = [rx * Math.cos(t + k * Math.PI), ry * Math.sin(t + k * Math.PI)];
      const [x, y] = [cx + c * Math.cos(turn) - s * Math.sin(turn), cy + c * Math.sin(turn) + s * Math.cos(turn)];
      box[0] = Math.min(box[0], x);
      box[1] = Math.min(box[1], y);
      box[2] = Math.max(box[2], x);
      box[3] = Math.max(box[3], y);
    }
}
