import type { Rect } from '../base/rect.ts';

/** Room for balloons around an exploded view, mm. */
export const EXPLODED_MARGIN = 22;

/** Width to the left of blocks, and height above them, mm. */
export const leftBeside = (frame: Rect, blocks: readonly Rect[]): { left: number; above: number } => ({
  left: Math.min(...blocks.map((b) => b.x)) - frame.x,
  above: Math.min(...blocks.map((b) => b.y)) - frame.y,
});

/** Width and height of the larger rectangle that lists and title block leave, margins for balloons taken off, mm. */
export function roomBeside(frame: Rect, blocks: readonly Rect[]): readonly [number, number] {
  const { left, above } = leftBeside(frame, blocks);
  const [width, height] = left * frame.height >= frame.width * above ? [left, frame.height] : [frame.width, above];
  return [Math.max(30, width - 2 * EXPLODED_MARGIN), Math.max(30, height - 2 * EXPLODED_MARGIN)];
}
