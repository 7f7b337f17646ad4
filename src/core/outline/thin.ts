import { HIDDEN, LineClass, runLength, type Linework } from './linework.ts';

export interface ThinOptions {
  /** Lines of one component closer than this to each other thin out, in the lines' unit. */
  readonly limit: number;
  /** Is the component seen at this point of the picture? */
  readonly shows: (component: number, x: number, y: number) => boolean;
  /** How far beside a line `shows` is asked, in the lines' unit. */
  readonly beside: number;
}

/** A line goes when this share of it has a kept neighbour. */
const CROWDED = 0.8;
/** A line with its component on one side only for this share of it belongs to the outline and stays. */
const OUTLINE = 0.5;

/**
 * Which runs to leave out because they would run together on paper: small fillets, threads, springs. The outline of a
 * component stays whole, and so does what is cut; of the lines inside, long ones stay before short ones.
 * @returns 1 for each run to leave out
 */
export function crowdedRuns(lines: Linework, { limit, shows, beside }: ThinOptions): Uint8Array {
  const drop = new Uint8Array(lines.kind.length);
  if (!(limit > 0)) return drop;
  const runsOf = new Map<number, number[]>();
  for (let i = 0; i < lines.kind.length; i++) {
    const list = runsOf.get(lines.component[i]!);
    if (list) list.push(i);
    else runsOf.set(lines.component[i]!, [i]);
  }
  for (const [component, runs] of runsOf) {
    const kept = new PointGrid(limit);
    const inside: { run: number; samples: Float64Array; length: number }[] = [];
    for (const i of runs) {
      const samples = samplesOf(lines, i, limit / 2);
      const kind = lines.kind[i]! & ~HIDDEN;
      if (kind === LineClass.cut || !liesInside(component, samples, shows, beside)) kept.put(samples);
      else inside.push({ run: i, samples, length: runLength(lines, i) });
    }
    inside.sort((a, b) => (lines.kind[a.run]! & HIDDEN) - (lines.kind[b.run]! & HIDDEN) || b.length - a.length || a.run - b.run);
    for (const { run, samples } of inside) {
      let near = 0;
      for (let k = 0; k < samples.length; k += 4) if (kept.near(samples[k]!, samples[k + 1]!)) near++;
      if (near > (CROWDED * samples.length) / 4) drop[run] = 1;
      else kept.put(samples);
    }
  }
  return drop;
}

/** Points along a run with the unit normal there: x, y, nx, ny. */
function samplesOf(lines: Linework, i: number, step: number): Float64Array {
  const out: number[] = [];
  const p = lines.xy;
  for (let a = lines.start[i]! * 2; a < lines.start[i + 1]! * 2 - 2; a += 2) {
    const [dx, dy] = [p[a + 2]! - p[a]!, p[a + 3]! - p[a + 1]!];
    const l = Math.hypot(dx, dy);
    if (!(l > 0)) continue;
    const n = Math.max(1, Math.ceil(l / step));
    for (let k = 0; k < n; k++) out.push(p[a]! + (dx * (k + 0.5)) / n, p[a + 1]! + (dy * (k + 0.5)) / n, -dy / l, dx / l);
  }
  return Float64Array.from(out);
}

function liesInside(component: number, s: Float64Array, shows: ThinOptions['shows'], beside: number): boolean {
  let open = 0;
  for (let k = 0; k < s.length; k += 4) {
    const [x, y, nx, ny] = [s[k]!, s[k + 1]!, s[k + 2]! * beside, s[k + 3]! * beside];
    if (!shows(component, x + nx, y + ny) || !shows(component, x - nx, y - ny)) open++;
  }
  return open <= (OUTLINE * s.length) / 4;
}

/** Points on a grid of cells as large as the distance that is asked for. */
class PointGrid {
  private readonly cells = new Map<number, number[]>();
  private readonly limit: number;

  constructor(limit: number) {
    this.limit = limit;
  }

  /** Unique for up to some ten million cells either way. */
  private key(i: number, j: number): number {
    return i * 0x2000000 + j;
  }

  /** @param s x, y, and two numbers more per point */
  put(s: Float64Array): void {
    for (let k = 0; k < s.length; k += 4) {
      const key = this.key(Math.floor(s[k]! / this.limit), Math.floor(s[k + 1]! / this.limit));
      const list = this.cells.get(key);
      if (list) list.push(s[k]!, s[k + 1]!);
      else this.cells.set(key, [s[k]!, s[k + 1]!]);
    }
  }

  /** Is there a point nearer than the limit? */
  near(x: number, y: number): boolean {
    const { limit } = this;
    const [i, j] = [Math.floor(x / limit), Math.floor(y / limit)];
    for (let a = i - 1; a <= i + 1; a++)
      for (let b = j - 1; b <= j + 1; b++) {
        const list = this.cells.get(this.key(a, b));
        if (!list) continue;
        for (let k = 0; k < list.length; k += 2) if ((list[k]! - x) ** 2 + (list[k + 1]! - y) ** 2 < limit * limit) return true;
      }
    return false;
  }
}
