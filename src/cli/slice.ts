import { componentsOf } from '../core/assembly/components.ts';
import { QuarryError } from '../core/base/errors.ts';
import { normalize } from '../core/base/vector.ts';
import { cutScene } from '../core/cut/cut-scene.ts';
import { frameFrom } from '../core/outline/directions.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import type { Arguments } from './arguments.ts';
import { leftOutOf } from './choice.ts';
import { loadModel } from './load.ts';
import { numbersOf } from './numbers.ts';

/** Cut faces at several places along a direction: `--normal nx,ny,nz --at d1,d2,…`, mm along the unit normal. */
export async function slice(args: Arguments): Promise<unknown> {
  const n = numbersOf('normal', args.options.get('normal') ?? '', 3);
  if (Math.hypot(n[0]!, n[1]!, n[2]!) < 1e-9) throw new QuarryError('BAD_USAGE', { text: '--normal takes a direction that has a length.' });
  const normal = normalize([n[0]!, n[1]!, n[2]!]);
  const at = numbersOf('at', args.options.get('at') ?? '');
  const m = await loadModel(args.files, args);
  const components = componentsOf(m.assembly);
  const leftOut = new Set(leftOutOf(args, m.assembly));
  const bodies = sceneOf(m.assembly, m.geometries).filter((b) => !leftOut.has(b.component));
  const frame = frameFrom(normal, Math.abs(normal[2]) > 0.9 ? [0, 1, 0] : [0, 0, 1]);
  return {
    slices: at.map((d) => {
      const { caps, unhatched } = cutScene(bodies, { normal, d }, {}, frame);
      const byComponent = new Map<number, { areaMm2: number; loops: number }>();
      for (const c of caps) {
        const sum = byComponent.get(c.component) ?? { areaMm2: 0, loops: 0 };
        byComponent.set(c.component, { areaMm2: sum.areaMm2 + c.areaMm2, loops: sum.loops + c.loops.length });
      }
      return {
        d,
        areaMm2: caps.reduce((s, c) => s + c.areaMm2, 0),
        perComponent: [...byComponent].map(([c, of]) => ({ path: components[c]!.path, ...of })),
        open: unhatched.map((c) => components[c]!.path),
      };
    }),
  };
}
