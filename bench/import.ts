import { join } from 'node:path';
import { Solids } from '../demo/solids.ts';
import { writeDemoStep } from '../demo/write-step.ts';
import { componentsOf } from '../src/core/assembly/components.ts';
import { KernelHost } from '../src/kernel/host.ts';
import { loadKernel } from '../src/kernel/load.ts';
import { machine } from './machine.ts';
import { report } from './scene.ts';

/** Bringing in 1,000 components of 200 parts, stage by stage, without and with a thread that helps with the meshing. */
export async function benchImport(): Promise<void> {
  const kernel = await loadKernel();
  const solids = new Solids(kernel);
  const files = [{ name: 'machine.stp', bytes: new TextEncoder().encode(writeDemoStep(kernel, solids, machine(solids, 1000))) }];
  for (const helpers of [0, 1]) {
    const host = new KernelHost(join(process.cwd(), 'build/node/kernel.thread.js'));
    const stages: Record<string, number> = {};
    let stage = 'starting';
    let t = performance.now();
    const lap = () => {
      const now = performance.now();
      stages[stage] = (stages[stage] ?? 0) + now - t;
      t = now;
    };
    const { assembly, heapBytes } = await host.import(files, {
      helpers,
      timeoutMs: 600_000,
      onProgress: (next) => {
        if (next === stage) return;
        lap();
        stage = next;
      },
    });
    lap();
    const total = Object.values(stages).reduce((a, b) => a + b, 0);
    report({
      bench: 'import',
      components: componentsOf(assembly).length,
      parts: assembly.parts.length,
      megabytes: files[0]!.bytes.length / 1e6,
      helpers,
      totalMs: total,
      ...Object.fromEntries(Object.entries(stages).map(([k, v]) => [`${k}Share`, v / total])),
      kernelHeapMb: heapBytes / 1e6,
    });
    await host.close();
  }
}
