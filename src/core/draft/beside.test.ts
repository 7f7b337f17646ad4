import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { overlaps } from '../base/rect.ts';
import { placeBeside } from './beside.ts';

const allowed = { x: 20, y: 10, width: 380, height: 270 };
const parent = { x: 180, y: 120, width: 60, height: 40 };
const rect = (at: readonly [number, number], [width, height]: readonly [number, number]) => ({ x: at[0] - width / 2, y: at[1] - height / 2, width, height });

describe('room for a new view', () => {
  test('on the wanted side, in line', () => {
    const b = placeBeside(parent, [1, 0], [50, 40], allowed, []);
    expect(b.inLine).toBe(true);
    expect(b.at[1]).toBe(140);
    expect(b.at[0]).toBeGreaterThan(265);
  });
  test('farther out, past what stands there', () => {
    const b = placeBeside(parent, [1, 0], [50, 40], allowed, [{ x: 250, y: 100, width: 60, height: 80 }]);
    expect(b).toMatchObject({ inLine: true });
    expect(b.at[0]).toBeGreaterThan(335);
  });
  test('never on the other side, where projection has something else: free when the wanted one is taken', () => {
    const b = placeBeside(parent, [1, 0], [50, 40], allowed, [{ x: 250, y: 100, width: 150, height: 80 }]);
    expect(b.inLine).toBe(false);
  });
  test('anywhere free when both sides are taken, and inside even when nothing is', () => {
    const band = { x: 20, y: 100, width: 380, height: 80 };
    expect(placeBeside(parent, [1, 0], [50, 40], allowed, [band]).inLine).toBe(false);
    // On a full sheet: where there is least.
    const most = { x: 20, y: 10, width: 330, height: 270 };
    const full = placeBeside(parent, [0, 1], [80, 40], allowed, [most]);
    expect(full.inLine).toBe(false);
    expect(full.at[0]).toBeGreaterThan(350);
  });
  test('on a full sheet it covers as little as any place could, the parent counted twice', () => {
    // The whole sheet is taken, and in two bands twice: left of x = 160 and below y = 200.
    const obstacles = [
      { x: 20, y: 10, width: 380, height: 270 },
      { x: 20, y: 10, width: 140, height: 270 },
      { x: 20, y: 200, width: 380, height: 80 },
    ];
    const size = [100, 60] as const;
    const common = (a: typeof allowed, b: typeof allowed) =>
      Math.max(0, Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x)) * Math.max(0, Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y));
    const covered = (at: readonly [number, number]) => [...obstacles, parent, parent].reduce((sum, o) => sum + common(rect(at, size), o), 0);
    const b = placeBeside(parent, [1, 0], size, allowed, obstacles);
    expect(b.inLine).toBe(false);
    expect(covered(b.at)).toBe(size[0] * size[1]);
    // Of the places that cover no more, the nearest of a grid of 6 mm.
    let nearest = Infinity;
    for (let x = 70; x <= 350; x += 6)
      for (let y = 40; y <= 250; y += 6) if (covered([x, y]) === 6000) nearest = Math.min(nearest, Math.hypot(x - 210, y - 140));
    expect(Math.hypot(b.at[0] - 210, b.at[1] - 140)).toBeCloseTo(nearest, 6);
  });
  test('never over anything while there is room, and always on the sheet', () => {
    const box = fc.record({
      x: fc.integer({ min: 20, max: 340 }),
      y: fc.integer({ min: 10, max: 240 }),
      width: fc.integer({ min: 5, max: 120 }),
      height: fc.integer({ min: 5, max: 120 }),
    });
    const side = fc.constantFrom<readonly [number, number]>([1, 0], [-1, 0], [0, 1], [0, -1]);
    fc.assert(
      fc.property(fc.array(box, { maxLength: 6 }), side, (obstacles, direction) => {
        const size = [50, 40] as const;
        const b = placeBeside(parent, direction, size, allowed, obstacles);
        const r = rect(b.at, size);
        expect(r.x).toBeGreaterThanOrEqual(allowed.x - 1e-9);
        expect(r.x + r.width).toBeLessThanOrEqual(allowed.x + allowed.width + 1e-9);
        if (b.inLine) expect([...obstacles, parent].some((o) => overlaps(r, o, 0))).toBe(false);
      }),
    );
  });
});
