import { describe, expect, test } from 'vitest';
import { recordsOf, sheetsOf, type ViewRecord } from '../document/records.ts';
import { viewRect } from '../../elements/view/draw.ts';
import { ISO_SCALES } from '../sheet/paper.ts';
import { nearestEdge } from '../views/nearest-edge.ts';
import { assemblyOf, box } from '../testing/shapes.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';

describe('the first drawing of a small machine', async () => {
  const drawn = await draftAll(smallMachine());
  const views = recordsOf(drawn.document, 'view');
  const view = (id: string) => drawn.document[id] as ViewRecord;

  test('has an arrangement with its section beside it, which loses no more than a step there, and an exploded view with the list', () => {
    expect(sheetsOf(drawn.document).map((s) => [s.name, s.order])).toEqual([
      ['General arrangement', 1],
      ['Exploded view and parts list', 2],
    ]);
    expect(view('view:section').scale).toBe(view('view:front').scale);
    expect(views.map((v) => v.id).sort()).toEqual(['view:exploded', 'view:front', 'view:isometric', 'view:right', 'view:section', 'view:top']);
  });

  test('would get no mark but for missing data', () => {
    expect(drawn.findings.filter((f) => !['LIST_GAP', 'TITLE_GAP', 'MASS_UNKNOWN'].includes(f.code))).toEqual([]);
  });

  // ISO 5455.
  test('uses standard scales only, one for the aligned views', () => {
    for (const v of views) expect(ISO_SCALES).toContain(v.scale);
    expect(new Set(['view:front', 'view:top', 'view:right'].map((id) => view(id).scale)).size).toBe(1);
  });

  // ISO 5456-2, first angle: the view from above below the front, the view from the right to its left.
  test('arranges in first angle, in line', () => {
    const [f, t, r] = [view('view:front'), view('view:top'), view('view:right')];
    expect([t.at[0], r.at[1]]).toEqual([f.at[0], f.at[1]]);
    expect(t.at[1]).toBeGreaterThan(f.at[1]);
    expect(r.at[0]).toBeLessThan(f.at[0]);
  });

  test('identifies every item once, each leader ending on a visible edge of that very component', () => {
    const balloons = recordsOf(drawn.document, 'balloon');
    expect(balloons.length).toBe(7);
    for (const b of balloons) {
      const aim = nearestEdge(drawn.results.get(b.view)!, b.anchor[0], b.anchor[1])!;
      const item = drawn.items.find((i) => i.components.includes(aim.component))!;
      expect(aim.distance * view(b.view).scale).toBeLessThan(0.05);
      expect(`balloon:${item.part}`).toBe(b.id);
    }
  });

  test('keeps balloons 8 mm off the view they stand around', () => {
    for (const b of recordsOf(drawn.document, 'balloon')) {
      const v = view(b.view);
      const [x, y, w, h] = viewRect(v, drawn.results.get(v.id));
      const [bx, by] = [v.at[0] + b.offset[0], v.at[1] + b.offset[1]];
      const off = Math.max(x - bx, bx - x - w, y - by, by - y - h);
      expect(off - 5).toBeGreaterThanOrEqual(7.9);
    }
  });

  test('cuts where the turned parts have their axis, and keeps the solid ones whole', () => {
    const { cut } = view('view:section');
    expect(cut!.d).toBeCloseTo(25, 6);
    expect([...cut!.keptWhole].sort()).toEqual(['Post']);
    expect(drawn.results.get('view:section')!.caps.map((c) => drawn.components[c.component]!.name)).toContain('Ring');
  });

  test('docks the list on the title block and reads upward', () => {
    const list = drawn.sheets.get('sheet:3')!.groups.find((g) => g.role === 'list')!;
    const title = drawn.sheets.get('sheet:3')!.groups.find((g) => g.role === 'title')!;
    expect(list.box[1] + list.box[3]).toBeCloseTo(title.box[1], 6);
    const rows = list.items.flatMap((i) => (i.kind === 'text' && i.source?.field === 'item' ? [[Number(i.text), i.y]] : []));
    for (let k = 1; k < rows.length; k++) expect(rows[k]![1]!).toBeLessThan(rows[k - 1]![1]!);
    const head = list.items.find((i) => i.kind === 'text' && i.text === 'Item');
    expect(head!.kind === 'text' && head!.y).toBeGreaterThan(rows[0]![1]!);
  });

  test('shows the cutting plane with two arrows and letters in the view that sees it edge-on', () => {
    const top = drawn.sheets.get('sheet:1')!.groups.find((g) => g.id === 'view:top')!;
    expect(top.items.filter((i) => i.kind === 'text' && i.text === 'A').length).toBe(2);
    expect(top.items.filter((i) => i.kind === 'fill').length).toBe(2);
  });

  test('is the same every time', async () => {
    expect((await draftAll(smallMachine())).document).toEqual(drawn.document);
  });
});

