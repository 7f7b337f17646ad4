import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decode } from 'fast-png';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { describe, expect, test } from 'vitest';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { sheetsAsPdf, sheetsAsPng } from '../drawing-files.ts';
import type { SheetFileOptions } from '../../core/picture/print.ts';

// Read back by two readers that are not ours: pdf.js and poppler.
const drawn = await draftAll(smallMachine());
const FONT = 'static/fonts/osifont.ttf';
const font = new Uint8Array(readFileSync(FONT));
const sheets = [...drawn.sheets.values()];
const made = (how: SheetFileOptions = {}) => sheetsAsPdf(drawn.document, sheets, drawn.results, font, how);
const read = async (bytes: Uint8Array) => getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
const dir = mkdtempSync(join(tmpdir(), 'quarry-pdf-'));
function poppler(tool: string, bytes: Uint8Array, ...args: string[]): string {
  const file = join(dir, 'a.pdf');
  writeFileSync(file, bytes);
  return spawnSync(tool, [...args, file, ...(tool === 'pdftotext' ? ['-'] : [])], { encoding: 'utf8' }).stdout;
}
const MM = 25.4 / 72;
interface Tag {
  readonly role?: string;
  readonly alt?: string;
  readonly children?: readonly Tag[];
}
const tagsIn = (t: Tag): Tag[] => [t, ...(t.children ?? []).flatMap(tagsIn)];

describe('a drawing as PDF', async () => {
  const pdf = await made();
  const file = await read(pdf);

  test('says what it is: title, language, PDF/A-2b (ISO 19005-2), tags', async () => {
    const { info, metadata } = await file.getMetadata();
    expect((info as Record<string, unknown>)['Language']).toBe('en');
    expect(metadata?.getRaw()).toMatch(/pdfaid:part>2<[\s\S]*pdfaid:conformance>B</);
    expect(await file.getMarkInfo()).toMatchObject({ Marked: true });
    expect(poppler('pdfinfo', pdf)).toMatch(/Tagged:\s+yes/);
    expect(poppler('pdffonts', pdf)).toMatch(/osifont.*yes yes yes/);
  });

  test('bookmarks lead to the sheets, items under the sheet of their list', async () => {
    const outline = await file.getOutline();
    expect(outline.map((o) => o.title)).toEqual(drawn.scene.sheets.map((s, i) => `${i + 1}  ${s.name}`));
    expect(outline.flatMap((o) => o.items.map((i) => i.title))).toContain('6  Ring');
  });

  test('every view is read by its label, and the list row by row in its order', async () => {
    const tags: Tag[] = [];
    for (let n = 1; n <= file.numPages; n++) tags.push(...tagsIn((await (await file.getPage(n)).getStructTree()) as Tag));
    const labels = tags.filter((t) => t.role === 'Figure').map((t) => t.alt ?? '');
    for (const v of drawn.scene.all('view')) expect(labels.some((l) => l.includes(v.name))).toBe(true);
    const rows = tags.filter((t) => t.role === 'TR');
    expect(rows.length).toBeGreaterThanOrEqual(drawn.items.length + 1);
    // The text in the order of the file is that of the rows.
    const words = poppler('pdftotext', pdf, '-raw');
    const at = drawn.items.map((i) => words.indexOf(i.values.description.text));
    expect(at.every((a) => a >= 0)).toBe(true);
  });

  test('the same input gives the same bytes with every option', async () => {
    const how = { grey: true, layers: true, print: { mode: 'tiles' } } as const;
    const [a, b] = await Promise.all([made(how), made(how)]);
    expect(Buffer.compare(a, b)).toBe(0);
  });
});

