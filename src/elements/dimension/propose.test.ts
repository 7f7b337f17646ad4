import { describe, expect, test } from 'vitest';
import { crosses, overlaps, rectOf, segmentsCross } from '../../core/base/rect.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { random } from '../../core/testing/random.ts';
import { assemblyOf, box, cylinder } from '../../core/testing/shapes.ts';
import { composeSheet } from '../compose.ts';
import { Scene } from '../scene.ts';
import { drawDimension, FIRST_MM, NEXT_MM, textOf } from './draw.ts';
import { measured, type DimensionRecord } from './measure.ts';
import { proposeDimensions } from './propose.ts';

const machine = await draftAll(smallMachine());
const said = ({ scene }: { scene: Scene }) => scene.all('dimension').map((d) => `${scene.one('view', d.view)!.name} ${d.kind} ${textOf(d, scene)}`);

/** A plate on which a shaft with a wheel turns between two blocks, over four empty holes; sizes as given. */
function winch(height: number, apart: number, wheel: number) {
  const turned = [0, 0, 1, 0, 0, 1, 0, 0, -1, 0, 0, 0];
  const along = (z: number, y: number) => turned.map((v, i) => (i === 7 ? y : i === 11 ? z : v));
  return assemblyOf([
    { name: 'Plate', geometry: box([-100, -60, 0], [100, 60, 10]) },
    { name: 'Wheel', geometry: cylinder(wheel, 12, 48, 8), placement: along(height, 0) },
    { name: 'Shaft', geometry: cylinder(8, 60, 32), placement: along(height, 0) },
    { name: 'Roller', geometry: cylinder(wheel / 2, 12, 48, 6), placement: along(height, apart) },
    { name: 'Axle', geometry: cylinder(6, 60, 32), placement: along(height, apart) },
  ]);
}

describe('what the first drawing says of sizes', () => {
  test('length, width and height of the whole, each once', () => {
    expect(said(machine).filter((s) => !s.includes('C-C'))).toEqual(expect.arrayContaining(['Front level 120', 'Front upright 70', 'Top upright 80']));
    expect(new Set(said(machine)).size).toBe(said(machine).length);
  });
  test('proposed again nothing is added: it is all there', () => {
    const views = machine.scene.all('view');
    expect(proposeDimensions(machine.scene, views, (n) => `again:${n}`)).toEqual([]);
  });
  test('values are kept as seen', () => {
    for (const d of machine.scene.all('dimension')) expect(d.seen).toEqual(measured(d, machine.scene)!.map((m) => m.value));
  });
});

describe('laid out by the rules of a checker, on generated assemblies', () => {
  const next = random(11);
  const cases = Array.from({ length: 12 }, (_, n) => {
    const count = 2 + Math.floor(next() * 6);
    return [
      n,
      Array.from({ length: count }, (_, i) => {
        const at = [Math.round(next() * 200 - 100), Math.round(next() * 120 - 60), Math.round(next() * 60)] as const;
        const geometry =
          next() < 0.5
            ? cylinder(4 + next() * 20, 10 + next() * 60, 24, next() < 0.5 ? 2 : 0)
            : box([0, 0, 0], [10 + next() * 80, 10 + next() * 50, 5 + next() * 40]);
        return { name: `P${i}`, geometry, at };
      }),
    ] as const;
  });
  test.each(cases)('assembly %i', async (_, parts) => {
    const drawn = await draftAll(assemblyOf(parts), { only: 'arrangement' });
    const { scene } = drawn;
    const pictures = scene.all('dimension').flatMap((d) => drawDimension(d, scene).map((p) => ({ d, p })));
    expect(pictures.length).toBeGreaterThanOrEqual(2);
    for (const [i, a] of pictures.entries()) {
      const sheet = scene.one('view', a.d.view)!.sheet;
      const frame = scene.page(sheet).geometry.frame;
      // Inside the frame, and clear of every other view.
      expect([a.p.ink.x >= frame.x, a.p.ink.y >= frame.y, a.p.ink.x + a.p.ink.width <= frame.x + frame.width]).toEqual([true, true, true]);
      for (const g of composeSheet(scene, sheet).groups.filter((g) => g.role === 'view' && g.id !== a.d.view))
        expect(a.p.texts.some((t) => overlaps(t, rectOf(g.box)))).toBe(false);
      for (const b of pictures.slice(i + 1)) {
        // No two dimension lines cross, no text lies on another one or on a line.
        expect(a.p.texts.some((t) => b.p.texts.some((q) => overlaps(t, q)))).toBe(false);
        expect(a.p.texts.some((t) => b.p.solid.segments.some((s) => crosses(s, t)))).toBe(false);
        expect(a.p.solid.segments.some((s) => b.p.solid.segments.some((q) => segmentsCross(...s, ...q)))).toBe(false);
      }
    }
    // Smaller inside larger: on one side of a view, what spans a shorter one stands farther out.
    for (const a of pictures)
      for (const b of pictures) {
        if (a.d.view !== b.d.view || a.d.kind !== b.d.kind || a.d.side !== b.d.side || !a.d.side || a === b) continue;
        const [s, l] = [span(a.d, scene), span(b.d, scene)];
        if (s[0] >= l[0] - 1e-6 && s[1] <= l[1] + 1e-6 && s[1] - s[0] < l[1] - l[0] - 1e-6) expect(a.d.away).toBeLessThan(b.d.away);
      }
    // The first line 10 mm off, then 7 mm from line to line.
    for (const { d } of pictures) if (d.side) expect((d.away - FIRST_MM) % NEXT_MM).toBeCloseTo(0, 9);
  });
});

