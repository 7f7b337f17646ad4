import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, test } from 'vitest';
import { packGeometry } from '../core/assembly/geometry-codec.ts';
import type { ImportResult } from '../core/assembly/importing.ts';
import { rescaleModel } from '../core/assembly/rescale.ts';
import { FACE_STRIDE, SurfaceKind } from '../core/assembly/part-geometry.ts';
import { applySteps } from '../core/document/steps.ts';
import { findingsOf } from '../core/proof/findings.ts';
import { draftAll } from '../core/testing/drafting.ts';
import { measured } from '../elements/dimension/measure.ts';
import { statedOf } from '../elements/dimension/stated.ts';
import { Scene } from '../elements/scene.ts';
import { statedRecords } from '../elements/stated.ts';
import type { Kernel } from './load.ts';
import { sharedKernel } from './testing/shared-kernel.ts';
import { readStep } from './read-step.ts';

/**
 * A small AP242 file of our own: a plate 120 × 80 × 20 with a bore Ø30 and a pin Ø30 beside it, and on them what a designer states:
 * Ø30 H7 of the bore, Ø30 +0.01 −0.02 of the pin, 20 ± 0.1 of the plate, its underside as datum A, the bore square to it.
 */
let k: Kernel;
let text: string;
const keyOf = (g: Parameters<typeof packGeometry>[0]) => createHash('sha256').update(packGeometry(g)).digest('hex');
const read = (t: string): Promise<ImportResult> => readStep(k, [{ name: 'plate.step', bytes: new TextEncoder().encode(t) }], { keyOf });

beforeAll(async () => {
  k = await sharedKernel();
  text = readFileSync(join(import.meta.dirname, 'testing/stated.step'), 'utf8');
});

/** The drawing of a file with all that it states brought onto its sheets. */
async function drawnWithAll() {
  const drawn = await draftAll(await read(text), { bare: true });
  const { scene } = drawn;
  let n = 0;
  const all = scene.all('view');
  const records = statedRecords(scene, all, (type) => `${type}:${n++}`);
  const made = applySteps(
    drawn.document,
    records.map((record) => ({ op: 'put' as const, record })),
  );
  if (!made.ok) throw new Error(made.reason);
  const sizes = records.filter((r) => r.type === 'dimension');
  return { sizes, records, results: drawn.results, scene: scene.with(made.document) };
}

describe('sizes that come with the file (ISO 10303-242)', () => {
  test('are those of their part, on its faces, with their tolerances', async () => {
    const { assembly, geometries } = await read(text);
    const [plate, pin] = ['Plate', 'Pin'].map((n) => assembly.parts.find((p) => p.name === n)!);
    const faceOf = (part: typeof plate, f: number) => {
      const g = geometries.get(part!.geometryKey)!;
      const [z, radius] = [2, 6].map((i) => Math.round(Math.abs(g.faceParams[f * FACE_STRIDE + i]!) * 1e4) / 1e4);
      return { kind: g.faceKind[f], radius, z };
    };
    const { sizes, tolerances, datums } = plate!.stated!;
    expect(sizes).toMatchObject([
      { kind: 'diameter', value: 30, fit: 'H7' },
      { kind: 'length', value: 20, lower: -0.1, upper: 0.1 },
    ]);
    expect(faceOf(plate, sizes[0]!.on[0]![0]!)).toMatchObject({ kind: SurfaceKind.cylinder, radius: 15 });
    expect(sizes[1]!.on.map((f) => faceOf(plate, f[0]!).z)).toEqual([0, 20]);
    expect(tolerances).toEqual([
      { of: 'flatness', zoneMm: 0.05, modifier: 'M', datums: [], on: sizes[1]!.on[1] },
      { of: 'perpendicularity', zoneMm: 0.05, round: true, datums: ['A'], on: sizes[0]!.on[0] },
    ]);
    expect(datums).toEqual([{ letter: 'A', on: sizes[1]!.on[0] }]);
    expect(pin!.stated!.sizes).toHaveLength(1);
    expect(pin!.stated!.sizes[0]).toMatchObject({ kind: 'diameter', value: 30, lower: -0.02 });
    expect(pin!.stated!.sizes[0]!.upper).toBeCloseTo(0.0254, 12);
    expect(faceOf(pin, pin!.stated!.sizes[0]!.on[0]![0]!)).toMatchObject({ kind: SurfaceKind.cylinder, radius: 15 });
  });
  test('grow with the model when its unit is another one', async () => {
    const { assembly, geometries } = await read(text);
    const { assembly: larger } = rescaleModel(assembly, geometries, 25.4, keyOf);
    const plate = larger.parts.find((p) => p.name === 'Plate')!;
    expect(plate.stated!.sizes.map((s) => s.value)).toEqual([762, 508]);
    expect(plate.stated!.sizes[1]!.upper).toBeCloseTo(2.54, 12);
    expect(plate.stated!.tolerances[0]!.zoneMm).toBeCloseTo(1.27, 12);
  });
  test('a file without any has none; what points at no face is left out', async () => {
    const bare = text.replace(/GEOMETRIC_ITEM_SPECIFIC_USAGE/g, 'PLACEHOLDER_USAGE');
    const { assembly } = await read(bare);
    expect(assembly.parts.map((p) => p.stated)).toEqual([undefined, undefined]);
  });
});

