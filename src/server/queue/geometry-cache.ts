import { once } from 'node:events';
import type { MessagePort } from 'node:worker_threads';
import { unpackGeometry } from '../../core/assembly/geometry-codec.ts';
import type { PartGeometry } from '../../core/assembly/part-geometry.ts';
import type { Interim } from '../../core/explode/requests.ts';

/** What a thread tells while it works: what it needs, or how things stand. */
export type Told = { readonly need: readonly string[] } | Interim;
/** What it gets for a need. */
export type GeometryAnswer = readonly (readonly [string, Uint8Array])[];

/** Bytes of geometry that one thread keeps; what was not used for longest goes first. */
const LIMIT_BYTES = 600_000_000;

/** Geometry kept by this thread between tasks: views of one job read it once. */
const kept = new Map<string, { readonly geometry: PartGeometry; readonly bytes: number }>();
let total = 0;

/**
 * Geometries by key; those that this thread does not have yet come through the port.
 * @throws RangeError when the other side does not have one either
 */
export async function geometriesFor(keys: readonly string[], port: MessagePort): Promise<Map<string, PartGeometry>> {
  const need = keys.filter((k) => !kept.has(k));
  if (need.length) {
    const answer = once(port, 'message') as Promise<[GeometryAnswer]>;
    port.postMessage({ need } satisfies Told);
    for (const [key, packed] of (await answer)[0]) keep(key, packed);
  }
  const out = new Map<string, PartGeometry>();
  for (const key of keys) {
    const entry = kept.get(key);
    if (!entry) throw new RangeError(`No geometry ${key}`);
    // Used last: goes last.
    kept.delete(key);
    kept.set(key, entry);
    out.set(key, entry.geometry);
  }
  shrink(new Set(keys));
  return out;
}

function keep(key: string, packed: Uint8Array): void {
  const geometry = unpackGeometry(packed);
  if (!geometry) return;
  kept.set(key, { geometry, bytes: packed.byteLength });
  total += packed.byteLength;
}

function shrink(inUse: ReadonlySet<string>): void {
  for (const [key, { bytes }] of kept) {
    if (total <= LIMIT_BYTES) return;
    if (inUse.has(key)) continue;
    kept.delete(key);
    total -= bytes;
  }
}
