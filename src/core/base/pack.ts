/**
 * Typed arrays and plain values in one buffer, to store and to transfer.
 * Layout: 4 bytes kind, uint32 version, uint32 length of the JSON text, the text, then the arrays, each on an 8-byte boundary.
 * In the text an array stands as `{"$": [type, offset, length]}`, offsets counted from the first array.
 */
const TYPES = [Uint8Array, Int16Array, Int32Array, Uint32Array, Float32Array, Float64Array] as const;
type Packed = InstanceType<(typeof TYPES)[number]>;

const HEAD = 12;
const pad = (n: number) => (n + 7) & ~7;

/** @param kind four ASCII letters */
export function pack(kind: string, version: number, value: unknown): Uint8Array {
  const arrays: { at: number; array: Packed }[] = [];
  let size = 0;
  const text = JSON.stringify(value, (_, v: unknown) => {
    const type = TYPES.findIndex((T) => v instanceof T);
    if (type < 0) return v;
    const array = v as Packed;
    const at = size;
    arrays.push({ at, array });
    size = pad(size + array.byteLength);
    return { $: [type, at, array.length] };
  });
  const json = utf8(text);
  const base = pad(HEAD + json.length);
  const out = new Uint8Array(base + size);
  const view = new DataView(out.buffer);
  for (let i = 0; i < 4; i++) out[i] = kind.charCodeAt(i);
  view.setUint32(4, version, true);
  view.setUint32(8, json.length, true);
  out.set(json, HEAD);
  for (const { at, array } of arrays) out.set(new Uint8Array(array.buffer, array.byteOffset, array.byteLength), base + at);
  return out;
}

/** @returns undefined for another kind or version: recompute, never guess */
export function unpack<T>(kind: string, version: number, bytes: Uint8Array): T | undefined {
  if (bytes.length < HEAD) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let i = 0; i < 4; i++) if (bytes[i] !== kind.charCodeAt(i)) return undefined;
  if (view.getUint32(4, true) !== version) return undefined;
  const length = view.getUint32(8, true);
  const base = pad(HEAD + length);
  // A copy of its own, so that the arrays are aligned.
  const data = bytes.slice(base).buffer;
  return JSON.parse(fromUtf8(bytes.subarray(HEAD, HEAD + length)), (_, v: unknown) => {
    if (typeof v !== 'object' || v === null || !('$' in v)) return v;
    const [type, at, n] = v.$ as [number, number, number];
    return new TYPES[type]!(data, at, n);
  }) as T;
}

/** The poor world of the core has no TextEncoder. */
function utf8(text: string): Uint8Array {
  const escaped = unescape(encodeURIComponent(text));
  const out = new Uint8Array(escaped.length);
  for (let i = 0; i < escaped.length; i++) out[i] = escaped.charCodeAt(i);
  return out;
}

function fromUtf8(bytes: Uint8Array): string {
  let out = '';
  for (let i = 0; i < bytes.length; i += 8192) out += String.fromCharCode(...bytes.subarray(i, i + 8192));
  return decodeURIComponent(escape(out));
}
