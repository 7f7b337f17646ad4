import Flatbush from 'flatbush';
import { Floats } from '../base/buffers.ts';
import { checkCancel, type Cancel } from '../base/errors.ts';
import { collectCandidates } from './candidates.ts';
import type { Candidates } from './candidate-lines.ts';
import type { ViewFrame } from './directions.ts';
import { LineClass, type Linework } from './linework.ts';
import { buildOccluders, type OccluderGrid } from './occluders.ts';
import { RunBuilder } from './runs.ts';
import { projectScene, type Body, type PartView, type ProjectedScene } from './scene.ts';
import { uniteLines } from './unite.ts';
import { VisibilityTest } from './visibility.ts';

export interface HiddenLineOptions {
  /** Deliver hidden lines too. Default false. */
  readonly hidden?: boolean;
  /** Deliver tangent edges. Default false. */
  readonly tangent?: boolean;
  /** Hidden lines only of components that begin within this depth behind the nearest point of the scene, mm. Default: all. */
  readonly hiddenWithinMm?: number | undefined;
  readonly cancel?: Cancel | undefined;
  /** Called now and then with the share that is done, 0…1. */
  readonly onProgress?: ((share: number) => void) | undefined;
}

/** Triangle edges grow by this share of the scene's diagonal: closes cracks, hides what lies exactly behind an outline. */
const GROW = 1e-7;
/** A line must lie this share of the diagonal behind a triangle to be hidden by it. */
const BIAS = 2e-7;
/** Lines closer than this share of the diagonal are one line. */
const UNITE = 1e-5;

/**
 * The visible and hidden lines of a scene.
 * @returns view space, model mm; every line once, arcs as arcs
 * @throws QuarryError CANCELLED
 */
export function hiddenLines(bodies: readonly Body[], frame: ViewFrame, options: HiddenLineOptions = {}): Linework {
  return linesOf(projectScene(bodies, frame), options);
}

/** The same for a scene that is projected already. */
export function linesOf(scene: ProjectedScene, options: HiddenLineOptions = {}): Linework {
  const test = new VisibilityTest(BIAS * scene.diagonal);
  const known = new Map<PartView, PartLines>();
  scene.parts.forEach((part, i) => {
    checkCancel(options.cancel);
    options.onProgress?.((0.4 * i) / scene.parts.length);
    known.set(part, partLines(part, options.tangent ?? false, scene.diagonal, test));
  });
  const runs = new RunBuilder(scene, options.hidden ?? false);
  const deepest = scene.box[5]! - (options.hiddenWithinMm ?? Infinity);
  const sorter = new NeighbourFinder(scene, known);
  for (let i = 0; i < scene.instances.length; i++) {
    checkCancel(options.cancel);
    if ((i & 15) === 0) options.onProgress?.(0.4 + (0.4 * i) / scene.instances.length);
    const { part, z } = scene.instances[i]!;
    splitInstance(i, scene, known, sorter.before(i), test, runs, part.box[5]! + z >= deepest);
  }
  options.onProgress?.(0.8);
  return uniteLines(runs.finish(), UNITE * scene.diagonal, options.cancel);
}

/** What all instances of a part share: its candidate lines, what it hides of them itself, and what it hides of others. */
interface PartLines {
  readonly candidates: Candidates;
  readonly grid: OccluderGrid;
  /** Hidden intervals of the segment that begins at point p: `own[ownStart[p]]` to `own[ownStart[p + 1]]`, in pairs. */
  readonly own: Floats;
  readonly ownStart: Uint32Array;
}

function partLines(part: PartView, tangents: boolean, diagonal: number, test: VisibilityTest): PartLines {
  const candidates = collectCandidates(part, tangents);
  const grid = buildOccluders(part, GROW * diagonal, diagonal);
  const own = new Floats(256);
  const points = candidates.xyz.length / 3;
  const ownStart = new Uint32Array(points + 1);
  const v = candidates.xyz.array;
  const covered = candidates.covered.array;
  for (let c = 0; c + 1 < candidates.start.length; c++) {
    const first = candidates.start.array[c]!;
    const end = candidates.start.array[c + 1]!;
    const nature = { deflection: candidates.deflection.array[c]!, own: true, outline: candidates.kind.array[c] === LineClass.outline };
    const folded = { ...nature, outline: true };
    for (let p = first; p < end; p++) {
      if (p < end - 1) {
        const lo = covered[p * 2]!;
        const hi = covered[p * 2 + 1]!;
        if (lo === 0 && hi === 1) {
          own.push(0);
          own.push(1);
        } else {
          const a = p * 3;
          test.start();
          if (hi > lo) test.add(lo, hi);
          // Where an edge passes an outline the mesh's own fold is a little beside the true one.
          test.against(grid, v[a]!, v[a + 1]!, v[a + 2]!, v[a + 3]!, v[a + 4]!, v[a + 5]!, hi > lo ? folded : nature);
          test.merged(own);
        }
      }
      ownStart[p + 1] = own.length;
    }
  }
  return { candidates, grid, own, ownStart };
}

