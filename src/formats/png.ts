import { encode } from 'fast-png';

/** RGBA pixels, row 0 on top, as PNG. */
export function writePng(width: number, height: number, rgba: Uint8Array): Uint8Array {
  return encode({ width, height, data: rgba, channels: 4, depth: 8 });
}
