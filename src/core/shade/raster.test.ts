import { describe, expect, test } from 'vitest';
import { namedFrame } from '../outline/directions.ts';
import { projectScene, type Body } from '../outline/scene.ts';
import { body, box, sphere } from '../testing/shapes.ts';
import { colorBytes, hexOf, hexOfLinear, itemColor } from './colors.ts';
import { planeBox, rasterize, viewBox, windowAround, windowOf, type Shade } from './raster.ts';

const front = namedFrame('front');
function look(bodies: readonly Body[], pixels = 400, shade?: Shade) {
  const scene = projectScene(bodies, front);
  const window = windowAround(planeBox(scene), pixels);
  return { ...rasterize(scene, window, bodies.length, shade), scene };
}
const count = (list: ArrayLike<number>, value: number) => Array.from(list).filter((v) => v === value).length;

// Areas and depths follow from the shapes (analytic).
describe('what each pixel shows', () => {
  test('a ball covers the area of its circle and is nearest in its middle', () => {
    const { window, component, depth, silhouette } = look([body(0, sphere(50, 48, 96))]);
    const area = count(component, 0) * window.pixelMm ** 2;
    expect(Math.abs(area / (Math.PI * 2500) - 1)).toBeLessThan(0.01);
    expect(silhouette[0]).toBe(count(component, 0));
    const middle = Math.floor(-window.minX / window.pixelMm) + window.width * Math.floor(window.maxY / window.pixelMm);
    expect(depth[middle]).toBeCloseTo(50, 0);
    expect(depth.reduce((a, b) => Math.max(a, b))).toBeLessThanOrEqual(50.001);
  });

  test('what stands before hides what stands behind; the silhouette of the hidden one is whole', () => {
    // Seen from the front, towards −y is the reader: the small one stands before the right half of the large one.
    const large = body(0, box([0, 0, 0], [80, 10, 40]));
    const small = body(1, box([40, -20, 0], [80, -10, 40]));
    for (const bodies of [
      [large, small],
      [body(0, small.geometry), body(1, large.geometry)],
    ]) {
      const { window, component, silhouette } = look(bodies);
      const mm2 = (n: number) => n * window.pixelMm ** 2;
      const [big, little] = bodies[0]!.geometry === large.geometry ? [0, 1] : [1, 0];
      expect(mm2(count(component, big)) / 1600).toBeCloseTo(1, 1);
      expect(mm2(count(component, little)) / 1600).toBeCloseTo(1, 1);
      expect(mm2(silhouette[big]!) / 3200).toBeCloseTo(1, 1);
    }
  });

  test('of two in one plane the smaller one shows', () => {
    const wall = box([0, 0, 0], [80, 10, 40]);
    const cut = box([30, 0, 10], [50, 10, 30]);
    for (const [a, b, small] of [
      [wall, cut, 1],
      [cut, wall, 0],
    ] as const) {
      const { window, component } = look([body(0, a), body(1, b)]);
      expect((count(component, small) * window.pixelMm ** 2) / 400).toBeCloseTo(1, 1);
    }
  });

  test('a window holds its box with a pixel to spare on every side', () => {
    const box_ = viewBox([body(0, sphere(13))], front);
    for (const w of [windowAround(box_, 300), windowOf(box_, 0.37)]) {
      expect(w.minX).toBeLessThan(box_[0]);
      expect(w.maxY).toBeGreaterThan(box_[3]);
      expect(w.minX + w.width * w.pixelMm).toBeGreaterThan(box_[2]);
      expect(w.maxY - w.height * w.pixelMm).toBeLessThan(box_[1]);
    }
    expect(Math.max(windowAround(box_, 300).width, windowAround(box_, 300).height)).toBeLessThanOrEqual(301);
  });
});

