import { frameFrom, type ViewFrame } from '../src/core/outline/directions.ts';
import type { Vec3 } from '../src/core/base/vector.ts';

/** Along the axes, the diagonals of the faces and those of the body of a cube: 13, opposite ones counted once. */
export const THIRTEEN: readonly { readonly name: string; readonly frame: ViewFrame }[] = (
  [
    [0, -1, 0],
    [0, 0, 1],
    [1, 0, 0],
    [1, -1, 0],
    [1, 1, 0],
    [1, 0, 1],
    [-1, 0, 1],
    [0, -1, 1],
    [0, 1, 1],
    [1, -1, 1],
    [-1, -1, 1],
    [1, 1, 1],
    [-1, 1, 1],
  ] as Vec3[]
).map((v) => ({ name: v.join(','), frame: frameFrom(v, v[0] === 0 && v[1] === 0 ? [0, 1, 0] : [0, 0, 1]) }));
