import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { IDENTITY } from '../base/placement.ts';
import { laidPart } from '../flat/flat-part.ts';
import { checkCancel, type Cancel } from '../base/errors.ts';
import { cutScene, type Cap } from '../cut/cut-scene.ts';
import { settleSharedSpace } from '../cut/shared-space.ts';
import type { SolidPort } from '../cut/solid-port.ts';
import { flatLines, pullLines, type FlatLine } from '../explode/pull-lines.ts';
import { motionsOf, movedBodies, type Pull } from '../explode/spread.ts';
import { linesOf } from '../outline/hidden-lines.ts';
import { EMPTY_LINEWORK, type Linework } from '../outline/linework.ts';
import { projectScene, type Body } from '../outline/scene.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { writePng } from '../shade/png.ts';
import { colorBytes, itemColor } from '../shade/colors.ts';
import { planeBox, rasterize, visiblePixels, windowAround, windowOf, type Raster, type Window } from '../shade/raster.ts';
import type { ViewSpec } from './view-spec.ts';

/** A computed view: view space, model mm. */
export interface ViewResult {
  readonly lines: Linework;
  /** Of components that are shown faint, and of those that have a second position; they hide nothing. */
  readonly phantom: Linework;
  readonly caps: readonly Cap[];
  /** minX minY maxX maxY of what is drawn. */
  readonly box: readonly [number, number, number, number];
  /** Visible area per component, mm² in the view plane at 1:1. */
  readonly visibleArea: Float64Array;
  /** Share of each component's own silhouette that is visible, 0…1. */
  readonly visibleShare: Float64Array;
  /** Which component each pixel of `window` shows, -1 for none: for picking and for aiming leaders. */
  readonly map: { readonly window: Window; readonly component: Int16Array };
  /** Own pull of each moved component, from the middle of its box. */
  readonly pulls: readonly FlatLine[];
  /** Shaded picture, when asked for. */
  readonly shading: { readonly window: Window; readonly png: Uint8Array } | null;
  /** Components that the cut would meet but could not cut: their meshes are open. */
  readonly uncut: readonly number[];
  /** Components that the cut meets where their surface is open: there is no inside to hatch. */
  readonly unhatched: readonly number[];
}

/** Pixels on the longer side of the item map and of the shaded picture. */
const MAP_PIXELS = 900;
const SHADING_PIXELS = 1600;
/** At most this many: 200 mm at 300 dpi. */
const MOST_SHADING_PIXELS = 2400;

/**
 * Computes a view from the specification.
 * @param solids needed when the cut has a shape
 * @param onProgress is told how far the work is, 0…1
 * @throws QuarryError CANCELLED
 */
