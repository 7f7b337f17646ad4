import { cross, dot, length, normalize, scale, subtract, type Vec3 } from '../base/vector.ts';
import { CurveKind, SurfaceKind } from './part-geometry.ts';

export interface FittedCurve {
  readonly kind: number;
  /** Circle: centre, axis (unit), radius; mm. Zeros otherwise. */
  readonly params: readonly [number, number, number, number, number, number, number];
}

export interface FittedSurface {
  readonly kind: number;
  readonly params: readonly number[];
}

const NO_CURVE = [0, 0, 0, 0, 0, 0, 0] as const;

/** Share of the radius (or length) that samples may be off: files round to about 1e-6, and fillets fitted by splines to 1e-5. */
const CURVE_TOLERANCE = 1e-4;

/**
 * Recognises a line or circle in samples of a curve, for files that carry splines only.
 * @param p flat samples `[x,y,z, …]`, mm, at least 3 points, in order
 */
export function fitCurve(p: ArrayLike<number>): FittedCurve {
  const n = Math.floor(p.length / 3);
  const at = (i: number): Vec3 => [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!];
  const first = at(0);
  const last = at(n - 1);
  let span = 0;
  for (let i = 1; i < n; i++) span = Math.max(span, length(subtract(at(i), first)));
  if (!(span > 0)) return { kind: CurveKind.free, params: NO_CURVE };
  const chord = subtract(last, first);
  if (length(chord) > 0.5 * span) {
    const d = normalize(chord);
    let off = 0;
    for (let i = 1; i < n - 1; i++) off = Math.max(off, length(cross(subtract(at(i), first), d)));
    if (off <= 1e-6 * span) return { kind: CurveKind.line, params: NO_CURVE };
  }
  // A closed curve has its ends together: take thirds of the way.
  const a = first;
  const b = at(Math.floor(n / 3));
  const c = at(Math.floor((2 * n) / 3));
  const circle = circleThrough(a, b, c);
  if (!circle) return { kind: CurveKind.free, params: NO_CURVE };
  for (let i = 0; i < n; i++) {
    const v = subtract(at(i), circle.centre);
    const height = Math.abs(dot(v, circle.axis));
    if (Math.max(height, Math.abs(length(v) - circle.radius)) > CURVE_TOLERANCE * circle.radius) return { kind: CurveKind.free, params: NO_CURVE };
  }
  return { kind: CurveKind.circle, params: [...circle.centre, ...circle.axis, circle.radius] };
}

/** The circle through three points, or undefined when they are (nearly) in line. */
export function circleThrough(a: Vec3, b: Vec3, c: Vec3): { centre: Vec3; axis: Vec3; radius: number } | undefined {
  const u = subtract(b, a);
  const v = subtract(c, a);
  const w = cross(u, v);
  const ww = dot(w, w);
  if (!(ww > 1e-16 * dot(u, u) * dot(v, v))) return undefined;
  const m = scale(cross(w, u), dot(v, v));
  const k = scale(cross(v, w), dot(u, u));
  const toCentre = scale([m[0] + k[0], m[1] + k[1], m[2] + k[2]], 1 / (2 * ww));
  return { centre: [a[0] + toCentre[0], a[1] + toCentre[1], a[2] + toCentre[2]], axis: normalize(w), radius: length(toCentre) };
}

const FREE: FittedSurface = { kind: SurfaceKind.free, params: [0, 0, 0, 0, 0, 1, 0, 0] };

/** Largest disagreement of unit normals; they are single precision and, on fitted splines, about this good. */
const NORMAL_TOLERANCE = 2e-4;

/**
 * Recognises plane, cylinder, cone or sphere from points of a face and their exact normals (which point outward).
 * Torus and the rest come out as free.
 * @param p flat points, mm; @param q flat unit normals, same count
 * @param toleranceMm how far a point may be off
 */
