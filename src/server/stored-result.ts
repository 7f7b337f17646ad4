import { gunzipSync, gzipSync } from 'node:zlib';
import { packResult, unpackResult } from '../core/views/result-codec.ts';
import type { ViewResult } from '../core/views/compute-view.ts';

/** A computed view as it is kept: pages get it as it is, and the ledger gets what it needs without the rest. */
export interface StoredResult {
  /** Packed, gzip. */
  readonly data: Uint8Array;
  /** Visible area per component, mm² at 1:1, as Float32. */
  readonly seen: Uint8Array;
}

/** Fast and nearly as small as the slowest: a view is compressed once, in the thread that computed it. */
const LEVEL = 4;

export function storedForm(result: ViewResult): StoredResult {
  return { data: new Uint8Array(gzipSync(packResult(result), { level: LEVEL })), seen: new Uint8Array(Float32Array.from(result.visibleArea).buffer) };
}

/** @returns undefined for a result of another version */
export const fromStored = (data: Uint8Array): ViewResult | undefined => unpackResult(new Uint8Array(gunzipSync(data)));
