import { createHash } from 'node:crypto';
import { packGeometry } from '../../core/assembly/geometry-codec.ts';

import type { PartGeometry } from '../../core/assembly/part-geometry.ts';
import { loadKernel, type Kernel } from '../load.ts';
import type { ImportedFile, ImportResult } from '../../core/assembly/importing.ts';
import { readStep } from '../read-step.ts';

const shared = globalThis as { testKernel?: Promise<Kernel>; testReads?: Map<string, Promise<ImportResult>> };

/** The kernel of this test worker: its start takes seconds, and files that go through one worker share it. */
export const sharedKernel = (): Promise<Kernel> => (shared.testKernel ??= loadKernel());

const hashOf = (g: PartGeometry): string => createHash('sha256').update(packGeometry(g)).digest('hex');

/** Files as the kernel reads them, each set once in a test worker; keys of geometry are hashes of it. What comes back is not changed. */
export function readOnce(files: readonly ImportedFile[]): Promise<ImportResult> {
  const hash = createHash('sha256').update(JSON.stringify(files.map((f) => f.name)));
  for (const f of files) hash.update(f.bytes);
  const key = hash.digest('hex');
  const known = (shared.testReads ??= new Map<string, Promise<ImportResult>>());
  const before = known.get(key);
  if (before) return before;
  const made = sharedKernel().then((kernel) => readStep(kernel, files, { keyOf: hashOf }));
  known.set(key, made);
  return made;
}
