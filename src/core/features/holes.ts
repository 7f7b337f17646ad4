import { CurveKind, EDGE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { dot, length, scale, subtract, type Vec3 } from '../base/vector.ts';
import type { PartFeatures, Round } from './part-features.ts';

/** A hole as it is made: its bore, how deep, and what widens its mouth. mm, rad */
export interface Hole {
  readonly diameterMm: number;
  /** Of the bore from the mouth; undefined: it goes through. */
  readonly depthMm: number | undefined;
  readonly counterbore?: { readonly diameterMm: number; readonly depthMm: number };
  readonly countersink?: { readonly diameterMm: number; readonly angle: number };
  /** Index of the bore in `rounds`. */
  readonly bore: number;
}

const SAME = 1e-3;

/** The hole that a round surface belongs to; undefined for shafts. */
export function holeAt(f: PartFeatures, round: number): Hole | undefined {
  const lead = f.rounds[round];
  if (!lead?.inward || (lead.kind !== SurfaceKind.cylinder && lead.kind !== SurfaceKind.cone)) return undefined;
  const together = f.rounds.flatMap((r, i) => {
    const span = r.inward && (r.kind === SurfaceKind.cylinder || r.kind === SurfaceKind.cone) ? spanOn(lead, r) : undefined;
    return span ? [{ r, i, from: span[0], to: span[1], flipped: dot(lead.axis, r.axis) < 0 }] : [];
  });
  // What touches one another along the axis is one hole.
  let [from, to] = [lead.from, lead.to];
  let group = together.filter((t) => t.i === round);
  for (let grown = true; grown;) {
    const more = together.filter((t) => !group.includes(t) && t.from <= to + SAME && t.to >= from - SAME);
    grown = more.length > 0;
    group = [...group, ...more];
    from = Math.min(...group.map((t) => t.from));
    to = Math.max(...group.map((t) => t.to));
  }
  const cylinders = group.filter((t) => t.r.kind === SurfaceKind.cylinder).sort((a, b) => a.r.radius - b.r.radius);
  const [bore] = cylinders;
  if (!bore) return undefined;
  const [closedBelow, closedAbove] = [isClosed(f, bore, group, from, -1), isClosed(f, bore, group, to, 1)];
  // Looked at from its mouth.
  const mouth = closedAbove || (!closedBelow && cylinders.some((c) => c !== bore && c.from < bore.from)) ? -1 : 1;
  const through = !closedBelow && !closedAbove;
  const entry = mouth > 0 ? to : from;
  const wider = cylinders.find((c) => c !== bore && Math.abs((mouth > 0 ? c.to : c.from) - entry) < SAME + c.r.radius / 4);
  const sink = group.find((t) => t.r.kind === SurfaceKind.cone && widest(t.r) > bore.r.radius + SAME && Math.abs((mouth > 0 ? t.to : t.from) - entry) < SAME);
  const bottom = mouth > 0 ? bore.from : bore.to;
  return {
    diameterMm: 2 * bore.r.radius,
    depthMm: through ? undefined : Math.abs(entry - bottom),
    bore: bore.i,
    ...(wider ? { counterbore: { diameterMm: 2 * wider.r.radius, depthMm: wider.to - wider.from } } : {}),
    ...(sink && !wider && widest(sink.r) > 1.25 * bore.r.radius ? { countersink: { diameterMm: 2 * widest(sink.r), angle: 2 * sink.r.second } } : {}),
  };
}

/** The span of a round on the axis of another; undefined when it is on another axis. */
function spanOn(a: Round, b: Round): readonly [number, number] | undefined {
  const c = dot(a.axis, b.axis);
  if (Math.abs(Math.abs(c) - 1) > 1e-6) return undefined;
  const d = subtract(b.at, a.at);
  const shift = dot(d, a.axis);
  if (length(subtract(d, scale(a.axis, shift))) > 0.01) return undefined;
  return c > 0 ? [b.from + shift, b.to + shift] : [shift - b.to, shift - b.from];
}

/** The larger radius of a cone. */
function widest(r: Round): number {
  return r.radius + Math.max(r.from * Math.tan(r.second), r.to * Math.tan(r.second));
}

interface Piece {
  readonly r: Round;
  readonly from: number;
  readonly to: number;
  /** Its own axis looks the other way. */
  readonly flipped: boolean;
}

/** Does a hole end at this end in a flat bottom, or in the point of a drill? */
function isClosed(f: PartFeatures, bore: Piece, group: readonly Piece[], end: number, way: 1 | -1): boolean {
  const last = group.find((t) => Math.abs((way > 0 ? t.to : t.from) - end) < SAME)!;
  if (last.r.kind === SurfaceKind.cone && Math.min(...[last.r.from, last.r.to].map((v) => last.r.radius + v * Math.tan(last.r.second))) < 0.05 * bore.r.radius)
    return true;
  // A disc that the last circle alone bounds.
  for (let e = 0; e < f.edgeCurve.length; e++) {
    if (f.edgeCurve[e] !== CurveKind.circle) continue;
    const [p, q] = [f.edgeFaces[e * 2]!, f.edgeFaces[e * 2 + 1]!];
    const plane = last.r.faces.includes(p) ? q : last.r.faces.includes(q) ? p : -1;
    if (plane < 0 || f.faceKind[plane] !== SurfaceKind.plane) continue;
    const k = e * EDGE_STRIDE;
    const centre: Vec3 = [f.edgeParams[k]!, f.edgeParams[k + 1]!, f.edgeParams[k + 2]!];
    const along = dot(subtract(centre, last.r.at), last.r.axis);
    if (Math.abs(along - (way > 0 !== last.flipped ? last.r.to : last.r.from)) > SAME) continue;
    if (edgesOf(f, plane).every((o) => o === e || (f.edgeCurve[o] === CurveKind.circle && f.edgeParams[o * EDGE_STRIDE + 6]! <= f.edgeParams[k + 6]! + SAME)))
      return true;
  }
  return false;
}

function edgesOf(f: PartFeatures, face: number): number[] {
  const out: number[] = [];
  for (let e = 0; e < f.edgeCurve.length; e++) if (f.edgeFaces[e * 2] === face || f.edgeFaces[e * 2 + 1] === face) out.push(e);
  return out;
}
