import { Solids } from '../demo/solids.ts';
import { writeDemoStep } from '../demo/write-step.ts';
import { packGeometry } from '../src/core/assembly/geometry-codec.ts';
import { componentsOf } from '../src/core/assembly/components.ts';
import { loadKernel } from '../src/kernel/load.ts';
import { readStep } from '../src/kernel/read-step.ts';
import { machine } from './machine.ts';
import { report } from './scene.ts';

/** Bringing in 1,000 components of 200 parts, stage by stage. */
export async function benchImport(): Promise<void> {
  let t = performance.now();
  const lap = () => {
    const now = performance.now();
    const ms = now - t;
    t = now;
    return ms;
  };
  const kernel = await loadKernel();
  const startMs = lap();
  const solids = new Solids(kernel);
  const text = writeDemoStep(kernel, solids, machine(solids, 1000));
  const bytes = new TextEncoder().encode(text);
  lap();
  const stages: Record<string, number> = {};
  let stage = 'checking';
  let n = 0;
  const { assembly, geometries } = readStep(kernel, [{ name: 'machine.stp', bytes }], {
    keyOf: () => `g${n++}`,
    onProgress: (next) => {
      if (next === stage) return;
      stages[stage] = (stages[stage] ?? 0) + lap();
      stage = next;
    },
  });
  stages[stage] = (stages[stage] ?? 0) + lap();
  for (const g of geometries.values()) packGeometry(g);
  report({
    bench: 'import',
    components: componentsOf(assembly).length,
    parts: assembly.parts.length,
    megabytes: bytes.length / 1e6,
    kernelStartMs: startMs,
    ...Object.fromEntries(Object.entries(stages).map(([k, v]) => [`${k}Ms`, v])),
    packingMs: lap(),
    kernelHeapMb: kernel.HEAPU8.byteLength / 1e6,
  });
}
