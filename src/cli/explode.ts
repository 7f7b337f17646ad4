import { componentsOf } from '../core/assembly/components.ts';
import { paperReport } from '../core/explode/on-paper.ts';
import { planSpread } from '../core/explode/plan.ts';
import { motionsOf, movedBodies } from '../core/explode/spread.ts';
import { namedFrame } from '../core/outline/directions.ts';
import { hiddenLines } from '../core/outline/hidden-lines.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';
import { saveSvg } from './save-svg.ts';

/** A planned spread. */
export async function explode(args: Arguments): Promise<unknown> {
  const m = await loadModel(args.files, args);
  const components = componentsOf(m.assembly);
  const bodies = sceneOf(m.assembly, m.geometries);
  const frame = namedFrame('isometric');
  const t = performance.now();
  const plan = planSpread(m.assembly, bodies, { frame });
  const planned = performance.now() - t;
  // At full size and without a gap: what overlaps is in square millimetres of the model.
  const { touches } = paperReport(bodies, plan.pulls, frame, 1, 0);
  if (args.options.has('svg')) await saveSvg(args, hiddenLines(movedBodies(bodies, motionsOf(plan.pulls, components.length)), frame));
  const path = (c: number) => components[c]!.path;
  return {
    pulls: plan.pulls.map(({ ways: _, ...p }, i) => ({
      ...p,
      components: p.components.map(path),
      hits: plan.hits
        .filter((h) => h.pull === i)
        .map((h) => ({ component: path(h.component), through: path(h.through), fromMm: h.from, toMm: h.to, at: h.at })),
    })),
    order: plan.order.map(path),
    blocked: plan.stuck.flatMap((s) => s.components.map(path)),
    heldBy: plan.stuck.map((s) => ({ components: s.components.map(path), by: s.by.map(path), direction: s.direction })),
    onPaper: { touching: touches.length, pairs: touches.map((x) => [x.first.map(path), x.second.map(path), x.overlapMm2]) },
    timingsMs: { plan: Math.round(planned) },
  };
}
