import type { Floats, Ints } from '../base/buffers.ts';

/** Lines of a part that may be drawn: chains of points in its view space. Chain `i` is the points `start[i]` to `start[i + 1]`. */
export interface Candidates {
  readonly xyz: Floats;
  readonly start: Ints;
  readonly kind: Ints;
  /** Edge of the part, or `-1 - face` for an outline. */
  readonly edge: Ints;
  /** Two per point, 0…1: the stretch of the segment beginning here that its own part hides, known without a test; none when equal. */
  readonly covered: Floats;
  /** How far the chain may be off its true curve, mm. */
  readonly deflection: Floats;
}
