import { cross, dot, normalize, type Vec3 } from '../base/vector.ts';

export const DIRECTION_NAMES = ['front', 'back', 'top', 'bottom', 'left', 'right', 'isometric'] as const;
export type DirectionName = (typeof DIRECTION_NAMES)[number];

/** Orthonormal: x to the right and y up on paper, `toward` from the model to the reader. Unit vectors in model space. */
export interface ViewFrame {
  readonly right: Vec3;
  readonly up: Vec3;
  readonly toward: Vec3;
}

/** The frame seen from `toward`, with `upHint` pointing up on paper as far as it can. */
export function frameFrom(toward: Vec3, upHint: Vec3): ViewFrame {
  const w = normalize(toward);
  const right = normalize(cross(upHint, w));
  return { right, up: cross(w, right), toward: w };
}

/**
 * The frame in which a model is seen that was turned about its own X, then Y, then Z, right-handed, while the reader stayed.
 * @param angles rad
 */
export function turnedModel(frame: ViewFrame, [x, y, z]: Vec3): ViewFrame {
  // Turning the model is turning the reader back: first about Z, then Y, then X.
  const back = (v: Vec3): Vec3 => rotateX(rotateY(rotateZ(v, -z), -y), -x);
  return { right: back(frame.right), up: back(frame.up), toward: back(frame.toward) };
}

const rotateX = ([x, y, z]: Vec3, a: number): Vec3 => [x, y * Math.cos(a) - z * Math.sin(a), y * Math.sin(a) + z * Math.cos(a)];
const rotateY = ([x, y, z]: Vec3, a: number): Vec3 => [x * Math.cos(a) + z * Math.sin(a), y, z * Math.cos(a) - x * Math.sin(a)];
const rotateZ = ([x, y, z]: Vec3, a: number): Vec3 => [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a), z];

/** The principal directions, model Z up: front is seen from -Y with +X to the right. */
export function namedFrame(name: DirectionName): ViewFrame {
  switch (name) {
    case 'front':
      return { right: [1, 0, 0], up: [0, 0, 1], toward: [0, -1, 0] };
    case 'back':
      return { right: [-1, 0, 0], up: [0, 0, 1], toward: [0, 1, 0] };
    case 'top':
      return { right: [1, 0, 0], up: [0, 1, 0], toward: [0, 0, 1] };
    case 'bottom':
      return { right: [1, 0, 0], up: [0, -1, 0], toward: [0, 0, -1] };
    case 'left':
      return { right: [0, -1, 0], up: [0, 0, 1], toward: [-1, 0, 0] };
    case 'right':
      return { right: [0, 1, 0], up: [0, 0, 1], toward: [1, 0, 0] };
    case 'isometric':
      return frameFrom([1, -1, 1], [0, 0, 1]);
  }
}

/** Do two frames show the same side the same way up? */
export const sameFrame = (a: ViewFrame, b: ViewFrame): boolean => dot(a.toward, b.toward) > 1 - 1e-6 && dot(a.up, b.up) > 1 - 1e-6;

/**
 * A frame said in the model's axes, as a drawing with another front means it: what looks along -Y there looks at that front.
 * Every named side, corner and angle of a drawing goes through here.
 */
export function inFrameOf(front: ViewFrame, frame: ViewFrame): ViewFrame {
  const turned = ([x, y, z]: Vec3): Vec3 => [0, 1, 2].map((i) => front.right[i]! * x - front.toward[i]! * y + front.up[i]! * z + 0) as unknown as Vec3;
  return { right: turned(frame.right), up: turned(frame.up), toward: turned(frame.toward) };
}

/** A side by its name in a drawing with that front. */
export const sideFrame = (front: ViewFrame, name: DirectionName): ViewFrame => inFrameOf(front, namedFrame(name));

/** What a view is called in a drawing with that front: by the axis that it looks along, if it looks along one. */
export function nameOfFrame({ toward }: ViewFrame, front: ViewFrame): string {
  const along = (v: Vec3) => dot(toward, v);
  const [r, u, t] = [along(front.right), along(front.up), along(front.toward)];
  for (const [value, plus, minus] of [
    [t, 'Front', 'Back'],
    [u, 'Top', 'Bottom'],
    [r, 'Right', 'Left'],
  ] as const)
    if (Math.abs(value) > 0.9999) return value > 0 ? plus : minus;
  const same = Math.abs(Math.abs(r) - Math.abs(u)) < 1e-4 && Math.abs(Math.abs(u) - Math.abs(t)) < 1e-4;
  return same ? 'Isometric' : 'Pictorial';
}

/** The eight corners that a pictorial may be seen from: right or left, front or back, above or below. */
export type Corner = readonly [x: 1 | -1, y: 1 | -1, z: 1 | -1];

/** Isometric, seen from a corner: all three axes are foreshortened alike (ISO 5456-3). */
export const isometricFrom = ([x, y, z]: Corner): ViewFrame => frameFrom([x, y, z], [0, 0, 1]);

/**
 * Dimetric by ISO 5456-3 (from memory): on paper the width runs at 7° to the level and in true proportion with the height,
 * the depth at 42° and half as long. Seen from the front, from the right or the left, from above or below.
 *
 * For an axis of foreshortening f the direction of the reader has the component √(1 − f²) along it, and the squares of the
 * three f add up to 2 (Pohlke's theorem for square projection): f = √8/3 for width and height, √2/3 for depth.
 */
export function dimetricFrom([x, , z]: Corner): ViewFrame {
  return frameFrom([x / 3, -Math.sqrt(7) / 3, z / 3], [0, 0, 1]);
}

/** Trimetric: turned by `round` about the upright axis from the front, then tipped towards the reader by `tip`, rad. */
export function trimetric(round: number, tip: number): ViewFrame {
  const toward: Vec3 = [Math.sin(round) * Math.cos(tip), -Math.cos(round) * Math.cos(tip), Math.sin(tip)];
  return frameFrom(toward, Math.abs(Math.cos(tip)) < 1e-6 ? [-Math.sin(round), Math.cos(round), 0] : [0, 0, 1]);
}

/** A frame turned in its own plane: the picture turns against the clock. rad */
export function turnedInPlane({ right, up, toward }: ViewFrame, angle: number): ViewFrame {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const mix = (a: Vec3, ka: number, b: Vec3, kb: number): Vec3 => [a[0] * ka + b[0] * kb, a[1] * ka + b[1] * kb, a[2] * ka + b[2] * kb];
  return { right: mix(right, c, up, -s), up: mix(right, s, up, c), toward };
}
