import { decode } from 'fast-png';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { draftAll, smallMachine } from '../core/testing/drafting.ts';
import { listAsCsv, shadingPngs, sheetsAsPdf, sheetsAsSvg } from './drawing-files.ts';
import { writeSvg } from './svg.ts';

const drawn = await draftAll(smallMachine());
const font = new Uint8Array(readFileSync('static/fonts/osifont.ttf'));
const sheets = [...drawn.sheets.values()];

describe('SVG', () => {
  const [first, , third] = sheetsAsSvg(sheets, drawn.results, font);
  test('has true size, arcs, picture and lettering in it, and a label for every view', () => {
    expect(first).toMatch(/width="420mm" height="297mm" viewBox="0 0 420 297"/);
    expect(first).toMatch(/A3 3 0 0 [01]|A6 6 0 0 [01]|A\d/);
    expect(first).toContain('data:image/png;base64,');
    expect(first).toContain('data:font/ttf;base64,');
    expect(first).toContain('aria-label="Front, scale');
    expect(third!.match(/data-role="balloon"/g)!.length).toBe(7);
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

describe('pictures and lists', () => {
  test('the shaded view is a PNG of its size', () => {
    const png = decode(shadingPngs(drawn.results).get('view:isometric')!);
    const w = drawn.results.get('view:isometric')!.shading!.window;
    expect([png.width, png.height]).toEqual([w.width, w.height]);
  });
  test('the list has a row per item in the columns of the sheet', () => {
    const rows = listAsCsv(
      [
        { key: 'item', title: 'No.', widthMm: 10 },
        { key: 'description', title: 'What', widthMm: 50 },
      ],
      drawn.items,
    ).split('\r\n');
    expect(rows[0]).toBe('\ufeffNo.,What');
    expect(rows.length).toBe(9);
  });
});
