import { existsSync, readFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { readdirSync } from 'node:fs';
import type { Solid, Solids } from '../demo/solids.ts';
import { IDENTITY } from '../src/core/base/placement.ts';
import { sceneOf } from '../src/core/outline/scene-of.ts';
import type { Body } from '../src/core/outline/scene.ts';
import { extractPart } from '../src/kernel/extract-part.ts';
import type { Kernel } from '../src/kernel/load.ts';
import { readStep } from '../src/kernel/read-step.ts';
import { readShape, readBrep } from '../src/kernel/testing/reference.ts';

/** Something to draw, as our bodies and as one shape for the kernel's own algorithms. */
export interface Case {
  readonly name: string;
  readonly bodies: readonly Body[];
  readonly shape: Solid;
}

const FILES = 'node_modules/occt-import-js/test/testfiles';

/** Solid files of public test sets; those from Debian packages (occt-misc, netgen-doc, gmsh-doc) only where they are installed. */
export const SINGLE_FILES = [
  `${FILES}/cax-if/io1-cm-214.stp`,
  `${FILES}/cax-if/sg1-c5-214.stp`,
  `${FILES}/rounded-cube/rounded-cube.step`,
  `${FILES}/conical-surface/conical-surface.step`,
  `${FILES}/cube-units/cube-mm.step`,
  '/usr/share/doc/netgen/examples/screw.step',
  '/usr/share/doc/netgen/examples/frame.step',
  '/usr/share/doc/gmsh-doc/doc/gmsh/tutorial/t20_data.step.gz',
  ...[
    'Axis_of_bearing',
    'Ball',
    'Bottom',
    'CrankArm',
    'Pump_Nut',
    'Pump_TopCover',
    'Top',
    'mal_ecrou',
    'mal_tige',
    'mal_vis',
    'bottle',
    'hammer',
    'fuse',
    'solid',
    'wedge_ok',
  ].map((n) => `/usr/share/opencascade/data/occ/${n}.brep`),
  '/usr/share/opencascade/data/step/linkrods.step',
];

export const ASSEMBLY_FILES = [
  `${FILES}/cax-if/dm1-oc-214.stp`,
  `${FILES}/cax-if/as1-oc-214.stp`,
  `${FILES}/cax-if/as1-tu-203.stp`,
  `${FILES}/cax-if/s1-tu-203/s1-tu-203.stp`,
];

export async function fileCase(kernel: Kernel, file: string): Promise<Case | undefined> {
  const path = join(process.cwd(), file);
  const at = existsSync(file) ? file : path;
  if (!existsSync(at)) return undefined;
  let bytes = new Uint8Array(readFileSync(at));
  if (at.endsWith('.gz')) bytes = new Uint8Array(gunzipSync(bytes));
  const name = basename(at).replace(/\..*$/, '');
  if (at.endsWith('.brep')) {
    const shape = readBrep(kernel, bytes);
    const geometry = extractPart(kernel, shape);
    return geometry && { name, shape, bodies: [{ component: 0, geometry, placement: IDENTITY }] };
  }
  const files = [{ name: basename(at).replace(/\.gz$/, ''), bytes }];
  if (name === 's1-tu-203')
    for (const f of readdirSync(dirname(at)))
      if (f !== basename(at) && /\.stp$/.test(f)) files.push({ name: f, bytes: new Uint8Array(readFileSync(join(dirname(at), f))) });
  let n = 0;
  const { assembly, geometries } = await readStep(kernel, files, { keyOf: () => `g${n++}` });
  return { name, bodies: sceneOf(assembly, geometries), shape: meshed(kernel, readShape(kernel, bytes, files)) };
}

/** The polygonal algorithm works on a shape's own mesh. */
function meshed(kernel: Kernel, shape: Solid): Solid {
  extractPart(kernel, shape);
  return shape;
}

/** The primitives, and a spring and a thread made of what they are made of in practice. */
export function primitiveCases(kernel: Kernel, s: Solids): Case[] {
  const thread = s.fuse(
    s.cylinder([0, 0, 0], 'z', 16, 4),
    s.turned([
      [0, 4],
      ...Array.from(
        { length: 12 },
        (_, i) =>
          [
            [4, 4 + i * 1.25],
            [5, 4.625 + i * 1.25],
          ] as [number, number][],
      ).flat(),
      [4, 19],
      [0, 19],
    ]),
  );
  const shapes: [string, Solid][] = [
    ['box', s.box([0, 0, 0], [40, 30, 20])],
    ['filleted box', s.round(s.box([0, 0, 0], [40, 30, 20]), 4, () => true)],
    ['cylinder', s.cylinder([0, 0, 0], 'z', 20, 30)],
    ['cone', s.cone(12, 4, 25)],
    ['pointed cone', s.cone(12, 0, 25)],
    ['sphere', s.ball(15)],
    ['torus', s.torus(20, 6)],
    ['spring', s.coil(24, 3, 7, 4)],
    ['thread of cones', thread],
    ['drilled block', s.cut(s.box([-20, -15, 0], [20, 15, 12]), s.cylinder([0, 0, -1], 'z', 14, 20), s.cylinder([-30, 0, 6], 'x', 6, 60))],
  ];
  return shapes.map(([name, shape]) => ({ name, shape, bodies: [{ component: 0, geometry: extractPart(kernel, shape)!, placement: IDENTITY }] }));
}
