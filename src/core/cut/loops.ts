/** Closed flat polygons `[x, y, …]` as cuts leave them: outlines run one way round, holes the other. */
type Loop = ArrayLike<number>;

/** Area of a loop, positive against the clock (y up). */
export function signedArea(p: Loop): number {
  let sum = 0;
  for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) sum += p[j]! * p[i + 1]! - p[i]! * p[j + 1]!;
  return sum / 2;
}

/** minX minY maxX maxY; infinite and inverted when there is no point. */
export function boxOfLoops(loops: readonly Loop[]): readonly [number, number, number, number] {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const l of loops)
    for (let i = 0; i < l.length; i += 2) {
      x0 = Math.min(x0, l[i]!);
      x1 = Math.max(x1, l[i]!);
      y0 = Math.min(y0, l[i + 1]!);
      y1 = Math.max(y1, l[i + 1]!);
    }
  return [x0, y0, x1, y1];
}

/** Does a point lie in the area of loops? By turns round it, so that areas that overlap count as area. */
export function insideLoops(loops: readonly Loop[], x: number, y: number): boolean {
  let turns = 0;
  for (const p of loops)
    for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
      const up = p[i + 1]! > y;
      if (up !== p[j + 1]! > y && x < ((p[j]! - p[i]!) * (y - p[i + 1]!)) / (p[j + 1]! - p[i + 1]!) + p[i]!) turns += up ? 1 : -1;
    }
  return turns !== 0;
}

/** Outlines with the holes that lie in them, as indices. @param areas of the loops; those of outlines are positive */
export function groupLoops(loops: readonly Loop[], areas: readonly number[]): { outer: number; holes: number[] }[] {
  const outers = areas
    .map((a, i) => ({ a, i }))
    .filter((x) => x.a > 0)
    .sort((p, q) => p.a - q.a);
  const out = outers.map((o) => ({ outer: o.i, holes: [] as number[] }));
  areas.forEach((a, h) => {
    if (a >= 0) return;
    // The smallest outline that holds it.
    const home = out.find((o) => areas[o.outer]! > -a * 0.999999 && mostlyInside(loops[o.outer]!, loops[h]!));
    home?.holes.push(h);
  });
  return out;
}

/** A hole's vertices may touch the outline: the vote of a few decides. */
function mostlyInside(outer: Loop, inner: Loop): boolean {
  let votes = 0;
  const n = inner.length / 2;
  const asked = Math.min(n, 5);
  for (let k = 0; k < asked; k++) {
    const i = Math.floor((k * n) / asked);
    votes += insideLoops([outer], inner[i * 2]!, inner[i * 2 + 1]!) ? 1 : -1;
  }
  return votes > 0;
}
