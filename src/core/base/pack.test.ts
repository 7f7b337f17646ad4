import { describe, expect, test } from 'vitest';
import { pack, unpack } from './pack.ts';

const value = {
  name: 'Ø 12 – 設計',
  list: [new Float64Array([1.5, -2, NaN]), { a: new Int16Array([-1, 7]) }],
  none: null,
  flags: new Uint8Array([1]),
  empty: new Float32Array(0),
};

describe('packing', () => {
  test('arrays and plain values come back as they were', () => {
    expect(unpack('TEST', 3, pack('TEST', 3, value))).toEqual(value);
  });
  test('it can be read from the middle of a larger buffer', () => {
    const bytes = pack('TEST', 3, value);
    const larger = new Uint8Array(bytes.length + 5);
    larger.set(bytes, 5);
    expect(unpack('TEST', 3, larger.subarray(5))).toEqual(value);
  });
  test('another kind, version or junk is not guessed at', () => {
    const bytes = pack('TEST', 3, value);
    expect(unpack('ELSE', 3, bytes)).toBeUndefined();
    expect(unpack('TEST', 4, bytes)).toBeUndefined();
    expect(unpack('TEST', 3, bytes.slice(0, 6))).toBeUndefined();
  });
  test('the same value gives the same bytes', () => {
    expect(pack('TEST', 1, value)).toEqual(pack('TEST', 1, value));
  });
});
