import type { Assembly } from './assembly.ts';
import type { PartGeometry } from './part-geometry.ts';

export interface ImportedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

export type ImportStage = 'starting' | 'reading' | 'translating' | 'meshing' | 'storing' | 'drawing';

export interface ImportResult {
  readonly assembly: Assembly;
  /** By `Part.geometryKey`. */
  readonly geometries: ReadonlyMap<string, PartGeometry>;
}
