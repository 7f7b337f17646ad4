import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { loadKernel } from '../src/kernel/load.ts';
import { Solids } from './solids.ts';
import { winch } from './winch.ts';
import { writeDemoStep } from './write-step.ts';

/** Rebuilds the demo's STEP files: node scripts/build-demo.mjs */
const kernel = await loadKernel();
for (const revision of [1, 2] as const) {
  const solids = new Solids(kernel);
  const text = writeDemoStep(kernel, solids, winch(solids, revision));
  const file = join(process.cwd(), 'demo', `sw-40-rev${revision}.step`);
  writeFileSync(file, text);
  console.log(`${file}: ${(text.length / 1e6).toFixed(2)} MB`);
}
