/** Sizes and tolerances that a model states itself: semantic dimensions of ISO 10303-242, on faces of a part. */

/** On which faces something is stated; indices of the part's faces. */
type Faces = readonly number[];

export interface StatedSize {
  /** `length`: between two sets of faces, or of one. */
  readonly kind: 'diameter' | 'radius' | 'length' | 'angle';
  /** Nominal value, mm or rad. */
  readonly value: number;
  /** Deviations from it, mm or rad. */
  readonly lower?: number;
  readonly upper?: number;
  /** Class of ISO 286, such as `H7`. */
  readonly fit?: string;
  readonly form?: 'basic' | 'reference';
  /** What it is measured on: one set of faces, or from one to another. */
  readonly on: readonly Faces[];
}

/** Geometrical characteristics of ISO 1101 (table 2), as signs and tolerances of the model call them. */
export const CHARACTERISTICS = [
  'straightness',
  'flatness',
  'roundness',
  'cylindricity',
  'line-profile',
  'surface-profile',
  'parallelism',
  'perpendicularity',
  'angularity',
  'position',
  'coaxiality',
  'symmetry',
  'run-out',
  'total-run-out',
] as const;
export type Characteristic = (typeof CHARACTERISTICS)[number];

export interface StatedTolerance {
  readonly of: Characteristic;
  /** Width or diameter of the zone, mm. */
  readonly zoneMm: number;
  readonly round?: true;
  readonly modifier?: 'M' | 'L';
  /** Letters of its datums in order, `A` or `A-B`. */
  readonly datums: readonly string[];
  readonly on: Faces;
}

export interface StatedDatum {
  readonly letter: string;
  readonly on: Faces;
}

export interface Stated {
  readonly sizes: readonly StatedSize[];
  readonly tolerances: readonly StatedTolerance[];
  readonly datums: readonly StatedDatum[];
}

export const isStated = (s: Stated): boolean => s.sizes.length + s.tolerances.length + s.datums.length > 0;

/** What is stated on faces of one part, with its own numbers of faces. @param faceOf index of a face by its number before; undefined: of another part */
export function statedOn(s: Stated, faceOf: (face: number) => number | undefined): Stated {
  const own = (faces: Faces): Faces => faces.flatMap((f) => faceOf(f) ?? []);
  const whole = (faces: Faces) => faces.length > 0;
  return {
    sizes: s.sizes.map((x) => ({ ...x, on: x.on.map(own) })).filter((x) => x.on.every(whole)),
    tolerances: s.tolerances.map((x) => ({ ...x, on: own(x.on) })).filter((x) => whole(x.on)),
    datums: s.datums.map((x) => ({ ...x, on: own(x.on) })).filter((x) => whole(x.on)),
  };
}

/** The same in a model `k` times as large. */
export function rescaleStated(s: Stated, k: number): Stated {
  return {
    ...s,
    sizes: s.sizes.map((x) =>
      x.kind === 'angle'
        ? x
        : {
            ...x,
            value: x.value * k,
            ...(x.lower === undefined ? {} : { lower: x.lower * k }),
            ...(x.upper === undefined ? {} : { upper: x.upper * k }),
          },
    ),
    tolerances: s.tolerances.map((x) => ({ ...x, zoneMm: x.zoneMm * k })),
  };
}
