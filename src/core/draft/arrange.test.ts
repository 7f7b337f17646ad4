import { describe, expect, test } from 'vitest';
import { BLANK_DRAWING, type ViewRecord } from '../document/records.ts';
import { componentsOf } from '../assembly/components.ts';
import { namedFrame } from '../outline/directions.ts';
import { assemblyOf, box } from '../testing/shapes.ts';
import { computeView } from '../views/compute-view.ts';
import { specOf } from '../views/view-spec.ts';
import { arrange, LEAST_GAP_MM, roomsAround, type Block } from './arrange.ts';
import { overlaps } from '../base/rect.ts';
import { placeByMask } from './place-by-mask.ts';
import { leftBeside, roomBeside } from './room.ts';

const block = (id: string, column: number, row: number, width: number, height: number): Block => ({ id, column, row, rows: 1, width, height });
const room = { x: 20, y: 10, width: 300, height: 200 };

describe('views on a grid', () => {
  test('white space is shared out evenly: 300 less 100 and 80 leaves three gaps of 40', () => {
    const at = arrange([block('a', 0, 0, 100, 60), block('b', 1, 0, 80, 40)], room, [])!;
    expect(at.get('a')).toEqual([20 + 40 + 50, 10 + 100]);
    expect(at.get('b')).toEqual([20 + 40 + 100 + 40 + 40, 10 + 100]);
  });
  test('gaps grow to 48 mm and no further: the rest stays around the whole', () => {
    const at = arrange([block('a', 0, 0, 20, 20), block('b', 1, 0, 20, 20)], room, [])!;
    expect(at.get('b')![0] - at.get('a')![0]).toBe(20 + 48);
    // In the middle of the room.
    expect((at.get('a')![0] + at.get('b')![0]) / 2).toBe(170);
    const close = arrange([block('a', 0, 0, 20, 20), block('b', 1, 0, 20, 20)], room, [], { mostGapMm: 30 })!;
    expect(close.get('b')![0] - close.get('a')![0]).toBe(50);
  });
  test('into the corner when asked to', () => {
    const at = arrange([block('a', 0, 0, 20, 20)], room, [], { corner: true, mostGapMm: 30 })!;
    expect(at.get('a')).toEqual([20 + 30 + 10, 10 + 30 + 10]);
  });
  test('with gaps of 18 mm it just fits, with a hair more it does not', () => {
    const width = 300 - 2 * LEAST_GAP_MM;
    expect(arrange([block('a', 0, 0, width, 20)], room, [])).toBeDefined();
    expect(arrange([block('a', 0, 0, width + 0.01, 20)], room, [])).toBeUndefined();
    const height = 200 - 2 * LEAST_GAP_MM;
    expect(arrange([block('a', 0, 0, 20, height)], room, [])).toBeDefined();
    expect(arrange([block('a', 0, 0, 20, height + 0.01)], room, [])).toBeUndefined();
  });
  test('columns are as wide as their widest, rows as high as their highest; all stand in line', () => {
    const at = arrange([block('a', 0, 0, 100, 30), block('b', 0, 1, 40, 50), block('c', 1, 0, 60, 20)], room, [])!;
    expect(at.get('a')![0]).toBe(at.get('b')![0]);
    expect(at.get('a')![1]).toBe(at.get('c')![1]);
    // Gaps across: (300 - 160) / 3; down: (200 - 80) / 3 = 40.
    expect(at.get('c')![0] - at.get('a')![0]).toBeCloseTo(50 + 140 / 3 + 30, 9);
    expect(at.get('b')![1] - at.get('a')![1]).toBe(15 + 40 + 25);
  });
  test('a tall one spans rows and stands in their middle', () => {
    const at = arrange([block('a', 0, 0, 60, 40), block('b', 0, 1, 60, 40), { ...block('tall', 1, 0, 60, 90), rows: 2 }], room, [])!;
    expect(at.get('tall')![1]).toBeCloseTo((at.get('a')![1] + at.get('b')![1]) / 2, 9);
    expect(arrange([block('a', 0, 0, 60, 30), { ...block('tall', 1, 0, 60, 190), rows: 2 }], room, [])).toBeUndefined();
  });
  test('what comes near an obstacle does not fit', () => {
    const one = [block('a', 0, 0, 100, 60)];
    // The block spans x 120…220: an obstacle 11 mm off is clear, 10 mm off is not (0.6 × 18 mm).
    expect(arrange(one, room, [{ x: 231, y: 0, width: 50, height: 300 }])).toBeDefined();
    expect(arrange(one, room, [{ x: 230, y: 0, width: 50, height: 300 }])).toBeUndefined();
  });
});

