import { decode, encode } from 'fast-png';

/** A picture without colours: luma of ITU-R BT.709, like that of the colours of lines. */
export function greyPng(png: Uint8Array): Uint8Array {
  const { width, height, data, channels, depth } = decode(png);
  if (channels < 3 || depth !== 8) return png;
  const out = new Uint8Array(data);
  for (let i = 0; i < out.length; i += channels) {
    const v = Math.round(0.2126 * out[i]! + 0.7152 * out[i + 1]! + 0.0722 * out[i + 2]!);
    out[i] = out[i + 1] = out[i + 2] = v;
  }
  return encode({ width, height, data: out, channels });
}
