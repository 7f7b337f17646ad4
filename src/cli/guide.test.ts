import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { quarry, spawned } from './testing/quarry.ts';

// The contracts of `guide`, `draft --package` and `verify`, on the built program.
const AS1 = 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp';
const dir = mkdtempSync(join(tmpdir(), 'q-guide-'));
interface GuideAnswer {
  readonly steps: readonly { number: number; adds: string[]; items: { item: number; quantity: number }[]; text: string }[];
  readonly orderChecked: boolean;
}

test('a guide of a public assembly: 18 components, each added once, the plate first; page and PDF stand by themselves', () => {
  const { status, out } = spawned<GuideAnswer>('guide', AS1, '--out', dir, '--language', 'de');
  expect(status).toBe(0);
  expect(out.orderChecked).toBe(true);
  const adds = out.steps.flatMap((s) => s.adds);
  expect([adds.length, new Set(adds).size]).toEqual([18, 18]);
  expect(out.steps[0]!.text).toBe('Mit plate beginnen.');
  const totals = new Map<number, number>();
  for (const s of out.steps) for (const i of s.items) totals.set(i.item, (totals.get(i.item) ?? 0) + i.quantity);
  // as1: eight nuts, six bolts, two brackets, a rod and a plate.
  expect([...totals.values()].sort((a, b) => a - b)).toEqual([1, 1, 2, 6, 8]);
  const html = readFileSync(join(dir, 'guide.html'), 'utf8');
  expect(html).toContain('<html lang="de">');
  expect(html.match(/<section class="step"/g)).toHaveLength(out.steps.length);
  // The letters of the application come along, and every column of the kit list says what it is.
  expect(html.match(/@font-face\{font-family:'Source Sans 3';font-weight:(400|600);src:url\(data:font\/woff2/g)).toHaveLength(2);
  expect([...html.matchAll(/<th scope="col">([^<]+)</g)].map((m) => m[1])).toEqual(['Pos.', 'Menge', 'Bild', 'Benennung', 'Nummer', 'Platz', 'Werkzeug']);
  // Nothing is fetched.
  expect(html.match(/(src|href)="(?!data:)[^"]/g)).toBeNull();
  expect(readFileSync(join(dir, 'guide.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
});

test('a language that is not there, and no place to write to, are said', () => {
  expect(quarry('guide', AS1, '--out', dir, '--language', 'xx')).toMatchObject({ status: 2, out: { error: { code: 'BAD_USAGE' } } });
  expect(quarry('guide', AS1).status).toBe(2);
});

describe('a package', () => {
  const path = join(dir, 'package.zip');
  test('is made with the drawing, holds what was written beside it, and is verified', () => {
    expect(quarry('draft', AS1, '--out', dir, '--package').out).toMatchObject({ package: 'package.zip' });
    const { status, out } = spawned<{ ok: boolean; files: { name: string; bytes: number; sha256: string }[]; sha256: string }>('verify', path);
    expect(status).toBe(0);
    expect(out.ok).toBe(true);
    const names = out.files.map((f) => f.name);
    expect(names).toEqual(['drawing.pdf', ...names.filter((n) => n.endsWith('.svg')), 'parts-list.csv', 'drawing.json', 'parts-list.xlsx']);
    for (const f of out.files.filter((o) => o.name !== 'parts-list.xlsx')) expect(readFileSync(join(dir, f.name)).length).toBe(f.bytes);
  });
  test('one flipped byte is found, wherever it is', () => {
    const good = readFileSync(path);
    for (const share of [0.0001, 0.3, 0.6, 0.97, 0.9999]) {
      const bad = Buffer.from(good);
      const at = Math.floor(share * (bad.length - 1));
      bad[at] = bad[at]! ^ 0x10;
      writeFileSync(join(dir, 'bad.zip'), bad);
      const { status, out } = quarry('verify', join(dir, 'bad.zip'));
      expect([share, status]).toEqual([share, 3]);
      expect(['PACKAGE_CHANGED', 'ZIP_BROKEN']).toContain(out.error!.code);
    }
  });
});
