import { NodeIO } from '@gltf-transform/core';
import { unzipSync, strFromU8 } from 'fflate';
import { expect, test } from 'vitest';
import { componentsOf } from '../core/assembly/components.ts';
import { assemblyFromMeshes } from '../core/assembly/mesh-tree.ts';
import type { Pull } from '../core/explode/spread.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
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
