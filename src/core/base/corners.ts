import type { Vec3 } from './vector.ts';

/** The eight corners of a box: minX minY minZ maxX maxY maxZ. */
export const cornersOf = (b: readonly number[]): Vec3[] => Array.from({ length: 8 }, (_, i) => [b[i & 1 ? 3 : 0]!, b[i & 2 ? 4 : 1]!, b[i & 4 ? 5 : 2]!]);
