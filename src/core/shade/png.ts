import { encode } from 'fast-png';

/** RGBA pixels, row 0 on top, as PNG. Packed lightly: shaded pictures are smooth, and time counts more than bytes. */
export function writePng(width: number, height: number, rgba: Uint8Array): Uint8Array {
  return encode({ width, height, data: rgba, channels: 4, depth: 8 }, { zlib: { level: 3 } });
}
