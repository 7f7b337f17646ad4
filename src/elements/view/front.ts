import type { Assembly, Component } from '../../core/assembly/assembly.ts';
import { applyToPoint } from '../../core/base/placement.ts';
import { add, dot, scale, subtract, type Vec3 } from '../../core/base/vector.ts';
import type { CutShape } from '../../core/cut/cut-shape.ts';
import { namedFrame, type ViewFrame } from '../../core/outline/directions.ts';
import { recordsOf, type CutRecord, type DrawingDocument } from '../../core/document/records.ts';
import { movedPart } from './part.ts';
import type { Step } from '../../core/document/steps.ts';

/** The direction that counts as front now: that of the front view, else the usual one. */
export function frontOf(doc: DrawingDocument): ViewFrame {
  const v = doc['view:front'];
  return v?.type === 'view' ? { right: v.right, up: v.up, toward: v.toward } : namedFrame('front');
}

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
  return recordsOf(doc, 'view').map((v): Step => {
    const frame = { right: turned(v.right), up: turned(v.up), toward: turned(v.toward) };
    const pivot = [along(v.pivot[0], v.right, frame.right), along(v.pivot[1], v.up, frame.up)] as const;
    const shift = [pivot[0] - v.pivot[0], pivot[1] - v.pivot[1]] as const;
    const part = movedPart(v, (p) => [p[0] + shift[0], p[1] + shift[1]]);
    return { op: 'put', record: { ...part, ...frame, pivot, cut: v.cut && turnedCut(v.cut, turned, along, shift) } };
  });
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

/** The model axis nearest to a direction, and the up that goes with it: a front is rarely meant aslant. */
export function nearestAxis(v: Vec3): Vec3 {
  const k = [0, 1, 2].reduce((best, i) => (Math.abs(v[i]!) > Math.abs(v[best]!) ? i : best), 0);
  const out: [number, number, number] = [0, 0, 0];
  out[k] = Math.sign(v[k]!) || 1;
  return out;
}

/** An up for a front that looks along `toward`: the wanted one if it is not parallel, else the next axis. */
export function upFor(toward: Vec3, wanted: Vec3): Vec3 {
  const off = subtract(wanted, scale(toward, dot(wanted, toward) / dot(toward, toward)));
  if (Math.hypot(...off) > 1e-3) return wanted;
  return Math.abs(toward[2]) > 0.9 ? [0, 1, 0] : [0, 0, 1];
}
