import { inflate, type Rect } from '../base/rect.ts';
import { sideFrame, type ViewFrame } from '../outline/directions.ts';
import type { Standard } from '../sheet/paper.ts';
import type { ViewResult } from '../views/compute-view.ts';
import { GAP_MM, viewMapOf } from '../views/view-map.ts';
import type { Gap } from '../views/outline.ts';
import { suggestGap, shortens, WORTH } from '../../elements/view/interrupt.ts';
import { LEAST_GAP_MM } from './lay-out.ts';
import { layOut, type Body } from './lay-out.ts';

export type Principal = 'front' | 'top' | 'right' | 'isometric';
type Box = ViewResult['box'];

/** The four frames of an arrangement, from its front. */
export function principalFrames(front: ViewFrame): Readonly<Record<Principal, ViewFrame>> {
  return { front, top: sideFrame(front, 'top'), right: sideFrame(front, 'right'), isometric: sideFrame(front, 'isometric') };
}

/** What is drawn larger than it is has nothing left out of it: an interruption is for what is too long for its sheet. */
const LARGEST_INTERRUPTED = 1;
/** Only along an axis that is at least so long as a share of the longest is anything left out. */
const LONG = 0.6;

/** Gaps that views in line leave out together, by view; none where nothing long stays the same. */
export type Interruptions = Readonly<Partial<Record<Principal, readonly Gap[]>>>;

/** Stretches along the three axes over which both views that show the axis stay the same. */
export function suggestInterruptions(results: Readonly<Record<'front' | 'top' | 'right', ViewResult>>): Interruptions {
  const longest = Math.max(...Object.values(results).flatMap(({ box }) => [box[2] - box[0], box[3] - box[1]]));
  const gaps: Record<'front' | 'top' | 'right', Gap[]> = { front: [], top: [], right: [] };
  const shared = [
    [
      ['front', 'x'],
      ['top', 'x'],
    ],
    [
      ['front', 'y'],
      ['right', 'y'],
    ],
    [
      ['top', 'y'],
      ['right', 'x'],
    ],
  ] as const;
  for (const [[a, p], [b, q]] of shared) {
    const [first, second] = [suggestGap(results[a], p), suggestGap(results[b], q)];
    if (!first || !second) continue;
    const [from, to] = [Math.max(first.from, second.from), Math.min(first.to, second.to)];
    const k = p === 'x' ? 0 : 1;
    const size = results[a].box[k + 2]! - results[a].box[k]!;
    if (size < LONG * longest || to - from < WORTH * size) continue;
    gaps[a].push({ axis: p, from, to });
    gaps[b].push({ axis: q, from, to });
  }
  return Object.fromEntries(Object.entries(gaps).filter(([, list]) => list.length));
}

export interface ArrangementInput {
  readonly boxes: Readonly<Record<Principal, Box>>;
  /** Box of a section that is to stand on the sheet too. */
  readonly section?: Box | undefined;
  readonly interruptions: Interruptions;
  readonly standard: Standard;
  readonly room: Rect;
  readonly obstacles: readonly Rect[];
  /** Largest first. */
  readonly scales: readonly number[];
}

export interface Arranged {
  readonly scale: number;
  readonly isometricScale: number;
  /** Middle of what each view shows on paper, mm. */
  readonly at: ReadonlyMap<Principal | 'section', readonly [number, number]>;
  readonly interrupted: boolean;
}

/** Room for dimensions around the views that carry them, besides the white space: a second line, mm. */
const DIMENSIONS_MM = 12;
/** Room for a section's label, mm. */
const LABEL_MM = 14;

/**
 * The largest standard scale at which the views stand on a sheet with white space around each, long ones interrupted where
 * that lifts the scale; the isometric may be one step smaller. First angle puts the view from the right to the left of the
 * front and the one from above below it, third angle the other way (ISO 5456-2).
 */
export function arrangeViews(input: ArrangementInput): Arranged | undefined {
  const { scales } = input;
  for (let i = 0; i < scales.length; i++)
    for (const interrupted of Object.keys(input.interruptions).length ? [false, true] : [false])
      for (const smaller of [0, 1]) {
        const isometricScale = scales[i + smaller];
        // With room for dimensions around the views if there is, without it rather than smaller.
        for (const band of isometricScale === undefined ? [] : [DIMENSIONS_MM, 0]) {
          const found = attempt(input, scales[i]!, isometricScale!, interrupted, band);
          if (found) return found;
        }
      }
  return undefined;
}