/** Finds the instances that may hide an instance: over it in the picture, and nearer in part. */
class NeighbourFinder {
  /** minX minY maxX maxY nearest, per instance; view space. */
  readonly boxes: Float64Array;
  private readonly tree: Flatbush | undefined;
  private readonly scene: ProjectedScene;

  constructor(scene: ProjectedScene, known: ReadonlyMap<PartView, PartLines>) {
    this.scene = scene;
    const n = scene.instances.length;
    this.boxes = new Float64Array(n * 5);
    const pad = GROW * scene.diagonal;
    this.tree = n ? new Flatbush(n) : undefined;
    scene.instances.forEach(({ part, x, y, z }, i) => {
      const b = part.box;
      this.boxes.set([b[0]! + x - pad, b[1]! + y - pad, b[3]! + x + pad, b[4]! + y + pad, known.get(part)!.grid.nearest + z], i * 5);
      this.tree!.add(this.boxes[i * 5]!, this.boxes[i * 5 + 1]!, this.boxes[i * 5 + 2]!, this.boxes[i * 5 + 3]!);
    });
    this.tree?.finish();
  }

  /** Nearest first, with their boxes copied in that order. */
  before(i: number): Neighbours {
    const b = this.boxes;
    const { part, z } = this.scene.instances[i]!;
    const far = part.box[2]! + z;
    const list = this.tree!.search(b[i * 5]!, b[i * 5 + 1]!, b[i * 5 + 2]!, b[i * 5 + 3]!, (j) => j !== i && b[j * 5 + 4]! >= far);
    list.sort((p, q) => b[q * 5 + 4]! - b[p * 5 + 4]! || p - q);
    const boxes = new Float64Array(list.length * 5);
    list.forEach((j, k) => boxes.set(b.subarray(j * 5, j * 5 + 5), k * 5));
    return { list, boxes };
  }
}

interface Neighbours {
  readonly list: readonly number[];
  readonly boxes: Float64Array;
}

/** Cuts the lines of one instance into visible and hidden stretches and hands them on. */
function splitInstance(
  index: number,
  scene: ProjectedScene,
  known: ReadonlyMap<PartView, PartLines>,
  { list, boxes }: Neighbours,
  test: VisibilityTest,
  runs: RunBuilder,
  keepHidden: boolean,
): void {
  const { part, x, y, z } = scene.instances[index]!;
  const { candidates: c, own, ownStart } = known.get(part)!;
  const v = c.xyz.array;
  const grids = list.map((j) => known.get(scene.instances[j]!.part)!.grid);
  const offsets = new Float64Array(list.length * 3);
  list.forEach((j, k) => {
    const o = scene.instances[j]!;
    offsets[k * 3] = x - o.x;
    offsets[k * 3 + 1] = y - o.y;
    offsets[k * 3 + 2] = z - o.z;
  });
  const merged = new Floats(64);
  for (let chain = 0; chain + 1 < c.start.length; chain++) {
    const first = c.start.array[chain]!;
    const end = c.start.array[chain + 1]!;
    const nature = { deflection: c.deflection.array[chain]!, own: false, outline: c.kind.array[chain] === LineClass.outline };
    runs.begin(index, c, chain, keepHidden);
    for (let p = first; p < end - 1; p++) {
      const from = ownStart[p]!;
      const to = ownStart[p + 1]!;
      if (to - from === 2 && own.array[from] === 0 && own.array[from + 1] === 1) {
        runs.stretch(p, 0, 1, true);
        continue;
      }
      const o = p * 3;
      const ax = v[o]!,
        ay = v[o + 1]!,
        az = v[o + 2]!,
        bx = v[o + 3]!,
        by = v[o + 4]!,
        bz = v[o + 5]!;
      const minX = (ax < bx ? ax : bx) + x;
      const maxX = (ax < bx ? bx : ax) + x;
      const minY = (ay < by ? ay : by) + y;
      const maxY = (ay < by ? by : ay) + y;
      const far = (az < bz ? az : bz) + z;
      test.start();
      for (let k = from; k < to; k += 2) test.add(own.array[k]!, own.array[k + 1]!);
      for (let k = 0; k < grids.length; k++) {
        const b = k * 5;
        if (boxes[b + 4]! < far) break;
        if (boxes[b]! > maxX || boxes[b + 2]! < minX || boxes[b + 1]! > maxY || boxes[b + 3]! < minY) continue;
        const dx = offsets[k * 3]!,
          dy = offsets[k * 3 + 1]!,
          dz = offsets[k * 3 + 2]!;
        if (test.against(grids[k]!, ax + dx, ay + dy, az + dz, bx + dx, by + dy, bz + dz, nature)) break;
      }
      merged.length = 0;
      test.merged(merged);
      let t = 0;
      for (let k = 0; k < merged.length; k += 2) {
        const lo = merged.array[k]!;
        const hi = merged.array[k + 1]!;
        if (lo - t > 1e-9) {
          runs.stretch(p, t, lo, false);
          t = lo;
        }
        if (hi - t > 1e-9) {
          runs.stretch(p, t, hi, true);
          t = hi;
        }
      }
      if (1 - t > 1e-9) runs.stretch(p, t, 1, false);
    }
    runs.end();
  }
}