describe('rooms', () => {
  const frame = { x: 20, y: 10, width: 390, height: 277 };
  const title = { x: 230, y: 245, width: 180, height: 42 };
  test('above and beside a corner', () => {
    expect(roomsAround(frame, title)).toEqual([
      { x: 20, y: 10, width: 390, height: 235 },
      { x: 20, y: 10, width: 210, height: 277 },
    ]);
    expect(roomsAround(frame, { ...title, x: 30 })).toHaveLength(1);
    expect(leftBeside(frame, [title, { x: 300, y: 100, width: 110, height: 145 }])).toEqual({ left: 210, above: 90 });
  });
  test('the larger one counts, less the margins for balloons, at least 30 mm', () => {
    expect(roomBeside(frame, [title])).toEqual([390 - 44, 235 - 44]);
    expect(roomBeside(frame, [{ ...title, y: 60, height: 227 }])).toEqual([210 - 44, 277 - 44]);
    expect(roomBeside({ ...frame, width: 50, height: 50 }, [{ x: 40, y: 40, width: 10, height: 10 }])).toEqual([30, 30]);
  });
  test('rectangles overlap, touch, or keep a gap', () => {
    const r = { x: 0, y: 0, width: 10, height: 10 };
    const beside = (x: number) => ({ x, y: 5, width: 10, height: 10 });
    expect([overlaps(r, beside(9.9)), overlaps(r, beside(10)), overlaps(r, beside(10), 0.1), overlaps(r, beside(12), 2), overlaps(r, beside(12), 2.1)]).toEqual(
      [true, false, true, false, true],
    );
  });
});

describe('a place by what a view covers', () => {
  const { assembly, geometries } = assemblyOf([
    { name: 'Post', geometry: box([0, 0, 0], [20, 20, 100]) },
    { name: 'Foot', geometry: box([0, 0, 0], [100, 20, 20]) },
  ]);
  const view = { ...namedFrame('front'), hidden: false, tangent: false, shaded: false, cut: null, spread: null } as unknown as ViewRecord;
  const result = computeView(assembly, geometries, specOf(view, { drawing: BLANK_DRAWING }, componentsOf(assembly)));
  const frame = { x: 0, y: 0, width: 300, height: 200 };

  test('alone it stands in the middle, as nearly as places are looked at', () => {
    const [x, y] = placeByMask(result, 1, frame, [], 20, 20)!;
    expect(Math.hypot(x - 150, y - 100)).toBeLessThan(4);
  });
  test('an obstacle may stand in its empty corner, not on its lines', () => {
    // An L of 100 × 100, empty above its foot: the room is just large enough, so there is no other place.
    const tight = { x: 0, y: 0, width: 120, height: 120 };
    expect(placeByMask(result, 1, tight, [], 10, 10)).toBeDefined();
    expect(placeByMask(result, 1, tight, [{ x: 70, y: 20, width: 30, height: 40 }], 10, 10)).toBeDefined();
    expect(placeByMask(result, 1, tight, [{ x: 12, y: 20, width: 30, height: 40 }], 10, 10)).toBeUndefined();
  });
  test('margins count from the frame; what is too large has no place', () => {
    expect(placeByMask(result, 1, { x: 0, y: 0, width: 139.9, height: 200 }, [], 20, 20)).toBeUndefined();
    expect(placeByMask(result, 1, { x: 0, y: 0, width: 140.1, height: 200 }, [], 20, 20)).toBeDefined();
    expect(placeByMask(result, 1, { x: 0, y: 0, width: 300, height: 139.9 }, [], 20, 20)).toBeUndefined();
  });
});
