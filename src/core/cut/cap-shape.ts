import { differenceD, FillRule, intersectD, unionD, type PathsD } from 'clipper2-ts';
import { signedArea } from './loops.ts';

type Loops = readonly ArrayLike<number>[];

/** Decimals of a millimetre on which the library computes: whole numbers inside, so that faces that all but touch do not break it. */
const DECIMALS = 4;

/** The largest loop is an outline: it says which way they run. Parts that are mirrored have theirs the other way round. */
function pathsOf(loops: Loops): PathsD {
  const largest = loops.map(signedArea).reduce((m, a) => (Math.abs(a) > Math.abs(m) ? a : m), 0);
  return loops.map((l) => {
    const path = Array.from({ length: l.length / 2 }, (_, i) => ({ x: l[2 * i]!, y: l[2 * i + 1]! }));
    return largest < 0 ? path.reverse() : path;
  });
}

const loopsOf = (paths: PathsD): Float64Array[] => paths.map((p) => Float64Array.from(p.flatMap(({ x, y }) => [x, y])));

/** The area of a cut face as one: solids of a part that share their space are merged. Outlines, and holes the other way round. */
export const mergedLoops = (loops: Loops): Float64Array[] => loopsOf(unionD(pathsOf(loops), [], FillRule.NonZero, DECIMALS));

/** What is left of a cut face without others. */
export const loopsWithout = (loops: Loops, others: readonly Loops[]): Float64Array[] =>
  loopsOf(differenceD(pathsOf(loops), others.flatMap(pathsOf), FillRule.NonZero, DECIMALS));

/** The part of a cut face that lies in an outline, which counts by the even-odd rule. */
export const loopsWithin = (loops: Loops, outline: ArrayLike<number>): Float64Array[] =>
  loopsOf(intersectD(pathsOf(loops), unionD(pathsOf([outline]), [], FillRule.EvenOdd, DECIMALS), FillRule.NonZero, DECIMALS));