export function fitSurface(p: ArrayLike<number>, q: ArrayLike<number>, toleranceMm: number): FittedSurface {
  const n = Math.floor(p.length / 3);
  if (n < 3) return FREE;
  const mean: [number, number, number] = [0, 0, 0];
  for (let i = 0; i < n; i++) for (let k = 0; k < 3; k++) mean[k]! += q[i * 3 + k]! / n;
  const spread = scatter(q, mean, n);
  const { values, vectors } = symmetricEigen(spread);
  // Smallest first: all normals alike -> plane; alike along one axis -> cylinder or cone.
  if (Math.sqrt(values[2]!) < NORMAL_TOLERANCE) {
    const axis = normalize(mean);
    return { kind: SurfaceKind.plane, params: [p[0]!, p[1]!, p[2]!, ...axis, 0, 0] };
  }
  if (Math.sqrt(Math.max(0, values[0]!)) < NORMAL_TOLERANCE) {
    const axis = vectors[0]!;
    const tilt = dot(mean, axis);
    return tilt * tilt < 1e-6 ? fitCylinder(p, q, n, axis, toleranceMm) : fitCone(p, q, n, axis, tilt, toleranceMm);
  }
  return fitSphere(p, q, n, toleranceMm);
}

function scatter(q: ArrayLike<number>, mean: Vec3, n: number): number[] {
  const m = new Array<number>(6).fill(0); // xx xy xz yy yz zz
  for (let i = 0; i < n; i++) {
    const x = q[i * 3]! - mean[0];
    const y = q[i * 3 + 1]! - mean[1];
    const z = q[i * 3 + 2]! - mean[2];
    m[0]! += (x * x) / n;
    m[1]! += (x * y) / n;
    m[2]! += (x * z) / n;
    m[3]! += (y * y) / n;
    m[4]! += (y * z) / n;
    m[5]! += (z * z) / n;
  }
  return m;
}

/** Least squares of p = c + r·q in the plane square to the axis: centre and radius at once. */
function fitCylinder(p: ArrayLike<number>, q: ArrayLike<number>, n: number, axis: Vec3, tol: number): FittedSurface {
  const { centre, radius } = centreAndRadius(p, q, n, axis);
  for (let i = 0; i < n; i++) {
    const v: Vec3 = [p[i * 3]! - centre[0], p[i * 3 + 1]! - centre[1], p[i * 3 + 2]! - centre[2]];
    const along = dot(v, axis);
    if (Math.abs(length(subtract(v, scale(axis, along))) - Math.abs(radius)) > tol) return FREE;
  }
  // A negative radius would be a hole: its normals point to the axis. The kind is the same; the sign tells.
  return { kind: SurfaceKind.cylinder, params: [...centre, ...axis, radius, 0] };
}

function fitCone(p: ArrayLike<number>, q: ArrayLike<number>, n: number, axis: Vec3, tilt: number, tol: number): FittedSurface {
  // The lines p - s·q all pass through the axis: fit the foot of the axis in the plane square to it.
  const { centre } = centreAndRadius(p, q, n, axis);
  const half = Math.asin(Math.min(1, Math.abs(tilt)));
  let lo = 0;
  let count = 0;
  const slope = -Math.tan(half) * Math.sign(tilt);
  for (let i = 0; i < n; i++) {
    const v: Vec3 = [p[i * 3]! - centre[0], p[i * 3 + 1]! - centre[1], p[i * 3 + 2]! - centre[2]];
    const along = dot(v, axis);
    const radial = length(subtract(v, scale(axis, along)));
    lo += radial - slope * along;
    count++;
  }
  const base = lo / count;
  for (let i = 0; i < n; i++) {
    const v: Vec3 = [p[i * 3]! - centre[0], p[i * 3 + 1]! - centre[1], p[i * 3 + 2]! - centre[2]];
    const along = dot(v, axis);
    const radial = length(subtract(v, scale(axis, along)));
    if (Math.abs(radial - slope * along - base) > tol) return FREE;
  }
  // The axis looks where the cone widens.
  return { kind: SurfaceKind.cone, params: [...centre, ...(slope < 0 ? scale(axis, -1) : axis), base, half] };
}

function fitSphere(p: ArrayLike<number>, q: ArrayLike<number>, n: number, tol: number): FittedSurface {
  const { centre, radius } = centreAndRadius(p, q, n, undefined);
  for (let i = 0; i < n; i++)
    if (Math.abs(Math.hypot(p[i * 3]! - centre[0], p[i * 3 + 1]! - centre[1], p[i * 3 + 2]! - centre[2]) - Math.abs(radius)) > tol) return FREE;
  return { kind: SurfaceKind.sphere, params: [...centre, 0, 0, 1, radius, 0] };
}

