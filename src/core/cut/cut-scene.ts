import { faceAreas } from '../assembly/face-areas.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { mend } from '../assembly/mend.ts';
import { applyToPoint, combine, type Placement } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { sceneDiagonal, type Body } from '../outline/scene.ts';
import { cutTools, sideOf, toolInPart, type CutShape } from './cut-shape.ts';
import { ringsOf } from './face-rings.ts';
import { cutPart, type Plane } from './plane-cut.ts';
import type { Prism } from './prism.ts';
import type { SolidPort } from './solid-port.ts';
import { cutWithTool, type ToolCut } from './tool-cut.ts';

/** A cut surface as the view shows it. */
export interface Cap {
  readonly component: number;
  /** Closed polygons, flat, view space, model mm; holes run the other way. */
  readonly loops: readonly Float64Array[];
  readonly areaMm2: number;
}

export interface CutScene {
  readonly bodies: readonly Body[];
  readonly caps: readonly Cap[];
  /** What components that are kept whole cover of the cut faces behind them; like caps, and never hatched. */
  readonly covers: readonly Cap[];
  readonly openLoops: number;
  /** Components that could not be cut: open meshes without an inside. */
  readonly uncut: readonly number[];
  /** Components that were cut but have no inside to hatch where their surface is open. */
  readonly unhatched: readonly number[];
}

export interface CutOptions {
  /** Components that stay uncut where the cut meets them; what lies wholly in front of it is gone all the same. */
  readonly keptWhole?: ReadonlySet<number>;
  /** What is taken away, when it is not everything in front of the plane. */
  readonly shape?: CutShape | undefined;
  /** Needed with a shape. */
  readonly solids?: SolidPort | undefined;
  /** Nothing farther behind the plane is shown, mm; 0 shows the cut faces alone. Default: everything is. */
  readonly behindMm?: number | undefined;
}

/** As thin as a slice of no depth is cut, mm. */
const SLICE_MM = 1e-3;

/**
 * Cuts a scene with a plane in model space.
 * @throws RangeError for a shape without a solid port, or one that is no outline
 */
export function cutScene(bodies: readonly Body[], plane: Plane, options: CutOptions, frame: ViewFrame): CutScene {
  const cutter = options.shape ? shapedCutter(bodies, plane, options.shape, options.solids, frame) : planeCutter(plane, frame);
  const out: Body[] = [];
  const caps: Cap[] = [];
  const covers: Cap[] = [];
  const uncut: number[] = [];
  const unhatched = new Set<number>();
  let openLoops = 0;
  for (const original of bodies) {
    const geometry = mend(original.geometry);
    const body = geometry === original.geometry ? original : { ...original, geometry };
    const pieces = cutter.cut(body);
    if (options.keptWhole?.has(body.component) && pieces?.some((p) => p.caps.length)) {
      const whole = cutter.whole(body);
      out.push(whole);
      covers.push(...pieces.flatMap((p) => p.caps), ...(options.shape ? [] : coverBefore(whole, plane, frame)));
      continue;
    }
    if (!pieces) {
      // A body that is no solid has no inside to show: it stays as it is, and is named.
      uncut.push(body.component);
      out.push(cutter.whole(body));
      continue;
    }
    for (const piece of pieces) {
      openLoops += piece.openLoops;
      if (piece.openLoops) unhatched.add(piece.body.component);
      caps.push(...piece.caps);
      if (!piece.geometry) continue;
      const near = options.behindMm === undefined ? piece.geometry : withoutBackground(piece.geometry, piece.body, plane, options.behindMm);
      if (near) out.push(near === piece.body.geometry ? piece.body : { ...piece.body, geometry: near });
    }
  }
  return { bodies: out, caps, covers, openLoops, uncut, unhatched: [...unhatched] };
}

/** What a body covers that reaches farther before the plane than it is wide in it: its section through its middle, when that lies there. */
function coverBefore(body: Body, plane: Plane, frame: ViewFrame): readonly Cap[] {
  const d = dot(plane.normal, middleOf(body));
  return d > plane.d
    ? (planeCutter({ ...plane, d }, frame)
        .cut(body)
        ?.flatMap((p) => p.caps) ?? [])
    : [];
}

interface Piece {
  /** The body that was cut, where the view shows it. */
  readonly body: Body;
  readonly geometry: PartGeometry | undefined;
  readonly caps: readonly Cap[];
  readonly openLoops: number;
}

interface Cutter {
  /** @returns undefined for a body that cannot be cut */
  cut(body: Body): readonly Piece[] | undefined;
  /** A body that stays whole, where the view shows it. */
  whole(body: Body): Body;
}

function planeCutter(plane: Plane, frame: ViewFrame): Cutter {
  return {
    whole: (body) => body,
    cut: (body) => {
      const result = cutPart(body.geometry, planeInPart(plane, body));
      const g = result.geometry;
      const loops = g ? result.loops.map((l) => inView(g, l.vertices, body, frame)) : [];
      const caps = loops.length ? [{ component: body.component, areaMm2: result.areaMm2, loops }] : [];
      return [{ body, geometry: g, openLoops: result.openLoops, caps }];
    },
  };
}