describe('brought onto the sheets', () => {
  test('each once, with its tolerance, in a view that shows it truly', async () => {
    const { sizes, records, scene } = await drawnWithAll();
    expect(sizes.map((d) => [d.kind === 'diameter' ? 'diameter' : 'length', d.text?.tolerance])).toEqual(
      expect.arrayContaining([
        ['diameter', { kind: 'fit', fit: 'H7', shows: 'both' }],
        ['diameter', { kind: 'limits', upper: 0.0254, lower: -0.02 }],
        ['length', { kind: 'equal', mm: 0.1 }],
      ]),
    );
    expect(sizes).toHaveLength(3);
    for (const d of sizes) {
      const [m] = measured(d, scene)!;
      expect(m!.value).toBeCloseTo(statedOf(d, scene)!.value, 4);
    }
    expect(records.flatMap((r) => (r.type === 'sign' ? [r.is] : []))).toEqual(
      expect.arrayContaining([
        { sign: 'datum', letter: 'A' },
        { sign: 'frame', rows: [{ of: 'perpendicularity', round: true, zone: '0.05', datums: ['A'] }], above: '' },
        { sign: 'frame', rows: [{ of: 'flatness', zone: '0.05', modifier: 'M', datums: [] }], above: '' },
      ]),
    );
    // What is there is not brought a second time.
    expect(statedRecords(scene, scene.all('view'), () => 'x')).toEqual([]);
  });
  test('nothing stands on anything else', async () => {
    const { scene, records } = await drawnWithAll();
    const ids = new Set(records.map((r) => r.id));
    const marked = findingsOf(scene).filter((f) => f.severity === 'must' && f.about.some((a) => ids.has(a)));
    expect(marked).toEqual([]);
  });
  test('a dimension that says another tolerance than the model is found', async () => {
    const { scene, sizes, results } = await drawnWithAll();
    const bore = sizes.find((d) => d.text?.tolerance?.kind === 'fit')!;
    const without = scene.with({ ...scene.document, [bore.id]: { ...bore, text: {} } });
    expect(findingsOf(without).filter((f) => f.code === 'AGAINST_MODEL')).toMatchObject([{ about: [bore.id], severity: 'must' }]);
    // The way a class is written is the drafter's own.
    const shorter = scene.with({ ...scene.document, [bore.id]: { ...bore, text: { tolerance: { kind: 'fit', fit: 'H7', shows: 'class' } } } });
    expect(findingsOf(shorter).filter((f) => f.code === 'AGAINST_MODEL')).toEqual([]);
    // The shape says something else than the size that is stated.
    const { assembly } = scene;
    const parts = assembly.parts.map((p) =>
      p.stated ? { ...p, stated: { ...p.stated, sizes: p.stated.sizes.map((s) => (s.fit ? { ...s, value: 30.2 } : s)) } } : p,
    );
    const other = new Scene({ document: scene.document, assembly: { ...assembly, parts }, results, features: scene.partFeatures! });
    expect(findingsOf(other).filter((f) => f.code === 'AGAINST_MODEL')).toMatchObject([{ about: [bore.id] }]);
  });
});
