import { NodeIO } from '@gltf-transform/core';
import { unzipSync, strFromU8 } from 'fflate';
import { expect, test } from 'vitest';
import { componentsOf } from '../core/assembly/components.ts';
import { assemblyFromMeshes } from '../core/assembly/mesh-tree.ts';
import type { Pull } from '../core/explode/spread.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import { pointsOfPath } from '../core/testing/paths.ts';
import { assemblyOf, box, cylinder } from '../core/testing/shapes.ts';
import { readGltf } from './readers/gltf.ts';
import { spreadAsGltf } from './spread-gltf.ts';
import { stepPictures } from './step-pictures.ts';

const { assembly, geometries } = assemblyOf([
  { name: 'Plate', geometry: box([0, 0, 0], [100, 60, 10]) },
  { name: 'Pin', geometry: cylinder(5, 40, 24), at: [50, 30, 10] },
  { name: 'Lever', geometry: box([0, 0, 0], [30, 10, 5]), at: [10, 10, 10] },
]);
const pulls: Pull[] = [
  { components: [1], direction: [0, 0, 1], distanceMm: 80 },
  { components: [2], direction: [0, 0, 1], distanceMm: 0, turn: { axis: [0, 0, 1], through: [10, 10, 10], angle: Math.PI / 2 } },
];

test('the GLB reads back as the same assembly, and its animation ends where the pulls end', async () => {
  const bytes = await spreadAsGltf(assembly, geometries, pulls);
  const read = assemblyFromMeshes(await readGltf({ name: 'apart.glb', bytes }, []), { unitMm: 1000, up: 'y' }, (g) => String(g.volumeMm3));
  expect(componentsOf(read.assembly).map((c) => c.name)).toEqual(['Plate', 'Pin', 'Lever']);
  expect(read.assembly.parts.map((p) => Math.round(p.volumeMm3 / 10))).toEqual([6000, expect.any(Number), 150]);

  const document = await new NodeIO().readBinary(bytes);
  const [animation] = document.getRoot().listAnimations();
  const channel = (node: string, path: string) => animation!.listChannels().find((c) => c.getTargetNode()!.getName() === node && c.getTargetPath() === path)!;
  const last = (node: string, path: string) => {
    const output = channel(node, path).getSampler()!.getOutput()!;
    return output.getElement(output.getCount() - 1, []);
  };
  // Millimetres below a root that scales to metres.
  expect(last('Pin', 'translation')).toEqual([50, 30, 90]);
  const q = last('Lever', 'rotation');
  expect([q[2], q[3]].map((v) => Math.abs(v!))).toEqual([expect.closeTo(Math.SQRT1_2, 5), expect.closeTo(Math.SQRT1_2, 5)]);
  expect(animation!.listChannels().some((c) => c.getTargetNode()!.getName() === 'Plate')).toBe(false);
  // Times run forward.
  for (const c of animation!.listChannels()) {
    const times = [...c.getSampler()!.getInput()!.getArray()!];
    expect(times).toEqual([...times].sort((a, b) => a - b));
    expect(new Set(times).size).toBe(times.length);
  }
});

test('a numbered picture for each step of building it, what is new drawn bold', () => {
  const files = unzipSync(stepPictures(assembly, sceneOf(assembly, geometries), pulls, namedFrame('isometric'), { aborted: false }, () => undefined));
  expect(Object.keys(files).sort()).toEqual(['step-001.svg', 'step-002.svg', 'step-003.svg']);
  const bold = (name: string) => {
    const text = strFromU8(files[name]!);
    const widths = new Set([...text.matchAll(/stroke-width="([\d.]+)"/g)].map((m) => m[1]));
    return { widths: widths.size, label: />(\d+)<\/text>/.exec(text)?.[1] };
  };
  expect(bold('step-001.svg')).toEqual({ widths: 1, label: '1' });
  expect(bold('step-002.svg')).toEqual({ widths: 2, label: '2' });
  // All pictures are of one size, that of the whole taken apart.
  const boxes = new Set(Object.values(files).map((f) => /viewBox="([^"]+)"/.exec(strFromU8(f))?.[1]));
  expect(boxes.size).toBe(1);
});

