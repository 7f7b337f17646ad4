import { Solids } from '../demo/solids.ts';
import { anyPerpendicular, type Vec3 } from '../src/core/base/vector.ts';
import { cutScene } from '../src/core/cut/cut-scene.ts';
import { namedFrame } from '../src/core/outline/directions.ts';
import { loadKernel } from '../src/kernel/load.ts';
import { loadSolidPort } from '../src/kernel/manifold.ts';
import { exactCutArea } from '../src/kernel/testing/reference.ts';
import { ASSEMBLY_FILES, fileCase, primitiveCases, SINGLE_FILES } from './cases.ts';
import { machine } from './machine.ts';
import { bestOf, report, SceneMaker } from './scene.ts';

const NORMALS: readonly Vec3[] = [
  [1, 0, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0.6, 0, 0.8],
];

/** Section areas and times against the kernel's boolean; then a machine of 1,000 alone. */
export async function benchCut(long: boolean): Promise<void> {
  const kernel = await loadKernel();
  const solids = new Solids(kernel);
  const port = await loadSolidPort();
  const cases = [
    ...primitiveCases(kernel, solids).filter((c) => long || c.name !== 'spring'),
    ...(await Promise.all([...(long ? SINGLE_FILES : SINGLE_FILES.slice(0, 5)), ...ASSEMBLY_FILES.slice(0, 2)].map((f) => fileCase(kernel, f)))).flatMap(
      (c) => c ?? [],
    ),
  ];
  for (const c of cases)
    for (const normal of NORMALS) {
      const d = middle(c.bodies, normal);
      const own = bestOf(3, () => cutScene(c.bodies, { normal, d }, {}, namedFrame('front')));
      const area = own.result.caps.reduce((s, x) => s + x.areaMm2, 0);
      // The same cut by the boolean package: a half section that takes everything.
      const shape = { kind: 'half', across: anyPerpendicular(normal), from: -1e4 } as const;
      const shaped = bestOf(3, () => cutScene(c.bodies, { normal, d }, { shape, solids: port }, namedFrame('front')));
      const exact = bestOf(1, () => exactCutArea(kernel, c.shape, normal, d, 5000));
      report({
        bench: 'cut',
        case: c.name,
        normal: normal.join(','),
        ownMs: own.ms,
        booleanTimes: exact.ms / own.ms,
        manifoldTimes: shaped.ms / own.ms,
        shapedToPlane: area > 0 ? shaped.result.caps.reduce((sum, x) => sum + x.areaMm2, 0) / area - 1 : 0,
        uncut: shaped.result.uncut.length,
        areaMm2: area,
        areaToBoolean: exact.result > 0 ? area / exact.result - 1 : area,
        openLoops: own.result.openLoops,
      });
    }
  const bodies = new SceneMaker(kernel, solids).bodies(machine(solids, 1000).children);
  const own = bestOf(3, () => cutScene(bodies, { normal: [0, -1, 0], d: middle(bodies, [0, -1, 0]) }, {}, namedFrame('front')));
  report({ bench: 'cut', case: 'machine of 1000', ownMs: own.ms, openLoops: own.result.openLoops, caps: own.result.caps.length });
}

/** A plane a little off the middle, so that it runs through the material and along no face. */
function middle(bodies: Parameters<typeof cutScene>[0], n: Vec3): number {
  let lo = Infinity;
  let hi = -Infinity;
  for (const { geometry: g, placement: m } of bodies)
    for (let i = 0; i < g.positions.length; i += 3) {
      const [x, y, z] = [g.positions[i]!, g.positions[i + 1]!, g.positions[i + 2]!];
      const h =
        n[0] * (m[0]! * x + m[1]! * y + m[2]! * z + m[3]!) +
        n[1] * (m[4]! * x + m[5]! * y + m[6]! * z + m[7]!) +
        n[2] * (m[8]! * x + m[9]! * y + m[10]! * z + m[11]!);
      if (h < lo) lo = h;
      if (h > hi) hi = h;
    }
  return lo + (hi - lo) * 0.4837;
}