function attempt(input: ArrangementInput, scale: number, isometricScale: number, interrupted: boolean, band: number): Arranged | undefined {
  const { boxes, section, standard, room, obstacles } = input;
  if (interrupted && scale > LARGEST_INTERRUPTED) return undefined;
  if (interrupted && !Object.values(input.interruptions).some((list) => list.some((g) => shortens(g, scale)))) return undefined;
  const size = (n: Principal, s: number): readonly [number, number] => paperSize(boxes[n], s, interrupted ? (input.interruptions[n] ?? []) : []);
  const [front, top, right, isometric] = [size('front', scale), size('top', scale), size('right', scale), size('isometric', isometricScale)];
  const first = standard === 'iso';
  // Columns and rows are as wide and high as the views that are in line there; the band lies around each view.
  const family = (free: number): Record<'front' | 'top' | 'right', Rect> => {
    const gap = free + band;
    const column = Math.max(front[0], top[0]);
    const row = Math.max(front[1], right[1]);
    const [x, y] = [first ? right[0] + gap : 0, first ? 0 : top[1] + gap];
    const inColumn = ([w, h]: readonly [number, number], at: number): Rect => ({ x: x + (column - w) / 2, y: at, width: w, height: h });
    const sideX = first ? 0 : column + gap;
    const banded = (r: Rect): Rect => ({ ...r, x: r.x + band, y: r.y + band });
    return {
      front: banded(inColumn(front, y + (row - front[1]) / 2)),
      top: banded(inColumn(top, first ? row + gap : 0)),
      right: banded({ x: sideX, y: y + (row - right[1]) / 2, width: right[0], height: right[1] }),
    };
  };
  const bodies: Body[] = [
    { id: 'family', rects: (gap) => Object.values(family(gap)).map((r) => inflate(r, band)) },
    { id: 'isometric', rects: () => [{ x: 0, y: 0, width: isometric[0], height: isometric[1] }] },
  ];
  const cut = section && paperSize(section, scale, []);
  if (cut) bodies.push({ id: 'section', rects: () => [{ x: 0, y: 0, width: cut[0], height: cut[1] + LABEL_MM }] });
  const layout = layOut(bodies, room, obstacles, LEAST_GAP_MM);
  if (!layout) return undefined;
  const corner = (id: string) => layout.at.get(id)!;
  const at = new Map<Principal | 'section', readonly [number, number]>();
  for (const [n, r] of Object.entries(family(layout.gap)) as ['front', Rect][])
    at.set(n, [corner('family')[0] + r.x + r.width / 2, corner('family')[1] + r.y + r.height / 2]);
  at.set('isometric', [corner('isometric')[0] + isometric[0] / 2, corner('isometric')[1] + isometric[1] / 2]);
  if (cut) at.set('section', [corner('section')[0] + cut[0] / 2, corner('section')[1] + cut[1] / 2]);
  return { scale, isometricScale, at, interrupted };
}

/** Width and height of a view on paper, its gaps closed, mm. */
function paperSize(box: Box, scale: number, gaps: readonly Gap[]): readonly [number, number] {
  const map = viewMapOf({ at: [0, 0], pivot: [0, 0], scale, gaps, gapMm: GAP_MM });
  return [map.x(box[2]) - map.x(box[0]), map.y(box[1]) - map.y(box[3])];
}

/** Where a view's pivot lies on the sheet when the middle of what it shows is at a place. */
export function pivotPlace(
  middle: readonly [number, number],
  pivot: readonly [number, number],
  box: Box,
  scale: number,
  gaps: readonly Gap[],
): readonly [number, number] {
  const map = viewMapOf({ at: [0, 0], pivot, scale, gaps, gapMm: GAP_MM });
  return [middle[0] - (map.x(box[0]) + map.x(box[2])) / 2, middle[1] - (map.y(box[1]) + map.y(box[3])) / 2];
}
