import type { Rect } from '../base/rect.ts';
import type { ViewResult } from '../views/compute-view.ts';

/** Candidate places are this far apart at most, mm. */
const STEP_MM = 4;
/** Pixels of the item map are looked at in blocks of this many. */
const BLOCK = 6;

/**
 * A place for a view in a frame at a scale, by what the view really covers: obstacles may reach into empty corners of its
 * box. Of all places, one with ample room around it and near the middle wins.
 * @param marginX,marginY distance of the view's box from the frame, and of its lines from obstacles, mm
 * @returns where the middle of the view's box lies on the sheet, or undefined
 */
export function placeByMask(
  result: ViewResult,
  scale: number,
  frame: Rect,
  obstacles: readonly Rect[],
  marginX: number,
  marginY: number,
): readonly [number, number] | undefined {
  const [x0, y0, x1, y1] = result.box;
  const width = (x1 - x0) * scale;
  const height = (y1 - y0) * scale;
  const freeX = frame.width - width - 2 * marginX;
  const freeY = frame.height - height - 2 * marginY;
  if (freeX < 0 || freeY < 0) return undefined;
  const cells = coveredCells(result, scale);
  // An even number of steps: the middle itself is one of the places.
  const nx = 2 * Math.ceil(freeX / (2 * STEP_MM));
  const ny = 2 * Math.ceil(freeY / (2 * STEP_MM));
  let best: readonly [number, number] | undefined;
  let bestScore = -Infinity;
  const most = 2.5 * Math.max(marginX, marginY);
  const centre = [frame.x + frame.width / 2, frame.y + frame.height / 2] as const;
  for (let j = 0; j <= ny; j++)
    for (let i = 0; i <= nx; i++) {
      const left = frame.x + marginX + (nx ? (freeX * i) / nx : freeX / 2);
      const top = frame.y + marginY + (ny ? (freeY * j) / ny : freeY / 2);
      const room = Math.min(
        clearance(cells, left, top, obstacles, Math.max(marginX, marginY), most),
        left - frame.x,
        top - frame.y,
        frame.x + frame.width - left - width,
        frame.y + frame.height - top - height,
      );
      if (room <= 0) continue;
      const score = Math.min(room, most) - 0.05 * Math.hypot(left + width / 2 - centre[0], top + height / 2 - centre[1]);
      if (score > bestScore) {
        bestScore = score;
        best = [left + width / 2, top + height / 2];
      }
    }
  return best;
}

/** Inside what a view covers only every so many blocks are kept: obstacles are larger than that. */
const INSIDE = 4;

/** Covered places relative to the upper left corner of the view's box, paper mm: all along its edge, a few inside. */
function coveredCells(result: ViewResult, scale: number): Float64Array {
  const { window, component } = result.map;
  const [width, height] = [Math.ceil(window.width / BLOCK), Math.ceil(window.height / BLOCK)];
  const covered = new Uint8Array(width * height);
  for (let y = 0; y < window.height; y++)
    for (let x = 0; x < window.width; x++) if (component[y * window.width + x]! >= 0) covered[Math.floor(y / BLOCK) * width + Math.floor(x / BLOCK)] = 1;
  const out: number[] = [];
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const k = j * width + i;
      if (!covered[k]) continue;
      const inside = i > 0 && i < width - 1 && j > 0 && j < height - 1 && covered[k - 1] && covered[k + 1] && covered[k - width] && covered[k + width];
      if (inside && (i % INSIDE || j % INSIDE)) continue;
      out.push((i + 0.5) * BLOCK * window.pixelMm * scale, (j + 0.5) * BLOCK * window.pixelMm * scale);
    }
  return Float64Array.from(out);
}

/** Least distance of the covered places from the obstacles; negative below `least`, no more than `most`. */
function clearance(cells: Float64Array, left: number, top: number, obstacles: readonly Rect[], least: number, most: number): number {
  let near = most;
  for (let i = 0; i < cells.length; i += 2) {
    const x = left + cells[i]!;
    const y = top + cells[i + 1]!;
    for (const o of obstacles) {
      const dx = Math.max(o.x - x, 0, x - o.x - o.width);
      const dy = Math.max(o.y - y, 0, y - o.y - o.height);
      const d = Math.hypot(dx, dy);
      if (d < near) near = d;
      if (d < least) return -1;
    }
  }
  return near;
}
