import { describe, expect, test } from 'vitest';
import { componentsOf } from '../../../core/assembly/components.ts';
import { BLANK_DRAWING } from '../../../core/document/records.ts';
import { itemsOf } from '../../../core/ledger/items.ts';
import { assemblyOf, box } from '../../../core/testing/shapes.ts';
import { computeView } from '../../../core/views/compute-view.ts';
import { specOf } from '../../../core/views/view-spec.ts';
import { viewRecord } from '../../../core/testing/records.ts';
import { nearestEdge } from '../../../core/views/nearest-edge.ts';
import { anchorsOf } from './anchors.ts';
import { balloonAreaIn, proposeBalloons } from './propose.ts';

// Seen from the front: a wall, a block before it, a bar behind it of which only a sliver looks out on the right, and a
// block that is wholly hidden.
const { assembly, geometries } = assemblyOf([
  { name: 'Wall', geometry: box([0, 0, 0], [100, 5, 80]) },
  { name: 'Block', geometry: box([30, -20, 30], [60, -5, 50]) },
  { name: 'Bar', geometry: box([20, 10, 20], [103, 15, 30]) },
  { name: 'Buried', geometry: box([40, 20, 40], [50, 25, 50]) },
]);
const components = componentsOf(assembly);
const items = itemsOf(assembly, {});
const view = viewRecord({ scale: 1, at: [200, 150], pivot: [50, 40], hidden: true });
const resultWith = (hidden: boolean) => computeView(assembly, geometries, specOf({ ...view, hidden }, { drawing: BLANK_DRAWING }, components));
const result = resultWith(true);
const wide = balloonAreaIn({ x: 20, y: 10, width: 390, height: 277 }, [], 10);

describe('where a leader may end', () => {
  test('on outside edges, with the way out', () => {
    for (const a of anchorsOf(result, new Set([0]))) {
      const edge = [a.x, a.x - 100, a.y, a.y - 80].some((v) => Math.abs(v) < 1e-6);
      expect(edge).toBe(true);
      expect(Math.hypot(a.outX, a.outY)).toBeCloseTo(1, 9);
      // Half a millimetre out there is nothing of it.
      const [x, y] = [a.x + a.outX, a.y + a.outY];
      expect(x < 0 || x > 100 || y < 0 || y > 80).toBe(true);
    }
  });
  test('of what is nearly hidden only where it is seen, though its hidden edges are drawn', () => {
    const anchors = anchorsOf(result, new Set([2]));
    expect(anchors.length).toBeGreaterThan(0);
    for (const a of anchors) expect([a.x > 100 && a.x <= 103, a.y >= 20 && a.y <= 30]).toEqual([true, true]);
  });
  test('of what is wholly hidden nowhere', () => {
    expect(anchorsOf(result, new Set([3]))).toEqual([]);
    expect(nearestEdge(result, 45, 45, 3)).toBeUndefined();
  });
  test('no more than asked for, spread over the outline', () => {
    const few = anchorsOf(result, new Set([0]), 6);
    expect(few).toHaveLength(6);
    expect(new Set(few.map((a) => `${Math.sign(a.outX)}/${Math.sign(a.outY)}`)).size).toBeGreaterThan(2);
  });
});

describe('who gets a balloon', () => {
  const proposed = (r = result, area = wide) => proposeBalloons(view, r, items, components, area, (part) => `balloon:${part}`);
  test.each([true, false])('every item that shows an edge, hidden lines drawn: %s', (hidden) => {
    const list = proposed(resultWith(hidden));
    expect(list.map((p) => p.part).sort()).toEqual(['Bar', 'Block', 'Wall']);
    for (const { record } of list) {
      const c = components.find((x) => x.path === record.component)!;
      // The leader ends on its own visible edge.
      expect(nearestEdge(result, record.anchor[0], record.anchor[1], c.index)!.distance).toBeLessThan(1e-6);
    }
  });
  test('with room for one, that which is seen best', () => {
    // A strip below the view in which one balloon has room.
    const strip = balloonAreaIn({ x: 140, y: 195, width: 27, height: 20 }, [], 10);
    const list = proposed(result, strip);
    expect(list.map((p) => p.part)).toEqual(['Wall']);
  });
  test('with no room nobody', () => {
    expect(proposed(result, balloonAreaIn({ x: 0, y: 0, width: 5, height: 5 }, [], 10))).toEqual([]);
  });
  test('circles stand clear of the view, inside the area, and apart', () => {
    const list = proposed().map(({ record: b }) => [200 + b.offset[0], 150 + b.offset[1]] as const);
    for (const [x, y] of list) {
      expect(x < 150 - 5 || x > 250 + 5 || y < 110 - 5 || y > 190 + 5).toBe(true);
      expect(x).toBeGreaterThan(20);
      expect(y).toBeGreaterThan(10);
    }
    list.forEach(([x, y], i) => list.slice(i + 1).forEach(([u, v]) => expect(Math.hypot(x - u, y - v)).toBeGreaterThan(10)));
  });
});
