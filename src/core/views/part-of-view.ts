import { loopsWithin, loopsWithout } from '../cut/cap-shape.ts';
import { boxOfLoops } from '../cut/loops.ts';
import type { Cap } from '../cut/cut-scene.ts';
import { measureLoops } from '../cut/hatch.ts';
import type { FlatLine } from '../explode/pull-lines.ts';
import { linesBox } from '../outline/linework.ts';
import { clipLines } from './clip-lines.ts';
import type { ViewResult } from './compute-view.ts';
import { ringOf, type Gap, type Outline } from './outline.ts';
import { Region } from './region.ts';

/** What of a view is shown: all, or what lies inside an outline, and not in a gap. */
export interface ViewPart {
  readonly within?: Outline | undefined;
  readonly gaps?: readonly Gap[] | undefined;
}

const known = new WeakMap<ViewResult, { readonly within: Outline | undefined; readonly gaps: readonly Gap[] | undefined; readonly part: ViewResult }[]>();
/** So many parts of one view are kept: details of it, and what a drag has just shown. */
const MOST_KNOWN = 12;

/** The part of a computed view that is shown, in the same view space; worked out from its lines, without the model. */
export function partOfView(result: ViewResult, { within, gaps }: ViewPart): ViewResult {
  if (!within && !gaps?.length) return result;
  const list = known.get(result) ?? [];
  const before = list.find((k) => k.within === within && k.gaps === gaps);
  if (before) return before.part;
  const part = cutOut(result, new Region(within && ringOf(within), gaps ?? []));
  known.set(result, [{ within, gaps, part }, ...list].slice(0, MOST_KNOWN));
  return part;
}

function cutOut(result: ViewResult, region: Region): ViewResult {
  const lines = clipLines(result.lines, region);
  const map = masked(result.map, region);
  const [all, left] = [counted(result.map.component, result.visibleArea.length), counted(map.component, result.visibleArea.length)];
  const share = (v: number, c: number) => (all[c] ? (v * left[c]!) / all[c] : 0);
  return {
    ...result,
    lines,
    phantom: clipLines(result.phantom, region),
    caps: result.caps.flatMap((c) => clipCap(c, region)),
    box: shownBox(result.box, region),
    visibleArea: result.visibleArea.map(share),
    visibleShare: result.visibleShare.map(share),
    map,
    pulls: result.pulls.flatMap((l) => clipPull(l, region)),
  };
}

/** What of the view's box the region can show. */
function shownBox(box: ViewResult['box'], { box: b, gaps }: Region): ViewResult['box'] {
  const out: [number, number, number, number] = [Math.max(box[0], b[0]), Math.max(box[1], b[1]), Math.min(box[2], b[2]), Math.min(box[3], b[3])];
  // An outline beside everything shows nothing, where it lies.
  if (out[2] < out[0] || out[3] < out[1]) return b;
  for (const [k, list] of [gaps.x, gaps.y].entries())
    for (const g of list) {
      if (g.from <= out[k]! && g.to < out[k + 2]!) out[k] = Math.max(out[k]!, g.to);
      if (g.to >= out[k + 2]! && g.from > out[k]!) out[k + 2] = Math.min(out[k + 2]!, g.from);
    }
  return out;
}

function counted(component: Int16Array, n: number): Uint32Array {
  const out = new Uint32Array(n);
  for (const c of component) if (c >= 0) out[c]!++;
  return out;
}

/** The item map with nothing outside the region. */
function masked(map: ViewResult['map'], region: Region): ViewResult['map'] {
  const { window: w } = map;
  const component = Int16Array.from(map.component);
  const { ring, gaps } = region;
  const crossings: number[] = [];
  for (let j = 0; j < w.height; j++) {
    const y = w.maxY - (j + 0.5) * w.pixelMm;
    const row = j * w.width;
    const clear = (from: number, to: number) => component.fill(-1, row + Math.max(0, from), row + Math.min(w.width, Math.max(0, to)));
    const column = (x: number) => Math.round((x - w.minX) / w.pixelMm);
    if (gaps.y.some((g) => y > g.from && y < g.to)) clear(0, w.width);
    for (const g of gaps.x) clear(column(g.from), column(g.to));
    if (!ring) continue;
    crossings.length = 0;
    for (let a = 0; a < ring.length; a += 2) {
      const b = (a + 2) % ring.length;
      if (ring[a + 1]! > y !== ring[b + 1]! > y) crossings.push(ring[a]! + ((ring[b]! - ring[a]!) * (y - ring[a + 1]!)) / (ring[b + 1]! - ring[a + 1]!));
    }
    crossings.sort((a, b) => a - b);
    let from = 0;
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      clear(from, column(crossings[k]!));
      from = column(crossings[k + 1]!);
    }
    clear(from, w.width);
  }
  return { window: w, component };
}

function clipPull(l: FlatLine, region: Region): FlatLine[] {
  const lines = clipLines(
    {
      xy: Float64Array.from(l.points.flat()),
      start: Uint32Array.of(0, l.points.length),
      kind: Uint8Array.of(0),
      component: Uint32Array.of(l.component),
      edge: Int32Array.of(0),
      arc: new Float64Array(7),
    },
    region,
  );
  return Array.from(lines.kind, (_, i) => ({
    component: l.component,
    points: Array.from({ length: lines.start[i + 1]! - lines.start[i]! }, (_none, k) => {
      const p = (lines.start[i]! + k) * 2;
      return [lines.xy[p]!, lines.xy[p + 1]!] as const;
    }),
  }));
}

const rectangle = (x0: number, y0: number, x1: number, y1: number): readonly number[] => [x0, y0, x1, y0, x1, y1, x0, y1];

/** A cut face inside the region: one, or none. */
function clipCap(cap: Cap, region: Region): Cap[] {
  const [x0, y0, x1, y1] = boxOfLoops(cap.loops);
  if (region.misses(x0, y0, x1, y1)) return [];
  if (!region.touches(x0, y0, x1, y1)) {
    const [first] = cap.loops;
    return first && region.keeps(first[0]!, first[1]!) ? [cap] : [];
  }
  const inside = region.ring ? loopsWithin(cap.loops, region.ring) : cap.loops;
  const bands = [...region.gaps.x.map((g) => rectangle(g.from, y0 - 1, g.to, y1 + 1)), ...region.gaps.y.map((g) => rectangle(x0 - 1, g.from, x1 + 1, g.to))];
  const loops = bands.length
    ? loopsWithout(
        inside,
        bands.map((b) => [b]),
      )
    : inside;
  if (!loops.length) return [];
  const share = measureLoops(loops).area / measureLoops(cap.loops).area;
  return [{ ...cap, loops, areaMm2: cap.areaMm2 * share }];
}

/**
 * Box of what is drawn of a view: minX minY maxX maxY, mm. Gaps are taken out, as if the pieces stood against each other.
 * @param lines of the part
 */
export function extentOf(lines: ViewResult['lines'], gaps: readonly Gap[]): [number, number, number, number] {
  if (!lines.kind.length) return [0, 0, 0, 0];
  const box = linesBox(lines);
  const { gaps: sorted } = new Region(undefined, gaps);
  for (const [k, list] of [sorted.x, sorted.y].entries())
    for (const end of [k, k + 2]) box[end]! -= list.reduce((sum, g) => sum + Math.max(0, Math.min(box[end]!, g.to) - g.from), 0);
  return box;
}
