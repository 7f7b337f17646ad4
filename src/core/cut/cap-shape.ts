import { union, type Geom } from 'polyclip-ts';

type Ring = [number, number][];
const ringOf = (flat: ArrayLike<number>): Ring => Array.from({ length: flat.length / 2 }, (_, i) => [flat[2 * i]!, flat[2 * i + 1]!]);

/** Twice the signed area of a closed flat polygon. */
function turn(p: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) sum += p[j]! * p[i + 1]! - p[i]! * p[j + 1]!;
  return sum;
}

/**
 * Loops of cut faces as polygons with holes. Holes run the other way round than outlines; solids of one part that share
 * their space are one area.
 */
export function capShape(loops: readonly ArrayLike<number>[]): Geom {
  const turns = loops.map(turn);
  const largest = turns.reduce((m, t) => (Math.abs(t) > Math.abs(m) ? t : m), 0);
  const isOuter = (i: number) => turns[i]! * largest > 0;
  const outers = loops.map((_, i) => i).filter(isOuter);
  const polygons = new Map(outers.map((i) => [i, [ringOf(loops[i]!)]]));
  loops.forEach((hole, h) => {
    if (isOuter(h) || turns[h] === 0) return;
    const home = outers
      .filter((o) => Math.abs(turns[o]!) > Math.abs(turns[h]!) * 0.999999 && mostlyInside(loops[o]!, hole))
      .sort((a, b) => Math.abs(turns[a]!) - Math.abs(turns[b]!))[0];
    if (home !== undefined) polygons.get(home)!.push(ringOf(hole));
  });
  const [first, ...more] = [...polygons.values()] as Geom[];
  if (!first) return [];
  return more.length ? union(first, ...more) : [first as Ring[]];
}

/** Flat loops of polygons; holes run the other way. */
export function loopsOfShape(shape: Geom): Float64Array[] {
  // Rings come closed: their last point is the first.
  const open = (r: Ring) => (r.length > 1 && r[0]![0] === r.at(-1)![0] && r[0]![1] === r.at(-1)![1] ? r.slice(0, -1) : r);
  return (shape as Ring[][]).flatMap((polygon) => polygon.map((r) => Float64Array.from(open(r).flat())));
}

/** Do most of some points of a loop lie inside another? They may touch it. */
function mostlyInside(outer: ArrayLike<number>, inner: ArrayLike<number>): boolean {
  let votes = 0;
  const n = inner.length / 2;
  const asked = Math.min(n, 5);
  for (let k = 0; k < asked; k++) {
    const i = Math.floor((k * n) / asked);
    votes += insideLoops([outer], inner[i * 2]!, inner[i * 2 + 1]!) ? 1 : -1;
  }
  return votes > 0;
}

/** Does a point lie in the area of loops? By turns round it, so that areas that overlap count as area. */
export function insideLoops(loops: readonly ArrayLike<number>[], x: number, y: number): boolean {
  let turns = 0;
  for (const p of loops)
    for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
      const up = p[i + 1]! > y;
      if (up !== p[j + 1]! > y && x < ((p[j]! - p[i]!) * (y - p[i + 1]!)) / (p[j + 1]! - p[i + 1]!) + p[i]!) turns += up ? 1 : -1;
    }
  return turns !== 0;
}
