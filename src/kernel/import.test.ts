import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { componentsOf, depthOf } from '../core/assembly/components.ts';
import { importReport } from '../core/assembly/report.ts';
import type { Assembly } from '../core/assembly/assembly.ts';
import { changeReport } from '../core/revision/changes.ts';
import { matchAssemblies } from '../core/revision/match.ts';
import { shapeTeller } from '../core/revision/same-shape.ts';
import type { ImportResult } from '../core/assembly/importing.ts';
import { SurfaceKind, FACE_STRIDE } from '../core/assembly/part-geometry.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import { viewBox } from '../core/shade/raster.ts';
import { readOnce } from './testing/shared-kernel.ts';

// Public files of the interoperability rounds for ISO 10303 (CAx-IF), from the npm package occt-import-js 0.0.23;
// counts, sizes and volumes measured once with an exact kernel, volumes in brackets stated inside the files.
const FILES = join(process.cwd(), 'node_modules/occt-import-js/test/testfiles');
const load = (...names: string[]): Promise<ImportResult> =>
  readOnce(names.map((n) => ({ name: n.split('/').pop()!, bytes: new Uint8Array(readFileSync(join(FILES, n))) })));
const folder = 'cax-if/s1-tu-203';
const s1 = () => ['s1-tu-203.stp', ...readdirSync(join(FILES, folder)).filter((f) => f.endsWith('.stp') && f !== 's1-tu-203.stp')].map((f) => `${folder}/${f}`);

const TABLE: [string, number, number, number, number[], number][] = [
  ['cax-if/as1-oc-214.stp', 18, 5, 3, [200, 150, 84], 764519.81],
  ['cax-if/as1-tu-203.stp', 18, 5, 3, [200, 150, 84], 764518.98],
  ['cax-if/dm1-oc-214.stp', 7, 3, 2, [52.5, 100, 84], 108453.85],
  ['cax-if/io1-cm-214.stp', 1, 1, 0, [31, 88, 88], 78234.42],
  ['cax-if/sg1-c5-214.stp', 1, 1, 0, [80, 80, 154.03], 355877.88],
  ['cube-units/cube-mm.step', 1, 1, 1, [1000, 1000, 1000], 1e9],
  ['cube-units/cube-m.step', 1, 1, 1, [1000, 1000, 1000], 1e9],
  ['cube-units/cube-in.step', 1, 1, 1, [1000, 1000, 1000], 1e9],
  ['rounded-cube/rounded-cube.step', 1, 1, 0, [10, 10, 10], 946.3495],
  // A cone up to its apex, on which the mesher gives up at first.
  ['conical-surface/conical-surface.step', 1, 1, 0, [7, 27.033, 27.033], 2518.889],
];

describe('assemblies of the interoperability rounds', () => {
  test.each(TABLE)('%s: %i components of %i parts, %i levels', async (file, components, parts, depth, size, volume) => {
    const { assembly, geometries } = await load(file);
    const list = componentsOf(assembly);
    expect([list.length, assembly.parts.length, depthOf(assembly)]).toEqual([components, parts, depth]);
    expect(list.reduce((s, c) => s + assembly.parts[c.part]!.volumeMm3, 0) / volume).toBeCloseTo(1, 5);
    const bodies = sceneOf(assembly, geometries);
    const [top, front] = [viewBox(bodies, namedFrame('top')), viewBox(bodies, namedFrame('front'))];
    [top[2] - top[0], top[3] - top[1], front[3] - front[1]].forEach((v, i) => expect(Math.abs(v / size[i]! - 1)).toBeLessThan(2e-3));
    expect([...geometries.values()].every((g) => g.closed)).toBe(true);
    // Paths are unique.
    expect(new Set(list.map((c) => c.path)).size).toBe(components);
  });

  test('an assembly in nine files', async () => {
    const { assembly } = await load(...s1());
    expect([componentsOf(assembly).length, assembly.parts.length, depthOf(assembly)]).toEqual([11, 8, 2]);
    expect(componentsOf(assembly).reduce((s, c) => s + assembly.parts[c.part]!.volumeMm3, 0) / 817729.3).toBeCloseTo(1, 5);
  });

  test('of the nine files all but the top are missing: their names are told', async () => {
    await expect(load(`${folder}/s1-tu-203.stp`)).rejects.toThrow(/were not given: .*\.stp/);
  });

  test('volumes that a file states for checking agree with ours', async () => {
    const report = importReport((await load('cax-if/as1-oc-214.stp')).assembly);
    expect(report.volumes.length).toBe(9);
    expect(report.volumes.filter((v) => !v.agrees)).toEqual([]);
    expect(report).toMatchObject({ components: 18, parts: 5, levels: 3, colors: 5, unit: 'mm', notices: [] });
  });

  test('colours, materials with density, units', async () => {
    expect((await load('cax-if/as1-oc-214.stp')).assembly.parts.map((p) => p.color)).toContain('#ff0000');
    expect((await load('cax-if/dm1-oc-214.stp')).assembly.parts.find((p) => p.name === 'nut')).toMatchObject({ material: 'AMS 5662; Inconel 718' });
    expect((await load('cube-units/cube-in.step')).assembly.unit).toBe('inch');
  });

  test('files with splines only still give cylinders and circles', async () => {
    const { assembly, geometries } = await load('cax-if/as1-oc-214.stp');
    const bolt = geometries.get(assembly.parts.find((p) => p.name === 'bolt')!.geometryKey)!;
    const radii = [...bolt.faceKind].flatMap((k, i) => (k === SurfaceKind.cylinder ? [bolt.faceParams[FACE_STRIDE * i + 6]] : []));
    // A head of 15 mm on a shank of 10 mm, each in two halves.
    expect(radii).toEqual([7.5, 7.5, 5, 5].map((r) => expect.closeTo(r, 5)));
    expect([...bolt.edgeCurve]).toContain(1);
  });
});

