import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ImportedFile } from '../../core/assembly/importing.ts';
import { config } from '../config.ts';

function demoFile(name: string): ImportedFile | undefined {
  const path = join(config.root, 'demo', name);
  return existsSync(path) ? { name, bytes: new Uint8Array(readFileSync(path)) } : undefined;
}

/** The demo's assembly, and the newer model of it; undefined where the demo is not installed. */
export const demoAssembly = () => demoFile('sw-40-rev1.step');
export const demoRevision = () => demoFile('sw-40-rev2.step');
/** A second, small one: of bent plate. */
export const demoBracket = () => demoFile('gb-7.step');
