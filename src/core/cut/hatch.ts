export interface HatchStyle {
  /** Slope of the lines, rad. */
  readonly angle: number;
  /** Distance of the lines, in the unit of the loops. */
  readonly spacing: number;
  /** Shift across the lines, same unit. */
  readonly phase: number;
}

/**
 * Hatch lines clipped to the area of closed loops. Areas that overlap are hatched once.
 * @param loops closed polygons, flat; holes run the other way round
 * @returns flat segments `[x0, y0, x1, y1, …]`
 */
export function hatchLines(loops: readonly ArrayLike<number>[], style: HatchStyle): number[] {
  const cos = Math.cos(style.angle);
  const sin = Math.sin(style.angle);
  let low = Infinity;
  let high = -Infinity;
  const turned = loops.map((l) => {
    const out = new Float64Array(l.length);
    for (let i = 0; i < l.length; i += 2) {
      out[i] = l[i]! * cos + l[i + 1]! * sin;
      const v = -l[i]! * sin + l[i + 1]! * cos;
      out[i + 1] = v;
      low = Math.min(low, v);
      high = Math.max(high, v);
    }
    return out;
  });
  const segments: number[] = [];
  const first = Math.ceil((low - style.phase) / style.spacing);
  const last = Math.floor((high - style.phase) / style.spacing);
  const crossings: { readonly at: number; readonly turn: number }[] = [];
  for (let k = first; k <= last; k++) {
    const v = k * style.spacing + style.phase;
    crossings.length = 0;
    for (const p of turned)
      for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
        const a = p[j + 1]!;
        const b = p[i + 1]!;
        if (a > v !== b > v) crossings.push({ at: p[j]! + ((p[i]! - p[j]!) * (v - a)) / (b - a), turn: b > a ? 1 : -1 });
      }
    crossings.sort((a, b) => a.at - b.at);
    let turns = 0;
    let u = 0;
    for (const { at, turn } of crossings) {
      if (turns === 0) u = at;
      turns += turn;
      if (turns === 0) segments.push(u * cos - v * sin, u * sin + v * cos, at * cos - v * sin, at * sin + v * cos);
    }
  }
  return segments;
}

/** Area and outline length of loops. */
export function measureLoops(loops: readonly ArrayLike<number>[]): { area: number; perimeter: number } {
  let area = 0;
  let perimeter = 0;
  for (const p of loops)
    for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
      area += (p[j]! * p[i + 1]! - p[i]! * p[j + 1]!) / 2;
      perimeter += Math.hypot(p[i]! - p[j]!, p[i + 1]! - p[j + 1]!);
    }
  return { area: Math.abs(area), perimeter };
}
