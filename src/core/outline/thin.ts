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
  const kept = new Map<string, number[]>();
  const inside: { run: number; samples: Float64Array; length: number }[] = [];
  for (let i = 0; i < lines.kind.length; i++) {
    const samples = samplesOf(lines, i, limit / 2);
    const kind = lines.kind[i]! & ~HIDDEN;
    if (kind === LineClass.cut || !liesInside(lines.component[i]!, samples, shows, beside)) put(kept, lines.component[i]!, samples, limit);
    else inside.push({ run: i, samples, length: runLength(lines, i) });
  }
  inside.sort((a, b) => (lines.kind[a.run]! & HIDDEN) - (lines.kind[b.run]! & HIDDEN) || b.length - a.length || a.run - b.run);
  for (const { run, samples } of inside) {
    const component = lines.component[run]!;
    let near = 0;
    for (let k = 0; k < samples.length; k += 4) if (hasNeighbour(kept, component, samples[k]!, samples[k + 1]!, limit)) near++;
    if (near > (CROWDED * samples.length) / 4) drop[run] = 1;
    else put(kept, component, samples, limit);
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

const cellKey = (component: number, i: number, j: number) => `${component}/${i}/${j}`;

function put(kept: Map<string, number[]>, component: number, s: Float64Array, cell: number): void {
  for (let k = 0; k < s.length; k += 4) {
    const key = cellKey(component, Math.floor(s[k]! / cell), Math.floor(s[k + 1]! / cell));
    const list = kept.get(key);
    if (list) list.push(s[k]!, s[k + 1]!);
    else kept.set(key, [s[k]!, s[k + 1]!]);
  }
}

function hasNeighbour(kept: ReadonlyMap<string, number[]>, component: number, x: number, y: number, limit: number): boolean {
  const [i, j] = [Math.floor(x / limit), Math.floor(y / limit)];
  for (let a = i - 1; a <= i + 1; a++)
    for (let b = j - 1; b <= j + 1; b++) {
      const list = kept.get(cellKey(component, a, b));
      if (!list) continue;
      for (let k = 0; k < list.length; k += 2) if (Math.hypot(list[k]! - x, list[k + 1]! - y) < limit) return true;
    }
  return false;
}
