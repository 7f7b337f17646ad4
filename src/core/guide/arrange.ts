import type { Assembly } from '../assembly/assembly.ts';
import type { Cancel } from '../base/errors.ts';
import { checkSpread } from '../explode/way-out.ts';
import type { Body } from '../outline/scene.ts';
import type { BuildOrder, BuildStep } from './steps.ts';

/** What a drafter changed about the steps, by their keys. */
export interface StepEdits {
  /** Steps in the order that is wanted; those that are not named keep their place among their neighbours. */
  readonly order?: readonly string[] | undefined;
  /** Steps that are one with the step before them. */
  readonly joined?: readonly string[] | undefined;
  /** Steps of several pieces that are taken one by one. */
  readonly split?: readonly string[] | undefined;
}

/** What people know a step by while others come and go: its kind and the path of its first component. */
export const stepKey = (step: BuildStep, paths: readonly string[]): string => `${step.kind}/${paths[step.adds[0] ?? step.joins[0] ?? -1] ?? ''}`;

/**
 * The steps as a drafter wants them: split, put in order, joined. Within what is being built only: a sub-assembly is built before it
 * goes on, and begins with what it begins with. Every way is checked again in the new order.
 * @throws QuarryError CANCELLED
 */
export function arranged(
  base: BuildOrder,
  edits: StepEdits,
  paths: readonly string[],
  assembly: Assembly,
  bodies: readonly Body[],
  cancel?: Cancel,
): BuildOrder {
  if (!edits.order?.length && !edits.joined?.length && !edits.split?.length) return base;
  const split = new Set(edits.split);
  const single = base.steps.flatMap((s): BuildStep[] =>
    s.moves.length > 1 && split.has(stepKey(s, paths)) ? s.moves.map((m) => ({ ...s, adds: m.components, moves: [m] })) : [s],
  );
  const blocks = runsOf(single, (s) => s.unit).map((block) => inOrder(block, edits.order ?? [], paths));
  const joined = new Set(edits.joined);
  const steps = standing(blocks.flatMap((block) => together(block, joined, paths)));
  const { blocked, checked } = check(base, steps, assembly, bodies, cancel);
  return { ...base, steps, checked, blocked };
}

/** Neighbours that belong together. */
function runsOf<T>(list: readonly T[], of: (t: T) => unknown): T[][] {
  const runs: T[][] = [];
  for (const t of list) {
    const last = runs.at(-1);
    if (last && of(last[0]!) === of(t)) last.push(t);
    else runs.push([t]);
  }
  return runs;
}

/** Those that are named take the places of those that are named, in the order that is wanted; what it begins with stays first. */
function inOrder(block: readonly BuildStep[], order: readonly string[], paths: readonly string[]): BuildStep[] {
  const wanted = new Map(order.map((key, i) => [key, i]));
  const rank = (s: BuildStep) => (s.kind === 'start' ? undefined : wanted.get(stepKey(s, paths)));
  const named = block.filter((s) => rank(s) !== undefined).sort((a, b) => rank(a)! - rank(b)!);
  let at = 0;
  return block.map((s) => (rank(s) === undefined ? s : named[at++]!));
}

function together(block: readonly BuildStep[], joined: ReadonlySet<string>, paths: readonly string[]): BuildStep[] {
  const out: BuildStep[] = [];
  for (const s of block) {
    const last = out.at(-1);
    // What it begins with stands by itself, and so does a sub-assembly that goes on.
    if (!last || last.kind === 'start' || last.kind === 'join' || s.kind === 'join' || !joined.has(stepKey(s, paths))) out.push(s);
    else
      out[out.length - 1] = {
        ...last,
        of: [...(last.of ?? [stepKey(last, paths)]), stepKey(s, paths)],
        kind: last.kind === s.kind ? s.kind : 'add',
        adds: [...last.adds, ...s.adds],
        moves: [...last.moves, ...s.moves],
      };
  }
  return out;
}

/** Each step with what stands there before it. */
function standing(steps: readonly BuildStep[]): BuildStep[] {
  const there = new Map<number, number[]>();
  return steps.map((s) => {
    const before = there.get(s.unit) ?? [];
    there.set(s.unit, [...before, ...s.adds, ...s.joins]);
    return { ...s, there: before };
  });
}

/** The steps turned round again are a spread: its ways are checked as those of any other. */
function check(base: BuildOrder, steps: readonly BuildStep[], assembly: Assembly, bodies: readonly Body[], cancel?: Cancel) {
  const order: { readonly pull: number; readonly step: number }[] = [];
  for (let i = steps.length - 1; i >= 0; i--) for (const m of [...steps[i]!.moves].reverse()) for (const pull of m.pulls) order.push({ pull, step: i });
  const named = new Set(order.map((o) => o.pull));
  // What everything else goes onto left last.
  const rest = base.pulls.flatMap((_, pull) => (named.has(pull) ? [] : [{ pull, step: -1 }]));
  const all = [...order, ...rest];
  const { clear } = checkSpread(
    assembly,
    bodies,
    all.map((o) => base.pulls[o.pull]!),
    cancel,
  );
  const blocked = [...new Set(all.flatMap((o, i) => (clear[i] || o.step < 0 ? [] : [o.step])))].sort((a, b) => a - b);
  return { blocked, checked: clear.every(Boolean) };
}
