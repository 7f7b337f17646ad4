import type { Assembly, Component } from '../../core/assembly/assembly.ts';
import { applyToPoint } from '../../core/base/placement.ts';
import { add, dot, normalize, scale, subtract, type Vec3 } from '../../core/base/vector.ts';
import type { CutShape } from '../../core/cut/cut-shape.ts';
import { DIRECTION_NAMES, frameFrom, sideFrame, type ViewFrame } from '../../core/outline/directions.ts';
import { frontOf } from '../../core/document/front.ts';
import { plural } from '../../core/base/plural.ts';
import { recordsOf, type CutRecord, type DrawingDocument, type ViewRecord } from '../../core/document/records.ts';
import { movedPart } from './part.ts';
import type { Step } from '../../core/document/steps.ts';

/** Views that turn with the front: a part on its own sheet is looked at as it is made, a flat pattern has axes of its own. */
const turning = (doc: DrawingDocument): ViewRecord[] =>
  recordsOf(doc, 'view').filter((v) => {
    const sheet = doc[v.sheet];
    return !v.laid && !(sheet?.type === 'sheet' && sheet.part !== undefined);
  });

/** The middle of everything, model mm. */
function middleOf(assembly: Assembly, components: readonly Component[]): Vec3 {
  let [lo, hi]: [Vec3, Vec3] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  for (const c of components) {
    const b = assembly.parts[c.part]!.box;
    for (let k = 0; k < 8; k++) {
      const p = applyToPoint(c.placement, [b[k & 1 ? 3 : 0]!, b[k & 2 ? 4 : 1]!, b[k & 4 ? 5 : 2]!]);
      lo = [Math.min(lo[0], p[0]), Math.min(lo[1], p[1]), Math.min(lo[2], p[2])];
      hi = [Math.max(hi[0], p[0]), Math.max(hi[1], p[1]), Math.max(hi[2], p[2])];
    }
  }
  return scale(add(lo, hi), 0.5);
}

/**
 * Makes another direction the front: every view turns along, its cut with it, about the middle of the assembly. Places on
 * the sheets and scales stay; leaders have to be aimed again when the views are drawn.
 */
export function resetFront(doc: DrawingDocument, assembly: Assembly, components: readonly Component[], front: ViewFrame): Step[] {
  const old = frontOf(doc);
  const turned = (v: Vec3): Vec3 => add(add(scale(front.right, dot(v, old.right)), scale(front.up, dot(v, old.up))), scale(front.toward, dot(v, old.toward)));
  const centre = middleOf(assembly, components);
  /** Distance along a direction, counted from the middle, along the turned one. */
  const along = (d: number, from: Vec3, to: Vec3) => dot(to, centre) + (d - dot(from, centre));
  const drawing = recordsOf(doc, 'drawing').map((d): Step => ({ op: 'put', record: { ...d, front } }));
  const views = turning(doc).map((v): Step => {
    const frame = { right: turned(v.right), up: turned(v.up), toward: turned(v.toward) };
    const pivot = [along(v.pivot[0], v.right, frame.right), along(v.pivot[1], v.up, frame.up)] as const;
    const shift = [pivot[0] - v.pivot[0], pivot[1] - v.pivot[1]] as const;
    const part = movedPart(v, (p) => [p[0] + shift[0], p[1] + shift[1]]);
    return { op: 'put', record: { ...part, ...frame, pivot, cut: v.cut && turnedCut(v.cut, turned, along, shift) } };
  });
  return [...drawing, ...views];
}

function turnedCut(cut: CutRecord, turned: (v: Vec3) => Vec3, along: (d: number, from: Vec3, to: Vec3) => number, shift: readonly [number, number]): CutRecord {
  const normal = turned(cut.normal);
  const d = (v: number) => along(v, cut.normal, normal);
  return { ...cut, normal, d: d(cut.d), ...(cut.shape ? { shape: turnedShape(cut.shape, turned, along, d, shift) } : {}) };
}

function turnedShape(
  shape: CutShape,
  turned: (v: Vec3) => Vec3,
  along: (d: number, from: Vec3, to: Vec3) => number,
  d: (v: number) => number,
  shift: readonly [number, number],
): CutShape {
  if (shape.kind === 'local') {
    const moved = (o: readonly number[]) => o.map((v, i) => v + shift[i % 2]!);
    const more = shape.more?.map((m) => ({ outline: moved(m.outline), d: d(m.d) }));
    return { ...shape, outline: moved(shape.outline), ...(more ? { more } : {}) };
  }
  const across = turned(shape.across);
  const from = (v: number) => along(v, shape.across, across);
  return shape.kind === 'stepped'
    ? { ...shape, across, steps: shape.steps.map((s) => ({ from: from(s.from), d: d(s.d) })) }
    : { ...shape, across, from: from(shape.from) };
}

/** The side of a drawing nearest to a direction: a front is rarely meant aslant. */
export function nearestSide(v: Vec3, front: ViewFrame): ViewFrame {
  const toward = (f: ViewFrame) => dot(f.toward, v);
  return DIRECTION_NAMES.filter((n) => n !== 'isometric')
    .map((n) => sideFrame(front, n))
    .reduce((best, f) => (toward(f) > toward(best) + 1e-9 ? f : best));
}

/** The front that a face makes: it looks at the reader, and what is up stays up as far as it can. @param normal of the face, outward, unit vector */
export function frontAtFace(normal: Vec3, now: ViewFrame): ViewFrame {
  return frameFrom(normal, upright(normal, [now.up, scale(now.toward, -1), now.right]));
}

/** The front when a face is what the machine stands on: it looks down, and the front stays in front as far as it can. @param normal of the face, outward, unit vector */
export function frontStandingOn(normal: Vec3, now: ViewFrame): ViewFrame {
  const up = scale(normal, -1);
  const ahead = upright(up, [now.toward, now.up, now.right]);
  return frameFrom(normalize(subtract(ahead, scale(up, dot(ahead, up)))), up);
}

/** The first of some directions that does not run along one. */
function upright(along: Vec3, wanted: readonly Vec3[]): Vec3 {
  return wanted.find((w) => Math.abs(dot(w, along)) < 0.9) ?? wanted.at(-1)!;
}

/** What turns with the front, in words: “6 views on 3 sheets, 2 of them cut; 14 balloons follow”. */
export function whatTurns(doc: DrawingDocument): string {
  const views = turning(doc);
  const sheets = new Set(views.map((v) => v.sheet)).size;
  const cuts = views.filter((v) => v.cut).length;
  const balloons = recordsOf(doc, 'balloon').length;
  return `${plural(views.length, 'view')} on ${plural(sheets, 'sheet')}${cuts ? `, ${cuts} of them cut` : ''}${balloons ? `; ${plural(balloons, 'balloon')} follow` : ''}`;
}
