import { describe, expect, test } from 'vitest';
import { EMPTY_LINEWORK, LineClass, type Linework } from './linework.ts';
import { crowdedRuns } from './thin.ts';

/** Straight runs of component 0. */
const linesOf = (segments: readonly (readonly [number, number, number, number])[], kind: number = LineClass.sharp): Linework => ({
  ...EMPTY_LINEWORK,
  xy: Float64Array.from(segments.flat()),
  start: Uint32Array.from([0, ...segments.map((_, i) => (i + 1) * 2)]),
  kind: new Uint8Array(segments.length).fill(kind),
  component: new Uint32Array(segments.length),
  edge: new Int32Array(segments.length),
  arc: new Float64Array(segments.length * 7),
});
// A thread from the side: a frame of 20 × 10 with a line every 0.1 inside.
const frame = [
  [0, 0, 20, 0],
  [20, 0, 20, 10],
  [20, 10, 0, 10],
  [0, 10, 0, 0],
] as const;
const turns = Array.from({ length: 199 }, (_, i) => [(i + 1) * 0.1, 0, (i + 1) * 0.1, 10] as const);
const shows = (_: number, x: number, y: number) => x > 0 && x < 20 && y > 0 && y < 10;
const run = (limit: number, lines: Linework = linesOf([...frame, ...turns])) => crowdedRuns(lines, { limit, shows, beside: 0.02 });

describe('lines that would run together', () => {
  test('thin out to about the distance asked for, and the outline stays', () => {
    const drop = run(0.5);
    expect([...drop.slice(0, 4)]).toEqual([0, 0, 0, 0]);
    const kept = drop.reduce((n, d) => n + 1 - d, 0) - 4;
    expect(kept).toBeGreaterThan(25);
    expect(kept).toBeLessThan(45);
  });
  test('lines farther apart stay, and without a limit all do', () => {
    expect(run(0.05).every((d) => d === 0)).toBe(true);
    expect(run(0).every((d) => d === 0)).toBe(true);
  });
  test('what is cut stays', () => {
    expect(run(0.5, linesOf([...frame, ...turns], LineClass.cut)).every((d) => d === 0)).toBe(true);
  });
  test('lines that cross a crowd without running along it stay', () => {
    const drop = run(0.5, linesOf([...frame, [1, 5, 19, 5], [5, 1, 5, 9]]));
    expect(drop.every((d) => d === 0)).toBe(true);
  });
});
