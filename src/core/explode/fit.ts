import type { Vec2, Vec3 } from '../base/vector.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { viewBox } from '../shade/raster.ts';
import { PaperGroups, paperReport, type Group } from './on-paper.ts';
import { Spacing } from './spacing.ts';
import type { Pull } from './spread.ts';
import { Tightener, type TightenOptions, type Wish } from './tighten.ts';

export interface FitOptions extends Omit<TightenOptions, 'gapMm'> {
  /** Width and height on paper, mm. */
  readonly room: readonly [number, number];
  /** Scales that may be taken, the largest first. */
  readonly scales: readonly number[];
  /** Wanted distances between parts on paper, mm, the best first. Default 5, 4, 3, 2 (common practice: 4 to 10) */
  readonly gapsMm?: readonly number[];
}

export interface Fit {
  readonly pulls: readonly Pull[];
  readonly scale: number;
  /** On paper, mm. */
  readonly gapMm: number;
  readonly size: readonly [number, number];
  /** Middle of the whole in view space, model mm. */
  readonly middle: Vec2;
  readonly fits: boolean;
}

const GAPS: readonly number[] = [5, 4, 3, 2];
/** Parts closer on paper than this seem to touch, mm. */
const LEAST_GAP_MM = 1;
/** A closer gap than the first try makes an exploded view no smaller than this. */
const DOUBT = 1.25;
/** So many of the largest pulls are tried farther or in another direction, to make the whole smaller; of large assemblies fewer. */
const TRIED = 7;
const TRIED_GROUPS = 300;
const FARTHER = [1.6, 2.6, 4];
/** To part what touches, pulls are tried a little farther, so often at most. */
const A_LITTLE = [1.12, 1.3, 1.6];
const PARTINGS = 18;
/** What is tried has to save this much. */
const WORTH = 0.97;

/**
 * Tightens a spread for a place on paper: first the arrangement that fills the room best, then the largest standard
 * scale at which it fits with the least gap, then the widest gap at that scale with which nothing touches. Pulls go
 * another way than planned only where the whole can be drawn larger for it: what stays in line reads better. Where no
 * scale fits, the smallest is taken and `fits` is false.
 */
export function fitSpread(bodies: readonly Body[], pulls: readonly Pull[], options: FitOptions): Fit {
  const spacing = new Spacing(bodies);
  const inLine = fitAs(bodies, pulls, options, spacing, arrange(bodies, pulls, options, spacing, false));
  if (!options.ways || (inLine.fits && inLine.scale === options.scales[0])) return inLine;
  const turned = fitAs(bodies, pulls, options, spacing, arrange(bodies, pulls, options, spacing, true));
  return turned.fits && (!inLine.fits || turned.scale > inLine.scale) ? turned : inLine;
}

function fitAs(bodies: readonly Body[], pulls: readonly Pull[], options: FitOptions, spacing: Spacing, { wish, need }: Arranged): Fit {
  const gaps = options.gapsMm ?? GAPS;
  const { room, frame } = options;
  const at = (scale: number, gapMm: number): Fit => {
    const tightener = new Tightener(bodies, pulls, { ...options, gapMm: gapMm / scale }, spacing);
    return partTouching(new Map(wish.floors), (floors) => {
      const solved = tightener.solve({ ...wish, floors });
      tightener.paper.pulls = solved;
      const touching = tightener.paper.touching(solved.map((p) => p.distanceMm));
      // What stays as it is stays to the last digit.
      const tight = solved.map((p, k): Pull => (p.distanceMm === pulls[k]!.distanceMm ? p : { ...p, distanceMm: rounded(p.distanceMm) }));
      const box = boxOf(tightener.paper, tight);
      const size = sizeOf(box, scale);
      const middle: Vec2 = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
      return { fit: { pulls: tight, scale, gapMm, size, middle, fits: size[0] <= room[0] && size[1] <= room[1] }, touching };
    });
  };
  const box = viewBox(bodies, frame);
  const could = options.scales.filter((s) => (box[2] - box[0]) * s <= room[0] && (box[3] - box[1]) * s <= room[1] && need * s <= DOUBT);
  let last: Fit | undefined;
  for (const scale of could) {
    last = at(scale, gaps.at(-1)!);
    if (!last.fits) continue;
    let best: { fit: Fit; touching: number } | undefined;
    for (const gap of gaps) {
      const fit = gap === last.gapMm ? last : at(scale, gap);
      if (!fit.fits) continue;
      const touching = paperReport(bodies, fit.pulls, frame, scale, Math.max(LEAST_GAP_MM, gap / 2)).touches.length;
      if (!best || touching < best.touching) best = { fit, touching };
      if (touching === 0) break;
    }
    return best!.fit;
  }
  return last ?? at(options.scales.at(-1)!, gaps.at(-1)!);
}

