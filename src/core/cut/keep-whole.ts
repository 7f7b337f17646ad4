import type { Assembly, Component } from '../assembly/assembly.ts';
import { applyToDirection } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import { faceAreas } from '../assembly/face-areas.ts';
import { FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import type { Body } from '../outline/scene.ts';
import { roleOf } from '../assembly/role.ts';
import { staysWhole } from './lengthwise.ts';
import { turnedShape } from './turned-axis.ts';
import { middleOf } from './cut-scene.ts';
import { sideOf, turnedPlane, type CutShape } from './cut-shape.ts';
import type { Plane } from './plane-cut.ts';

export interface KeepWholeSuggestion {
  readonly component: number;
  readonly why: string;
}

/** Components that a section along the plane leaves uncut, see `staysWhole`. */
export function suggestKeptWhole(assembly: Assembly, components: readonly Component[], bodies: readonly Body[], plane: Plane): KeepWholeSuggestion[] {
  const out: KeepWholeSuggestion[] = [];
  for (const c of components) {
    const body = bodies[c.index]!;
    if (!crosses(body, plane)) continue;
    const part = assembly.parts[c.part]!;
    const why = staysWhole(
      {
        name: c.name,
        role: roleOf(c, part),
        turned: turnedShape(body),
        longest: longestOf(body),
        sphere: surfaceShare(body, (f) => body.geometry.faceKind[f] === SurfaceKind.sphere),
        webAlong: webAlong(body, plane),
      },
      plane,
    );
    if (why) out.push({ component: c.index, why });
  }
  return out;
}

/** The cut of a view: plane and what it takes away. */
export interface Cut {
  readonly normal: Vec3;
  readonly d: number;
  readonly shape?: CutShape | undefined;
}

/** Like suggestKeptWhole, for a cut that may be stepped or run along two planes: each component is asked by the plane it meets. */
export function suggestForCut(assembly: Assembly, components: readonly Component[], bodies: readonly Body[], cut: Cut): KeepWholeSuggestion[] {
  const { shape } = cut;
  const plane: Plane = { normal: cut.normal, d: cut.d };
  if (shape?.kind !== 'stepped' && shape?.kind !== 'aligned') return suggestKeptWhole(assembly, components, bodies, plane);
  const planes = shape.kind === 'stepped' ? shape.steps.map((s) => ({ normal: cut.normal, d: s.d })) : [plane, turnedPlane(shape, plane)];
  const placeOf = (c: number): number => {
    const middle = middleOf(bodies[c]!);
    if (shape.kind === 'aligned') return sideOf(shape, plane, middle);
    const at = dot(middle, shape.across);
    return Math.max(
      0,
      shape.steps.findLastIndex((s) => s.from <= at),
    );
  };
  return planes
    .flatMap((p, i) => suggestKeptWhole(assembly, components, bodies, p).filter((s) => placeOf(s.component) === i))
    .sort((a, b) => a.component - b.component);
}

/** Share of a body's surface for which `counts` holds, 0…1. */
function surfaceShare({ geometry }: Body, counts: (face: number) => boolean): number {
  const areas = faceAreas(geometry);
  const all = areas.reduce((sum, a) => sum + a, 0);
  return all > 0 ? areas.reduce((sum, a, f) => sum + (counts(f) ? a : 0), 0) / all : 0;
}

/** Thinner than this share of its smaller width a plate counts as a web. */
const WEB = 0.15;

/** So much longer than wide, and its long way stands for an axis. */
const CLEARLY_LONGER = 1.3;

/** The longest way of a body's box, unit vector in model space; undefined when two are about as long. */
function longestOf({ geometry: { box }, placement }: Body): Vec3 | undefined {
  const size = [0, 1, 2].map((k) => box[k + 3]! - box[k]!);
  const longest = size.indexOf(Math.max(...size));
  if (size.some((s, k) => k !== longest && s * CLEARLY_LONGER > size[longest]!)) return undefined;
  return applyToDirection(placement, [Number(longest === 0), Number(longest === 1), Number(longest === 2)]);
}

/** A flat part without holes that is cut along its own plane. */
function webAlong(body: Body, plane: Plane): 'square' | 'slanted' | undefined {
  const g = body.geometry;
  const size = [0, 1, 2].map((k) => g.box[k + 3]! - g.box[k]!);
  const thin = size.indexOf(Math.min(...size));
  const others = size.filter((_, k) => k !== thin);
  if (size[thin]! > WEB * Math.min(...others)) return undefined;
  const across: Vec3 = [thin === 0 ? 1 : 0, thin === 1 ? 1 : 0, thin === 2 ? 1 : 0];
  if (Math.abs(dot(applyToDirection(body.placement, across), plane.normal)) < 0.999) return undefined;
  const along = (f: number, k: number) => Math.abs(g.faceParams[f * FACE_STRIDE + 3 + k]!);
  const isFlat = (f: number) => g.faceKind[f] === SurfaceKind.plane;
  if (surfaceShare(body, (f) => isFlat(f) && along(f, thin) > 0.999) < 0.6) return undefined;
  if (g.faceKind.some((kind, f) => kind === SurfaceKind.cylinder && g.faceParams[f * FACE_STRIDE + 6]! < 0 && along(f, thin) > 0.999)) return undefined;
  const sides = (f: number) => isFlat(f) && along(f, thin) < 1e-3;
  const aslant = (f: number) => sides(f) && [0, 1, 2].every((k) => along(f, k) < 0.98);
  return surfaceShare(body, aslant) > 0.1 * surfaceShare(body, sides) ? 'slanted' : 'square';
}

function crosses(body: Body, plane: Plane): boolean {
  const m = body.placement;
  const p = body.geometry.positions;
  let above = false;
  let below = false;
  for (let i = 0; i < p.length && !(above && below); i += 3) {
    const h =
      plane.normal[0] * (m[0]! * p[i]! + m[1]! * p[i + 1]! + m[2]! * p[i + 2]! + m[3]!) +
      plane.normal[1] * (m[4]! * p[i]! + m[5]! * p[i + 1]! + m[6]! * p[i + 2]! + m[7]!) +
      plane.normal[2] * (m[8]! * p[i]! + m[9]! * p[i + 1]! + m[10]! * p[i + 2]! + m[11]!) -
      plane.d;
    if (h > 0) above = true;
    else below = true;
  }
  return above && below;
}
