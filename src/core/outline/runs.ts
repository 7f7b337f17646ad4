import { CurveKind, EDGE_STRIDE, FACE_STRIDE, SurfaceKind } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint } from '../base/placement.ts';
import { dot, type Vec3 } from '../base/vector.ts';
import { arcThrough, projectCircle, type ArcPiece, type ProjectedCircle } from './arcs.ts';
import type { Candidates } from './candidate-lines.ts';
import { HIDDEN } from './linework.ts';
import type { Instance, ProjectedScene } from './scene.ts';
import { SmoothChain } from './smooth-chain.ts';

export interface Run {
  /** Flat points, view space. */
  readonly xy: readonly number[];
  readonly kind: number;
  readonly component: number;
  readonly edge: number;
  readonly arc: ArcPiece | undefined;
  /** How far the run may be off: closer to another line it is the same one, mm. */
  readonly slack: number;
}

/** Turns the stretches of a chain into runs; flickers shorter than twice the deflection join their neighbours. */
export class RunBuilder {
  private readonly scene: ProjectedScene;
  private readonly wantHidden: boolean;
  private readonly runs: Run[] = [];
  private instance!: Instance;
  private candidates!: Candidates;
  private chain = 0;
  private keepHidden = false;
  /** Stretch i: on the segment that begins at point `segment[i]`, from parameter `t0[i]` to `t1[i]`. */
  private count = 0;
  private segment = new Uint32Array(64);
  private t0 = new Float64Array(64);
  private t1 = new Float64Array(64);
  private hidden = new Uint8Array(64);

  constructor(scene: ProjectedScene, wantHidden: boolean) {
    this.scene = scene;
    this.wantHidden = wantHidden;
  }

  /** @param keepHidden hidden stretches of this chain are wanted, if any are */
  begin(instance: number, candidates: Candidates, chain: number, keepHidden: boolean): void {
    this.instance = this.scene.instances[instance]!;
    this.candidates = candidates;
    this.chain = chain;
    this.keepHidden = keepHidden && this.wantHidden;
    this.count = 0;
  }

  stretch(segment: number, t0: number, t1: number, hidden: boolean): void {
    const i = this.count++;
    if (i === this.segment.length) this.grow();
    this.segment[i] = segment;
    this.t0[i] = t0;
    this.t1[i] = t1;
    this.hidden[i] = hidden ? 1 : 0;
  }

  end(): void {
    const n = this.count;
    if (n === 0) return;
    if (!this.keepHidden && this.all(1)) return;
    this.calmFlicker();
    // A closed chain begins where its state changes, so that no run is cut in two by where the curve happens to start.
    let first = 0;
    if (this.isClosed()) {
      while (first < n && this.hidden[(first + n - 1) % n] === this.hidden[first]) first++;
      if (first === n) first = 0;
    }
    for (let i = 0; i < n;) {
      const state = this.hidden[(first + i) % n]!;
      let j = i;
      while (j + 1 < n && this.hidden[(first + j + 1) % n] === state) j++;
      if (!state || this.keepHidden) this.emit(first + i, first + j, state === 1);
      i = j + 1;
    }
  }

  finish(): readonly Run[] {
    return this.runs;
  }

  private all(state: number): boolean {
    for (let i = 0; i < this.count; i++) if (this.hidden[i] !== state) return false;
    return true;
  }

  private isClosed(): boolean {
    const { start, xyz } = this.candidates;
    const a = start.array[this.chain]! * 3;
    const b = start.array[this.chain + 1]! * 3 - 3;
    const v = xyz.array;
    return b - a > 6 && v[a] === v[b] && v[a + 1] === v[b + 1] && v[a + 2] === v[b + 2];
  }

  private lengthOf(i: number): number {
    const v = this.candidates.xyz.array;
    const o = this.segment[i]! * 3;
    return Math.hypot(v[o + 3]! - v[o]!, v[o + 4]! - v[o + 1]!) * (this.t1[i]! - this.t0[i]!);
  }

  private calmFlicker(): void {
    const n = this.count;
    if (this.all(this.hidden[0]!)) return;
    const least = 2 * this.instance.part.geometry.deflectionMm;
    const from: number[] = [];
    const length: number[] = [];
    for (let i = 0; i < n; i++) {
      if (i === 0 || this.hidden[i] !== this.hidden[i - 1]) {
        from.push(i);
        length.push(0);
      }
      length[length.length - 1]! += this.lengthOf(i);
    }
    const groups = from.length;
    const states = from.map((i) => this.hidden[i]!);
    for (let k = 0; k < groups; k++) {
      if (length[k]! >= least) continue;
      const longest = Math.max(k > 0 ? length[k - 1]! : 0, k + 1 < groups ? length[k + 1]! : 0);
      if (longest < least) continue;
      const end = k + 1 < groups ? from[k + 1]! : n;
      for (let i = from[k]!; i < end; i++) this.hidden[i] = 1 - states[k]!;
    }
  }