function span(d: DimensionRecord, scene: Scene): readonly [number, number] {
  const m = measured(d, scene)![0]!;
  if (m.shape !== 'stretch') throw new Error('no stretch');
  const k = d.kind === 'level' ? 0 : 1;
  return [Math.min(m.from[k], m.to[k]), Math.max(m.from[k], m.to[k])];
}

describe('shafts', () => {
  test('are told by their height over the base and from axis to axis, in the view that sees them end-on', async () => {
    const drawn = await draftAll(winch(50, 80, 30), { only: 'arrangement' });
    const scene = drawn.scene;
    const cc = scene.all('dimension').filter((d) => d.text?.after === 'C-C');
    expect(cc.map((d) => textOf(d, scene))).toEqual(['80 C-C']);
    const view = scene.one('view', cc[0]!.view) as ViewRecord;
    expect(Math.abs(view.toward[0])).toBeCloseTo(1, 9);
    expect(said(drawn).some((s) => s.endsWith('upright 50'))).toBe(true);
  });
});

describe('awkward values', () => {
  test('are pointed out with the nearest that can be set, and where they come from', async () => {
    const drawn = await draftAll(assemblyOf([{ name: 'Rail', geometry: box([0, 0, 0], [301.7, 40, 20]) }]), { only: 'arrangement' });
    const found = drawn.findings.filter((f) => f.code === 'AWKWARD_VALUE');
    expect(found).toMatchObject([{ text: expect.stringMatching(/301\.7 cannot be set in the field: 302 would be 0\.3 more/) as string }]);
    const [d] = found[0]!.about;
    const record = drawn.scene.one('dimension', d)!;
    const accepted = { ...drawn.document, [record.id]: { ...record, accepted: 301.7 } };
    expect(new Scene({ ...drawn, document: accepted }).all('dimension')).toHaveLength(drawn.scene.all('dimension').length);
    const { findingsOf } = await import('../../core/proof/findings.ts');
    expect(findingsOf(new Scene({ ...drawn, document: accepted })).filter((f) => f.code === 'AWKWARD_VALUE')).toEqual([]);
  });
  test('in inches they are judged by sixteenths', async () => {
    const inch = 25.4;
    const drawn = await draftAll(assemblyOf([{ name: 'Rail', geometry: box([0, 0, 0], [(7 + 13 / 32) * inch, 4 * inch, 2 * inch]) }]), {
      only: 'arrangement',
      standard: 'asme',
      values: { fraction: 32 },
    });
    expect(drawn.findings.filter((f) => f.code === 'AWKWARD_VALUE')).toMatchObject([{ text: expect.stringMatching(/^7 13\/32 cannot/) as string }]);
  });
});

test('what is round as a whole has one diameter, not two equal sizes', async () => {
  const drawn = await draftAll(assemblyOf([{ name: 'Flange', geometry: cylinder(44, 20, 48, 15) }]), { only: 'arrangement' });
  expect(said(drawn)).toContain('Top diameter Ø88');
});
