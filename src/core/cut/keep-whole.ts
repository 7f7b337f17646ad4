import type { Assembly, Component } from '../assembly/assembly.ts';
import { applyToDirection } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import { faceAreas } from '../assembly/face-areas.ts';
import { FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import type { Body } from '../outline/scene.ts';
import { distanceToLine, turnedAxis } from './turned-axis.ts';
import { middleOf } from './cut-scene.ts';
import { sideOf, turnedPlane, type CutShape } from './cut-shape.ts';
import type { Plane } from './plane-cut.ts';

export interface KeepWholeSuggestion {
  readonly component: number;
  readonly why: string;
}

const BY_NAME = /\b(bolt|screw|nut|washer|pin|key|rivet|circlip|stud|shaft|axle|rod|spindle|ball|roller)\b/i;

/**
 * Components that a section along the plane leaves uncut: fasteners, keys and pins by name, solid turned parts (shafts)
 * whose axis lies in the plane, balls, and thin plates that the plane runs along. ISO 128-40: such parts are not sectioned lengthwise.
 */
export function suggestKeptWhole(assembly: Assembly, components: readonly Component[], bodies: readonly Body[], plane: Plane): KeepWholeSuggestion[] {
  const out: KeepWholeSuggestion[] = [];
  for (const c of components) {
    const body = bodies[c.index]!;
    if (!crosses(body, plane)) continue;
    const turned = turnedAxis(body);
    const inPlane =
      turned &&
      Math.abs(dot(turned.axis, plane.normal)) < 1e-3 &&
      Math.abs(dot(turned.point, plane.normal) - plane.d) < 0.02 * Math.cbrt(assembly.parts[c.part]!.volumeMm3);
    if (BY_NAME.test(c.name)) {
      // A key or pin across the plane is cut like anything else.
      if (!turned || inPlane || Math.abs(dot(turned.axis, plane.normal)) < 0.5)
        out.push({ component: c.index, why: `“${c.name}” has the name of a fastener, key, pin or shaft.` });
      continue;
    }
    if (turned && inPlane && turned.share > 0.75 && !isBored(body)) out.push({ component: c.index, why: 'A solid turned part whose axis lies in the cut.' });
    else if (isBall(body)) out.push({ component: c.index, why: 'A ball: its section would look like a disc.' });
    else if (isWebAlong(body, plane)) out.push({ component: c.index, why: 'A thin plate that the cut runs along: sectioned it would look solid.' });
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

const isBall = (body: Body) => surfaceShare(body, (f) => body.geometry.faceKind[f] === SurfaceKind.sphere) > 0.6;

/** Thinner than this share of its smaller width a plate counts as a web. */
const WEB = 0.15;

/** A flat part, cut along its plane: ribs and webs are not hatched then (ISO 128-40). */
function isWebAlong(body: Body, plane: Plane): boolean {
  const g = body.geometry;
  const size = [0, 1, 2].map((k) => g.box[k + 3]! - g.box[k]!);
  const thin = size.indexOf(Math.min(...size));
  const others = size.filter((_, k) => k !== thin);
  if (size[thin]! > WEB * Math.min(...others)) return false;
  const across: Vec3 = [thin === 0 ? 1 : 0, thin === 1 ? 1 : 0, thin === 2 ? 1 : 0];
  if (Math.abs(dot(applyToDirection(body.placement, across), plane.normal)) < 0.999) return false;
  const flat = (f: number) => g.faceKind[f] === SurfaceKind.plane && Math.abs(g.faceParams[f * FACE_STRIDE + 3 + thin]!) > 0.999;
  return surfaceShare(body, flat) > 0.6;
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

/** Has the part a hole along its own axis? A hole's normals point to its axis: the fitted radius is negative. */
function isBored(body: Body): boolean {
  const g = body.geometry;
  const own = turnedAxis({ ...body, placement: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0] });
  if (!own) return false;
  for (let f = 0; f < g.faceKind.length; f++) {
    if (g.faceKind[f] !== SurfaceKind.cylinder) continue;
    const o = f * FACE_STRIDE;
    const radius = g.faceParams[o + 6]!;
    if (radius >= 0) continue;
    const axis = [g.faceParams[o + 3]!, g.faceParams[o + 4]!, g.faceParams[o + 5]!] as const;
    if (Math.abs(Math.abs(dot(axis, own.axis)) - 1) > 1e-6) continue;
    if (distanceToLine([g.faceParams[o]!, g.faceParams[o + 1]!, g.faceParams[o + 2]!], own.point, own.axis) < 1e-3 - radius * 0.01) return true;
  }
  return false;
}
