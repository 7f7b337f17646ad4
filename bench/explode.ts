import { Solids } from '../demo/solids.ts';
import { winch } from '../demo/winch.ts';
import type { Assembly } from '../src/core/assembly/assembly.ts';
import { componentsOf } from '../src/core/assembly/components.ts';
import { fitSpread } from '../src/core/explode/fit.ts';
import { paperReport } from '../src/core/explode/on-paper.ts';
import { planSpread } from '../src/core/explode/plan.ts';
import { checkSpread } from '../src/core/explode/way-out.ts';
import { namedFrame } from '../src/core/outline/directions.ts';
import { sceneOf } from '../src/core/outline/scene-of.ts';
import { standardScales } from '../src/core/sheet/paper.ts';
import { loadKernel } from '../src/kernel/load.ts';
import { readStep } from '../src/kernel/read-step.ts';
import { writeDemoStep } from '../demo/write-step.ts';
import { keyedGeometry } from '../src/kernel/geometry-key.ts';
import { gearbox } from './gearbox.ts';
import { machine, type Machine } from './machine.ts';
import { report } from './scene.ts';

/** Plan, tighten and check: the demo, a gearbox of 60, machines of 200 and, when long, of 1,000 components. */
export async function benchExplode(long: boolean): Promise<void> {
  const kernel = await loadKernel();
  const solids = new Solids(kernel);
  const cases: Machine[] = [winch(solids, 1), gearbox(solids), machine(solids, 200), ...(long ? [machine(solids, 1000)] : [])];
  const frame = namedFrame('isometric');
  for (const m of cases) {
    const bytes = new TextEncoder().encode(writeDemoStep(kernel, solids, m));
    const { assembly, geometries } = await readStep(kernel, [{ name: `${m.name}.step`, bytes }], { keyOf: (g) => keyedGeometry(g).key });
    const bodies = sceneOf(assembly as Assembly, geometries);
    const t0 = performance.now();
    const plan = planSpread(assembly, bodies, { frame });
    const t1 = performance.now();
    const fit = fitSpread(bodies, plan.pulls, { frame, room: [350, 356], scales: standardScales('iso'), ways: plan.pulls.map((p) => p.ways) });
    const t2 = performance.now();
    const way = checkSpread(assembly, bodies, fit.pulls);
    const t3 = performance.now();
    report({
      case: m.name,
      components: componentsOf(assembly).length,
      pulls: plan.pulls.length,
      stuck: plan.stuck.length,
      notClear: way.clear.filter((c) => !c).length,
      planMs: t1 - t0,
      fitMs: t2 - t1,
      checkMs: t3 - t2,
      scale: fit.scale,
      gapMm: fit.gapMm,
      sizeMm: fit.size,
      fits: fit.fits,
      overlaps: paperReport(bodies, fit.pulls, frame, fit.scale, 0).touches.filter((t) => t.overlapMm2 > 0).length,
    });
  }
}
