import type { Placement } from '../base/placement.ts';
import type { Assembly } from './assembly.ts';
import { CurveKind, EDGE_STRIDE, FACE_STRIDE, SurfaceKind, type PartGeometry } from './part-geometry.ts';
import { rescaleStated } from './stated.ts';
import { mmPerUnit, unitName } from './units.ts';

/** A geometry `k` times as large. */
export function rescaleGeometry(g: PartGeometry, k: number): PartGeometry {
  const faceParams = g.faceParams.slice();
  for (let f = 0; f < g.faceKind.length; f++) {
    const q = f * FACE_STRIDE;
    for (const i of [0, 1, 2]) faceParams[q + i]! *= k;
    if (g.faceKind[f] === SurfaceKind.plane || g.faceKind[f] === SurfaceKind.free) continue;
    faceParams[q + 6]! *= k;
    // The second value of a torus is a radius; that of a cone is an angle.
    if (g.faceKind[f] === SurfaceKind.torus) faceParams[q + 7]! *= k;
  }
  const edgeParams = g.edgeParams.slice();
  for (let e = 0; e < g.edgeCurve.length; e++) if (g.edgeCurve[e] === CurveKind.circle) for (const i of [0, 1, 2, 6]) edgeParams[e * EDGE_STRIDE + i]! *= k;
  return {
    ...g,
    positions: g.positions.map((v) => v * k),
    faceParams,
    edgeParams,
    deflectionMm: g.deflectionMm * k,
    volumeMm3: g.volumeMm3 * k ** 3,
    areaMm2: g.areaMm2 * k * k,
    centroid: scaled(g.centroid, k),
    box: g.box.map((v) => v * k) as unknown as PartGeometry['box'],
  };
}

const scaled = (v: readonly [number, number, number], k: number): [number, number, number] => [v[0] * k, v[1] * k, v[2] * k];
const farther = (m: Placement, k: number): Placement => m.map((v, i) => (i % 4 === 3 ? v * k : v));

/**
 * The same model read in another unit: everything grows or shrinks alike; ids, names and structure stay.
 * @param unitMm of the unit that the file means
 * @param keyOf hash of a geometry's content
 */
export function rescaleModel(
  assembly: Assembly,
  geometries: ReadonlyMap<string, PartGeometry>,
  unitMm: number,
  keyOf: (g: PartGeometry) => string,
): { readonly assembly: Assembly; readonly geometries: Map<string, PartGeometry> } {
  const k = unitMm / (mmPerUnit(assembly.unit) ?? 1);
  const out = new Map<string, PartGeometry>();
  const newKey = new Map<string, string>();
  for (const p of assembly.parts) {
    const g = geometries.get(p.geometryKey);
    if (!g || newKey.has(p.geometryKey)) continue;
    const larger = rescaleGeometry(g, k);
    const key = keyOf(larger);
    newKey.set(p.geometryKey, key);
    out.set(key, larger);
  }
  return {
    geometries: out,
    assembly: {
      ...assembly,
      unit: unitName(unitMm),
      parts: assembly.parts.map((p) => ({
        ...p,
        geometryKey: newKey.get(p.geometryKey) ?? p.geometryKey,
        volumeMm3: p.volumeMm3 * k ** 3,
        areaMm2: p.areaMm2 * k * k,
        centroid: scaled(p.centroid, k),
        box: p.box.map((v) => v * k),
        ...(p.stated ? { stated: rescaleStated(p.stated, k) } : {}),
      })),
      nodes: assembly.nodes.map((n) => ({ ...n, placement: farther(n.placement, k) })),
      ...(assembly.statedVolumes ? { statedVolumes: Object.fromEntries(Object.entries(assembly.statedVolumes).map(([n, v]) => [n, v * k ** 3])) } : {}),
    },
  };
}
