import { applyToDirection, applyToPoint, combine, IDENTITY, type Placement } from '../base/placement.ts';
import { add, cross, dot, scale, subtract, type Vec3 } from '../base/vector.ts';
import type { Body } from '../outline/scene.ts';

/** A turn about an axis, as the assembled model has it; it goes along with what was pulled before. */
export interface Turn {
  /** Unit vector. */
  readonly axis: Vec3;
  readonly through: Vec3;
  /** Radians, right-handed. */
  readonly angle: number;
}

/** One step of a spread: these components move that far in that direction, or turn. */
export interface Pull {
  /** Indices of components. */
  readonly components: readonly number[];
  /** Unit vector, model space. */
  readonly direction: Vec3;
  readonly distanceMm: number;
  /** The components turn instead. */
  readonly turn?: Turn;
  /** Place of each component in an evenly spaced row, from 1; the last goes the whole distance. Absent: all do. */
  readonly ranks?: readonly number[];
  /** The first leg of a way round a corner: it goes as far as there is room for the next one. */
  readonly leg?: true;
}

/** How much of the pull its k-th component makes, 0…1. */
export function shareOf(pull: Pull, k: number): number {
  return pull.ranks ? pull.ranks[k]! / Math.max(1, ...pull.ranks) : 1;
}

/**
 * Which components of a pull are taken off by it: those that have not moved before, where there are any, since the others
 * go along; and of a set that moves as one those of its largest part.
 * @param moved components that earlier pulls moved
 * @param sizeOf of a component, to tell the largest
 * @param kindOf alike for components of one part
 */
export function takenOff(pull: Pull, moved: ReadonlySet<number>, sizeOf: (c: number) => number, kindOf: (c: number) => unknown): Set<number> {
  const fresh = pull.components.filter((c) => !moved.has(c));
  const own = fresh.length ? fresh : pull.components;
  if (pull.ranks) return new Set(own);
  const largest = own.reduce((a, b) => (sizeOf(b) > sizeOf(a) * (1 + 1e-9) ? b : a));
  return new Set(own.filter((c) => kindOf(c) === kindOf(largest)));
}

/** Rotation about a line (Rodrigues). */
export function rotationAbout(axis: Vec3, through: Vec3, angle: number): Placement {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const row = (e: Vec3): Vec3 => {
    // What the transposed rotation does to a unit vector is a row of the rotation.
    const turned = add(add(scale(e, c), scale(cross(axis, e), -s)), scale(axis, dot(axis, e) * (1 - c)));
    return turned;
  };
  const [x, y, z] = [row([1, 0, 0]), row([0, 1, 0]), row([0, 0, 1])];
  const t = subtract(through, [dot(x, through), dot(y, through), dot(z, through)]);
  return [...x, t[0], ...y, t[1], ...z, t[2]];
}

/**
 * What a pull does to its k-th component.
 * @param before where the pull's first component is when the pull begins: the axis of a turn went along with it
 * @param part how much of the pull is made, 0…1
 */
export function stepOf(pull: Pull, k: number, before: Placement, part = 1): Placement {
  const share = shareOf(pull, k) * part;
  if (pull.turn) {
    const { axis, through, angle } = pull.turn;
    return rotationAbout(applyToDirection(before, axis), applyToPoint(before, through), angle * share);
  }
  const d = pull.distanceMm * share;
  return [1, 0, 0, pull.direction[0] * d, 0, 1, 0, pull.direction[1] * d, 0, 0, 1, pull.direction[2] * d];
}

/** Adds a pull to where the components are. `motions` is changed. */
export function applyPull(motions: Placement[], pull: Pull, part = 1): void {
  const before = motions[pull.components[0] ?? 0] ?? IDENTITY;
  pull.components.forEach((c, k) => {
    motions[c] = combine(stepOf(pull, k, before, part), motions[c]!);
  });
}

/**
 * Where each component is, relative to its assembled place, after the first pulls.
 * @param time how many pulls are made; 2.5 is half way through the third. Default: all
 */
export function motionsOf(pulls: readonly Pull[], componentCount: number, time = pulls.length): Placement[] {
  const motions = new Array<Placement>(componentCount).fill(IDENTITY);
  pulls.forEach((p, i) => {
    if (time > i) applyPull(motions, p, Math.min(1, time - i));
  });
  return motions;
}

/** The bodies where the motions bring them. */
export function movedBodies(bodies: readonly Body[], motions: readonly Placement[]): Body[] {
  return bodies.map((b) => {
    const m = motions[b.component]!;
    return m === IDENTITY ? b : { ...b, placement: combine(m, b.placement) };
  });
}
