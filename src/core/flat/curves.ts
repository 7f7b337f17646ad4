import type { Vec2 } from '../base/vector.ts';

/** A piece of a closed outline, from one of its points to another along the outline. */
export type OutlinePiece =
  | { readonly kind: 'line'; readonly from: number; readonly to: number }
  | {
      readonly kind: 'arc';
      readonly from: number;
      readonly to: number;
      readonly centre: Vec2;
      readonly radius: number;
      /** Against the clock; the other way it is a recess of what lies to the left. */
      readonly left: boolean;
      /** It is the whole outline. */
      readonly whole: boolean;
    };

/** Points lie on one circle to this share of its radius. */
const SAME = 2e-3;
/** A corner sharper than this is no part of an arc, rad. */
const MOST_TURN = 0.9;
/** … and what turns less is straight. */
const LEAST_TURN = 1e-4;
/** So many points in a row make an arc. */
const LEAST_POINTS = 4;

/**
 * Lines and arcs of a closed outline that comes as points: where at least four in a row lie on one circle they are an arc.
 * @param points mm; pieces name them by index, `to` may be `from` plus a whole round
 */
export function piecesOf(points: readonly Vec2[]): OutlinePiece[] {
  const n = points.length;
  const at = (i: number) => points[((i % n) + n) % n]!;
  const circles = points.map((_, i) => circleThrough(at(i - 1), at(i), at(i + 1)));
  const alike = (i: number, j: number): boolean => {
    const [a, b] = [circles[((i % n) + n) % n], circles[((j % n) + n) % n]];
    return (
      !!a &&
      !!b &&
      a.left === b.left &&
      Math.abs(a.radius - b.radius) < SAME * a.radius &&
      Math.hypot(a.centre[0] - b.centre[0], a.centre[1] - b.centre[1]) < SAME * a.radius
    );
  };
  // A start where one piece surely ends.
  let start = 0;
  while (start < n && alike(start, start - 1)) start++;
  const whole = circles[0];
  if (start === n && whole) return [{ kind: 'arc', from: 0, to: n, centre: whole.centre, radius: whole.radius, left: whole.left, whole: true }];
  const out: OutlinePiece[] = [];
  let i = start;
  const end = start + n;
  while (i < end) {
    // Points i + 1 … j have one circle: the arc goes from i to j + 1.
    let j = i + 1;
    while (j + 1 <= end - 1 && alike(j, j + 1)) j++;
    const c = circles[(i + 1) % n];
    if (c && j + 1 - i + 1 >= LEAST_POINTS && j + 1 <= end) {
      out.push({ kind: 'arc', from: i, to: j + 1, centre: c.centre, radius: c.radius, left: c.left, whole: false });
      i = j + 1;
    } else {
      const before = out.at(-1);
      if (before?.kind === 'line' && isStraight(at(before.from), at(i), at(i + 1))) out[out.length - 1] = { ...before, to: i + 1 };
      else out.push({ kind: 'line', from: i, to: i + 1 });
      i++;
    }
  }
  // The outline may begin in the middle of a line.
  const [first, last] = [out[0]!, out.at(-1)!];
  if (out.length > 1 && first.kind === 'line' && last.kind === 'line' && isStraight(at(last.from), at(first.from), at(first.to))) {
    out.pop();
    out[0] = { kind: 'line', from: last.from, to: first.to + n };
    out.push(out.shift()!);
  }
  return out;
}

function isStraight(a: Vec2, b: Vec2, c: Vec2): boolean {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
  return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)) < LEAST_TURN;
}

interface Circle {
  readonly centre: Vec2;
  readonly radius: number;
  readonly left: boolean;
}

/** The circle through three points in a row; undefined where they are straight or a corner. */
function circleThrough(a: Vec2, b: Vec2, c: Vec2): Circle | undefined {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
  const turn = Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
  if (Math.abs(turn) < LEAST_TURN || Math.abs(turn) > MOST_TURN) return undefined;
  const [px, py, qx, qy] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]];
  const d = 2 * (px * qy - py * qx);
  const [p2, q2] = [px * px + py * py, qx * qx + qy * qy];
  const [x, y] = [(qy * p2 - py * q2) / d, (px * q2 - qx * p2) / d];
  return { centre: [a[0] + x, a[1] + y], radius: Math.hypot(x, y), left: turn > 0 };
}
