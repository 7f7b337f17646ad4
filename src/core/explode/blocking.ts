import { crossingsOf, reachOf, type Along, type RayWindow } from './columns.ts';
import { threadRays } from './threads.ts';

/** How two bodies stand in each other's way along a direction, however far one is moved. */
export interface PairWay {
  /** The second lies in the first one's way when that moves along the direction. */
  readonly forward: boolean;
  /** … or against it. */
  readonly back: boolean;
}

/** Rays on a side of a pair's window: a first look, and a close one where that leaves a doubt. */
const COARSE = 40;
const FINE = 112;
/** … where only a distance is wanted. */
const STANDOFF_SIDE = 40;
/** Meshes of curved walls are off by at most this share of a body's size (0.2 rad: a sagitta of 0.005 r on either part). */
const SAGITTA = 0.006;
/** What rounding leaves, as a share of the whole. */
const ROUNDING = 2e-5;
/** Fewer blocked rays than this are no obstacle: what is left of a noisy wall. */
export const LEAST_RAYS = 3;

export interface PairOptions {
  /** Diagonal of everything, mm. */
  readonly diagonal: number;
  /** One of them has a thread: overlap in place that looks like one is no obstacle. */
  readonly threaded: boolean;
}

/** How far mating surfaces may overlap without being in each other's way: across the direction and along it, mm. */
export interface Slack {
  readonly across: number;
  readonly along: number;
}

export function slackOf(a: Along, b: Along, diagonal: number): Slack {
  const of = (s: Along, k: number, l: number) =>
    Math.min(s.geometry.deflectionMm, SAGITTA * Math.min(s.box[k + 3]! - s.box[k]!, s.box[l + 3]! - s.box[l]!)) + ROUNDING * diagonal;
  return { across: of(a, 0, 1) + of(b, 0, 1), along: of(a, 2, 2) + of(b, 2, 2) };
}

/** The window in which both bodies may have material, `shift` added to the first; undefined when there is none worth a look. */
export function sharedWindow(a: Along, b: Along, across: number, shift: readonly [number, number] = [0, 0], side = FINE): RayWindow | undefined {
  const minX = Math.max(a.box[0]! + shift[0], b.box[0]!);
  const minY = Math.max(a.box[1]! + shift[1], b.box[1]!);
  const width = Math.min(a.box[3]! + shift[0], b.box[3]!) - minX;
  const height = Math.min(a.box[4]! + shift[1], b.box[4]!) - minY;
  if (width < 2 * across || height < 2 * across) return undefined;
  return { minX, minY, dx: width / side, dy: height / side, width: side, height: side };
}

export const FREE: PairWay = { forward: false, back: false };

/**
 * Whether two bodies are in each other's way. A ray on which the second reaches beyond the lowest of the first blocks it:
 * for a way that does not end this is exact, ray by ray.
 */
export function pairWay(a: Along, b: Along, { diagonal, threaded }: PairOptions): PairWay {
  const slack = slackOf(a, b, diagonal);
  const coarse = sharedWindow(a, b, slack.across, [0, 0], COARSE);
  if (!coarse) return FREE;
  const first = lookAt(a, b, coarse, slack, false);
  // Only what stands in each other can be screwed together.
  const screwed = threaded && (first.way.forward || first.way.back) && a.box[2]! < b.box[5]! && b.box[2]! < a.box[5]!;
  if (first.certain && !screwed) return first.way;
  return lookAt(a, b, sharedWindow(a, b, slack.across)!, slack, screwed).way;
}

function lookAt(a: Along, b: Along, w: RayWindow, slack: Slack, threaded: boolean): { way: PairWay; certain: boolean } {
  const [p, q] = [reachOf(a, w), reachOf(b, w)];
  const cells = w.width * w.height;
  const screwed = threaded ? threadRays(crossingsOf(a, w), crossingsOf(b, w), w, slack.along) : undefined;
  const forward = new Uint8Array(cells);
  const back = new Uint8Array(cells);
  let [up, down] = [0, 0];
  for (let i = 0; i < cells; i++) {
    if (p.low[i] === Infinity || q.low[i] === Infinity) continue;
    if (screwed?.[i]) continue;
    if (q.high[i]! > p.low[i]! + slack.along) {
      forward[i] = 1;
      up++;
    }
    if (q.low[i]! < p.high[i]! - slack.along) {
      back[i] = 1;
      down++;
    }
  }
  const blocks = (mask: Uint8Array, n: number) => n >= LEAST_RAYS && eroded(mask, w.width, w.height, slack.across / w.dx, slack.across / w.dy) >= LEAST_RAYS;
  const way = { forward: blocks(forward, up), back: blocks(back, down) };
  return { way, certain: (way.forward || up === 0) && (way.back || down === 0) };
}

/**
 * How far the first has to be ahead of the second, along the direction, to be past it on every ray that they share, mm;
 * -Infinity when they share none: they may stand side by side.
 * @param shift where the first is, across the direction, mm
 */
export function standoff(a: Along, b: Along, diagonal: number, shift: readonly [number, number] = [0, 0]): number {
  const w = sharedWindow(a, b, slackOf(a, b, diagonal).across, shift, STANDOFF_SIDE);
  if (!w) return -Infinity;
  const p = reachOf(a, { ...w, minX: w.minX - shift[0], minY: w.minY - shift[1] });
  const q = reachOf(b, w);
  let [shared, need] = [0, -Infinity];
  for (let i = 0; i < w.width * w.height; i++) {
    if (p.low[i] === Infinity || q.low[i] === Infinity) continue;
    shared++;
    need = Math.max(need, q.high[i]! - p.low[i]!);
  }
  return shared < LEAST_RAYS ? -Infinity : need;
}

/** Cells that are set with everything around them within the radius (at least one cell): what is wider than a noisy wall. */
export function eroded(mask: Uint8Array, width: number, height: number, radiusX: number, radiusY: number): number {
  const rx = Math.max(1, Math.ceil(radiusX));
  const ry = Math.max(1, Math.ceil(radiusY));
  // How many cells of the row are set up to here, without a gap.
  const run = new Uint16Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0, n = 0; x < width; x++) {
      n = mask[y * width + x] ? n + 1 : 0;
      run[y * width + x] = n;
    }
  const wide = 2 * rx + 1;
  let count = 0;
  for (let x = wide - 1; x < width; x++)
    for (let y = 0, n = 0; y < height; y++) {
      n = run[y * width + x]! >= wide ? n + 1 : 0;
      if (n >= 2 * ry + 1) count++;
    }
  return count;
}