/** c and r of p ≈ c + r·q in the least-squares sense; with an axis, in the plane square to it. */
function centreAndRadius(p: ArrayLike<number>, q: ArrayLike<number>, n: number, axis: Vec3 | undefined): { centre: Vec3; radius: number } {
  const pm: [number, number, number] = [0, 0, 0];
  const qm: [number, number, number] = [0, 0, 0];
  const flat = (a: ArrayLike<number>, i: number): Vec3 => {
    const v: Vec3 = [a[i * 3]!, a[i * 3 + 1]!, a[i * 3 + 2]!];
    return axis ? subtract(v, scale(axis, dot(v, axis))) : v;
  };
  for (let i = 0; i < n; i++) {
    const [a, b] = [flat(p, i), flat(q, i)];
    for (let k = 0; k < 3; k++) {
      pm[k]! += a[k]! / n;
      qm[k]! += b[k]! / n;
    }
  }
  let pq = 0;
  let qq = 0;
  for (let i = 0; i < n; i++) {
    const [a, b] = [subtract(flat(p, i), pm), subtract(flat(q, i), qm)];
    pq += dot(a, b);
    qq += dot(b, b);
  }
  const radius = qq > 0 ? pq / qq : 0;
  return { centre: subtract(pm, scale(qm, radius)), radius };
}

/**
 * Eigenvalues (ascending) and unit eigenvectors of the symmetric 3×3 matrix `[xx, xy, xz, yy, yz, zz]`
 * by Jacobi rotations (Golub & Van Loan, Matrix Computations, 8.5).
 */
export function symmetricEigen(m: readonly number[]): { values: number[]; vectors: Vec3[] } {
  const a = [
    [m[0]!, m[1]!, m[2]!],
    [m[1]!, m[3]!, m[4]!],
    [m[2]!, m[4]!, m[5]!],
  ];
  const v = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  for (let sweep = 0; sweep < 30; sweep++) {
    let off = 0;
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ] as const)
      off += a[p]![q]! ** 2;
    if (off < 1e-30) break;
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ] as const) {
      if (a[p]![q]! === 0) continue;
      const theta = (a[q]![q]! - a[p]![p]!) / (2 * a[p]![q]!);
      const t = (theta >= 0 ? 1 : -1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
      const c = 1 / Math.sqrt(t * t + 1);
      const s = t * c;
      for (let k = 0; k < 3; k++) {
        const [x, y] = [a[k]![p]!, a[k]![q]!];
        a[k]![p] = c * x - s * y;
        a[k]![q] = s * x + c * y;
      }
      for (let k = 0; k < 3; k++) {
        const [x, y] = [a[p]![k]!, a[q]![k]!];
        a[p]![k] = c * x - s * y;
        a[q]![k] = s * x + c * y;
      }
      for (let k = 0; k < 3; k++) {
        const [x, y] = [v[k]![p]!, v[k]![q]!];
        v[k]![p] = c * x - s * y;
        v[k]![q] = s * x + c * y;
      }
    }
  }
  const order = [0, 1, 2].sort((i, j) => a[i]![i]! - a[j]![j]!);
  return {
    values: order.map((i) => Math.max(0, a[i]![i]!)),
    vectors: order.map((i) => normalize([v[0]![i]!, v[1]![i]!, v[2]![i]!])),
  };
}

/**
 * Are two faces pieces of one surface? Writers cut closed surfaces in two; the edge between is no edge of the part.
 * @param a,b `FACE_STRIDE` numbers of faces of the same kind
 */
export function sameSurface(kind: number, a: ArrayLike<number>, b: ArrayLike<number>, toleranceMm: number): boolean {
  const at = (p: ArrayLike<number>, i: number): Vec3 => [p[i]!, p[i + 1]!, p[i + 2]!];
  const [p, q, u, v] = [at(a, 0), at(b, 0), at(a, 3), at(b, 3)];
  const between = subtract(q, p);
  const close = (x: number, y: number) => Math.abs(x - y) <= toleranceMm;
  if (kind === SurfaceKind.sphere) return length(between) <= toleranceMm && close(a[6]!, b[6]!);
  if (Math.abs(Math.abs(dot(u, v)) - 1) > 1e-6) return false;
  const along = dot(between, u);
  if (kind === SurfaceKind.plane) return Math.abs(along) <= toleranceMm;
  if (length(subtract(between, scale(u, along))) > toleranceMm) return false;
  if (kind === SurfaceKind.cylinder) return close(a[6]!, b[6]!);
  if (kind === SurfaceKind.torus) return close(along, 0) && close(a[6]!, b[6]!) && close(a[7]!, b[7]!);
  return kind === SurfaceKind.cone && Math.abs(a[7]! - b[7]!) < 1e-4;
}
