import { describe, expect, test } from 'vitest';
import type { ViewResult } from '../views/compute-view.ts';
import { placeByMask } from './place-by-mask.ts';

const PIXEL = 0.5;
/** A view that covers what `covers` says of each place, mm from its upper left corner. */
function view(width: number, height: number, covers: (x: number, y: number) => boolean): ViewResult {
  const [w, h] = [width / PIXEL, height / PIXEL];
  const component = Int16Array.from({ length: w * h }, (_, i) => (covers(((i % w) + 0.5) * PIXEL, (Math.floor(i / w) + 0.5) * PIXEL) ? 0 : -1));
  return {
    box: [0, 0, width, height],
    map: { window: { minX: 0, maxY: height, pixelMm: PIXEL, width: w, height: h }, component },
  } as unknown as ViewResult;
}
const frame = { x: 20, y: 10, width: 200, height: 100 };
const full = view(60, 60, () => true);
/** Covers the left column and the lower beam: its upper right is empty. */
const angle = view(60, 60, (x, y) => x < 12 || y > 48);

describe('a place for a view by what it covers', () => {
  test('in the middle of an empty frame', () => {
    expect(placeByMask(full, 1, frame, [], 5, 5)).toEqual([120, 60]);
  });
  test('none when it does not fit with its margins, at any scale that is too large', () => {
    expect(placeByMask(full, 1.6, frame, [], 5, 5)).toBeUndefined();
    expect(placeByMask(full, 1.5, frame, [], 5, 5)).toEqual([120, 60]);
    expect(placeByMask(full, 0.5, { ...frame, width: 39 }, [], 5, 5)).toBeUndefined();
    expect(placeByMask(full, 0.5, { ...frame, width: 40 }, [], 5, 5)).toEqual([40, 60]);
  });
  test('beside an obstacle, never over it', () => {
    const block = { x: 20, y: 10, width: 120, height: 100 };
    const at = placeByMask(full, 1, frame, [block], 5, 5)!;
    expect(at[0] - 30).toBeGreaterThanOrEqual(145);
    expect(at[0] + 30).toBeLessThanOrEqual(215);
    expect(placeByMask(full, 1, frame, [{ ...block, width: 135 }], 5, 5)).toBeUndefined();
  });
  test('an obstacle may reach into an empty corner of the box, not into a full one', () => {
    const narrow = { x: 20, y: 10, width: 72, height: 72 };
    const corner = { x: 60, y: 10, width: 32, height: 26 };
    const at = placeByMask(angle, 1, narrow, [corner], 5, 5)!;
    expect(at).toBeDefined();
    const [left, top] = [at[0] - 30, at[1] - 30];
    // Its box holds a part of the obstacle; its lines keep their distance.
    expect(left + 60).toBeGreaterThan(corner.x);
    expect(corner.x - (left + 12)).toBeGreaterThanOrEqual(5 - 2);
    expect(top + 48 - (corner.y + corner.height)).toBeGreaterThanOrEqual(5 - 2);
    expect(placeByMask(full, 1, narrow, [corner], 5, 5)).toBeUndefined();
  });
});
