import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, test } from 'vitest';
import { quarry, spawned } from './testing/quarry.ts';

// The contract of the command line, on the built program; PDFs are read back with poppler.
const AS1 = 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp';
const dir = mkdtempSync(join(tmpdir(), 'quarry-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));

const poppler = (tool: string, ...args: string[]) => spawnSync(tool, args, { encoding: 'utf8' }).stdout;

describe('quarry', () => {
  test('inspect', () => {
    const { status, out } = spawned('inspect', AS1);
    expect(status).toBe(0);
    expect(out).toMatchObject({ components: 18, uniqueParts: 5, depth: 3, unit: 'mm', schema: 'AUTOMOTIVE_DESIGN', warnings: [] });
  });

  test('view writes lengths, items with visible pixels, and an SVG with true arcs', () => {
    const svg = join(dir, 'view.svg');
    const { out } = spawned('view', AS1, '--direction', 'isometric', '--hidden', '--svg', svg);
    const lengths = (out as never as { lengthsMm: { visible: Record<string, number>; hidden: Record<string, number> } }).lengthsMm;
    // The kernel's exact algorithm gives 2443.7 mm for the union; taken down, within the bar of 0.3 %.
    expect(Math.abs((lengths.visible.sharp! + lengths.visible.outline!) / 2443.7 - 1)).toBeLessThan(0.003);
    expect(lengths.hidden.sharp!).toBeGreaterThan(1000);
    expect((out as never as { items: { visiblePx: number }[] }).items.map((i) => i.visiblePx > 0)).toEqual([true, true, true, true, true]);
    expect(readFileSync(svg, 'utf8')).toMatch(/ A|\dA/);
  });

  test('cut', () => {
    const { out } = spawned('cut', AS1, '--plane', '0,0,2,20', '--keep-whole', 'bolt');
    expect((out as never as { areaMm2: number; openLoops: number }).openLoops).toBe(0);
    // The plate is 180 × 150 mm with six holes of 10 mm: bolts fill them and are kept whole.
    expect((out as never as { areaMm2: number }).areaMm2).toBeCloseTo(180 * 150 - 6 * Math.PI * 25, 0);
  });

  test('cut along a line drawn on a view: both steps through the plate show all of it', () => {
    const { out } = quarry('cut', AS1, '--line', '-10,10;90,10;90,5;300,5', '--on', 'front', '--keep-whole', 'bolt');
    expect(out).toMatchObject({ uncut: [] });
    expect((out as never as { areaMm2: number }).areaMm2).toBeCloseTo(180 * 150 - 6 * Math.PI * 25, 0);
    expect(quarry('cut', AS1, '--line', '0,0;10,0;1,0.2', '--on', 'front')).toMatchObject({ status: 2, out: { error: { code: 'BAD_USAGE' } } });
  });

  test('mesh files are read too: unit and axis by option', () => {
    const stl = 'node_modules/stl-models/objects/gearwheel.bin.stl';
    const { out } = quarry('inspect', stl, '--unit', 'inch');
    const { boxMm, unit } = out as never as { boxMm: number[]; unit: string };
    expect(unit).toBe('inch');
    // 41.72 × 41.72 × 8 in its own unit.
    [41.72, 41.72, 8].forEach((v, i) => expect(boxMm[i]! / 25.4).toBeCloseTo(v, 1));
    expect(quarry('inspect', stl, '--unit', 'cubit')).toMatchObject({ status: 2 });
  });

  test('draft gives a complete set, and the PDF has true pages, an embedded font and the words', () => {
    const { status, out } = spawned('draft', AS1, '--out', dir, '--sheet', 'A3');
    expect(status).toBe(0);
    expect(out).toMatchObject({ sheets: 2, views: 6, balloons: 5, itemsIdentified: 5, itemsTotal: 5 });
    expect((out as never as { findings: { code: string }[] }).findings.filter((f) => !['LIST_GAP', 'TITLE_GAP', 'MASS_UNKNOWN'].includes(f.code))).toEqual([]);
    for (const f of ['drawing.pdf', 'sheet-1.svg', 'sheet-2.svg', 'parts-list.csv', 'drawing.json']) expect(existsSync(join(dir, f))).toBe(true);
    const pdf = join(dir, 'drawing.pdf');
    // A3 is 420 × 297 mm: 1190.55 × 841.89 pt (ISO 5457).
    expect(poppler('pdfinfo', pdf)).toMatch(/Pages:\s+2[\s\S]*1190\.55 x 841\.89 pts \(A3\)/);
    expect(poppler('pdffonts', pdf)).toMatch(/osifont.*CID TrueType.*yes yes yes/);
    const text = poppler('pdftotext', '-layout', pdf, '-');
    for (const word of ['l-bracket', 'Drawing number', '1 of 2', 'A–A (1:2)']) expect(text).toContain(word);
    expect(readFileSync(join(dir, 'parts-list.csv'), 'utf8')).toMatch(/^\ufeffItem,Qty,Description.*\r\n1,8,nut/);
  });

  test('draft by ASME stands on inch sheets in third angle', () => {
    const { out } = quarry('draft', AS1, '--out', dir, '--standard', 'asme', '--sheet', 'B');
    expect(out).toMatchObject({ sheets: 2 });
    // 17 × 11 in are 1224 × 792 pt.
    expect(poppler('pdfinfo', join(dir, 'drawing.pdf'))).toMatch(/1224 x 792 pts/);
    const records = (JSON.parse(readFileSync(join(dir, 'drawing.json'), 'utf8')) as { records: Record<string, { at: [number, number] }> }).records;
    expect(records['view:top']!.at[1]).toBeLessThan(records['view:front']!.at[1]);
    expect(records['view:right']!.at[0]).toBeGreaterThan(records['view:front']!.at[0]);
  });

  test('bad use ends with 2, bad input with 3, both with a code and a sentence', () => {
    expect(quarry('draw', AS1)).toMatchObject({ status: 2, out: { error: { code: 'BAD_USAGE' } } });
    expect(quarry('cut', AS1, '--plane', '0,0,0,1')).toMatchObject({ status: 2 });
    expect(quarry('inspect', AS1, '--frob')).toMatchObject({ status: 2 });
    expect(quarry('inspect', 'no-such.stp')).toMatchObject({ status: 3, out: { error: { code: 'NOT_FOUND' } } });
    const junk = join(dir, 'junk.stp');
    writeFileSync(junk, 'ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n#1=A(#2);\nENDSEC;\nEND-ISO-10303-21;\n');
    expect(quarry('inspect', junk)).toMatchObject({
      status: 3,
      out: { error: { code: 'FILE_BROKEN_REFERENCE', message: expect.stringContaining('#2') as string } },
    });
    writeFileSync(junk, 'ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n#1=A();\nENDSEC;\nEND-ISO-10303-21;\n');
    expect(quarry('inspect', junk).status).toBe(3);
  });
});

describe('quarry compare', () => {
  const TU = AS1.replace('as1-oc-214', 'as1-tu-203');
  test('two exports of one design differ in nothing but two colours', () => {
    const { status, out } = spawned('compare', AS1, TU);
    expect(status).toBe(0);
    expect(out).toMatchObject({ unchanged: 16, asked: [] });
    expect(
      (out as never as { changes: { kind: string; name: string; from: string; to: string }[] }).changes.map((c) => [c.kind, c.name, c.from, c.to]),
    ).toEqual([
      ['colour', 'rod', '#ff8000', '#ff9100'],
      ['colour', 'plate', '#ccff00', '#c7c700'],
    ]);
  });
  test('takes two files', () => {
    for (const files of [[AS1], [AS1, TU, AS1]]) expect(quarry('compare', ...files)).toMatchObject({ status: 2, out: { error: { code: 'BAD_USAGE' } } });
    expect(quarry('compare', AS1, 'nothing.stp')).toMatchObject({ status: 3, out: { error: { code: 'NOT_FOUND' } } });
  });
});

describe('quarry on odd files', () => {
  const cube = readFileSync(AS1.replace('cax-if/as1-oc-214.stp', 'cube-units/cube-mm.step'), 'latin1');
  const file = (name: string, text: string) => {
    writeFileSync(join(dir, name), text, 'latin1');
    return join(dir, name);
  };
  test('coordinates beyond all measure end in a sentence at once', () => {
    const huge = file('huge.step', cube.replace(/(CARTESIAN_POINT\s*\(\s*'[^']*'\s*,\s*\(\s*)[-\d.E+]+/, '$11.E300'));
    const began = performance.now();
    expect(quarry('inspect', huge)).toMatchObject({
      status: 3,
      out: { error: { code: 'FILE_DAMAGED', message: expect.stringMatching(/point #\d+ lies at \(1\.E300/) } },
    });
    expect(performance.now() - began).toBeLessThan(20_000);
  });
  test('reading ends at its limit', () => {
    const began = performance.now();
    expect(spawned('inspect', AS1, '--time-limit', '1')).toMatchObject({
      status: 3,
      out: { error: { code: 'IMPORT_TIMEOUT', message: expect.stringMatching(/longer than 1 second/) } },
    });
    expect(performance.now() - began).toBeLessThan(8000);
    expect(quarry('inspect', AS1, '--time-limit', 'soon')).toMatchObject({ status: 2 });
  });
  test('it does not go on when whoever started it has died', async () => {
    // A shell starts it in the background, tells its number, and is killed; so does npm.
    const shell = spawn('sh', ['-c', `${process.execPath} build/node/quarry.js draft ${AS1} --out ${dir} >/dev/null 2>&1 & echo $!; wait`], {
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    const pid = Number(await new Promise<string>((r) => shell.stdout.once('data', (d: Buffer) => r(d.toString()))));
    await new Promise((r) => setTimeout(r, 1500));
    const alive = () => {
      try {
        return process.kill(pid, 0);
      } catch {
        return false;
      }
    };
    expect(alive()).toBe(true);
    shell.kill('SIGKILL');
    for (let i = 0; i < 40 && alive(); i++) await new Promise((r) => setTimeout(r, 100));
    expect(alive()).toBe(false);
  });
  test('a size that cannot be is drawn all the same, and said; the unit can be told', () => {
    // The cube says metres: 1000 of them.
    const stated = file('km.step', cube.replace(/SI_UNIT\s*\(\s*\.MILLI\.\s*,\s*\.METRE\.\s*\)/g, 'SI_UNIT($,.METRE.)'));
    const { out } = quarry('inspect', stated);
    expect(out).toMatchObject({
      unit: 'm',
      warnings: [
        { code: 'SIZE_UNLIKELY', text: expect.stringMatching(/^The whole would be 1000 × 1000 × 1000 m: is m its unit\? In millimetres it would be/) },
      ],
    });
    const told = quarry('inspect', stated, '--unit', 'mm').out as never as { unit: string; warnings: unknown[]; boxMm: number[] };
    expect([told.unit, told.warnings]).toEqual(['mm', []]);
    for (const v of told.boxMm) expect(v).toBeCloseTo(1000, 6);
    const drawn = quarry('draft', stated, '--out', join(dir, 'km'));
    expect(drawn).toMatchObject({ status: 0, out: { sheets: 1, balloons: 0, itemsIdentified: 1 } });
  });
});