describe('prints', () => {
  const sizes = async (how: SheetFileOptions) => {
    const file = await read(await made(how));
    return Promise.all(
      Array.from({ length: file.numPages }, async (_, i) => (await file.getPage(i + 1)).view.map((v) => Math.round(v * MM * 10) / 10).slice(2)),
    );
  };
  test('half size is half of every page, and texts stand where half of their places is', async () => {
    expect(await sizes({ print: { mode: 'half' } })).toEqual(sheets.map((s) => [s.width / 2, s.height / 2]));
    const boxes = (bytes: Uint8Array) =>
      [...poppler('pdftotext', bytes, '-bbox').matchAll(/xMin="([\d.]+)" yMin="([\d.]+)"[^>]*>([^<]{4,})</g)].map(
        (m) => [m[3], Number(m[1]), Number(m[2])] as const,
      );
    const [whole, half] = [boxes(await made()), boxes(await made({ print: { mode: 'half' } }))];
    const first = whole.find(([w]) => whole.filter(([o]) => o === w).length === 1 && half.some(([o]) => o === w))!;
    const small = half.find(([w]) => w === first[0])!;
    expect(small[1]).toBeCloseTo(first[1] / 2, 0);
    expect(small[2]).toBeCloseTo(first[2] / 2, 0);
  });
  test('single sheets, and sheets on A4', async () => {
    expect(await sizes({ only: [1] })).toEqual([[sheets[1]!.width, sheets[1]!.height]]);
    for (const [w, h] of await sizes({ print: { mode: 'fit' } })) expect([w, h].sort()).toEqual([210, 297]);
    for (const [w, h] of await sizes({ print: { mode: 'tiles' } })) expect([w, h].sort()).toEqual([210, 297]);
    expect(poppler('pdftotext', await made({ print: { mode: 'tiles' }, only: [0] }))).toMatch(/100 mm; sheet 1, A2 of/);
  });
});

test('layers are listed by their names, and switching one off leaves out what is on it', async () => {
  const pdf = await made({ layers: true });
  const file = await read(pdf);
  const config = await file.getOptionalContentConfig();
  const names = [...(config as Iterable<[string, { name: string }]>)].map(([, g]) => g.name);
  expect(names).toEqual(expect.arrayContaining(['Sheet', 'Views', 'Dimensions', 'Balloons', 'Parts list']));
  expect([...((await (await read(await made())).getOptionalContentConfig()) as Iterable<unknown>)]).toEqual([]);
  // Each begin has its end: nothing runs over into the next layer.
  const page = await file.getPage(1);
  const { fnArray } = await page.getOperatorList();
  const count = (op: number) => fnArray.filter((f) => f === op).length;
  // beginMarkedContentProps and beginMarkedContent against endMarkedContent, by pdf.js' own numbers.
  const { OPS } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  expect(count(OPS.beginMarkedContentProps) + count(OPS.beginMarkedContent)).toBe(count(OPS.endMarkedContent));
});

test('in grey nothing has a colour: read back as pixels', () => {
  const [grey] = sheetsAsPng(sheets, drawn.results, FONT, 40, { only: [0], grey: true });
  const { data, channels } = decode(grey!);
  for (let i = 0; i < data.length; i += channels * 7) expect(data[i] === data[i + 1] && data[i + 1] === data[i + 2]).toBe(true);
});

describe('pictures', () => {
  test('have as many pixels as the inches of the sheet times those per inch, and ink where the frame is', () => {
    const [png] = sheetsAsPng(sheets, drawn.results, FONT, 100, { only: [0] });
    const { width, height, data, channels } = decode(png!);
    expect(width).toBe(Math.round((sheets[0]!.width / 25.4) * 100));
    expect(Math.abs(height - (sheets[0]!.height / 25.4) * 100)).toBeLessThan(1.5);
    // ISO 5457: the frame's left edge is 20 mm from the trimmed edge.
    const x = Math.round((20 / 25.4) * 100);
    const y = Math.round(height * 0.4);
    const dark = [-1, 0, 1].map((d) => data[(y * width + x + d) * channels]!);
    expect(Math.min(...dark)).toBeLessThan(128);
  });
  test('too many are refused with what would do', () => {
    const large = [{ width: 1189, height: 841, groups: [] }];
    expect(() => sheetsAsPng(large, new Map(), FONT, 1200)).toThrow(/take \d+ or fewer/);
    expect(() => sheetsAsPng(large, new Map(), FONT, 5)).toThrow(/36 to 1200/);
  });
});
