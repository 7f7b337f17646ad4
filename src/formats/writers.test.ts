import { spawnSync } from 'node:child_process';
import { decode, encode } from 'fast-png';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { applyRecipe } from '../core/recipe/apply.ts';
import { shippedRecipe } from '../core/recipe/shipped.ts';
import { computeView } from '../core/views/compute-view.ts';
import { composeSheet } from '../elements/compose.ts';
import { Scene } from '../elements/scene.ts';
import { draftAll, smallMachine } from '../core/testing/drafting.ts';
import { sceneWith } from '../elements/testing/scene-with.ts';
import { writeCsv } from './csv.ts';
import { listAsTable, shadingPngs, sheetsAsPdf, sheetsAsSvg } from './drawing-files.ts';
import type { DisplayList } from '../core/picture/display-list.ts';
import { emFor, textWidth } from '../core/picture/lettering.ts';
import { num } from '../core/picture/shapes.ts';
import { pointsOfPath } from '../core/testing/paths.ts';
import { writePdf } from './pdf/write.ts';
import { writeSvg } from './svg.ts';
import { pdfMarks } from './testing/pdf-marks.ts';

const drawn = await draftAll(smallMachine());
const font = new Uint8Array(readFileSync('static/fonts/osifont.ttf'));
const sheets = [...drawn.sheets.values()];

describe('SVG', () => {
  const [first, second] = sheetsAsSvg(sheets, drawn.results, font);
  test('has true size, arcs, picture and lettering in it, and a label for every view', () => {
    expect(first).toMatch(/width="420mm" height="297mm" viewBox="0 0 420 297"/);
    // The ring of radius 11 mm: a circle seen from above, an ellipse of 1 : √3 seen isometrically (ISO 5456-3).
    const paths = first!.match(/ d="[^"]*"/g)!.join('');
    expect(paths).toContain('A11 11 ');
    expect(paths).toContain(`A11 ${num(11 / Math.sqrt(3))} `);
    expect(first).toContain('data:image/png;base64,');
    expect(first).toContain('data:font/ttf;base64,');
    expect(first).toContain('aria-label="Front, scale');
    expect(second!.match(/data-role="balloon"/g)!.length).toBe(7);
  });
  test('text is text, never markup', () => {
    const list = {
      width: 10,
      height: 10,
      groups: [
        { id: '"x"', role: 'view', label: '<b>&', box: [0, 0, 1, 1], items: [{ kind: 'text', x: 0, y: 0, text: '<script>', height: 1, anchor: 'start' }] },
      ],
    } as const;
    expect(writeSvg(list)).not.toMatch(/<script>|<b>/);
  });
});

describe('PDF', () => {
  test('the same input gives the same bytes', async () => {
    const [a, b] = await Promise.all([1, 2].map(() => sheetsAsPdf(drawn.document, sheets, drawn.results, font)));
    expect(Buffer.compare(a!, b!)).toBe(0);
    expect(Buffer.from(a!.subarray(0, 8)).toString()).toBe('%PDF-1.7');
  });
});

test('in the PDF a balloon leads to its row, and a row to the sheet of its part', async () => {
  const { assembly, geometries } = smallMachine();
  const made = await applyRecipe(shippedRecipe('Arrangement with part sheets')!, assembly, geometries, {
    date: '2026-01-01',
    compute: async (spec) => computeView(assembly, geometries, spec),
  });
  const scene = new Scene({ document: made.document, assembly, results: made.results });
  const parts = scene.sheets.flatMap((s) => scene.items.find((i) => i.part === s.part)?.number ?? []);
  const pdf = Buffer.from(
    await sheetsAsPdf(
      made.document,
      scene.sheets.map((s) => composeSheet(scene, s.id)),
      made.results,
      font,
    ),
  ).toString('latin1');
  const leads = (name: string) => [...pdf.matchAll(new RegExp(`/S /GoTo\\s*/D \\(${name}-(\\d+)\\)`, 'g'))].map((m) => Number(m[1])).sort((a, b) => a - b);
  expect(parts.length).toBeGreaterThan(3);
  expect(leads('part')).toEqual([...parts].sort((a, b) => a - b));
  expect(leads('item')).toEqual(scene.items.map((i) => i.number).sort((a, b) => a - b));
});