  /** @param i,j first and last stretch; they may run past the end of a closed chain and go on at its beginning */
  private emit(i: number, j: number, hidden: boolean): void {
    const { candidates: c, chain, instance, count: n } = this;
    const edge = c.edge.array[chain]!;
    const curve = this.curveOf(edge);
    const xy: number[] = [];
    if (curve === 'smooth') {
      const smooth = new SmoothChain(c.xyz.array, c.start.array[chain]!, c.start.array[chain + 1]! - 1, this.isClosed());
      for (let k = i; k <= j; k++) {
        const s = k % n;
        smooth.sample(this.segment[s]!, this.t0[s]!, this.t1[s]!, instance.x, instance.y, xy, k === i);
      }
    } else {
      for (let k = i; k <= j; k++) {
        const s = k % n;
        if (k === i) this.pushPoint(xy, this.segment[s]!, this.t0[s]!);
        this.pushPoint(xy, this.segment[s]!, this.t1[s]!);
      }
    }
    const circle = curve === 'circle' ? (edge < 0 ? this.sphereOutline(-1 - edge) : this.projectCircle(edge)) : undefined;
    this.runs.push({
      xy,
      kind: c.kind.array[chain]! | (hidden ? HIDDEN : 0),
      component: instance.body.component,
      edge: edge < 0 ? edge : (instance.part.geometry.edgeOrigin?.[edge] ?? edge),
      arc: circle && arcThrough(circle, xy),
      slack: edge < 0 || curve === 'smooth' ? 0.2 * instance.part.geometry.deflectionMm : 0,
    });
  }

  private pushPoint(xy: number[], segment: number, t: number): void {
    const v = this.candidates.xyz.array;
    const o = segment * 3;
    xy.push(v[o]! + (v[o + 3]! - v[o]!) * t + this.instance.x, v[o + 1]! + (v[o + 4]! - v[o + 1]!) * t + this.instance.y);
  }

  /** How a chain is drawn: as it is, as a circle, or as a smooth curve through its points. */
  private curveOf(edge: number): 'straight' | 'circle' | 'smooth' {
    const g = this.instance.part.geometry;
    if (edge >= 0) {
      const kind = g.edgeCurve[edge];
      return kind === CurveKind.circle ? 'circle' : kind === CurveKind.free ? 'smooth' : 'straight';
    }
    const kind = g.faceKind[-1 - edge];
    if (kind === SurfaceKind.sphere) return 'circle';
    return kind === SurfaceKind.torus || kind === SurfaceKind.free ? 'smooth' : 'straight';
  }

  /** A sphere's outline is a circle of its radius. */
  private sphereOutline(face: number): ProjectedCircle {
    const { part, body } = this.instance;
    const p = part.geometry.faceParams.subarray(face * FACE_STRIDE, (face + 1) * FACE_STRIDE);
    const centre = applyToPoint(body.placement, [p[0]!, p[1]!, p[2]!]);
    return projectCircle([dot(centre, this.scene.frame.right), dot(centre, this.scene.frame.up), 0], [0, 0, 1], Math.abs(p[6]!))!;
  }

  private projectCircle(edge: number): ProjectedCircle | undefined {
    const { part, body } = this.instance;
    const p = part.geometry.edgeParams.subarray(edge * EDGE_STRIDE, (edge + 1) * EDGE_STRIDE);
    const centre = applyToPoint(body.placement, [p[0]!, p[1]!, p[2]!]);
    const axis: Vec3 = applyToDirection(body.placement, [p[3]!, p[4]!, p[5]!]);
    const { right, up, toward } = this.scene.frame;
    return projectCircle([dot(centre, right), dot(centre, up), 0], [dot(axis, right), dot(axis, up), dot(axis, toward)], p[6]!);
  }

  private grow(): void {
    const n = this.segment.length * 2;
    const wider = <T extends Uint32Array | Float64Array | Uint8Array>(from: T, to: T): T => {
      to.set(from);
      return to;
    };
    this.segment = wider(this.segment, new Uint32Array(n));
    this.t0 = wider(this.t0, new Float64Array(n));
    this.t1 = wider(this.t1, new Float64Array(n));
    this.hidden = wider(this.hidden, new Uint8Array(n));
  }
}
