import { createHash } from 'node:crypto';
import { packGeometry } from '../core/assembly/geometry-codec.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';

/** A geometry packed, with the key under which it is stored: the hash of its content. */
export function keyedGeometry(geometry: PartGeometry): { key: string; packed: Uint8Array } {
  const packed = packGeometry(geometry);
  return { key: createHash('sha256').update(packed).digest('hex').slice(0, 40), packed };
}