/** A fit, and the pairs of groups that touch in it still. */
interface Tried {
  readonly fit: Fit;
  readonly touching: readonly { readonly a: Group; readonly b: Group }[];
}

/** Where parts touch still, pulls between them go a little farther, as long as the whole fits. */
function partTouching(floors: ReadonlyMap<number, number>, tryWith: (floors: ReadonlyMap<number, number>) => Tried): Fit {
  let best = tryWith(floors);
  let left = best.fit.fits ? PARTINGS : 0;
  while (best.touching.length > 0 && left > 0) {
    const before = best;
    for (const k of new Set(before.touching.flatMap(({ a, b }) => apart(a, b))))
      for (const factor of A_LITTLE) {
        if (left-- <= 0 || best !== before) break;
        const more = new Map(floors).set(k, before.fit.pulls[k]!.distanceMm * factor);
        const other = tryWith(more);
        if (other.fit.fits && other.touching.length < before.touching.length) [best, floors] = [other, more];
      }
    if (best === before) break;
  }
  return best.fit;
}

/** The pulls that only one of two groups makes: those of the outer one last moved first. */
const apart = (a: Group, b: Group): number[] => [...a.made.filter((k) => !b.made.includes(k)), ...b.made.filter((k) => !a.made.includes(k))].reverse();

/** What to wish for, and how much of the room it then takes at full size. */
interface Arranged {
  readonly wish: Wish;
  readonly need: number;
}

/**
 * Looks for pulls that make the whole smaller by going farther, or another way: what is lifted out of a row of parts
 * lets the row close up.
 * @param turning may give pulls another direction
 */
function arrange(bodies: readonly Body[], pulls: readonly Pull[], options: FitOptions, spacing: Spacing, turning: boolean): Arranged {
  const { room } = options;
  const tightener = new Tightener(bodies, pulls, { ...options, gapMm: 0.012 * sceneDiagonal(bodies) }, spacing);
  const look = (wish: Wish) => {
    const tight = tightener.solve(wish);
    const [w, h] = sizeOf(boxOf(tightener.paper, tight), 1);
    return { tight, need: Math.max(w / room[0], h / room[1]) };
  };
  let floors = new Map<number, number>();
  let directions = new Map<number, Vec3>();
  let now = look({});
  const weight = (k: number) => tightener.paper.groups.reduce((s, g) => s + (g.shares[k]! > 0 ? g.shape.count : 0), 0);
  const tried = pulls
    .map((_, k) => k)
    .filter((k) => !pulls[k]!.turn && !options.kept?.has(k))
    .sort((a, b) => weight(b) - weight(a))
    .slice(0, Math.min(TRIED, Math.round(TRIED_GROUPS / Math.max(1, tightener.paper.groups.length))));
  for (const k of tried) {
    const start = now.tight[k]!;
    for (const direction of [start.direction, ...((turning && options.ways?.[k]) || [])].filter((d, i, all) => all.indexOf(d) === i))
      for (const factor of direction === start.direction ? FARTHER : [1, 2.5]) {
        const wish = {
          floors: new Map(floors).set(k, direction === start.direction ? start.distanceMm * factor : (factor - 1) * start.distanceMm),
          directions: direction === start.direction ? directions : new Map(directions).set(k, direction),
        };
        const other = look(wish);
        if (other.need > now.need * WORTH) continue;
        now = other;
        ({ floors, directions } = wish);
      }
  }
  return { wish: { floors, directions }, need: now.need };
}

/** Half millimetres; of small things a three-figure value. */
export const rounded = (mm: number): number => (mm >= 20 ? Math.ceil(mm * 2) / 2 : Number(mm.toPrecision(3)));

function boxOf(paper: PaperGroups, pulls: readonly Pull[]): readonly [number, number, number, number] {
  paper.pulls = pulls;
  return paper.box(pulls.map((p) => p.distanceMm));
}

function sizeOf(b: readonly [number, number, number, number], scale: number): [number, number] {
  return [Math.max(0, b[2] - b[0]) * scale, Math.max(0, b[3] - b[1]) * scale];
}
