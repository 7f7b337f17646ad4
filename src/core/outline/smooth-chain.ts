/** Turn between neighbouring samples, rad: a sag of 0.00008 of the radius, below what any print shows. */
const SAMPLE_TURN = 0.025;
const MOST_SAMPLES = 16;
/** A sharper turn than this between two segments is a corner and stays one. cos */
const CORNER_COS = Math.cos(0.8);

/**
 * A smooth curve through the points of a chain, in the picture: cubic pieces with the tangents of the parabola through
 * each three neighbours (Bessel's rule). Points stay where they are; only the chords between them are rounded.
 */
export class SmoothChain {
  private readonly v: Float64Array;
  private readonly first: number;
  private readonly last: number;
  private readonly closed: boolean;

  /** @param xyz flat points; @param first,last the chain's points in it; @param closed the last point is the first */
  constructor(xyz: Float64Array, first: number, last: number, closed: boolean) {
    this.v = xyz;
    this.first = first;
    this.last = last;
    this.closed = closed;
  }

  /** Appends samples of the segment that begins at point p, from t0 to t1; the first one only if `withStart`. */
  sample(p: number, t0: number, t1: number, dx: number, dy: number, out: number[], withStart: boolean): void {
    const v = this.v;
    const [ax, ay, bx, by] = [v[p * 3]!, v[p * 3 + 1]!, v[p * 3 + 3]!, v[p * 3 + 4]!];
    const h = Math.hypot(bx - ax, by - ay);
    const [ux, uy] = this.tangent(p, p);
    const [wx, wy] = this.tangent(p + 1, p);
    const turn = Math.acos(Math.max(-1, Math.min(1, ux * wx + uy * wy)));
    const n = Math.max(1, Math.min(MOST_SAMPLES, Math.ceil((turn * (t1 - t0)) / SAMPLE_TURN)));
    for (let k = withStart ? 0 : 1; k <= n; k++) {
      const t = t0 + ((t1 - t0) * k) / n;
      const s = 1 - t;
      const [a, b, c, d] = [s * s * (1 + 2 * t), t * s * s * h, t * t * (3 - 2 * t), -t * t * s * h];
      out.push(a * ax + c * bx + b * ux + d * wx + dx, a * ay + c * by + b * uy + d * wy + dy);
    }
  }

  /** Unit tangent at point p for the segment that begins at `segment`. */
  private tangent(p: number, segment: number): [number, number] {
    const own = this.chord(segment);
    const other = this.neighbour(p, segment);
    if (!other) return [own.x, own.y];
    if (own.x * other.x + own.y * other.y < CORNER_COS) return [own.x, own.y];
    // Weighted by the length of the other chord.
    const x = own.x * other.h + other.x * own.h;
    const y = own.y * other.h + other.y * own.h;
    const l = Math.hypot(x, y);
    return l > 0 ? [x / l, y / l] : [own.x, own.y];
  }

  private neighbour(p: number, segment: number): { x: number; y: number; h: number } | undefined {
    if (p === segment) {
      if (p > this.first) return this.chord(p - 1);
      return this.closed ? this.chord(this.last - 1) : this.mirrored(segment, segment + 1);
    }
    if (p < this.last) return this.chord(p);
    return this.closed ? this.chord(this.first) : this.mirrored(segment, segment - 1);
  }

  /** At an open end the curve goes on turning as in the segment beside: its chord, mirrored about the end's chord. */
  private mirrored(segment: number, beside: number): { x: number; y: number; h: number } | undefined {
    if (beside < this.first || beside >= this.last) return undefined;
    const a = this.chord(segment);
    const b = this.chord(beside);
    if (a.x * b.x + a.y * b.y < CORNER_COS) return undefined;
    const along = 2 * (a.x * b.x + a.y * b.y);
    return { x: along * a.x - b.x, y: along * a.y - b.y, h: b.h };
  }

  /** Unit direction and length of the chord that begins at point p. */
  private chord(p: number): { x: number; y: number; h: number } {
    const v = this.v;
    const x = v[p * 3 + 3]! - v[p * 3]!;
    const y = v[p * 3 + 4]! - v[p * 3 + 1]!;
    const h = Math.hypot(x, y);
    return h > 0 ? { x: x / h, y: y / h, h } : { x: 0, y: 0, h: 0 };
  }
}
