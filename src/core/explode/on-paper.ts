import { combine, IDENTITY, translation, type Placement } from '../base/placement.ts';
import { scale, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';
import { viewBox } from '../shade/raster.ts';
import { bodiesAt, cellsOf, grown, sharedCells, silhouetteOf, type Silhouette } from './silhouette.ts';
import { motionsOf, shareOf, type Pull } from './spread.ts';

/** Components that make the same pulls: on paper they stand to each other as in the assembly. */
export interface Group {
  readonly components: readonly number[];
  /** How much of each pull they make, 0…1. */
  readonly shares: readonly number[];
  /** Indices of the pulls they make, ascending. */
  readonly made: readonly number[];
  readonly shape: Silhouette;
  /** The same, grown by half the gap. */
  readonly grownShape: Silhouette;
}

/** Cells across the assembled view. */
const CELLS = 360;

/** An exploded view as flat groups that can be shifted against each other. */
export class PaperGroups {
  readonly groups: readonly Group[];
  readonly cellMm: number;
  readonly frame: ViewFrame;
  /** Directions may be changed while distances are sought. */
  pulls: readonly Pull[];

  /** @param gapMm wanted between groups, mm in the model */
  constructor(bodies: readonly Body[], pulls: readonly Pull[], frame: ViewFrame, gapMm: number) {
    this.frame = frame;
    this.pulls = pulls;
    const box = viewBox(bodies, frame);
    this.cellMm = Math.max(1e-6, box[2]! - box[0]!, box[3]! - box[1]!) / CELLS;
    const byShares = new Map<string, { components: number[]; shares: number[] }>();
    const shares = bodies.map(() => new Array<number>(pulls.length).fill(0));
    pulls.forEach((p, k) => p.components.forEach((c, i) => (shares[c]![k] = shareOf(p, i))));
    for (const b of bodies) {
      const own = shares[b.component]!;
      const key = own.join();
      const known = byShares.get(key);
      if (known) known.components.push(b.component);
      else byShares.set(key, { components: [b.component], shares: own });
    }
    const motions = motionsOf(pulls, bodies.length);
    const distances = pulls.map((p) => p.distanceMm);
    const margin = Math.max(1, Math.round(gapMm / 2 / this.cellMm));
    this.groups = [...byShares.values()].map(({ components, shares: own }) => {
      // Turned components are seen as they stand in the end; what they are only shifted comes on top.
      const shape = silhouetteOf(bodiesAt(bodies, components, this.turnOnly(own, distances, motions[components[0]!]!)), frame, this.cellMm);
      return { components, shares: own, made: own.flatMap((s, k) => (s > 0 ? [k] : [])), shape, grownShape: grown(shape, margin) };
    });
  }

  private turnOnly(shares: readonly number[], distances: readonly number[], motion: Placement): Placement {
    if (!this.pulls.some((p, k) => p.turn && shares[k]! > 0)) return IDENTITY;
    const made = shares.flatMap((s, k) => (s > 0 ? [k] : []));
    return combine(translation(scale(this.offset({ shares, made }, distances), -1)), motion);
  }

  /** How far a group is shifted, model mm; turns not counted. */
  offset({ shares, made }: Pick<Group, 'shares' | 'made'>, distances: readonly number[]): Vec3 {
    let [x, y, z] = [0, 0, 0];
    for (const k of made) {
      const d = shares[k]! * distances[k]!;
      if (d === 0 || this.pulls[k]!.turn) continue;
      const { direction } = this.pulls[k]!;
      x += direction[0] * d;
      y += direction[1] * d;
      z += direction[2] * d;
    }
    return [x, y, z];
  }

  cells(group: Group, distances: readonly number[]): [number, number] {
    return cellsOf(this.offset(group, distances), this.frame, this.cellMm);
  }

  /** The box around all groups, model mm on paper axes: minX minY maxX maxY. */
  box(distances: readonly number[]): [number, number, number, number] {
    const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
    for (const g of this.groups) {
      if (g.shape.count === 0) continue;
      const [dx, dy] = this.cells(g, distances);
      box[0] = Math.min(box[0], (g.shape.x0 + dx) * this.cellMm);
      box[1] = Math.min(box[1], (g.shape.y0 + dy) * this.cellMm);
      box[2] = Math.max(box[2], (g.shape.x0 + dx + g.shape.width) * this.cellMm);
      box[3] = Math.max(box[3], (g.shape.y0 + dy + g.shape.height) * this.cellMm);
    }
    return box;
  }

  /** Pairs of groups that touch, or come closer than the gap; with where the first is on the second's grid. */
  touching(distances: readonly number[]): { a: Group; b: Group; dx: number; dy: number }[] {
    const at = this.groups.map((g) => this.cells(g, distances));
    return this.groups.flatMap((a, i) =>
      this.groups.slice(i + 1).flatMap((b, j) => {
        const [dx, dy] = [at[i]![0] - at[i + 1 + j]![0], at[i]![1] - at[i + 1 + j]![1]];
        return sharedCells(a.grownShape, b.grownShape, dx, dy, 1) > 0 ? [{ a, b, dx, dy }] : [];
      }),
    );
  }
}

/** Two groups of components that overlap or come too close on paper. */
export interface Touch {
  readonly first: readonly number[];
  readonly second: readonly number[];
  /** What they share, mm² on paper; 0 when they only come too close. */
  readonly overlapMm2: number;
}

export interface PaperReport {
  /** Size on paper, mm. */
  readonly size: readonly [number, number];
  readonly touches: readonly Touch[];
}

/**
 * What an exploded view is like on paper: its size, and which separately pulled components overlap or come closer than
 * the gap, by their silhouettes.
 * @param scale paper mm per model mm
 * @param gapMm least distance, paper mm
 */
export function paperReport(bodies: readonly Body[], pulls: readonly Pull[], frame: ViewFrame, scale: number, gapMm: number): PaperReport {
  const paper = new PaperGroups(bodies, pulls, frame, gapMm / scale);
  const distances = pulls.map((p) => p.distanceMm);
  const cell = (paper.cellMm * scale) ** 2;
  const touches = paper.touching(distances).map(({ a, b, dx, dy }): Touch => {
    return { first: a.components, second: b.components, overlapMm2: sharedCells(a.shape, b.shape, dx, dy) * cell };
  });
  const box = paper.box(distances);
  return {
    size: [Math.max(0, box[2] - box[0]) * scale, Math.max(0, box[3] - box[1]) * scale],
    touches: touches.sort((a, b) => b.overlapMm2 - a.overlapMm2),
  };
}
