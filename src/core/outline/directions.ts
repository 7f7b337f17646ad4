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
