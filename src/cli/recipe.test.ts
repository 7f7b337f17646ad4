import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { quarry, spawned } from './testing/quarry.ts';

// The contract of `recipe` and of `draft --recipe`, on the built program and the demo's true solids.
const BRACKET = 'demo/gb-7.step';
const dir = mkdtempSync(join(tmpdir(), 'q-recipe-'));

test('what is shipped is listed, and exported as a file that draft takes', () => {
  const listed = spawned('recipe', 'list').out as unknown as { recipes: { name: string; sheets: { per: string; slots: string[] }[] }[] };
  expect(listed.recipes.map((r) => r.name)).toEqual(['Arrangement', 'Arrangement with part sheets', 'Bench set', 'Bent plates']);
  const { status, out } = quarry('recipe', 'export', 'Bench', 'set');
  expect(status).toBe(0);
  expect(out).toMatchObject({ format: 1, name: 'Bench set' });
});

test('a recipe from a file: its slots are told, filled or why not; nothing has to be put right', () => {
  const file = join(dir, 'mine.json');
  const recipe = {
    format: 1,
    name: 'Mine',
    words: '',
    sheets: [
      {
        name: 'Bent: {subject}',
        per: 'bent part',
        slots: [
          { want: 'flat pattern', name: 'Flat', dimensions: true, centrelines: true },
          { want: 'bend table', name: 'Bends' },
        ],
      },
      { name: 'Of {subject}', per: 'sub-assembly', slots: [{ want: 'exploded view', name: 'Apart' }] },
    ],
  };
  writeFileSync(file, JSON.stringify(recipe));
  const { status, out } = quarry('draft', BRACKET, '--out', join(dir, 'out'), '--recipe', file);
  expect(status).toBe(0);
  const { slots, sheets, findings } = out as unknown as {
    sheets: number;
    slots: { sheet: string; name: string; filled: boolean; why: string }[];
    findings: { severity: string; text: string }[];
  };
  expect(sheets).toBe(2);
  expect(slots.map((s) => [s.sheet, s.name, s.filled])).toEqual([
    ['Bent: Channel, wall', 'Flat', true],
    ['Bent: Channel, wall', 'Bends', true],
    ['Bent: Angle, shelf', 'Flat', true],
    ['Bent: Angle, shelf', 'Bends', true],
    ['Of {subject}', 'Apart', false],
  ]);
  expect(slots.at(-1)!.why).toBe('The model has no sub-assembly.');
  expect(findings.filter((f) => f.severity === 'must')).toEqual([]);
  expect(readdirSync(join(dir, 'out'))).toEqual(expect.arrayContaining(['drawing.pdf', 'sheet-2.svg']));
  // The flat size by hand: 160 long; web of 80, flanges of 30, plate 3 bent about 3 (DIN 6935: 0.65 of half the thickness at r = s).
  const wide = 80 - 12 + 2 * (30 - 6) + 2 * (Math.PI / 2) * (3 + 0.325 * 3);
  expect(readFileSync(join(dir, 'out', 'sheet-1.svg'), 'utf8')).toContain(String(Math.round(wide * 100) / 100));
}, 60_000);

test('a name or a file that is no recipe gets a sentence', () => {
  expect(quarry('draft', BRACKET, '--out', dir, '--recipe', 'Nonsense').out.error!.message).toContain('There are: Arrangement');
  const file = join(dir, 'broken.json');
  writeFileSync(file, '{"format":1}');
  expect(quarry('draft', BRACKET, '--out', dir, '--recipe', file).out.error!.message).toContain('This is no recipe');
  expect(quarry('recipe', 'bake').out.error!.code).toBe('BAD_USAGE');
});