describe('what a checker wants of its composition', () => {
  // Common practice: the front is the side that is longest as the thing stands.
  test('the front is the longer of the upright sides, and its neighbours are seen from there', async () => {
    const { document } = await draftAll(
      assemblyOf([
        { name: 'Rail', geometry: box([0, 0, 0], [40, 300, 20]) },
        { name: 'Post', geometry: box([10, 20, 20], [30, 40, 90]) },
      ]),
    );
    const toward = (id: string) => (document[id] as ViewRecord).toward.map((v) => Math.round(v) || 0);
    expect([toward('view:front'), toward('view:top'), toward('view:right')]).toEqual([
      [1, 0, 0],
      [0, 0, 1],
      [0, 1, 0],
    ]);
  });
  test('pictorials show tangent edges, others do not', async () => {
    const { document } = await draftAll(smallMachine());
    expect(recordsOf(document, 'view').map((v) => [v.id, v.tangent])).toEqual(
      expect.arrayContaining([
        ['view:isometric', true],
        ['view:exploded', true],
        ['view:front', false],
        ['view:section', false],
      ]),
    );
  });
  test('a long thing is interrupted where that lifts its scale; views in line leave the same stretch out', async () => {
    const long = assemblyOf([
      { name: 'Beam', geometry: box([0, 0, 0], [2000, 60, 60]) },
      { name: 'Foot', geometry: box([0, -40, -20], [90, 100, 0]) },
      { name: 'Head', geometry: box([1930, -40, 60], [2000, 100, 130]) },
    ]);
    const { document, results, findings } = await draftAll(long);
    const view = (id: string) => document[id] as ViewRecord;
    const [gap] = view('view:front').gaps!;
    expect(gap!.axis).toBe('x');
    expect(view('view:top').gaps).toEqual(view('view:front').gaps);
    expect([view('view:right').gaps, view('view:isometric').gaps]).toEqual([undefined, undefined]);
    // Nothing but the beam runs there.
    expect(gap!.from).toBeGreaterThan(90);
    expect(gap!.to).toBeLessThan(1930);
    // Whole, 2000 mm would take 1:10 on the 390 mm within the frame of A3, less the white space.
    expect(view('view:front').scale).toBeGreaterThan(0.1);
    const [, , width] = viewRect(view('view:front'), results.get('view:front'));
    expect(width).toBeCloseTo((2000 - (gap!.to - gap!.from)) * view('view:front').scale + 4, 6);
    expect(findings.filter((f) => f.code === 'OVERLAP' || f.code === 'OUTSIDE_FRAME')).toEqual([]);
  });
});

