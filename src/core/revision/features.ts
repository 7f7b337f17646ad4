import { FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { dot, length, scale, subtract, type Vec3 } from '../base/vector.ts';

/** A round hole: the cylinders of one axis and radius that look inwards. Part's frame, mm. */
interface Hole {
  readonly at: Vec3;
  readonly axis: Vec3;
  readonly radius: number;
}

const SAME_MM = 0.005;

/** Round holes by axis and radius; a hole that several faces make up is one. */
export function holesOf(g: PartGeometry): Hole[] {
  const out: Hole[] = [];
  for (let f = 0; f < g.faceKind.length; f++) {
    const q = g.faceParams.subarray(f * FACE_STRIDE, (f + 1) * FACE_STRIDE);
    // Holes have negative radii.
    if (g.faceKind[f] !== SurfaceKind.cylinder || !(q[6]! < 0)) continue;
    const hole: Hole = { at: [q[0]!, q[1]!, q[2]!], axis: [q[3]!, q[4]!, q[5]!], radius: -q[6]! };
    if (!out.some((h) => Math.abs(h.radius - hole.radius) < SAME_MM && apart(h, hole) < SAME_MM)) out.push(hole);
  }
  return out;
}

/** Distance of two parallel axes, mm; Infinity when they are not parallel. */
function apart(a: Hole, b: Hole): number {
  if (Math.abs(dot(a.axis, b.axis)) < 1 - 1e-6) return Infinity;
  const d = subtract(b.at, a.at);
  return length(subtract(d, scale(a.axis, dot(d, a.axis))));
}

const number = (v: number) => String(Number(v.toFixed(v < 10 ? 2 : 1)));
const diameter = (h: Hole) => `Ø${number(2 * h.radius)}`;
const several = (n: number, one: string) => (n === 1 ? one : `${n} × ${one}`);

/** Farther than this a hole did not move: one went and another came. Share of the part's diagonal. */
const FAR = 0.5;

/** What became of the holes of a part, such as “a hole Ø8 became Ø6.6”, most telling first. */
export function holeChanges(before: PartGeometry, after: PartGeometry): string[] {
  let [old, fresh] = [holesOf(before), holesOf(after)];
  const diagonal = Math.hypot(...[0, 1, 2].map((k) => before.box[k + 3]! - before.box[k]!));
  const texts = new Map<string, number>();
  const say = (text: string) => texts.set(text, (texts.get(text) ?? 0) + 1);
  const match = (fits: (a: Hole, b: Hole) => number, tell: (a: Hole, b: Hole) => void) => {
    const pairs = old
      .flatMap((a) => fresh.map((b) => ({ a, b, cost: fits(a, b) })))
      .filter((p) => Number.isFinite(p.cost))
      .sort((p, q) => p.cost - q.cost);
    const done = new Set<Hole>();
    for (const { a, b } of pairs) {
      if (done.has(a) || done.has(b)) continue;
      done.add(a).add(b);
      tell(a, b);
    }
    old = old.filter((h) => !done.has(h));
    fresh = fresh.filter((h) => !done.has(h));
  };
  const sameSize = (a: Hole, b: Hole) => Math.abs(a.radius - b.radius) < SAME_MM;
  const within = (v: number, most: number) => (v <= most ? v : Infinity);
  match(
    (a, b) => (sameSize(a, b) ? within(apart(a, b), SAME_MM) : Infinity),
    () => undefined,
  );
  match(
    (a, b) => within(apart(a, b), SAME_MM) + Math.abs(a.radius - b.radius),
    (a, b) => say(`a hole ${diameter(a)} became ${diameter(b)}`),
  );
  match(
    (a, b) => (sameSize(a, b) ? within(apart(a, b), FAR * diagonal) : Infinity),
    (a, b) => say(`a hole ${diameter(a)} moved by ${number(apart(a, b))} mm`),
  );
  for (const h of old) say(`a hole ${diameter(h)} is gone`);
  for (const h of fresh) say(`a hole ${diameter(h)} is new`);
  return [...texts].map(([text, n]) => several(n, text));
}

/** What became of the size of a part, such as “100 × 80 × 10 mm became 100 × 80 × 12 mm”. */
export function sizeChange(before: readonly number[], after: readonly number[]): string | undefined {
  const size = (b: readonly number[]) => [0, 1, 2].map((k) => b[k + 3]! - b[k]!);
  const [s, t] = [size(before), size(after)];
  if (s.every((v, k) => Math.abs(v - t[k]!) < 0.01)) return undefined;
  const text = (v: readonly number[]) => `${v.map(number).join(' × ')} mm`;
  return text(s) === text(t) ? undefined : `its size ${text(s)} became ${text(t)}`;
}
