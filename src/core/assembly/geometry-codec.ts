import { pack, unpack } from '../base/pack.ts';
import type { PartGeometry } from './part-geometry.ts';

const KIND = 'NQgm';
const VERSION = 1;

export const packGeometry = (g: PartGeometry): Uint8Array => pack(KIND, VERSION, g);
export const unpackGeometry = (bytes: Uint8Array): PartGeometry | undefined => unpack<PartGeometry>(KIND, VERSION, bytes);
