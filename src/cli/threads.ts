import { componentsOf } from '../core/assembly/components.ts';
import { featuresSource } from '../core/features/part-features.ts';
import { threadsOf } from '../core/thread/threads-of.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';

/** Screw threads of a model, and what they were recognised by. */
export async function threads(args: Arguments): Promise<unknown> {
  const m = await loadModel(args.files, args);
  const components = componentsOf(m.assembly);
  const found = threadsOf({ assembly: m.assembly, components, features: featuresSource(m.geometries) });
  return {
    threads: found.map((t) => ({
      component: components[t.component]!.path,
      designation: t.designation,
      majorMm: t.majorMm,
      minorMm: t.minorMm,
      pitchMm: t.pitchMm,
      lengthMm: t.span[1] - t.span[0],
      internal: t.internal,
      ...(t.leftHand ? { leftHand: true } : {}),
      from: t.from,
    })),
  };
}
