import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { quarry, spawned } from './testing/quarry.ts';

// The contract of `format` and of `draft --format`, on the built program and the demo's true solids.
const BRACKET = 'demo/gb-7.step';
const dir = mkdtempSync(join(tmpdir(), 'q-format-'));

test('what is shipped is listed, exported, changed, and drawn on', () => {
  const { formats } = spawned('format', 'list').out as unknown as { formats: { name: string; size: string }[] };
  expect(formats.map((f) => f.name)).toEqual(expect.arrayContaining(['ISO title block', 'ISO continuation', 'ASME title block', 'ASME title page']));
  const exported = quarry('format', 'export', 'ISO', 'folded').out as unknown as { name: string; elements: { cells: { text: string }[] }[] };
  expect(exported).toMatchObject({ format: 1, name: 'ISO folded' });
  const [block] = exported.elements;
  const own = {
    ...exported,
    name: 'Workshop',
    elements: [{ ...block, cells: block!.cells.map((c) => (c.text === '{sheetName}' ? { ...c, text: 'For {project}' } : c)) }],
    fields: { project: 'P-114' },
  };
  const file = join(dir, 'workshop.json');
  writeFileSync(file, JSON.stringify(own));
  const out = join(dir, 'out');
  const { status, out: said } = quarry('draft', BRACKET, '--out', out, '--format', file);
  expect(status).toBe(0);
  const findings = (said as unknown as { findings?: { severity: string }[] }).findings ?? [];
  expect(findings.filter((f) => f.severity === 'must')).toEqual([]);
  expect(readFileSync(join(out, 'sheet-1.svg'), 'utf8').includes('For P-114')).toBe(true);
  const drawing = JSON.parse(readFileSync(join(out, 'drawing.json'), 'utf8')) as {
    records: { type: string; name?: string; form?: object; format?: string; id: string }[];
  };
  const records = Object.values(drawing.records);
  const canvas = records.filter((r) => r.type === 'sheet' && r.form);
  expect(canvas.map((r) => r.name)).toEqual(['Workshop']);
  expect(records.filter((r) => r.type === 'sheet' && !r.form).every((r) => r.format === canvas[0]!.id)).toBe(true);
}, 60_000);

test.each([
  [['format'], 'format list'],
  [['format', 'export', 'Nobody'], 'There is no sheet format “Nobody”'],
  [['draft', BRACKET, '--out', dir, '--format', 'Nobody'], 'There is no sheet format'],
  [['draft', BRACKET, '--out', dir, '--format', join(dir, 'none.json')], 'cannot be read'],
])('%j gets a sentence', (args, words) => {
  const { status, out } = quarry(...args);
  expect(status).not.toBe(0);
  expect(out.error).toMatchObject({ code: 'BAD_USAGE', message: expect.stringContaining(words) as string });
});
