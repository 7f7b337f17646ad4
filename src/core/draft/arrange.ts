import { overlaps, type Rect } from '../base/rect.ts';

/** A view waiting for its place: its size on paper, mm. */
export interface Block {
  readonly id: string;
  readonly column: number;
  readonly row: number;
  /** Rows it spans downward. */
  readonly rows: number;
  readonly width: number;
  readonly height: number;
}

/** Least distance between views, and between a view and the frame; mm. */
export const LEAST_GAP_MM = 18;

export interface ArrangeOptions {
  /** Widest distance between neighbours, mm. Default 48. */
  readonly mostGapMm?: number;
  /** Put the whole into the upper left corner of the room instead of its middle. */
  readonly corner?: boolean;
}

/**
 * Places blocks on a grid in a room: columns and rows as wide as their widest block, white space shared out evenly.
 * @returns centre of each block, or undefined when they do not fit or meet an obstacle
 */
export function arrange(
  blocks: readonly Block[],
  room: Rect,
  obstacles: readonly Rect[],
  options: ArrangeOptions = {},
): Map<string, readonly [number, number]> | undefined {
  const gap = LEAST_GAP_MM;
  const most = options.mostGapMm ?? 48;
  const columns = Math.max(...blocks.map((b) => b.column)) + 1;
  const rows = Math.max(...blocks.map((b) => b.row + b.rows - 1)) + 1;
  const widths = new Array<number>(columns).fill(0);
  const heights = new Array<number>(rows).fill(0);
  for (const b of blocks) {
    widths[b.column] = Math.max(widths[b.column]!, b.width);
    if (b.rows === 1) heights[b.row] = Math.max(heights[b.row]!, b.height);
  }
  const freeX = room.width - sum(widths);
  const freeY = room.height - sum(heights);
  if (freeX < gap * (columns + 1) || freeY < gap * (rows + 1)) return undefined;
  const gapX = Math.min(most, freeX / (columns + 1));
  const gapY = Math.min(most, freeY / (rows + 1));
  const left = room.x + (options.corner ? gapX : (room.width - sum(widths) - gapX * (columns - 1)) / 2);
  const top = room.y + (options.corner ? gapY : (room.height - sum(heights) - gapY * (rows - 1)) / 2);
  const out = new Map<string, readonly [number, number]>();
  for (const b of blocks) {
    const x = left + sum(widths.slice(0, b.column)) + gapX * b.column + widths[b.column]! / 2;
    const y0 = top + sum(heights.slice(0, b.row)) + gapY * b.row;
    const spanned = sum(heights.slice(b.row, b.row + b.rows)) + gapY * (b.rows - 1);
    if (b.height > spanned + 1e-9 && b.rows > 1) return undefined;
    // A tall neighbour in the first rows stands level with them rather than in the middle of all.
    const y = y0 + spanned / 2;
    const box: Rect = { x: x - b.width / 2, y: y - b.height / 2, width: b.width, height: b.height };
    if (obstacles.some((o) => overlaps(box, o, gap * 0.6))) return undefined;
    out.set(b.id, [x, y]);
  }
  return out;
}

const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0);

/** The frame less the title block (and list): the strip above it and the strip beside it. */
export function roomsAround(frame: Rect, corner: Rect): Rect[] {
  return [
    { x: frame.x, y: frame.y, width: frame.width, height: corner.y - frame.y },
    { x: frame.x, y: frame.y, width: corner.x - frame.x, height: frame.height },
  ].filter((r) => r.width > 20 && r.height > 20);
}