describe('what is drawn comes out where it is', () => {
  // One of each kind, with coordinates that show any turn, swap or stretch.
  const png = new Uint8Array(encode({ width: 2, height: 3, data: new Uint8Array(24).fill(255), channels: 4 }));
  const list: DisplayList = {
    width: 100,
    height: 60,
    groups: [
      {
        id: 'view:1',
        role: 'view',
        label: 'A',
        box: [0, 0, 1, 1],
        items: [
          { kind: 'stroke', d: 'M10 20A8 8 0 0 1 26 20', width: 0.5 },
          { kind: 'stroke', d: 'M40 20A12 5 30 0 0 52 31', width: 0.25 },
          { kind: 'stroke', d: 'M5 40L35 40', width: 0.25, dash: [3, 1] },
          { kind: 'stroke', d: 'M5 44L35 46', width: 0.7 },
          { kind: 'fill', d: 'M60 10L63 11L63 9Z', color: '#000000' },
          { kind: 'image', x: 70, y: 15, width: 20, height: 30, image: 'view:1' },
          // A picture that is in the drawing itself.
          { kind: 'image', x: 2, y: 3, width: 8, height: 6, image: `data:image/png;base64,${Buffer.from(png).toString('base64')}` },
        ],
      },
    ],
  };
  const expected = list.groups[0]!.items.map((i) => (i.kind === 'stroke' || i.kind === 'fill' ? pointsOfPath(i.d)[0]! : []));
  /** Both are points along one curve: every one of the first lies near the second, and the other way round. */
  const along = (a: readonly (readonly [number, number])[], b: readonly (readonly [number, number])[], off: number) => {
    const far = (p: readonly [number, number], line: readonly (readonly [number, number])[]) =>
      Math.min(...line.slice(1).map((q, i) => distanceToSegment(p, line[i]!, q)));
    for (const p of a) expect(far(p, b)).toBeLessThan(off);
    for (const p of b) expect(far(p, a)).toBeLessThan(off);
  };
  const distanceToSegment = (p: readonly [number, number], a: readonly [number, number], b: readonly [number, number]) => {
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const t = Math.max(0, Math.min(1, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy || 1)));
    return Math.hypot(p[0] - a[0] - dx * t, p[1] - a[1] - dy * t);
  };

  test('the test’s own reading of arcs: the half circle bulges up', () => {
    const [half] = expected;
    expect(Math.min(...half!.map((p) => p[1]))).toBeCloseTo(12, 2);
  });
  test('in the PDF: strokes with their pens and dashes, fills, pictures, in millimetres from the top left', async () => {
    const bytes = await writePdf([list], { title: 't', font, images: new Map([['view:1', png]]), date: new Date(0) });
    const marks = pdfMarks(bytes)[0]!;
    expect(
      marks.map((m) => [m.kind, m.kind === 'stroke' ? Number(m.width.toFixed(3)) : 0, m.kind === 'stroke' ? m.dash.map((v) => Number(v.toFixed(3))) : []]),
    ).toEqual([
      ['stroke', 0.5, []],
      ['stroke', 0.25, []],
      ['stroke', 0.25, [3, 1]],
      // The dash ends with its line.
      ['stroke', 0.7, []],
      ['fill', 0, []],
      ['image', 0, []],
      ['image', 0, []],
    ]);
    marks.slice(0, 5).forEach((m, i) => along(m.paths[0]!, expected[i]!, 0.06));
    const corners = marks[5]!.paths[0]!;
    [
      [70, 45],
      [90, 45],
      [90, 15],
      [70, 15],
    ].forEach(([x, y], i) => expect(Math.hypot(corners[i]![0] - x!, corners[i]![1] - y!)).toBeLessThan(0.01));
  });
  test('in the SVG: the same paths, pens and dashes, and the picture in its place', () => {
    const svg = writeSvg(list, { images: new Map([['view:1', 'data:image/png;base64,AAAA']]) });
    const paths = [...svg.matchAll(/<path d="([^"]+)"([^>]*)\/>/g)].map((m) => [
      m[1],
      /stroke-width="([^"]+)"/.exec(m[2]!)?.[1],
      /stroke-dasharray="([^"]+)"/.exec(m[2]!)?.[1],
    ]);
    expect(paths).toEqual([
      ['M10 20A8 8 0 0 1 26 20', '0.5', undefined],
      ['M40 20A12 5 30 0 0 52 31', '0.25', undefined],
      ['M5 40L35 40', '0.25', '3 1'],
      ['M5 44L35 46', '0.7', undefined],
      ['M60 10L63 11L63 9Z', undefined, undefined],
    ]);
    expect(svg).toContain('<image x="70" y="15" width="20" height="30" href="data:image/png;base64,AAAA" preserveAspectRatio="none"/>');
    expect(svg).toContain(`<image x="2" y="3" width="8" height="6" href="data:image/png;base64,${Buffer.from(png).toString('base64')}"`);
    // Nothing is drawn for a picture that is not there.
    expect(writeSvg(list).match(/<image/g)).toHaveLength(1);
  });
  test('texts stand at their anchors', async () => {
    const text = (x: number, anchor: 'start' | 'middle' | 'end') => ({ kind: 'text', x, y: 20, text: 'MMMM', height: 5, anchor }) as const;
    const page: DisplayList = { width: 100, height: 60, groups: [{ ...list.groups[0]!, items: [text(10, 'start'), text(50, 'middle'), text(90, 'end')] }] };
    const svg = writeSvg(page);
    expect([...svg.matchAll(/<text x="([^"]+)" y="([^"]+)" font-size="([^"]+)" text-anchor="(\w+)">/g)].map((m) => m.slice(1))).toEqual([
      ['10', '20', String(num(emFor(5))), 'start'],
      ['50', '20', String(num(emFor(5))), 'middle'],
      ['90', '20', String(num(emFor(5))), 'end'],
    ]);
    const file = join(mkdtempSync(join(tmpdir(), 'quarry-pdf-')), 't.pdf');
    writeFileSync(file, await writePdf([page], { title: 't', font, images: new Map(), date: new Date(0) }));
    // Poppler's boxes of words, points from the top left.
    const words = spawnSync('pdftotext', ['-bbox', file, '-'], { encoding: 'utf8' }).stdout;
    const boxes = [...words.matchAll(/xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">MMMM/g)].map((m) =>
      m.slice(1).map((v) => (Number(v) * 25.4) / 72),
    );
    const width = textWidth('MMMM', 5);
    [10, 50 - width / 2, 90 - width].forEach((x, i) => expect(Math.abs(boxes[i]![0]! - x)).toBeLessThan(0.4));
    for (const b of boxes) expect(b[1]!).toBeLessThan(20);
  });
});

describe('pictures and lists', () => {
  test('the shaded view is a PNG of its size', () => {
    const png = decode(shadingPngs(drawn.results).get('view:isometric')!);
    const w = drawn.results.get('view:isometric')!.shading!.window;
    expect([png.width, png.height]).toEqual([w.width, w.height]);
  });
  test('the list has a row per item in the columns of the sheet', () => {
    const [list] = drawn.scene.all('list');
    const columns = [
      { key: 'item', title: 'No.', widthMm: 10 },
      { key: 'description', title: 'What', widthMm: 50 },
    ];
    const rows = writeCsv(listAsTable(sceneWith(drawn, { ...list!, columns }), list!.id)).split('\r\n');
    expect(rows[0]).toBe('\ufeffNo.,What');
    expect(rows.length).toBe(9);
  });
});
