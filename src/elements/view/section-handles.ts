import { dot, type Vec2 } from '../../core/base/vector.ts';
import { without } from '../../core/base/without.ts';
import type { CutShape } from '../../core/cut/cut-shape.ts';
import { cutFromLine, lineOfCut, snapCorner } from '../../core/cut/section-line.ts';
import type { CutRecord, ViewRecord } from '../../core/document/records.ts';
import type { Handle } from '../kind.ts';
import type { Scene } from '../scene.ts';
import { boxFromParts } from './extent.ts';
import { snapPlace } from './snap-places.ts';

/** Dragged lines go through centres within this, paper mm. */
const SNAP_MM = 1.2;

/**
 * The view that carries the cutting line of a section, as it is seen, with the corners of the line in its view space.
 * Walking them the reader of the section stands to the right.
 */
export function cuttingLineOf(section: ViewRecord, scene: Scene): { readonly view: ViewRecord; readonly points: readonly Vec2[] } | undefined {
  const { cut } = section;
  const shown = scene.one('view', cut?.shownIn);
  const result = shown && scene.result(shown.id);
  if (!cut || section.detail || !shown || shown.off || !result) return undefined;
  const view = scene.seenAs(shown);
  const line = lineOfCut(cut, view, result.box);
  if (!line) return undefined;
  const [a, b] = [line.points[0]!, line.points[1]!];
  const reader = line.readers[0] ?? line.readers[1]!;
  const right = (b[1] - a[1]) * reader[0] - (b[0] - a[0]) * reader[1] > 0;
  // A half section is walked from the outside in, its reader may stand to the left: it is edited by its stretches alone.
  return { view, points: right || cut.shape?.kind === 'half' || cut.shape?.kind === 'stepped' ? line.points : [...line.points].reverse() };
}

/** Handles of a cutting line: the middle of each stretch moves it square to itself; ends and bends turn it. */
export function sectionHandles(section: ViewRecord, scene: Scene): Handle[] {
  const line = cuttingLineOf(section, scene);
  if (!line || line.view.sheet !== section.sheet) return [];
  const map = scene.map(line.view);
  const paper = line.points.map((p) => map.toPaper(p));
  const middles = paper.slice(1).map((b, i): Handle => ({ name: `cut-leg-${i}`, at: [(paper[i]![0] + b[0]) / 2, (paper[i]![1] + b[1]) / 2] }));
  const kind = section.cut?.shape?.kind;
  if (kind === 'half' || kind === 'stepped') return middles;
  const corners = paper.map((at, i): Handle => ({ name: `cut-corner-${i}`, at }));
  return kind === 'aligned' ? corners : [...corners, ...middles];
}

/** A section with its cutting line dragged by a handle, paper mm; undefined when that means no cut. */
export function dragSection(section: ViewRecord, by: Vec2, scene: Scene, handle: string): ViewRecord | undefined {
  const line = cuttingLineOf(section, scene);
  const [, what, index] = /^cut-(leg|corner)-(\d+)$/.exec(handle) ?? [];
  if (!line || !what) return undefined;
  const { view, points } = line;
  const i = Number(index);
  const result = scene.result(view.id);
  const reach = SNAP_MM / view.scale;
  const moved = (p: Vec2): Vec2 => snapPlace(result, [p[0] + by[0] / view.scale, p[1] - by[1] / view.scale], reach);
  if (what === 'corner') {
    const corners = points.map((p, k) => (k === i ? snapCorner([points[k === 0 ? 1 : k - 1]!], moved(p)) : p));
    return relaid(section, corners, view, scene);
  }
  const to = moved([(points[i]![0] + points[i + 1]![0]) / 2, (points[i]![1] + points[i + 1]![1]) / 2]);
  const place = (axis: readonly [number, number, number]) => dot(axis, view.right) * to[0] + dot(axis, view.up) * to[1];
  return movedLeg(section, i, place);
}

/** A stretch of the line put where a place lies along an axis. @param place how far along an axis, mm */
function movedLeg(section: ViewRecord, leg: number, place: (axis: CutRecord['normal']) => number): ViewRecord {
  const cut = section.cut!;
  const { shape } = cut;
  const d = place(cut.normal);
  if (!shape || shape.kind === 'local') return { ...section, cut: { ...cut, d } };
  const put = (next: CutShape, plane = cut.d): ViewRecord => ({ ...section, cut: { ...cut, d: plane, shape: next } });
  const along = place(shape.across);
  if (shape.kind === 'half') return leg === 0 ? put(shape, d) : put({ ...shape, from: along });
  if (shape.kind === 'aligned') return section;
  const n = leg >> 1;
  // Steps stay in their order.
  const steps = shape.steps.map((s, k) => {
    if (leg % 2 === 0) return k === n ? { ...s, d } : s;
    if (k !== n + 1) return s;
    const [before, after] = [shape.steps[k - 1]!.from, shape.steps[k + 1]?.from ?? Infinity];
    return { ...s, from: k > 1 ? Math.min(after - 1e-3, Math.max(before + 1e-3, along)) : Math.min(after - 1e-3, along) };
  });
  // The first stretch is the plane that the section is named by.
  return put({ ...shape, steps }, steps[0]!.d);
}

/** The distance of each stretch of a cutting line from the left or lower edge of its view, mm, and how it is set anew. */
export function legDistances(section: ViewRecord, scene: Scene): { readonly label: string; readonly mm: number; set(mm: number): ViewRecord }[] {
  const line = cuttingLineOf(section, scene);
  const result = line && scene.result(line.view.id);
  if (!line || !result || section.cut?.shape?.kind === 'aligned') return [];
  const { view, points } = line;
  return points.slice(1).flatMap((b, i) => {
    const a = points[i]!;
    const upright = Math.abs(b[0] - a[0]) < 1e-6;
    // One that runs aslant has no distance from an edge.
    if (!upright && Math.abs(b[1] - a[1]) > 1e-6) return [];
    const edge = upright ? result.box[0] : result.box[1];
    const mm = (upright ? a[0] : a[1]) - edge;
    const at = (v: number): Vec2 => (upright ? [edge + v, 0] : [0, edge + v]);
    const set = (v: number) => movedLeg(section, i, (axis) => dot(axis, view.right) * at(v)[0] + dot(axis, view.up) * at(v)[1]);
    return [{ label: upright ? 'From the left edge, mm' : 'From the lower edge, mm', mm: Math.round(mm * 1000) / 1000, set }];
  });
}

/** The section along another line; it stays in line with its parent only if it can. */
export function relaid(section: ViewRecord, points: readonly Vec2[], view: ViewRecord, scene: Scene): ViewRecord | undefined {
  const made = cutFromLine(points, view);
  if ('wrong' in made) return undefined;
  const turned = dot(made.frame.toward, section.toward) < 1 - 1e-9 || dot(made.frame.right, section.right) < 1 - 1e-9;
  const cut: CutRecord = { ...without(section.cut!, 'shape'), ...made.plane, ...(made.shape ? { shape: made.shape } : {}) };
  if (!turned) return { ...section, cut };
  const box = boxFromParts(scene, made.frame, section);
  const pivot: Vec2 = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
  return { ...section, ...made.frame, cut, pivot, align: null };
}
