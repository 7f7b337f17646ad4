import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { dot, vectorAt, type Vec3 } from '../base/vector.ts';

/** How an end of a bar is cut: turned away from square, rad; null for one that no plane cuts. */
export type EndCut = number | null;

/** A plane that is turned farther than this from square is a side of the bar, not its end, rad. */
const MOST = (80 * Math.PI) / 180;
/** An end reaches as far as the bar does, mm. */
const REACH_MM = 0.05;

/** Both ends of a bar along its axis, the lower one first. @param axis unit */
export function endCuts(g: PartGeometry, axis: Vec3): readonly [EndCut, EndCut] {
  let [low, high] = [Infinity, -Infinity];
  const reach = Array.from(g.faceKind, (): [number, number] => [Infinity, -Infinity]);
  for (let t = 0; t < g.triangleFace.length; t++)
    for (let k = 0; k < 3; k++) {
      const h = dot(vectorAt(g.positions, g.triangles[t * 3 + k]! * 3), axis);
      const r = reach[g.triangleFace[t]!]!;
      if (h < r[0]) r[0] = h;
      if (h > r[1]) r[1] = h;
      if (h < low) low = h;
      if (h > high) high = h;
    }
  const at = (sign: 1 | -1): EndCut => {
    let cut: EndCut = null;
    g.faceKind.forEach((kind, f) => {
      if (kind !== SurfaceKind.plane) return;
      const along = sign * dot(vectorAt(g.faceParams, f * FACE_STRIDE + 3), axis);
      const [from, to] = reach[f]!;
      if (along < Math.cos(MOST) || (sign > 0 ? high - to : from - low) > REACH_MM) return;
      const angle = Math.acos(Math.min(1, along));
      if (cut === null || angle > cut) cut = angle < 1e-4 ? 0 : angle;
    });
    return cut;
  };
  return [at(-1), at(1)];
}

/** `45° / 0°`; nothing for a bar whose ends are both square. */
export function endsText(ends: readonly [EndCut, EndCut] | undefined): string {
  if (!ends || ends.every((e) => e === 0)) return '';
  return ends.map((e) => (e === null ? 'shaped' : `${Number(((e * 180) / Math.PI).toFixed(1))}°`)).join(' / ');
}
