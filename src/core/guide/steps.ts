import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import { dot } from '../base/vector.ts';
import type { Cancel } from '../base/errors.ts';
import { isFastener } from '../assembly/role.ts';
import type { Pull } from '../explode/spread.ts';
import { checkSpread } from '../explode/way-out.ts';
import type { Body } from '../outline/scene.ts';

/** One thing that goes on in a step: these components, along the pulls turned round, the last pull first. */
export interface Move {
  readonly components: readonly number[];
  /** Indices of pulls that took them off. */
  readonly pulls: readonly number[];
}

export interface BuildUnit {
  /** Of the sub-assembly that it is; absent where the model has no name for it. */
  readonly name?: string;
  /** The component that it begins with. */
  readonly lead: number;
}

/** What is done at once, with what is in hand. */
export interface BuildStep {
  /** `start`: what everything else goes onto; `add`; `fasten`: fasteners only; `join`: a sub-assembly that was built goes on. */
  readonly kind: 'start' | 'add' | 'fasten' | 'join';
  /** Components that are touched for the first time. */
  readonly adds: readonly number[];
  /** Of a `join`: all components of the sub-assembly. */
  readonly joins: readonly number[];
  readonly moves: readonly Move[];
  /** What stands there before, of the unit that is being built. */
  readonly there: readonly number[];
  /** Of steps that someone made one: what each was known by. */
  readonly of?: readonly string[];
  /** Which unit is being built: 0 is the whole. */
  readonly unit: number;
}

export interface BuildOrder {
  readonly steps: readonly BuildStep[];
  /** What steps build: the whole, sub-assemblies of the model, and what belongs together on the way there. */
  readonly units: readonly BuildUnit[];
  /** Pulls that are made: all but those that would pass through something. */
  readonly pulls: readonly Pull[];
  /** Every way of every step was checked and is clear. */
  readonly checked: boolean;
  /** Indices of steps whose way is not clear in the order that someone chose. */
  readonly blocked: readonly number[];
  /** Components that only a way through others would free: they come together with what holds them. */
  readonly inseparable: readonly number[];
}

/** Steps of fasteners are one as long as they hold no more different parts than this. */
const MOST_KINDS = 4;

/**
 * The order of building: a spread turned round. What leaves the whole as one and comes apart later is built first, on its own;
 * fasteners that follow each other from one side are one step. Pulls that pass through something are not made: what they move comes with
 * what holds it.
 * @param pulls in the order in which parts come off
 * @throws QuarryError CANCELLED
 */
export function buildOrder(assembly: Assembly, bodies: readonly Body[], pulls: readonly Pull[], cancel?: Cancel): BuildOrder {
  let made = [...pulls];
  let checked = false;
  const blocked = new Set<number>();
  // What a pull that is left out moved stands in the way of others: until nothing is passed through.
  for (let pass = 0; pass < 4 && !checked; pass++) {
    const { clear } = checkSpread(assembly, bodies, made, cancel);
    checked = clear.every(Boolean);
    if (checked) break;
    made.forEach((p, i) => !clear[i] && p.components.forEach((c) => blocked.add(c)));
    made = made.filter((_, i) => clear[i]);
  }
  if (!checked) checked = checkSpread(assembly, bodies, made, cancel).clear.every(Boolean);
  const root = unitsOf(
    made,
    bodies.map((b) => b.component),
  );
  const builder = new Builder(assembly, made);
  builder.build(root, assembly.name);
  const moved = new Set(made.flatMap((p) => p.components));
  return { steps: builder.steps, units: builder.units, pulls: made, checked, blocked: [], inseparable: [...blocked].filter((c) => !moved.has(c)) };
}

interface Unit {
  readonly components: Set<number>;
  /** Pulls that took it off, in their order. */
  readonly pulls: number[];
  /** What came off it, in the order in which it came off. */
  readonly parts: Unit[];
}

/** What leaves what: pulls of components that moved before take apart what they moved as, and lengthen its way otherwise. */
function unitsOf(pulls: readonly Pull[], all: readonly number[]): Unit {
  const root: Unit = { components: new Set(all), pulls: [], parts: [] };
  const innermost = new Map<number, Unit>(all.map((c) => [c, root]));
  pulls.forEach((p, i) => {
    const fresh = p.components.filter((c) => innermost.get(c) === root);
    const from = fresh.length ? root : takenApart(p, innermost);
    if (!from) {
      for (const u of new Set(p.components.map((c) => innermost.get(c)!)))
        if (u !== root && [...u.components].every((c) => p.components.includes(c))) u.pulls.push(i);
      return;
    }
    const components = fresh.length ? fresh : p.components.filter((c) => from.components.has(c) && innermost.get(c) === from);
    const unit: Unit = { components: new Set(components), pulls: [i], parts: [] };
    from.parts.push(unit);
    for (const c of components) innermost.set(c, unit);
  });
  return root;
}

