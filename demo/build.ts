import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { loadKernel } from '../src/kernel/load.ts';
import { gaugeBracket } from './bracket.ts';
import { Solids } from './solids.ts';
import { winch } from './winch.ts';
import { writeDemoStep } from './write-step.ts';

/** Rebuilds the demo's STEP files: node scripts/build-demo.mjs */
const kernel = await loadKernel();
for (const [name, make] of [
  ['sw-40-rev1', (s: Solids) => winch(s, 1)],
  ['sw-40-rev2', (s: Solids) => winch(s, 2)],
  ['gb-7', gaugeBracket],
] as const) {
  const solids = new Solids(kernel);
  const text = writeDemoStep(kernel, solids, make(solids));
  const file = join(process.cwd(), 'demo', `${name}.step`);
  writeFileSync(file, text);
  console.log(`${file}: ${(text.length / 1e6).toFixed(2)} MB`);
}