describe('other sheets', () => {
  const drawings = new Map<string, ReturnType<typeof draftAll>>();
  /** The small machine on a sheet, drawn once. */
  const on = (sheet: string) => {
    const standard = sheet.startsWith('A') && sheet.length > 1 ? 'iso' : 'asme';
    if (!drawings.has(sheet)) drawings.set(sheet, draftAll(smallMachine(), { sheet, standard }));
    return drawings.get(sheet)!;
  };
  test.each(['A4', 'A1', 'A', 'D'])('%s: everything fits', async (sheet) => {
    const { findings } = await on(sheet);
    expect(findings.filter((f) => f.code === 'OVERLAP' || f.code === 'OUTSIDE_FRAME')).toEqual([]);
  });
  test('third angle turns the neighbours around', async () => {
    const { document } = await on('D');
    const at = (id: string) => (document[id] as ViewRecord).at;
    expect(at('view:top')[1]).toBeLessThan(at('view:front')[1]);
    expect(at('view:right')[0]).toBeGreaterThan(at('view:front')[0]);
  });
  test('one part alone gets a part sheet, which names it, and nothing exploded', async () => {
    const { findings, document } = await draftAll(assemblyOf([{ name: 'Only', geometry: box([0, 0, 0], [30, 20, 10]) }]));
    expect(sheetsOf(document).map((s) => s.name)).toEqual(['Part']);
    expect([recordsOf(document, 'balloon'), recordsOf(document, 'spread'), recordsOf(document, 'list')]).toEqual([[], [], []]);
    expect(findings.filter((f) => f.severity === 'must')).toEqual([]);
  });
  test('an unknown size and an empty assembly are refused with a word why', async () => {
    await expect(draftAll(smallMachine(), { sheet: 'A9' })).rejects.toMatchObject({ code: 'BAD_USAGE' });
    await expect(draftAll(assemblyOf([]))).rejects.toMatchObject({ code: 'EMPTY_ASSEMBLY' });
  });
  test('a list too long to stand beside the exploded view goes onto sheets of its own, every item once', async () => {
    const parts = Array.from({ length: 30 }, (_, i) => ({
      name: `Slab ${i + 1}`,
      geometry: box([0, 0, 0], [8 + i * 0.01, 8, 4]),
      at: [(i % 11) * 10, Math.floor(i / 11) * 10, 0] as const,
    }));
    const { document, sheets, findings } = await draftAll(assemblyOf(parts), { sheet: 'A4' });
    expect(sheetsOf(document).map((s) => s.name)).toEqual(['General arrangement', 'Exploded view', 'Parts list, 1 of 2', 'Parts list, 2 of 2']);
    const numbers = [...sheets.values()].flatMap((s) =>
      s.groups.flatMap((g) => (g.role === 'list' ? g.items.flatMap((i) => (i.kind === 'text' && i.source?.field === 'item' ? [Number(i.text)] : [])) : [])),
    );
    expect(numbers.sort((x, y) => x - y)).toEqual(Array.from({ length: 30 }, (_, i) => i + 1));
    expect(findings.filter((f) => f.code === 'OUTSIDE_FRAME' || f.code === 'OVERLAP')).toEqual([]);
    // There is no room for so many balloons around one view on A4: as many as there is room for are placed.
    expect(recordsOf(document, 'balloon').length).toBeGreaterThan(20);
  });
});

describe('things of any size', () => {
  // ISO 5455 lets its row of scales go on: nothing is too large or too small to be drawn.
  test.each([
    [2e-3, 'mm'],
    [5e5, 'mm'],
    [3e8, 'mm'],
  ])('a machine %d mm wide has its drawing, at a scale of 1, 2 or 5 times a power of ten', async (size) => {
    const k = size / 100;
    const { document, findings } = await draftAll(
      assemblyOf([
        { name: 'Base', geometry: box([0, 0, 0], [100 * k, 60 * k, 10 * k]) },
        { name: 'Post', geometry: box([20 * k, 20 * k, 10 * k], [40 * k, 40 * k, 70 * k]) },
      ]),
    );
    for (const v of recordsOf(document, 'view')) {
      const power = Math.log10(v.scale) - Math.floor(Math.log10(v.scale) + 1e-9);
      expect([0, Math.log10(2), Math.log10(5)].some((p) => Math.abs(power - p) < 1e-6)).toBe(true);
    }
    expect(recordsOf(document, 'balloon').length).toBe(2);
    expect(findings.filter((f) => f.code === 'OVERLAP' || f.code === 'OUTSIDE_FRAME')).toEqual([]);
    // Neither lost on its sheet nor over it.
    const front = document['view:front'] as ViewRecord;
    expect(front.scale * size).toBeGreaterThan(30);
    expect(front.scale * size).toBeLessThan(400);
  });
});
