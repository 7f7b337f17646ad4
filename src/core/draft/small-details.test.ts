import { describe, expect, test } from 'vitest';
import type { ViewRecord } from '../document/records.ts';
import { draftAll } from '../testing/drafting.ts';
import { assemblyOf, box, cylinder } from '../testing/shapes.ts';

describe('what would be too small to be read', () => {
  // A panel of 1.2 m with two pins of 6 mm beside each other: at 1:5 on A3 they are 1.2 mm.
  const panel = assemblyOf([
    { name: 'Panel', geometry: box([0, 0, 0], [1200, 30, 400]) },
    { name: 'Lug', geometry: box([200, 30, 180], [420, 90, 300]) },
    { name: 'Pin long', geometry: cylinder(3, 12), at: [300, 50, 300] },
    { name: 'Pin short', geometry: cylinder(3.5, 9), at: [325, 60, 300] },
  ]);

  test('gets a detail: lettered, at least twice as large, of a place where it is seen, over nothing', async () => {
    const { document, scene, findings, items } = await draftAll(panel);
    const details = Object.values(document).filter((r): r is ViewRecord => r.type === 'view' && r.detail !== undefined);
    expect(details.length).toBeGreaterThan(0);
    for (const d of details) {
      const parent = scene.one('view', d.detail!.of)!;
      expect(d.scale).toBeGreaterThanOrEqual(2 * parent.scale - 1e-9);
      expect(d.within!.kind).toBe('circle');
      expect(d.detail!.letter).toMatch(/^[B-D]$/);
    }
    const shown = new Set(
      details.flatMap((d) => items.filter((i) => i.components.some((c) => scene.result(d.id)!.visibleArea[c]! > 0)).map((i) => i.values.description.text)),
    );
    expect([shown.has('Pin long'), shown.has('Pin short')]).toEqual([true, true]);
    expect(findings.filter((f) => f.code === 'OVERLAP' || f.code === 'OUTSIDE_FRAME')).toEqual([]);
  });
  test('what can be read gets none', async () => {
    const { document } = await draftAll(
      assemblyOf([
        { name: 'Base', geometry: box([0, 0, 0], [100, 60, 20]) },
        { name: 'Knob', geometry: cylinder(15, 30), at: [50, 30, 20] },
      ]),
    );
    expect(Object.values(document).filter((r) => r.type === 'view' && r.detail)).toEqual([]);
  });
});