function shapedCutter(bodies: readonly Body[], plane: Plane, shape: CutShape, solids: SolidPort | undefined, frame: ViewFrame): Cutter {
  if (!solids) throw new RangeError('A shaped cut needs a solid port.');
  const reach = 4 * sceneDiagonal(bodies) + Math.abs(plane.d) + 10 + farthest(bodies);
  const tools = cutTools(shape, plane, frame, reach);
  const turned = (body: Body, turn: Placement | undefined): Body => (turn ? { ...body, placement: combine(turn, body.placement) } : body);
  return {
    whole: (body) => (shape.kind === 'aligned' ? turned(body, tools[sideOf(shape, plane, middleOf(body))]!.turn) : body),
    cut: (original) => {
      const rests: Rest[] = [];
      for (const { tool, planes, turn, after } of tools) {
        const before = (after ? rests.pop() : undefined) ?? { body: turned(original, turn), geometry: turned(original, turn).geometry, capFaces: [] };
        if (!before.geometry) {
          rests.push(before);
          continue;
        }
        const cut = cutWithTool(before.geometry, toolInPart(tool, before.body.placement), solids);
        if (!cut) return undefined;
        rests.push(restOf(before, before.geometry, cut, tool, planes));
      }
      return rests.map((r) => cappedPiece(r, frame));
    },
  };
}

/** What tools left of a body, and which of its faces are cut faces. */
interface Rest {
  readonly body: Body;
  readonly geometry: PartGeometry | undefined;
  readonly capFaces: readonly { readonly face: number; readonly bulge: number }[];
}

/** A tool's cut faces join those of the tools before it; the walls beside them are named, since no line is drawn for them. */
function restOf({ body, capFaces }: Rest, before: PartGeometry, { geometry: g, firstCap, bulge }: ToolCut, tool: Prism, planes: ReadonlySet<number>): Rest {
  if (!g || g === before) return { body, geometry: g, capFaces };
  const walls = new Uint8Array(g.faceKind.length);
  if (before.walls) walls.set(before.walls);
  for (let f = 0; f < tool.normals.length; f++) if (!planes.has(f)) walls[firstCap + f] = 1;
  const faces = [...planes].map((f) => ({ face: firstCap + f, bulge: bulge[f]! }));
  return { body, geometry: { ...g, walls }, capFaces: [...capFaces, ...faces] };
}

function cappedPiece({ body, geometry: g, capFaces }: Rest, frame: ViewFrame): Piece {
  if (!g || capFaces.length === 0) return { body, geometry: g, caps: [], openLoops: 0 };
  const areas = faceAreas(g);
  const caps = capFaces.flatMap(({ face, bulge }): Cap[] => {
    const loops = ringsOf(g, face).map((r) => inView(g, r, body, frame));
    return loops.length ? [{ component: body.component, areaMm2: areas[face]! + bulge, loops }] : [];
  });
  return { body, geometry: g, caps, openLoops: 0 };
}

/** Middle of a body's box, model mm. */
export function middleOf({ geometry: { box: b }, placement }: Body): Vec3 {
  return applyToPoint(placement, [(b[0] + b[3]) / 2, (b[1] + b[4]) / 2, (b[2] + b[5]) / 2]);
}

function farthest(bodies: readonly Body[]): number {
  return bodies.reduce((m, b) => Math.max(m, Math.hypot(b.placement[3]!, b.placement[7]!, b.placement[11]!) + Math.max(...b.geometry.box.map(Math.abs))), 0);
}

function withoutBackground(g: PartGeometry, body: Body, plane: Plane, behindMm: number): PartGeometry | undefined {
  const n = plane.normal;
  const back: Plane = { normal: [-n[0], -n[1], -n[2]], d: Math.max(behindMm, SLICE_MM) - plane.d };
  return cutPart(g, planeInPart(back, body)).geometry;
}

function inView(g: PartGeometry, vertices: readonly number[], body: Body, frame: ViewFrame): Float64Array {
  const xy = new Float64Array(vertices.length * 2);
  vertices.forEach((v, i) => {
    const p = applyToPoint(body.placement, [g.positions[v * 3]!, g.positions[v * 3 + 1]!, g.positions[v * 3 + 2]!]);
    xy[i * 2] = dot(p, frame.right);
    xy[i * 2 + 1] = dot(p, frame.up);
  });
  return xy;
}

/** The plane in the part's own frame. */
function planeInPart(plane: Plane, body: Body): Plane {
  const m = body.placement;
  const n = plane.normal;
  const normal: Vec3 = [m[0]! * n[0] + m[4]! * n[1] + m[8]! * n[2], m[1]! * n[0] + m[5]! * n[1] + m[9]! * n[2], m[2]! * n[0] + m[6]! * n[1] + m[10]! * n[2]];
  return { normal, d: plane.d - (n[0] * m[3]! + n[1] * m[7]! + n[2] * m[11]!) };
}
