import { decode, encode } from 'fast-png';
import { luma } from '../core/picture/grey.ts';

/** A picture without colours. */
export function greyPng(png: Uint8Array): Uint8Array {
  const { width, height, data, channels, depth } = decode(png);
  if (channels < 3 || depth !== 8) return png;
  const out = new Uint8Array(data);
  for (let i = 0; i < out.length; i += channels) {
    out[i] = out[i + 1] = out[i + 2] = luma(out[i]!, out[i + 1]!, out[i + 2]!);
  }
  return encode({ width, height, data: out, channels });
}
