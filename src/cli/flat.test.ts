import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { quarry as run, spawned } from './testing/quarry.ts';

// The contract of `flat`, on the built program and the demo's true solids.
const WINCH = 'demo/sw-40-rev1.step';
const dir = mkdtempSync(join(tmpdir(), 'q-flat-'));
interface Flat {
  readonly parts: readonly {
    name: string;
    thicknessMm: number;
    flatMm: [number, number];
    areaMm2: number;
    bends: { angleDeg: number; radiusMm: number; lengthMm: number; up: boolean }[];
  }[];
  readonly notSheet: readonly { name: string; why: string }[];
}
const quarry = (...argv: string[]) => run<Flat>(...argv);

test('both side frames of the winch are bent sheet and nothing else is; sizes by hand', () => {
  const { status, out } = spawned<Flat>('flat', WINCH, '--k', '0.44');
  expect(status).toBe(0);
  expect(out.parts.map((p) => p.name).sort()).toEqual(['Side frame left', 'Side frame right']);
  expect(out.notSheet).toHaveLength(31);
  // A foot of 46 and a web of 195, plate 6, bent 90° about 6: what is flat is 46 - 12 and 195 - 12.
  const allowance = (Math.PI / 2) * (6 + 0.44 * 6);
  const long = 34 + 183 + allowance;
  const left = out.parts.find((p) => p.name === 'Side frame left')!;
  expect(left.thicknessMm).toBeCloseTo(6, 6);
  expect(left.flatMm[0]).toBeCloseTo(long, 4);
  expect(left.flatMm[1]).toBeCloseTo(160, 4);
  // Two corners of 30, and holes of 30, four of 9 and two of 11.
  const area = long * 160 - 2 * (30 * 30 - (Math.PI * 30 * 30) / 4) - (Math.PI / 4) * (30 * 30 + 4 * 81 + 2 * 121);
  expect(Math.abs(left.areaMm2 - area) / area).toBeLessThan(1e-5);
  expect(left.bends).toHaveLength(1);
  expect(left.bends[0]!.angleDeg).toBeCloseTo(90, 5);
  expect([left.bends[0]!.radiusMm, left.bends[0]!.lengthMm].map((v) => Math.round(v * 1e4) / 1e4)).toEqual([6, 160]);
});

test('one part alone as SVG, true to size, outline and bends in groups of their own', () => {
  const file = join(dir, 'frame.svg');
  expect(quarry('flat', WINCH, '--part', 'Side frame right', '--svg', file).status).toBe(0);
  const svg = readFileSync(file, 'utf8');
  const width = Number(/width="([\d.]+)mm"/.exec(svg)![1]);
  // DIN 6935 at r = s: 0.65 of half the thickness.
  expect(width).toBeCloseTo(34 + 183 + (Math.PI / 2) * (6 + 0.325 * 6) + 20, 2);
  for (const id of ['outline', 'bend-lines', 'marks']) expect(svg).toContain(`<g id="${id}"`);
  // The outline and eight holes.
  expect(svg.split('<g id="bend-lines"')[0]!.match(/<path/g)).toHaveLength(9);
});

test('a part that is not there, and a K that is none, are said', () => {
  expect(quarry('flat', WINCH, '--part', 'Nothing').out.error?.code).toBe('BAD_USAGE');
  expect(quarry('flat', WINCH, '--k', '7').out.error?.code).toBe('BAD_USAGE');
});