describe('every pixel of a ball', () => {
  const radius = 50;
  const raster = look([body(0, sphere(radius, 60, 120))], 150, { colors: [[240, 120, 60]] });
  const { window: w } = raster;
  const at = (i: number, j: number) => [w.minX + (i + 0.5) * w.pixelMm, w.maxY - (j + 0.5) * w.pixelMm] as const;
  test('is as deep as the ball there', () => {
    for (let j = 0; j < w.height; j += 3)
      for (let i = 0; i < w.width; i += 3) {
        const [x, y] = at(i, j);
        const inside = radius ** 2 - x * x - y * y;
        if (inside > 200) expect(raster.depth[j * w.width + i]! - Math.sqrt(inside)).toBeCloseTo(0, 0);
        if (inside < -100) expect(raster.depth[j * w.width + i]).toBe(-Infinity);
      }
  });
  // Lambert's cosine law, lifted by half, with the light over the reader's left shoulder.
  test('is as light as its slope to the light says, each colour alike', () => {
    const light = [-0.35, 0.55, 0.758];
    let n = 0;
    for (let j = 0; j < w.height; j++)
      for (let i = 0; i < w.width; i++) {
        const [x, y] = at(i, j);
        const z = Math.sqrt(radius ** 2 - x * x - y * y);
        if (!(z > 0.4 * radius)) continue;
        const lit = (x * light[0]! + y * light[1]! + z * light[2]!) / radius;
        const tone = 0.5 + 0.5 * Math.max(0, lit);
        const p = (j * w.width + i) * 4;
        [240, 120, 60].forEach((c, k) => expect(Math.abs(raster.rgba![p + k]! - c * tone)).toBeLessThan(0.02 * c + 1.5));
        n++;
      }
    expect(n).toBeGreaterThan(0.6 * Math.PI * (radius / w.pixelMm) ** 2);
  });
  test('is the same in a window that shows only a part of it', () => {
    const part = { ...w, minX: w.minX + 20 * w.pixelMm, maxY: w.maxY - 30 * w.pixelMm, width: 70, height: 50 };
    const some = rasterize(raster.scene, part, 1, { colors: [[240, 120, 60]] });
    for (let j = 0; j < part.height; j++)
      for (let i = 0; i < part.width; i++) {
        const [p, q] = [j * part.width + i, (j + 30) * w.width + i + 20];
        expect(some.component[p]).toBe(raster.component[q]);
        expect(Math.abs(some.rgba![p * 4]! - raster.rgba![q * 4]!)).toBeLessThanOrEqual(1);
      }
    // And nothing where the window lies beside it.
    const beside = rasterize(raster.scene, { ...w, minX: 2 * radius }, 1);
    expect([count(beside.component, 0), beside.silhouette[0], beside.rgba]).toEqual([0, 0, undefined]);
  });
  test('is flat in one tone for each triangle where that is asked for: the faces of a turned box have three', () => {
    const turned = projectScene([body(0, box([0, 0, 0], [40, 30, 20]))], namedFrame('isometric'));
    const window = windowAround(planeBox(turned), 120);
    for (const flat of [true, false]) {
      const { rgba, component } = rasterize(turned, window, 1, { colors: [[200, 200, 200]], flat });
      const tones = new Set(Array.from(component, (c, i) => (c < 0 ? -1 : rgba![i * 4]!)));
      tones.delete(-1);
      expect([flat, tones.size]).toEqual([flat, 3]);
      // The top is the lightest: its normal lies nearest to the light.
      const up = [0, Math.sqrt(2 / 3), Math.sqrt(1 / 3)];
      const top = 200 * (0.5 + 0.5 * (up[1]! * 0.55 + up[2]! * 0.758));
      expect(Math.max(...tones)).toBe(Math.floor(top));
    }
  });
});

describe('shading', () => {
  const grey: Shade = { colors: [[200, 200, 200]] };
  const tones = (flat: boolean) => {
    const { rgba, component } = look([body(0, sphere(50, 12, 24))], 200, { ...grey, flat });
    return new Set(Array.from(component, (c, i) => (c < 0 ? undefined : rgba![i * 4])).filter((t) => t !== undefined));
  };
  test('has one tone for each flat triangle at most, and many where it is smooth', () => {
    expect(tones(true).size).toBeLessThanOrEqual(12 * 24);
    expect(tones(true).size).toBeLessThan(tones(false).size);
  });
  test('a ball is lightest towards the upper left, where the light is', () => {
    const { rgba, component, window } = look([body(0, sphere(50, 48, 96))], 200, grey);
    let [sx, sy, n, best] = [0, 0, 0, 0];
    component.forEach((c, i) => (best = c < 0 ? best : Math.max(best, rgba![i * 4]!)));
    component.forEach((c, i) => {
      if (c < 0 || rgba![i * 4]! < best - 2) return;
      sx += i % window.width;
      sy += Math.floor(i / window.width);
      n++;
    });
    expect(sx / n).toBeLessThan(window.width / 2);
    expect(sy / n).toBeLessThan(window.height / 2);
  });
  test('what nothing covers stays clear', () => {
    const { rgba, component } = look([body(0, sphere(50))], 100, grey);
    component.forEach((c, i) => expect(rgba![i * 4 + 3]).toBe(c < 0 ? 0 : 255));
  });
});

describe('colours', () => {
  // IEC 61966-2-1: linear 0.5 is 188 of 255, linear 0.2159 is 128 (from memory).
  test('linear light becomes sRGB', () => {
    expect(hexOfLinear([0, 0.5, 1])).toBe('#00bcff');
    expect(hexOfLinear([0.21586, 0.21586, 0.21586])).toBe('#808080');
    expect(hexOf([-0.2, 0.5, 1.4])).toBe('#0080ff');
  });
  test('are read from hexadecimal; anything else is a light grey', () => {
    expect(colorBytes('#C98a3A')).toEqual([201, 138, 58]);
    for (const odd of [undefined, '', 'teal', '#abc']) expect(colorBytes(odd)).toEqual([200, 200, 196]);
  });
  // CSS Color 4, chapter 7: hsl(28.8, 42 %, 72 %) is the first, written out there as chroma and hue sixth.
  test('of items are what their hue, saturation and lightness say', () => {
    const rgb = (h: number, s: number, l: number) => {
      const c = (1 - Math.abs(2 * l - 1)) * s;
      const sixth = (h % 1) * 6;
      const x = c * (1 - Math.abs((sixth % 2) - 1));
      const [r, g, b] = [
        [c, x, 0],
        [x, c, 0],
        [0, c, x],
        [0, x, c],
        [x, 0, c],
        [c, 0, x],
      ][Math.floor(sixth)]!;
      return [r!, g!, b!].map((v) => Math.round(255 * (v + l - c / 2)));
    };
    for (let n = 0; n < 12; n++) expect([n, [...itemColor(n)]]).toEqual([n, rgb(0.08 + n * 0.618034, 0.42, n % 2 ? 0.62 : 0.72)]);
  });
  test('of items next to each other in the list can be told apart', () => {
    for (let i = 0; i < 60; i++) {
      const [a, b] = [itemColor(i), itemColor(i + 1)];
      expect(Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])).toBeGreaterThan(40);
    }
  });
});
