import { union, type Geom } from 'polyclip-ts';
import { groupLoops, signedArea } from './loops.ts';

type Ring = [number, number][];
const ringOf = (flat: ArrayLike<number>): Ring => Array.from({ length: flat.length / 2 }, (_, i) => [flat[2 * i]!, flat[2 * i + 1]!]);

/** Loops of cut faces as polygons with holes, whichever way round; solids of one part that share their space are one area. */
export function capShape(loops: readonly ArrayLike<number>[]): Geom {
  const areas = loops.map(signedArea);
  // The largest loop is an outline: it says which way they run.
  const way = Math.sign(areas.reduce((m, a) => (Math.abs(a) > Math.abs(m) ? a : m), 0));
  const polygons = groupLoops(
    loops,
    areas.map((a) => a * way),
  ).map(({ outer, holes }): Ring[] => [outer, ...holes].map((i) => ringOf(loops[i]!)));
  const [first, ...more] = polygons;
  if (!first) return [];
  return more.length ? union(first, ...more) : [first];
}

/** Flat loops of polygons; holes run the other way. */
export function loopsOfShape(shape: Geom): Float64Array[] {
  // Rings come closed: their last point is the first.
  const open = (r: Ring) => (r.length > 1 && r[0]![0] === r.at(-1)![0] && r[0]![1] === r.at(-1)![1] ? r.slice(0, -1) : r);
  return (shape as Ring[][]).flatMap((polygon) => polygon.map((r) => Float64Array.from(open(r).flat())));
}
