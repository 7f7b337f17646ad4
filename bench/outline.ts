import { Solids } from '../demo/solids.ts';
import { namedFrame, type ViewFrame } from '../src/core/outline/directions.ts';
import { hiddenLines } from '../src/core/outline/hidden-lines.ts';
import { HIDDEN, runLength, type Linework } from '../src/core/outline/linework.ts';
import { projectScene, sceneDiagonal } from '../src/core/outline/scene.ts';
import type { Body } from '../src/core/outline/scene.ts';
import { Ways } from '../src/core/explode/ways.ts';
import { planeBox, rasterize, windowAround } from '../src/core/shade/raster.ts';
import { loadKernel, type Kernel } from '../src/kernel/load.ts';
import { exactHiddenLines, nearLines, polygonalHiddenLines, walkLines } from '../src/kernel/testing/reference.ts';
import { ASSEMBLY_FILES, fileCase, primitiveCases, SINGLE_FILES, type Case } from './cases.ts';
import { THIRTEEN } from './directions.ts';
import { machine } from './machine.ts';
import { bestOf, report, SceneMaker, trianglesIn } from './scene.ts';

/** Lines against the kernel's two algorithms, then growth from 50 to 10,000 components. */
export async function benchOutline(long: boolean): Promise<void> {
  const kernel = await loadKernel();
  const solids = new Solids(kernel);
  for (const c of primitiveCases(kernel, solids)) {
    // The exact algorithm needs a minute for each view of the spring.
    const views = c.name === 'spring' && !long ? THIRTEEN.slice(9, 10) : THIRTEEN;
    for (const v of views) compare(kernel, c, v.name, v.frame);
  }
  const files = long ? SINGLE_FILES : SINGLE_FILES.slice(0, 5);
  for (const f of files) {
    const c = await fileCase(kernel, f);
    if (c) for (const v of THIRTEEN) compare(kernel, c, v.name, v.frame);
  }
  for (const f of ASSEMBLY_FILES.slice(0, long ? 4 : 2)) {
    const c = await fileCase(kernel, f);
    // Top and right of as1 take the exact algorithm most of a minute each.
    if (c) for (const v of long ? THIRTEEN : [THIRTEEN[0]!, THIRTEEN[9]!]) compare(kernel, c, v.name, v.frame);
  }
  growth(kernel, solids);
}

/** Lines that only we have, and lines that both witnesses have and we do not, are ours to answer for. */
function compare(kernel: Kernel, c: Case, direction: string, frame: ViewFrame): void {
  const diagonal = sceneDiagonal(c.bodies);
  const tolerance = Math.max(2 * Math.max(...c.bodies.map((b) => b.geometry.deflectionMm)), 2e-4 * diagonal);
  const own = bestOf(3, () => hiddenLines(c.bodies, frame));
  const exact = bestOf(1, () => exactHiddenLines(kernel, c.shape, frame, 1e-5 * diagonal));
  const polygonal = bestOf(1, () => polygonalHiddenLines(kernel, c.shape, frame, 1e-5 * diagonal));
  const near = { own: nearLines(own.result, tolerance), exact: nearLines(exact.result, tolerance), polygonal: nearLines(polygonal.result, 2 * tolerance) };
  const share = (a: Linework, counts: (x: number, y: number) => boolean) => {
    let all = 0;
    let some = 0;
    walkLines(a, tolerance, (x, y, length) => {
      all += length;
      if (counts(x, y)) some += length;
    });
    return all > 0 ? some / all : 0;
  };
  report({
    bench: 'outline',
    case: c.name,
    direction,
    ownMs: own.ms,
    exactTimes: exact.ms / own.ms,
    polygonalTimes: polygonal.ms / own.ms,
    lengthToExact: visibleLength(own.result) / visibleLength(exact.result) - 1,
    ownNotInExact: share(own.result, (x, y) => !near.exact(x, y)),
    exactNotInOwn: share(exact.result, (x, y) => !near.own(x, y)),
    ownAlone: share(own.result, (x, y) => !near.exact(x, y) && !near.polygonal(x, y)),
    missedByOwn: share(exact.result, (x, y) => near.polygonal(x, y) && !near.own(x, y)),
    runs: own.result.kind.length,
  });
}

function visibleLength(l: Linework): number {
  let sum = 0;
  for (let i = 0; i < l.kind.length; i++) if (!(l.kind[i]! & HIDDEN)) sum += runLength(l, i);
  return sum;
}

function growth(kernel: Kernel, solids: Solids): void {
  const maker = new SceneMaker(kernel, solids);
  const frame = namedFrame('isometric');
  const all = maker.bodies(machine(solids, 10_000).children);
  const done = new Map<number, number>();
  // Warm, so that the smallest does not pay for compilation.
  hiddenLines(all.slice(0, 50), frame);
  for (const n of [50, 200, 1000, 5000, 10_000]) {
    const bodies = all.slice(0, n);
    const lines = bestOf(n > 1000 ? 1 : 3, () => hiddenLines(bodies, frame));
    const scene = projectScene(bodies, frame);
    const map = bestOf(n > 1000 ? 1 : 3, () => rasterize(scene, windowAround(planeBox(scene), 1600), n));
    done.set(n, lines.ms);
    report({
      bench: 'outline',
      case: `machine of ${n}`,
      triangles: trianglesIn(bodies),
      ownMs: lines.ms,
      itemMapMs: map.ms,
      ...(n === 200 ? { blockingMs: bestOf(1, () => blocking(bodies)).ms } : {}),
      runs: lines.result.kind.length,
      memoryMb: process.memoryUsage().rss / 1e6,
      ...(n === 1000 ? { timesOf200: lines.ms / done.get(200)! } : {}),
      ...(n === 5000 ? { exponentFrom200: Math.log(lines.ms / done.get(200)!) / Math.log(n / 200) } : {}),
    });
  }
}

/** Which component blocks which, along the three axes both ways. @returns pairs that block */
export function blocking(bodies: readonly Body[]): number {
  const ways = new Ways(
    bodies,
    bodies.map(() => false),
  );
  let pairs = 0;
  for (let way = 0; way < 6; way++) for (const list of ways.obstacles(way)) pairs += list.length;
  return pairs;
}
