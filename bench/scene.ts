import type { Solid, Solids } from '../demo/solids.ts';
import type { DemoNode } from '../demo/winch.ts';
import type { PartGeometry } from '../src/core/assembly/part-geometry.ts';
import { combine, IDENTITY, translation, type Placement } from '../src/core/base/placement.ts';
import type { Body } from '../src/core/outline/scene.ts';
import { extractPart } from '../src/kernel/extract-part.ts';
import type { Kernel } from '../src/kernel/load.ts';
import { placementOf } from '../src/kernel/read-triangulation.ts';

/** Bodies of a generated machine, each distinct shape meshed once. */
export class SceneMaker {
  private readonly known = new Map<Solid, PartGeometry>();
  private readonly kernel: Kernel;
  private readonly solids: Solids;
  constructor(kernel: Kernel, solids: Solids) {
    this.kernel = kernel;
    this.solids = solids;
  }

  bodies(children: readonly DemoNode[]): Body[] {
    const out: Body[] = [];
    const visit = (nodes: readonly DemoNode[], place: Placement) => {
      for (const n of nodes) {
        const here = combine(place, n.axis ? placementOf(this.solids.location(n.at, n.axis))! : translation(n.at));
        if (n.group) visit(n.group.children, here);
        else out.push({ component: out.length, geometry: this.geometry(n.part!.shape), placement: here });
      }
    };
    visit(children, IDENTITY);
    return out;
  }

  geometry(shape: Solid): PartGeometry {
    let g = this.known.get(shape);
    if (!g) this.known.set(shape, (g = extractPart(this.kernel, shape)!));
    return g;
  }

  /** The same as one shape, for the kernel's own algorithms. */
  compound(children: readonly DemoNode[]): Solid {
    const oc = this.solids.oc;
    const builder = new oc.BRep_Builder();
    const all = new oc.TopoDS_Compound();
    builder.MakeCompound(all);
    const visit = (nodes: readonly DemoNode[], place: readonly [number, number, number]) => {
      for (const n of nodes) {
        const at = [place[0] + n.at[0], place[1] + n.at[1], place[2] + n.at[2]] as const;
        if (n.group) visit(n.group.children, at);
        else builder.Add(all, n.part!.shape.Moved(this.solids.location(at, n.axis), false));
      }
    };
    visit(children, [0, 0, 0]);
    return all;
  }
}

export const trianglesIn = (bodies: readonly Body[]) => bodies.reduce((n, b) => n + b.geometry.triangles.length / 3, 0);

/** CPU milliseconds of the best of `runs` runs. */
export function bestOf<T>(runs: number, work: () => T): { ms: number; result: T } {
  let best = Infinity;
  let result!: T;
  for (let i = 0; i < runs; i++) {
    const t = process.cpuUsage();
    result = work();
    const u = process.cpuUsage(t);
    best = Math.min(best, (u.user + u.system) / 1000);
  }
  return { ms: best, result };
}

/** One JSON line per case on standard output. */
export function report(row: Readonly<Record<string, unknown>>): void {
  const round = (v: unknown) => (typeof v === 'number' && !Number.isInteger(v) ? Number(v.toPrecision(4)) : v);
  process.stdout.write(`${JSON.stringify(Object.fromEntries(Object.entries(row).map(([k, v]) => [k, round(v)])))}\n`);
}