test('each thing of one shape and colour is written once; colours are linear light; what stands still has no keys', async () => {
  const twice = assemblyOf([
    { name: 'Red', geometry: box([0, 0, 0], [10, 10, 10]) },
    { name: 'Grey', geometry: box([0, 0, 0], [10, 10, 10]), at: [40, 0, 0] },
  ]);
  const painted = {
    ...twice.assembly,
    parts: twice.assembly.parts.map((p, i) => ({ ...p, geometryKey: 'g0', ...(i === 0 ? { color: '#ff0a80' } : {}) })),
    nodes: twice.assembly.nodes.map((n, i) => (i === 2 ? { ...n, color: '#808080' } : n)),
  };
  const document = await new NodeIO().readBinary(await spreadAsGltf(painted, twice.geometries, []));
  const root = document.getRoot();
  expect(root.listNodes().map((n) => n.getName())).toEqual(['Test assembly', 'Red', 'Grey']);
  // IEC 61966-2-1: 255 is 1, 10 lies in the straight part (10 / 255 / 12.92), 128 is 0.2159.
  const colors = Object.fromEntries(root.listMaterials().map((m) => [m.getName(), m.getBaseColorFactor()]));
  const near = (v: readonly number[]) => v.map((x) => expect.closeTo(x, 4));
  expect(colors).toEqual({ '#ff0a80': near([1, 10 / 255 / 12.92, 0.2159, 1]), '#808080': near([0.2159, 0.2159, 0.2159, 1]) });
  const positions = root.listMeshes().map((m) => m.listPrimitives()[0]!.getAttribute('POSITION'));
  expect(positions[0]).toBe(positions[1]);
  expect(root.listAnimations()[0]!.listChannels()).toEqual([]);
});

test('a component without a colour is plain, one without a shape has no node', async () => {
  const plain = { ...assembly, parts: assembly.parts.map((p, i) => (i === 1 ? { ...p, geometryKey: 'gone' } : p)) };
  const root = (await new NodeIO().readBinary(await spreadAsGltf(plain, geometries, pulls))).getRoot();
  expect(root.listNodes().map((n) => n.getName())).toEqual(['Test assembly', 'Plate', 'Lever']);
  expect(root.listMaterials().map((m) => m.getName())).toEqual(['plain']);
});

test('each pull takes its 0.8 s, before which its parts wait; a turn is kept in six positions', async () => {
  const document = await new NodeIO().readBinary(await spreadAsGltf(assembly, geometries, pulls));
  const keys = (node: string, path: string) => {
    const s = document
      .getRoot()
      .listAnimations()[0]!
      .listChannels()
      .find((c) => c.getTargetNode()!.getName() === node && c.getTargetPath() === path)!
      .getSampler()!;
    const output = s.getOutput()!;
    return [...s.getInput()!.getArray()!].map(
      (t, i) => [Math.round(t * 1000) / 1000, output.getElement(i, []).map((v) => Math.round(v * 1000) / 1000)] as const,
    );
  };
  // The pin goes first, and waits while the lever turns.
  expect(keys('Pin', 'translation')).toEqual([
    [0, [50, 30, 10]],
    [0.8, [50, 30, 90]],
    [1.6, [50, 30, 90]],
  ]);
  const lever = keys('Lever', 'rotation');
  expect(lever.map((k) => k[0])).toEqual([0, 0.8, 0.933, 1.067, 1.2, 1.333, 1.467, 1.6]);
  expect(lever.map((k) => Math.round((2 * Math.atan2(k[1][2]!, k[1][3]!) * 180) / Math.PI))).toEqual([0, 0, 15, 30, 45, 60, 75, 90]);
  expect(
    document
      .getRoot()
      .listAnimations()[0]!
      .listChannels()
      .filter((c) => c.getTargetNode()!.getName() === 'Pin'),
  ).toHaveLength(1);
});

test('what the next step adds is what the last pull took: where it stands and how the picture lies', () => {
  const one = assemblyOf([
    { name: 'Base', geometry: box([0, 0, 0], [60, 20, 10]) },
    { name: 'Top', geometry: box([0, 0, 10], [60, 20, 20]) },
    { name: 'Lid', geometry: box([0, 0, 20], [60, 20, 30]) },
  ]);
  const lifts: Pull[] = [
    { components: [2], direction: [0, 0, 1], distanceMm: 60 },
    { components: [1], direction: [0, 0, 1], distanceMm: 20 },
  ];
  const progress: number[] = [];
  const files = unzipSync(
    stepPictures(one.assembly, sceneOf(one.assembly, one.geometries), lifts, namedFrame('front'), { aborted: false }, (s) => progress.push(s)),
  );
  expect(progress.map((p) => Math.round(p * 3))).toEqual([1, 2, 3]);
  const text = (n: number) => strFromU8(files[`step-00${n}.svg`]!);
  // 60 wide, 90 high with the lid lifted: 3 % of 90 around, a pen of a tenth of a millimetre.
  expect(/viewBox="([^"]+)"/.exec(text(1))![1]).toBe('-2.7 -2.7 65.4 95.4');
  const bold = (n: number) =>
    [...text(n).matchAll(/<path d="([^"]+)" stroke-width="0.22"/g)].flatMap((m) =>
      pointsOfPath(m[1]!)
        .flat()
        .map((p) => p[1]),
    );
  const span = (v: readonly number[]) => [Math.min(...v), Math.max(...v)];
  expect(bold(1)).toEqual([]);
  // The top block is put on first: 10 to 20 mm up, counted down from 90; then the lid.
  expect(span(bold(2))).toEqual([70, 80]);
  expect(span(bold(3))).toEqual([60, 70]);
});
