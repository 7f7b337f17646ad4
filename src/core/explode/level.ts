import type { Unit } from './units.ts';
import type { Ways, WayIndex } from './ways.ts';

/** The units that are still there, with a count of what obstructs each on each of the model's six ways. */
export class Level {
  units: Unit[];
  base: Unit | undefined;
  private readonly ways: Ways;
  private readonly unitOf = new Map<number, Unit>();
  private readonly counts = new Map<Unit, Int32Array>();

  constructor(ways: Ways, units: readonly Unit[]) {
    this.ways = ways;
    this.units = [...units];
    for (const u of units) for (const c of u.components) this.unitOf.set(c, u);
    for (const u of units) this.count(u);
  }

  private count(u: Unit): void {
    const counts = new Int32Array(6);
    for (let w = 0; w < 6; w++) {
      const obstacles = this.ways.obstacles(w);
      for (const a of u.components)
        for (const b of obstacles[a]!) {
          const other = this.unitOf.get(b);
          if (other && other !== u) counts[w]!++;
        }
    }
    this.counts.set(u, counts);
  }

  isFree(u: Unit, way: WayIndex): boolean {
    return this.counts.get(u)![way] === 0;
  }

  /** Free on any way, looked up pair by pair. */
  isFreeAlone(u: Unit, way: WayIndex): boolean {
    return this.obstaclesOf(u, way, true).length === 0;
  }

  /** Free if some others come off with it. */
  isFreeBeside(u: Unit, way: WayIndex, beside: readonly Unit[]): boolean {
    if (way < 6 && this.isFree(u, way)) return true;
    const gone = new Set(beside.flatMap((x) => x.components));
    return this.obstaclesOf(u, way).every((c) => gone.has(c));
  }

  obstaclesOf(u: Unit, way: WayIndex, firstOnly = false): number[] {
    const own = new Set(u.components);
    const found = new Set<number>();
    for (const other of this.units)
      for (const b of other.components) {
        if (own.has(b)) continue;
        if (u.components.some((a) => this.ways.obstructs(a, b, way))) {
          found.add(b);
          if (firstOnly) return [...found];
        }
      }
    return [...found];
  }

  remove(u: Unit): void {
    this.units = this.units.filter((x) => x !== u);
    for (let w = 0; w < 6; w++) {
      // Who is obstructed by it on a way obstructs it on the opposite one.
      const back = this.ways.obstacles(w ^ 1);
      for (const b of u.components)
        for (const a of back[b]!) {
          const other = this.unitOf.get(a);
          if (other && other !== u) this.counts.get(other)![w]!--;
        }
    }
    for (const c of u.components) this.unitOf.delete(c);
    this.counts.delete(u);
  }

  /** Puts the parts of every unit of a product in its place. */
  open(product: string): void {
    const opened = this.units.filter((u) => u.product === product && u.parts.length > 0);
    this.units = this.units.flatMap((u) => (opened.includes(u) ? u.parts : [u]));
    for (const u of opened) {
      this.counts.delete(u);
      for (const p of u.parts) for (const c of p.components) this.unitOf.set(c, p);
    }
    for (const u of opened) for (const p of u.parts) this.count(p);
  }
}
