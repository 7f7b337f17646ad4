import { cross, normalize, type Vec3 } from '../base/vector.ts';

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