describe('two exports of one design (as1 of the CAx-IF rounds, by two systems)', () => {
  test('every part and component of the one is found in the other', async () => {
    const [a, b] = [await load('cax-if/as1-oc-214.stp'), await load('cax-if/as1-tu-203.stp')].map((r) => r.assembly) as [Assembly, Assembly];
    const m = matchAssemblies(a, b);
    expect(m.parts.length).toBe(5);
    expect(m.components.filter((c) => c >= 0).length).toBe(18);
    expect(changeReport(a, b, m).changes.filter((c) => c.kind === 'reshaped' || c.kind === 'added' || c.kind === 'removed')).toEqual([]);
  });
});

describe('the demo', () => {
  const demo = (n: number) => readOnce([{ name: `sw-40-rev${n}.step`, bytes: new Uint8Array(readFileSync(join(process.cwd(), `demo/sw-40-rev${n}.step`))) }]);
  test('carries structure, properties and materials; every part is watertight', async () => {
    const { assembly, geometries } = await demo(1);
    expect(assembly.name).toBe('Shoreline sampling winch');
    expect(assembly.properties).toMatchObject({ 'Drawing number': 'SW-40-00' });
    expect(
      assembly.nodes
        .filter((n) => n.part < 0 && n.parent === 0)
        .map((n) => n.name)
        .sort(),
    ).toEqual(['Boom assembly', 'Crank assembly', 'Drum assembly']);
    expect(assembly.parts.find((p) => p.name === 'Base plate')).toMatchObject({
      material: 'S355',
      densityKgM3: 7850,
      properties: { 'Drawing number': 'SW-40-01', Source: 'made' },
    });
    expect(componentsOf(assembly).length).toBeGreaterThanOrEqual(60);
    expect([...geometries.values()].filter((g) => !g.closed)).toEqual([]);
  });
  test('standard parts are known by their shape alone, and made parts are not taken for them', async () => {
    const { parts } = (await demo(1)).assembly;
    const found = parts.map((p) => [p.name, p.looksLike] as const);
    const standard = found.filter(([name]) => /^(Hex bolt|Hex nut|Washer) /.test(name));
    expect(standard.length).toBeGreaterThanOrEqual(3);
    for (const [name, shape] of standard)
      expect([name, shape]).toEqual([name, name.startsWith('Hex bolt') ? 'hex bolt' : name.startsWith('Hex nut') ? 'nut' : 'washer']);
    expect(found.filter(([name, shape]) => shape && /plate|frame|drum|arm|tube|fork/i.test(name))).toEqual([]);
  });
  test('has a second revision with every kind of change, and nothing else', async () => {
    const [before, after] = [await demo(1), await demo(2)];
    const [a, b] = [before.assembly, after.assembly];
    const geometries = new Map([...before.geometries, ...after.geometries]);
    const m = matchAssemblies(a, b, [], shapeTeller(geometries));
    expect(m.doubtful).toEqual([]);
    const { changes } = changeReport(a, b, m, geometries);
    const of = (kind: string) =>
      changes
        .filter((c) => c.kind === kind)
        .map((c) => c.name)
        .sort();
    expect(of('added')).toEqual(['Name plate']);
    expect(of('removed')).toEqual(['End washer']);
    expect(of('renamed')).toEqual(['Handle grip']);
    expect(of('count')).toEqual(['Washer 10']);
    expect(of('reshaped')).toEqual(['Boom tube', 'Crank arm', 'Drum flange']);
    expect(of('property')).toEqual(['Boom tube', 'Flange bearing', 'Sheave']);
    // The tube is longer, so all that hangs on its sheave moves; the crank too, so all that hangs on its grip.
    expect(of('moved')).toEqual([
      'Circlip 10',
      'Circlip 12',
      'Grip axle',
      'Handle grip',
      'Hex bolt M8x16',
      'Hex nut M10',
      'Sheave',
      'Sheave fork',
      'Sheave pin',
    ]);
    expect(new Set(changes.map((c) => c.kind))).toEqual(new Set(['added', 'removed', 'renamed', 'count', 'reshaped', 'property', 'moved']));
  });
});
