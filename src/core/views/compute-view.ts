import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { checkCancel, type Cancel } from '../base/errors.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import { cutScene, type Cap } from '../cut/cut-scene.ts';
import type { SolidPort } from '../cut/solid-port.ts';
import { explodeBodies } from '../explode/spread.ts';
import { linesOf } from '../outline/hidden-lines.ts';
import type { Linework } from '../outline/linework.ts';
import { projectScene, type Body } from '../outline/scene.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { colorBytes, planeBox, rasterize, visiblePixels, windowAround, type Window } from '../shade/raster.ts';
import type { ViewSpec } from './view-spec.ts';

/** A computed view: view space, model mm. */
export interface ViewResult {
  readonly lines: Linework;
  readonly caps: readonly Cap[];
  /** minX minY maxX maxY of what is drawn. */
  readonly box: readonly [number, number, number, number];
  /** Visible area per component, mm² in the view plane at 1:1. */
  readonly visibleArea: Float64Array;
  /** Which component each pixel of `window` shows, -1 for none: for picking and for aiming leaders. */
  readonly map: { readonly window: Window; readonly component: Int16Array };
  /** Own pull of each moved component, from the middle of its box. */
  readonly pulls: readonly { readonly component: number; readonly from: readonly [number, number]; readonly to: readonly [number, number] }[];
  /** Shaded picture, when asked for. */
  readonly shading: { readonly window: Window; readonly rgba: Uint8Array } | null;
}

/** Pixels on the longer side of the item map and of the shaded picture. */
const MAP_PIXELS = 900;
const SHADING_PIXELS = 1600;

/**
 * Computes a view from the specification.
 * @param solids needed when the cut has a shape
 * @throws QuarryError CANCELLED
 */
export function computeView(
  assembly: Assembly,
  geometries: ReadonlyMap<string, PartGeometry>,
  spec: ViewSpec,
  cancel?: Cancel,
  solids?: SolidPort,
): ViewResult {
  const components = componentsOf(assembly);
  const assembled = sceneOf(assembly, geometries);
  let bodies: readonly Body[] = spec.offsets.length ? explodeBodies(assembled, spec.offsets) : assembled;
  let caps: readonly Cap[] = [];
  if (spec.cut) {
    const cut = cutScene(
      bodies,
      { normal: spec.cut.normal, d: spec.cut.d },
      { keptWhole: new Set(spec.cut.keptWhole), shape: spec.cut.shape, behindMm: spec.cut.behindMm, solids },
      spec.frame,
    );
    bodies = cut.bodies;
    caps = cut.caps;
  }
  checkCancel(cancel);
  const scene = projectScene(bodies, spec.frame);
  const lines = linesOf(scene, { hidden: spec.hidden, tangent: spec.tangent, ...(cancel ? { cancel } : {}) });
  const box = planeBox(scene);
  const window = windowAround(box, MAP_PIXELS);
  checkCancel(cancel);
  const raster = rasterize(scene, window, components.length);
  const pixels = visiblePixels(raster, components.length);
  const visibleArea = Float64Array.from(pixels, (n) => n * window.pixelMm * window.pixelMm);
  let shading: ViewResult['shading'] = null;
  if (spec.shaded) {
    const colors = components.map((c) => colorBytes(assembly.nodes[c.node]!.color ?? assembly.parts[c.part]!.color));
    const picture = rasterize(scene, windowAround(box, SHADING_PIXELS), components.length, { colors });
    shading = { window: picture.window, rgba: picture.rgba! };
  }
  return { lines, caps, box, visibleArea, map: { window, component: Int16Array.from(raster.component) }, pulls: pullPaths(assembled, spec), shading };
}

/** From where each component's middle is pulled, along its own pull, to where it is. */
function pullPaths(assembled: readonly Body[], spec: ViewSpec): ViewResult['pulls'] {
  const out: { component: number; from: [number, number]; to: [number, number] }[] = [];
  for (const body of assembled) {
    const own = spec.ownPulls[body.component];
    const o = spec.offsets[body.component];
    if (!own || !o || (own[0] === 0 && own[1] === 0 && own[2] === 0)) continue;
    const b = body.geometry.box;
    const m = body.placement;
    const c: Vec3 = [(b[0] + b[3]) / 2, (b[1] + b[4]) / 2, (b[2] + b[5]) / 2];
    const p: Vec3 = [
      m[0]! * c[0] + m[1]! * c[1] + m[2]! * c[2] + m[3]!,
      m[4]! * c[0] + m[5]! * c[1] + m[6]! * c[2] + m[7]!,
      m[8]! * c[0] + m[9]! * c[1] + m[10]! * c[2] + m[11]!,
    ];
    const { right, up } = spec.frame;
    const to: [number, number] = [dot(p, right) + dot(o, right), dot(p, up) + dot(o, up)];
    out.push({ component: body.component, from: [to[0] - dot(own, right), to[1] - dot(own, up)], to });
  }
  return out;
}

/** Component at a point of view space, or -1. */
export function componentAt(result: ViewResult, x: number, y: number): number {
  const { window, component } = result.map;
  const i = Math.floor((x - window.minX) / window.pixelMm);
  const j = Math.floor((window.maxY - y) / window.pixelMm);
  return i >= 0 && j >= 0 && i < window.width && j < window.height ? component[j * window.width + i]! : -1;
}