export function computeView(
  assembly: Assembly,
  geometries: ReadonlyMap<string, PartGeometry>,
  spec: ViewSpec,
  cancel?: Cancel,
  solids?: SolidPort,
  onProgress?: (share: number) => void,
): ViewResult {
  const components = componentsOf(assembly);
  const leftOut = new Set(spec.leftOut);
  const standing = sceneOf(assembly, geometries).filter((b) => !leftOut.has(b.component));
  const assembled = spec.laid === undefined ? standing : standing.flatMap((b) => laidFlat(b, spec.laid === true ? undefined : spec.laid));
  const apart = (pulls: readonly Pull[]): Body[] => movedBodies(assembled, motionsOf(pulls, components.length));
  const faint = new Set(spec.faint);
  let bodies: readonly Body[] = spec.spread ? apart(spec.spread.pulls) : assembled;
  const ghosts = [...bodies.filter((b) => faint.has(b.component)), ...(spec.second ? secondPlaces(bodies, apart(spec.second.pulls)) : [])];
  if (faint.size) bodies = bodies.filter((b) => !faint.has(b.component));
  let caps: readonly Cap[] = [];
  let uncut: readonly number[] = [];
  let unhatched: readonly number[] = [];
  if (spec.cut) {
    const plane = { normal: spec.cut.normal, d: spec.cut.d };
    const options = { keptWhole: new Set(spec.cut.keptWhole), shape: spec.cut.shape, behindMm: spec.cut.behindMm, solids };
    const cut = settleSharedSpace(cutScene(bodies, plane, options, spec.frame), plane, spec.frame);
    bodies = cut.bodies;
    caps = cut.caps;
    uncut = cut.uncut;
    unhatched = cut.unhatched;
  }
  checkCancel(cancel);
  onProgress?.(0.2);
  const scene = projectScene(bodies, spec.frame);
  const lines = linesOf(scene, {
    hidden: spec.hidden,
    tangent: spec.tangent,
    hiddenWithinMm: spec.hiddenWithinMm,
    cancel,
    onProgress: (s) => onProgress?.(0.2 + 0.6 * s),
  });
  // One of each place, for itself: what is faint covers nothing and is covered by nothing.
  const ghost = ghosts.length ? projectScene(ghosts, spec.frame) : undefined;
  const phantom = ghost ? linesOf(ghost, { cancel }) : EMPTY_LINEWORK;
  const box = ghost ? joinedBox(planeBox(scene), planeBox(ghost)) : planeBox(scene);
  // One pass gives item map, visible areas and, when it is wanted, the shaded picture.
  const window = spec.shaded ? windowOf(box, shadingPixel(box, spec.shadingPixelMm)) : windowAround(box, MAP_PIXELS);
  const colors = components.map((c) => (spec.colorByItem ? itemColor(c.part) : colorBytes(assembly.nodes[c.node]!.color ?? assembly.parts[c.part]!.color)));
  const raster = rasterize(scene, window, components.length, spec.shaded ? { colors, flat: spec.flat ?? false } : undefined, cancel);
  const pixels = visiblePixels(raster, components.length);
  return {
    lines,
    phantom,
    caps,
    box,
    visibleArea: Float64Array.from(pixels, (n) => n * window.pixelMm * window.pixelMm),
    visibleShare: Float64Array.from(pixels, (n, i) => (raster.silhouette[i] ? n / raster.silhouette[i] : 0)),
    map: thinned(raster, Math.ceil(Math.max(window.width, window.height) / MAP_PIXELS)),
    pulls: linesOfPulls(assembled, spec),
    shading: raster.rgba ? { window, png: writePng(window.width, window.height, raster.rgba) } : null,
    uncut,
    unhatched,
  };
}

/** A part bent from sheet in the axes of its flat pattern; of others nothing is left. */
function laidFlat({ component, geometry: g }: Body, k: number | undefined): Body[] {
  const laid = laidPart(g, k);
  return laid ? [{ component, geometry: laid.geometry, placement: IDENTITY }] : [];
}

/** Bodies that stand elsewhere in a second position. */
function secondPlaces(first: readonly Body[], second: readonly Body[]): Body[] {
  const places = new Map(first.map((b) => [b.component, b.placement]));
  return second.filter((b) => b.placement.some((v, i) => Math.abs(v - (places.get(b.component)?.[i] ?? v)) > 1e-9));
}

type Box = ViewResult['box'];
const joinedBox = (a: Box, b: Box): Box => [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[2], b[2]), Math.max(a[3], b[3])];

/** Size of a shading pixel: what print wants, within bounds. mm in the model */
function shadingPixel(box: readonly number[], wanted: number | undefined): number {
  const size = Math.max(box[2]! - box[0]!, box[3]! - box[1]!, 1e-6);
  return Math.min(size / MAP_PIXELS, Math.max(size / MOST_SHADING_PIXELS, wanted ?? size / SHADING_PIXELS));
}

/** Every n-th pixel of the item map: picking needs no more. */
function thinned(raster: Raster, n: number): ViewResult['map'] {
  const { window: w, component } = raster;
  if (n <= 1) return { window: w, component: Int16Array.from(component) };
  const width = Math.floor(w.width / n);
  const height = Math.floor(w.height / n);
  const out = new Int16Array(width * height);
  const middle = n >> 1;
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[y * width + x] = component[(y * n + middle) * w.width + x * n + middle]!;
  return { window: { ...w, pixelMm: w.pixelMm * n, width, height }, component: out };
}

function linesOfPulls(assembled: readonly Body[], spec: ViewSpec): FlatLine[] {
  if (!spec.spread?.lines) return [];
  const off = new Set(spec.spread.linesOff);
  return flatLines(
    pullLines(assembled, spec.spread.pulls).filter((l) => !off.has(l.component)),
    spec.frame,
  );
}

/** Component at a point of view space, or -1. */
export function componentAt(result: ViewResult, x: number, y: number): number {
  const { window, component } = result.map;
  const i = Math.floor((x - window.minX) / window.pixelMm);
  const j = Math.floor((window.maxY - y) / window.pixelMm);
  return i >= 0 && j >= 0 && i < window.width && j < window.height ? component[j * window.width + i]! : -1;
}
