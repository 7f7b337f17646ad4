import { describe, expect, test } from 'vitest';
import { ARC_STRIDE, HIDDEN, LineClass, type Linework } from '../core/outline/linework.ts';
import { pointsOfPath } from '../core/testing/paths.ts';
import { linesAsSvg } from './lines-svg.ts';

/** Straight runs from (x0, y0) to (x1, y1). */
const linework = (runs: readonly (readonly [kind: number, x0: number, y0: number, x1: number, y1: number])[]): Linework => ({
  xy: Float64Array.from(runs.flatMap(([, ...p]) => p)),
  start: Uint32Array.from([0, ...runs.map((_, i) => 2 * (i + 1))]),
  kind: Uint8Array.from(runs.map((r) => r[0])),
  component: new Uint32Array(runs.length),
  edge: new Int32Array(runs.length),
  arc: new Float64Array(runs.length * ARC_STRIDE),
});
const paths = (svg: string) =>
  [...svg.matchAll(/<path d="([^"]+)" stroke-width="([^"]+)"(?: stroke-dasharray="([^"]+)")?\/>/g)].map((m) => [pointsOfPath(m[1]!)[0], Number(m[2]), m[3]]);

describe('lines to look at', () => {
  // 80 mm wide, 40 mm high, from (10, -20): a pen is 1/800 of 80 mm.
  const svg = linesAsSvg(
    linework([
      [LineClass.outline, 10, -20, 90, 20],
      [LineClass.tangent, 10, 20, 90, 20],
      [LineClass.sharp | HIDDEN, 10, -20, 90, -20],
    ]),
  );
  test('stand upright from the upper left corner, with two pens of room around', () => {
    expect(/viewBox="([^"]+)"/.exec(svg)![1]).toBe('-0.2 -0.2 80.4 40.4');
    expect(paths(svg).map((p) => p[0])).toEqual([
      [
        [0, 40],
        [80, 0],
      ],
      [
        [0, 0],
        [80, 0],
      ],
      [
        [0, 40],
        [80, 40],
      ],
    ]);
  });
  test('are wide where they are seen, half as wide for tangent and hidden ones, and those dashed', () => {
    expect(paths(svg).map((p) => p.slice(1))).toEqual([
      [0.1, undefined],
      [0.05, undefined],
      [0.05, '0.6 0.2'],
    ]);
  });
  test('small ones have pens of pixels: a plate of 300 mm looks as fine as a pin of 3 mm', () => {
    for (const size of [3, 300]) {
      const small = linesAsSvg(linework([[LineClass.outline, 0, 0, size, size]]), true);
      expect(small).toContain('vector-effect:non-scaling-stroke');
      expect(paths(small)[0]![1]).toBe(0.9);
    }
    expect(svg).not.toContain('vector-effect');
  });
  test('none at all are an empty picture', () => {
    expect(linesAsSvg(linework([]))).toMatch(/^<svg [^>]*viewBox="-0.002 -0.002 1.005 1.005"[^>]*>\s*<\/svg>\s*$/);
  });
});
