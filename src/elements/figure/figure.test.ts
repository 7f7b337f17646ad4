import { describe, expect, test } from 'vitest';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { sceneWith as drawnWith } from '../testing/scene-with.ts';
import { drawFigure, figurePath, smooth, type FigureRecord } from './draw.ts';
import { figureKind, joinedPoint } from './kind.ts';
import { figureRecord } from './record.ts';

const drawn = await draftAll(smallMachine(), { bare: true, only: 'arrangement' });
const figure = (id: string, shape: FigureRecord['shape'], ...points: readonly (readonly [number, number])[]): FigureRecord => ({
  type: 'figure',
  id,
  sheet: 'sheet:1',
  shape,
  points,
});
const sceneWith = (...records: FigureRecord[]) => drawnWith(drawn, ...records);

describe('shapes', () => {
  test('a line, a rectangle, a circle', () => {
    expect(figurePath(figure('f', 'line', [10, 20], [30, 20]))).toBe('M10 20L30 20');
    expect(figurePath(figure('f', 'rectangle', [10, 20], [30, 50]))).toBe('M10 20h20v30h-20Z');
    expect(figurePath(figure('f', 'circle', [10, 20], [13, 24]))).toContain('A5 5 0');
  });
  test('an arc goes over its middle point, the short way or the long one', () => {
    // Over the top from left to right: with the clock on a sheet whose y looks down.
    expect(figurePath(figure('f', 'arc', [0, 10], [10, 0], [20, 10]))).toBe('M0 10A10 10 0 0 1 20 10');
    expect(figurePath(figure('f', 'arc', [0, 10], [10, 20], [20, 10]))).toBe('M0 10A10 10 0 0 0 20 10');
    expect(figurePath(figure('f', 'arc', [10, 0], [0, 10], [10 + 10 * Math.SQRT1_2, 10 + 10 * Math.SQRT1_2]))).toContain(' 0 1 0 ');
    expect(figurePath(figure('f', 'arc', [0, 0], [5, 0], [10, 0]))).toBe('M0 0L5 0L10 0');
  });
  test('a curve goes through its points', () => {
    const points = [
      [0, 0],
      [10, 8],
      [20, -3],
      [30, 5],
    ] as const;
    const all = smooth(points);
    for (const p of points) expect(all.some((q) => Math.hypot(q[0] - p[0], q[1] - p[1]) < 1e-9)).toBe(true);
  });
  test('their boxes hold them, arcs too', () => {
    const [arc] = drawFigure(figure('f', 'arc', [0, 10], [10, 0], [20, 10]), sceneWith());
    expect(arc!.box.map((v) => Math.round(v * 10) / 10)).toEqual([0, 0, 20, 10]);
  });
  test('each has the points of its shape', () => {
    const fits = (f: FigureRecord) => figureRecord.safeParse(f).success;
    expect([fits(figure('f', 'line', [0, 0], [1, 1])), fits(figure('f', 'arc', [0, 0], [1, 1])), fits(figure('f', 'line', [0, 0], [1, 1], [2, 2]))]).toEqual([
      true,
      false,
      false,
    ]);
  });
});

describe('ends that meet', () => {
  const [a, b] = [figure('figure:a', 'line', [10, 10], [50, 10]), figure('figure:b', 'line', [50, 10], [50, 40])];
  test('stay together when one is pulled', () => {
    const scene = sceneWith(a, b);
    const steps = figureKind.drag!(a, [5, 3], scene, '1');
    expect(steps).toMatchObject([
      {
        record: {
          id: 'figure:a',
          points: [
            [10, 10],
            [55, 13],
          ],
        },
      },
      {
        record: {
          id: 'figure:b',
          points: [
            [55, 13],
            [50, 40],
          ],
        },
      },
    ]);
    // The other end is joined to nothing.
    expect(figureKind.drag!(a, [5, 3], scene, '0')).toHaveLength(1);
  });
  test('are found while drawing; else lines become level or upright', () => {
    const scene = sceneWith(a, figure('figure:r', 'rectangle', [100, 100], [140, 120]));
    expect(joinedPoint(scene, 'sheet:1', [50.7, 10.4], undefined, 1.5)).toEqual([50, 10]);
    expect(joinedPoint(scene, 'sheet:1', [100.5, 119.6], undefined, 1.5)).toEqual([100, 120]);
    expect(joinedPoint(scene, 'sheet:1', [90, 60.9], [60, 60], 1.5)).toEqual([90, 60]);
    expect(joinedPoint(scene, 'sheet:1', [60.8, 90], [60, 60], 1.5)).toEqual([60, 90]);
    expect(joinedPoint(scene, 'sheet:1', [90, 75], [60, 60], 1.5)).toEqual([90, 75]);
  });
});
