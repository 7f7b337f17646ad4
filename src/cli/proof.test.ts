import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { quarry, spawned } from './testing/quarry.ts';

// The contract of `proof`, on the built program.
const AS1 = 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp';
interface Proof {
  readonly findings: readonly { code: string; severity: string; sheet: string | null; about: string[]; items: number[]; text: string; fix: boolean }[];
  readonly coverage: readonly { item: number; view: string; visibleMm2: number; share: number }[];
  readonly identified: number;
  readonly total: number;
}
const dir = mkdtempSync(join(tmpdir(), 'q-proof-'));

test('a first drawing is proved: every item seen and identified, nothing that must or should be put right but data that the file does not have', () => {
  const { status, out } = spawned<Proof>('proof', AS1);
  expect(status).toBe(0);
  expect([out.identified, out.total]).toEqual([5, 5]);
  expect(out.findings.filter((f) => f.severity !== 'look').map((f) => f.code)).toEqual(['LIST_GAP', 'LIST_GAP', 'LIST_GAP', 'LIST_GAP', 'LIST_GAP']);
  expect(out.findings.filter((f) => f.code === 'LIST_GAP').flatMap((f) => f.items)).toEqual([1, 2, 3, 4, 5]);
  for (const c of out.coverage) {
    expect(c.visibleMm2).toBeGreaterThan(0);
    expect([c.share >= 0, c.share <= 1.0001]).toEqual([true, true]);
  }
  // The plate of 200 × 150 mm is seen from above but for what stands on it.
  const plate = Math.max(...out.coverage.map((c) => c.visibleMm2));
  expect(plate).toBeGreaterThan(1000);
});

test('a drawing is judged that someone spoilt', () => {
  expect(quarry('draft', AS1, '--out', dir).status).toBe(0);
  const path = join(dir, 'drawing.json');
  const good = quarry<Proof>('proof', AS1, '--drawing', path).out;
  expect(good.findings.filter((f) => f.severity === 'must')).toEqual([]);
  const drawing = JSON.parse(readFileSync(path, 'utf8')) as { records: Record<string, { type: string; scale?: number; view?: string }> };
  const balloon = Object.entries(drawing.records).find(([, r]) => r.type === 'balloon')!;
  delete drawing.records[balloon[0]];
  const view = Object.entries(drawing.records).find(([, r]) => r.type === 'view')!;
  drawing.records[view[0]] = { ...view[1], scale: view[1].scale! * 0.93 };
  const spoilt = join(dir, 'spoilt.json');
  writeFileSync(spoilt, JSON.stringify(drawing));
  const { out } = quarry<Proof>('proof', AS1, '--drawing', spoilt);
  expect(out.identified).toBe(4);
  expect(out.findings.find((f) => f.code === 'NOT_IDENTIFIED')).toMatchObject({ severity: 'must', items: [expect.any(Number)], fix: true });
  expect(out.findings.find((f) => f.code === 'SCALE_ODD')).toMatchObject({ severity: 'should', about: [view[0]], fix: true });
}, 60_000);

test('what is no drawing is refused with a sentence', () => {
  const bad = join(dir, 'bad.json');
  writeFileSync(bad, '{"a":1}');
  expect(quarry('proof', AS1, '--drawing', bad)).toMatchObject({
    status: 3,
    out: { error: { code: 'BAD_REQUEST', message: expect.stringContaining('no drawing') as string } },
  });
  expect(quarry('proof', AS1, '--drawing', join(dir, 'none.json')).status).toBe(2);
});
