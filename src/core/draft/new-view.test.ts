import { describe, expect, test } from 'vitest';
import { componentsOf } from '../assembly/components.ts';
import { IDENTITY } from '../base/placement.ts';
import { motionsOf } from '../explode/spread.ts';
import { namedFrame } from '../outline/directions.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { viewBox } from '../shade/raster.ts';
import { ISO_SCALES } from '../sheet/paper.ts';
import { smallMachine } from '../testing/drafting.ts';
import { overlaps } from '../base/rect.ts';
import { boxInFrame, roomFor } from './new-view.ts';

const { assembly, geometries } = smallMachine();
const components = componentsOf(assembly);
const still = components.map(() => IDENTITY);

describe('the box of a view to be', () => {
  test.each(['front', 'top', 'left', 'isometric'] as const)('%s holds what is drawn, and little more', (name) => {
    const frame = namedFrame(name);
    const drawn = viewBox(sceneOf(assembly, geometries), frame);
    const b = boxInFrame(assembly, components, frame, still);
    expect(b[0]).toBeLessThanOrEqual(drawn[0] + 1e-9);
    expect(b[1]).toBeLessThanOrEqual(drawn[1] + 1e-9);
    expect(b[2]).toBeGreaterThanOrEqual(drawn[2] - 1e-9);
    expect(b[3]).toBeGreaterThanOrEqual(drawn[3] - 1e-9);
    expect((b[2] - b[0]) / (drawn[2] - drawn[0])).toBeLessThan(1.1);
  });
  test('goes with what is pulled', () => {
    const motions = motionsOf([{ components: [3], direction: [0, 0, 1], distanceMm: 500 }], components.length);
    const front = namedFrame('front');
    // The tower's top is at 70.
    expect(boxInFrame(assembly, components, front, motions)[3]).toBeCloseTo(570, 9);
  });
});

describe('room on a sheet', () => {
  const allowed = { x: 24, y: 14, width: 382, height: 269 };
  const title = { x: 230, y: 245, width: 180, height: 42 };
  const view = { x: 40, y: 40, width: 150, height: 120 };
  const scales = ISO_SCALES.filter((s) => s <= 1);
  const rectOf = (size: readonly [number, number], r: { scale: number; at: readonly [number, number] }) => ({
    x: r.at[0] - (size[0] * r.scale) / 2,
    y: r.at[1] - (size[1] * r.scale) / 2,
    width: size[0] * r.scale,
    height: size[1] * r.scale,
  });
  test('is taken at the scale of the view beside it where there is enough', () => {
    const size = [140, 110] as const;
    const r = roomFor(size, scales, view, allowed, [title]);
    expect([r.free, r.scale]).toEqual([true, 1]);
    for (const o of [title, view]) expect(overlaps(rectOf(size, r), o, 0)).toBe(false);
  });
  test('or at the next smaller standard scale', () => {
    const size = [420, 320] as const;
    const r = roomFor(size, scales, view, allowed, [title]);
    expect(r.free).toBe(true);
    expect(r.scale).toBeLessThan(1);
    for (const o of [title, view]) expect(overlaps(rectOf(size, r), o, 0)).toBe(false);
  });
  test('on a full sheet it says that there is none', () => {
    expect(roomFor([100, 100], scales, view, allowed, [{ x: 0, y: 0, width: 420, height: 297 }]).free).toBe(false);
  });
});