/** The unit that a pull takes something off, leaving something of it behind. */
function takenApart(p: Pull, innermost: ReadonlyMap<number, Unit>): Unit | undefined {
  const own = new Set(p.components);
  for (const u of new Set(p.components.map((c) => innermost.get(c)!))) {
    // What has left the unit already does not count.
    const left = [...u.components].filter((c) => innermost.get(c) === u);
    if (left.some((c) => !own.has(c))) return u;
  }
  return undefined;
}

class Builder {
  readonly steps: BuildStep[] = [];
  readonly units: BuildUnit[] = [];
  private readonly fastener: readonly boolean[];
  private readonly assembly: Assembly;

  private readonly pulls: readonly Pull[];

  constructor(assembly: Assembly, pulls: readonly Pull[]) {
    this.assembly = assembly;
    this.pulls = pulls;
    this.fastener = componentsOf(assembly).map((c) => isFastener(c, assembly.parts[c.part]!));
  }

  build(unit: Unit, name: string | undefined): void {
    const gone = new Set(unit.parts.flatMap((u) => [...u.components]));
    const base = [...unit.components].filter((c) => !gone.has(c));
    const there = [...base];
    const parts = [...unit.parts].reverse();
    // A unit that everything left begins with what left it last.
    if (!base.length && parts.length) {
      const first = parts.shift()!;
      there.push(...first.components);
      base.push(...first.components);
    }
    const own = this.units.push({ ...(name ? { name } : {}), lead: base[0]! }) - 1;
    // Sub-assemblies are built before anything stands: they lie ready.
    const inner = parts.filter((p) => p.parts.length);
    for (const p of inner) this.build(p, nameOf(this.assembly, p.components));
    this.steps.push({ kind: 'start', adds: base, joins: [], moves: [], there: [], unit: own });
    for (const p of parts) {
      const components = [...p.components];
      const move: Move = { components, pulls: p.pulls };
      const before = [...there];
      there.push(...components);
      if (p.parts.length) this.steps.push({ kind: 'join', adds: [], joins: components, moves: [move], there: before, unit: own });
      else
        this.add({ kind: components.every((c) => this.fastener[c]) ? 'fasten' : 'add', adds: components, joins: [], moves: [move], there: before, unit: own });
    }
  }

  /** Fasteners that follow each other from one side are put in together; so are more pieces of the part of the step before. */
  private add(step: BuildStep): void {
    const last = this.steps.at(-1)!;
    const kinds = (list: readonly number[]) => new Set(list.map((c) => componentsOf(this.assembly)[c]!.part));
    const both = kinds([...last.adds, ...step.adds]);
    const alike = both.size === 1 && step.kind === last.kind;
    const fasteners = step.kind === 'fasten' && last.kind === 'fasten' && both.size <= MOST_KINDS && sameSide(this.pulls, last, step);
    if (last.unit !== step.unit || !(alike || fasteners)) {
      this.steps.push(step);
      return;
    }
    this.steps[this.steps.length - 1] = { ...last, adds: [...last.adds, ...step.adds], moves: [...last.moves, ...step.moves] };
  }
}

/** Do both come in the same way? From the other side a worker turns it, or walks round. */
function sameSide(pulls: readonly Pull[], a: BuildStep, b: BuildStep): boolean {
  const ways = [...a.moves, ...b.moves].map((m) => pulls[m.pulls[0]!]!);
  return ways.every((p) => !p.turn && !ways[0]!.turn && dot(p.direction, ways[0]!.direction) > 0.99);
}

/** The sub-assembly of the model that these components are, all of them and nothing else. */
function nameOf(assembly: Assembly, components: ReadonlySet<number>): string | undefined {
  const list = componentsOf(assembly);
  const linesOf = (c: number) => {
    const line: number[] = [];
    for (let n = assembly.nodes[list[c]!.node]!.parent; n > 0; n = assembly.nodes[n]!.parent) line.push(n);
    return line;
  };
  const [first] = components;
  const node = first === undefined ? undefined : linesOf(first).find((n) => list.filter((c) => linesOf(c.index).includes(n)).length === components.size);
  return node !== undefined && [...components].every((c) => linesOf(c).includes(node)) ? assembly.nodes[node]!.name : undefined;
}
