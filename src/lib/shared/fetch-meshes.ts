import { unpackGeometry } from '$core/assembly/geometry-codec';
import type { PartGeometry } from '$core/assembly/part-geometry';

/** Fetches the geometry of parts, a few at a time. @param onLoaded is told how many have come */
export async function fetchMeshes(keys: readonly string[], signal: AbortSignal, onLoaded: (count: number) => void): Promise<Map<string, PartGeometry>> {
  const found = new Map<string, PartGeometry>();
  const open = [...keys];
  let loaded = 0;
  const fetchSome = async () => {
    for (let key = open.pop(); key !== undefined; key = open.pop()) {
      const r = await fetch(`/api/parts/${key}/mesh`, { signal });
      const g = r.ok ? unpackGeometry(new Uint8Array(await r.arrayBuffer())) : undefined;
      if (g) found.set(key, g);
      onLoaded(++loaded);
    }
  };
  await Promise.all(Array.from({ length: 6 }, fetchSome));
  return found;
}
