import { boxDiagonal } from '../assembly/part-geometry.ts';
import { checkCancel, type Cancel } from '../base/errors.ts';
import { applyToPoint } from '../base/placement.ts';
import { collectCandidates, newCandidates, type Candidates } from './candidates.ts';
import type { ViewFrame } from './directions.ts';
import { buildOccluders } from './occluders.ts';
import { RunBuilder } from './runs.ts';
import { projectBody, type Body, type ProjectedBody } from './scene.ts';
import { uniteLines } from './unite.ts';
import { VisibilityTest } from './visibility.ts';
import { LineClass, type Linework } from './linework.ts';

export interface HiddenLineOptions {
  /** Deliver hidden lines too. Default false. */
  readonly hidden?: boolean;
  /** Deliver tangent edges. Default false. */
  readonly tangent?: boolean;
  readonly cancel?: Cancel;
}

/** Triangle edges grow by this share of the scene's diagonal: closes cracks, hides what lies exactly behind an outline. */
const GROW = 1e-7;
/** A line must lie this share of the diagonal behind a triangle to be hidden by it. */
const BIAS = 2e-7;
/** Lines closer than this share of the diagonal are one line. */
const UNITE = 1e-5;

/**
 * The visible and hidden lines of a scene.
 * @returns view space, model mm; every line once, arcs as arcs
 * @throws QuarryError CANCELLED
 */
export function hiddenLines(bodies: readonly Body[], frame: ViewFrame, options: HiddenLineOptions = {}): Linework {
  const projected = bodies.map((b) => projectBody(b, frame));
  const diagonal = sceneDiagonal(bodies);
  const occluders = buildOccluders(projected, GROW * diagonal, diagonal);
  checkCancel(options.cancel);
  const candidates = newCandidates();
  projected.forEach((b, i) => collectCandidates(candidates, b, i, options.tangent ?? false));
  const test = new VisibilityTest(occluders, BIAS * diagonal);
  const runs = new RunBuilder(projected, frame, options.hidden ?? false);
  const count = candidates.start.length;
  for (let c = 0; c < count; c++) {
    if ((c & 255) === 0) checkCancel(options.cancel);
    splitChain(candidates, c, projected, test, runs);
  }
  checkCancel(options.cancel);
  return uniteLines(runs.finish(), UNITE * diagonal);
}

/** Diagonal of the box around all bodies, mm. */
export function sceneDiagonal(bodies: readonly Body[]): number {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (const { geometry, placement } of bodies)
    for (let i = 0; i < 8; i++) {
      const b = geometry.box;
      const p = applyToPoint(placement, [b[i & 1 ? 3 : 0]!, b[i & 2 ? 4 : 1]!, b[i & 4 ? 5 : 2]!]);
      for (let k = 0; k < 3; k++) {
        box[k] = Math.min(box[k]!, p[k]!);
        box[k + 3] = Math.max(box[k + 3]!, p[k]!);
      }
    }
  return boxDiagonal(box) || 1;
}

/** Cuts one chain into visible and hidden stretches and hands them on. */
function splitChain(c: Candidates, i: number, bodies: readonly ProjectedBody[], test: VisibilityTest, runs: RunBuilder): void {
  const first = c.start.array[i]!;
  const end = i + 1 < c.start.length ? c.start.array[i + 1]! : c.xyz.length / 3;
  const bodyIndex = c.body.array[i]!;
  const component = bodies[bodyIndex]!.body.component;
  const deflection = c.deflection.array[i]!;
  const outline = c.kind.array[i] === LineClass.outline;
  runs.begin(bodyIndex, c.edge.array[i]!, c.kind.array[i]!);
  const v = c.xyz.array;
  for (let p = first; p < end - 1; p++) {
    const a = p * 3;
    const [ax, ay, az, bx, by, bz] = [v[a]!, v[a + 1]!, v[a + 2]!, v[a + 3]!, v[a + 4]!, v[a + 5]!];
    if (c.covered.array[p]) {
      runs.stretch(ax, ay, az, bx, by, bz, true);
      continue;
    }
    test.test(ax, ay, az, bx, by, bz, component, deflection, outline);
    let t = 0;
    const h = test.hidden;
    const to = (s: number, hidden: boolean): void => {
      if (s - t < 1e-9) return;
      runs.stretch(ax + (bx - ax) * t, ay + (by - ay) * t, az + (bz - az) * t, ax + (bx - ax) * s, ay + (by - ay) * s, az + (bz - az) * s, hidden);
      t = s;
    };
    for (let k = 0; k < h.length; k += 2) {
      to(h[k]!, false);
      to(h[k + 1]!, true);
    }
    to(1, false);
  }
  runs.end();
}
