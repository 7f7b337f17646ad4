import { describe, expect, test } from 'vitest';
import type { DrawingDocumentRecord, ViewRecord } from '../../core/document/records.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { segmentsOf } from '../../core/picture/ink.ts';
import { draftAll } from '../../core/testing/drafting.ts';
import { assemblyOf, cylinder, joined } from '../../core/testing/shapes.ts';
import { minorOf } from '../../core/thread/sizes.ts';
import { Scene } from '../scene.ts';
import { drawThreads } from './draw-threads.ts';

// A screw M20 × 40 with a head, half in a block with a hole for it: drawn by ISO 6410-1 (from memory).
const parts = assemblyOf([
  { name: 'Screw M20', geometry: joined([cylinder(10, 40, 48)], [cylinder(15, 13, 48), [0, 0, 40]]) },
  { name: 'Block', geometry: cylinder(30, 25, 48, minorOf({ majorMm: 20, pitchMm: 2.5 }) / 2), at: [0, 0, -5] },
]);
const drawn = await draftAll(parts, { only: 'arrangement', bare: true });
const draw = (id: string, more: Partial<ViewRecord> = {}, records: Record<string, DrawingDocumentRecord> = {}) => {
  const view = { ...(drawn.document[id] as ViewRecord), ...more };
  const scene = new Scene({ ...drawn, document: { ...drawn.document, [id]: view, ...records } });
  const map = scene.map(view);
  return { items: drawThreads(view, scene, scene.result(id)!, map, scene.page(view.sheet).style), map, view, style: scene.page(view.sheet).style };
};
const narrow = (items: readonly DisplayItem[], component: number) =>
  items.filter((i): i is Extract<DisplayItem, { kind: 'stroke' }> => i.kind === 'stroke' && i.source?.component === component);

describe('an external thread from the side', () => {
  const { items, map, style } = draw('view:front');
  test('has a narrow line along its root on either side, where it is seen', () => {
    const lines = narrow(items, 0).flatMap((i) => segmentsOf(i.d));
    const root = minorOf({ majorMm: 20, pitchMm: 2.5 }) / 2;
    expect(lines.map((l) => l[0]).sort((a, b) => a - b)).toEqual([map.x(-root), map.x(root)].map((v) => expect.closeTo(v, 2) as number));
    // The block covers it up to 20.
    for (const l of lines) expect(Math.max(l[1], l[3])).toBeLessThan(map.y(20) + 0.6);
    expect(narrow(items, 0).every((i) => i.width === style.narrow)).toBe(true);
  });
  test('the thread in the block is not seen, and dashed where hidden lines are', () => {
    expect(narrow(items, 1)).toEqual([]);
    const hidden = narrow(draw('view:front', { hidden: true }).items, 1);
    expect(hidden.length).toBeGreaterThan(0);
    expect(hidden.every((i) => i.dash)).toBe(true);
  });
});

describe('seen along its axis', () => {
  test('from below it is three quarters of a circle: of the screw its root, open at the upper right', () => {
    const { items } = draw('view:top');
    // From above the head covers all.
    expect(items).toEqual([]);
  });
});

describe('in a section', () => {
  const { items, map, view } = draw('view:section');
  test('a thread laid open has a narrow line at its major diameter; the screw covers what it is in', () => {
    expect(drawn.results.get(view.id)!.caps.some((c) => c.component === 1)).toBe(true);
    const lines = narrow(items, 1).flatMap((i) => segmentsOf(i.d));
    const place = (v: number) => Math.min(Math.abs(v - map.x(-10)), Math.abs(v - map.x(10)));
    expect(lines.length).toBeGreaterThan(0);
    for (const l of lines) {
      expect(place(l[0])).toBeLessThan(0.05);
      // Only below the end of the screw, which stands at 0: from -5.
      expect(Math.min(l[1], l[3])).toBeGreaterThan(map.y(0) - 0.6);
    }
  });
});

describe('set by hand', () => {
  const face = { component: 'Screw M20', geometry: 'g0', face: 0 } as const;
  test('another thread, shorter: it ends in a wide line across', () => {
    const { items, map, style } = draw('view:front', {}, { 'thread:1': { type: 'thread', id: 'thread:1', face, designation: 'M20 × 1.5', lengthMm: 15 } });
    const wide = narrow(items, 0).filter((i) => i.width === style.wide);
    expect(wide).toEqual([]);
    const longer = draw('view:front', {}, { 'thread:1': { type: 'thread', id: 'thread:1', face, designation: 'M20 × 1.5', lengthMm: 30 } });
    const end = narrow(longer.items, 0)
      .filter((i) => i.width === style.wide)
      .flatMap((i) => segmentsOf(i.d));
    const [[x0, y0, x1, y1], ...more] = end as [[number, number, number, number]];
    expect(more).toEqual([]);
    expect([Math.min(x0, x1), y0, Math.max(x0, x1), y1]).toEqual([map.x(-10), map.y(30), map.x(10), map.y(30)].map((v) => expect.closeTo(v, 2) as number));
  });
  test('taken off none is drawn', () => {
    const { items } = draw('view:front', {}, { 'thread:1': { type: 'thread', id: 'thread:1', face, designation: '' } });
    expect(narrow(items, 0)).toEqual([]);
  });
});
