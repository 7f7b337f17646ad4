import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { overlaps, type Rect } from '../base/rect.ts';
import { layOut, LEAST_GAP_MM, type Body } from './lay-out.ts';

const one = (id: string, width: number, height: number): Body => ({ id, rects: () => [{ x: 0, y: 0, width, height }] });
const room: Rect = { x: 20, y: 10, width: 390, height: 277 };
const title: Rect = { x: 230, y: 232, width: 180, height: 55 };
const rectsOf = (bodies: readonly Body[], layout: NonNullable<ReturnType<typeof layOut>>) =>
  bodies.map((b) => {
    const [x, y] = layout.at.get(b.id)!;
    return b.rects(layout.gap).map((r) => ({ ...r, x: r.x + x, y: r.y + y }));
  });

describe('bodies spread over a room', () => {
  test('one stands in the middle of what is free', () => {
    const layout = layOut([one('a', 100, 60)], room, [])!;
    const [x, y] = layout.at.get('a')!;
    expect(Math.abs(x + 50 - 215)).toBeLessThan(8);
    expect(Math.abs(y + 30 - 148.5)).toBeLessThan(8);
  });
  test('none comes nearer to another, to an obstacle or over the edge, whatever they are', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 10, max: 180 }), fc.integer({ min: 10, max: 120 })), { minLength: 1, maxLength: 3 }), (sizes) => {
        const bodies = sizes.map(([w, h], i) => one(`b${i}`, w, h));
        const layout = layOut(bodies, room, [title]);
        if (!layout) return;
        expect(layout.gap).toBeGreaterThanOrEqual(LEAST_GAP_MM);
        const all = rectsOf(bodies, layout).flat();
        all.forEach((r, i) => {
          expect(overlaps(r, title, layout.gap - 1e-6)).toBe(false);
          for (const o of all.slice(i + 1)) expect(overlaps(r, o, layout.gap - 1e-6)).toBe(false);
          expect(Math.min(r.x - room.x, r.y - room.y, room.x + room.width - r.x - r.width, room.y + room.height - r.y - r.height)).toBeGreaterThan(8);
        });
      }),
      { numRuns: 60, seed: 11 },
    );
  });
  test('takes the pieces of a body as far apart as the bodies', () => {
    const pair: Body = {
      id: 'pair',
      rects: (gap) => [
        { x: 0, y: 0, width: 60, height: 40 },
        { x: 60 + gap, y: 0, width: 60, height: 40 },
      ],
    };
    const layout = layOut([pair, one('c', 90, 60)], room, [title])!;
    expect(layout.gap).toBeGreaterThan(30);
    expect(overlaps(rectsOf([pair], layout)[0]![0]!, rectsOf([pair], layout)[0]![1]!, layout.gap - 1e-6)).toBe(false);
  });
  test('what does not fit is told, the same input gives the same layout', () => {
    expect(layOut([one('a', 380, 270)], room, [title])).toBeUndefined();
    expect(layOut([one('a', 300, 100), one('b', 300, 100)], room, [title])).toBeUndefined();
    const bodies = [one('a', 120, 80), one('b', 70, 90), one('c', 60, 30)];
    expect(layOut(bodies, room, [title])).toEqual(layOut(bodies, room, [title]));
  });
});
