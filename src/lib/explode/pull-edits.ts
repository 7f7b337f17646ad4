import { evaluateLength } from '$core/base/expression';
import { applyToPoint } from '$core/base/placement';
import { cross, dot, normalize, scale, type Vec3 } from '$core/base/vector';
import { without } from '$core/base/without';
import type { PullRecord } from '$core/document/records';
import { mergePulls, mirroredPull, splitPull } from '$core/explode/edits';
import { plainPull } from '$core/explode/records';
import type { CheckAnswer } from '$core/explode/requests';
import { notify } from '../shared/notices.svelte';
import { compute } from './compute';
import type { Explode } from './explode.svelte';

export function changePull(explode: Explode, i: number, label: string, change: Partial<PullRecord>, drop: readonly (keyof PullRecord)[] = []): void {
  const pulls = explode.spread!.pulls.map((p, k) => (k === i ? drop.reduce((r, key) => without(r, key) as PullRecord, { ...p, ...change }) : p));
  explode.put(label, { pulls });
}

const AXES: readonly Vec3[] = [
  [0, 0, 1],
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, -1],
];

/** A direction in which what is chosen gets out: the one at hand, one of what was picked, or an axis. The one at hand if none is free. */
async function freeDirection(explode: Explode, distanceMm: number): Promise<Vec3> {
  const { drawing, direction, picked, made, active } = explode;
  const before = made.filter((p) => active === undefined || p.record <= active).map(plainPull);
  const components = [...explode.chosen];
  const ways = [direction, ...picked.flatMap((p) => [p.direction, scale(p.direction, -1)]), ...AXES];
  for (const way of ways) {
    const pulls = [...before, { components, direction: normalize(way), distanceMm }];
    const answer = await compute<CheckAnswer>(drawing.id, { kind: 'check', pulls, from: before.length }).catch(() => undefined);
    if (!answer) break;
    if (answer.clear.at(-1)) return way;
  }
  return direction;
}

/** Pulls what is chosen: a new pull after the one at hand. @param direction without one a free direction is looked for */
export async function addPull(explode: Explode, direction?: Vec3, distanceMm = roundDistance(explode)): Promise<void> {
  if (!explode.spread || explode.chosen.size === 0) {
    notify('trouble', 'Pick the parts to be pulled first: press on them, or draw a box around them with Shift held.');
    return;
  }
  const components = explode.paths(explode.chosen);
  const way = normalize(direction ?? (explode.aimed ? explode.direction : await freeDirection(explode, distanceMm)));
  insert(explode, 'Pull', { components, direction: way, distanceMm, typed: true });
  explode.direction = way;
}

/** A turn of what is chosen by a right angle about what was picked. */
export function addTurn(explode: Explode): void {
  const about = explode.picked.find((p) => p.kind === 'axis') ?? explode.picked[0];
  if (!explode.spread || explode.chosen.size === 0 || !about) {
    notify('trouble', 'Pick a hole, a shaft, a face or an edge of the part to be turned: that gives the axis.');
    return;
  }
  const turn = { axis: about.direction, through: about.at, angle: Math.PI / 2 };
  insert(explode, 'Turn', { components: explode.paths(explode.chosen), direction: about.direction, distanceMm: 0, turn, typed: true });
}

/** A second pull of the same parts, square to the first: its pull lines get a bend. */
export function bend(explode: Explode, i: number): void {
  const { components, direction, distanceMm, ranks } = explode.spread!.pulls[i]!;
  // To the side that is seen best: across the line of sight.
  const side = cross(direction, explode.frame.toward);
  const across = Math.hypot(...side) > 1e-6 ? normalize(side) : explode.frame.right;
  const axes: Vec3[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  // Along an axis of the model, if one of them is square to the pull.
  const axis = axes.filter((a) => Math.abs(dot(a, direction)) < 1e-6).sort((a, b) => Math.abs(dot(b, across)) - Math.abs(dot(a, across)))[0];
  const way = axis ? scale(axis, Math.sign(dot(axis, across)) || 1) : across;
  explode.active = i;
  insert(explode, 'Bend', { components, direction: way, distanceMm: Math.max(1, Math.round(distanceMm / 2)), ...(ranks ? { ranks } : {}), typed: true });
}

/** Puts a pull after the one at hand, or at the end, and takes it up. */
function insert(explode: Explode, label: string, pull: PullRecord): void {
  const { pulls } = explode.spread!;
  const at = explode.active === undefined ? pulls.length : explode.active + 1;
  explode.put(label, { pulls: [...pulls.slice(0, at), pull, ...pulls.slice(at)] });
  explode.active = at;
  explode.time = explode.timeOf(at);
}

/** A round distance that suits the size of the parts, mm. */
function roundDistance(explode: Explode): number {
  const box = explode.drawing.assembly.parts.map((p) => p.box);
  const size = Math.max(...box.map((b) => Math.hypot(b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!)), 1) / 5;
  const step = 10 ** Math.floor(Math.log10(size));
  return Math.max(step, Math.round(size / step) * step);
}

/** A distance that someone chose: by typing, by the handle or by its keys. */
export function setDistance(explode: Explode, i: number, mm: number): void {
  changePull(explode, i, `Distance ${mm} mm`, { distanceMm: mm, typed: true }, ['leg']);
}

/** Takes what was typed as a distance, or as an angle in degrees. @returns whether it is one */
export function typePull(explode: Explode, i: number, text: string): boolean {
  const p = explode.spread!.pulls[i]!;
  const v = evaluateLength(text);
  if (v === undefined) notify('trouble', `“${text}” is no length. Type a number such as 45 or 2*12.5.`);
  else if (p.turn) changePull(explode, i, `Turn ${v}°`, { turn: { ...p.turn, angle: (v * Math.PI) / 180 }, typed: true });
  else setDistance(explode, i, v);
  return v !== undefined;
}

export function removePull(explode: Explode, i: number): void {
  explode.put('Remove pull', { pulls: explode.spread!.pulls.filter((_, k) => k !== i) });
  explode.active = undefined;
}

export function movePull(explode: Explode, from: number, to: number): void {
  const pulls = [...explode.spread!.pulls];
  const [p] = pulls.splice(from, 1);
  if (!p) return;
  pulls.splice(Math.max(0, Math.min(pulls.length, to)), 0, p);
  explode.put('Reorder pulls', { pulls });
  explode.active = Math.max(0, Math.min(pulls.length - 1, to));
}

export function mergeNext(explode: Explode, i: number): void {
  const { pulls } = explode.spread!;
  const [a, b] = [pulls[i], pulls[i + 1]];
  if (a && b) explode.put('Merge pulls', { pulls: [...pulls.slice(0, i), mergePulls(a, b), ...pulls.slice(i + 2)] });
}

export function split(explode: Explode, i: number): void {
  const { pulls } = explode.spread!;
  const parts = splitPull(pulls[i]!, (path) => explode.drawing.itemOfPath(path)?.part ?? path);
  if (parts.length < 2) notify('trouble', 'All its parts are the same item: there is nothing to split.');
  else explode.put('Split pull', { pulls: [...pulls.slice(0, i), ...parts, ...pulls.slice(i + 1)] });
}

/** Evenly spaced along the direction, in the order in which the parts stand there; or all the same way again. */
export function spaceEvenly(explode: Explode, i: number): void {
  const p = explode.spread!.pulls[i]!;
  if (p.ranks) {
    changePull(explode, i, 'All the same distance', {}, ['ranks']);
    return;
  }
  const { components, assembly } = explode.drawing;
  const along = (path: string) => {
    const c = components.find((x) => x.path === path);
    return c ? dot(applyToPoint(c.placement, assembly.parts[c.part]!.centroid), p.direction) : 0;
  };
  const order = [...p.components].sort((a, b) => along(a) - along(b));
  // What stands side by side goes equally far.
  const ranks = new Map<string, number>();
  let [rank, last] = [0, -Infinity];
  for (const path of order) {
    if (along(path) > last + 0.01) rank++;
    last = along(path);
    ranks.set(path, rank);
  }
  changePull(explode, i, 'Space evenly', { ranks: p.components.map((c) => ranks.get(c)!) });
}

export function mirror(explode: Explode, i: number): void {
  const { assembly, components } = explode.drawing;
  const p = explode.spread!.pulls[i]!;
  const middles = components.map((c) => applyToPoint(c.placement, assembly.parts[c.part]!.centroid));
  const through = [0, 1, 2].map((k) => (Math.min(...middles.map((m) => m[k]!)) + Math.max(...middles.map((m) => m[k]!))) / 2) as unknown as Vec3;
  const axes: Vec3[] = [p.direction, [1, 0, 0], [0, 1, 0], [0, 0, 1]];
  const copy = axes.map((n) => mirroredPull(p, assembly, components, n, through)).find((c) => c && c.components.some((x) => !p.components.includes(x)));
  if (!copy) notify('trouble', 'No equal parts stand on the other side.');
  else explode.put('Copy to the other side', { pulls: [...explode.spread!.pulls.slice(0, i + 1), copy, ...explode.spread!.pulls.slice(i + 1)] });
}

/** Draws the pull lines of components, or leaves them out, wherever the spread is shown. */
export function showLines(explode: Explode, components: readonly string[], on: boolean): void {
  const off = explode.spread?.linesOff ?? [];
  const linesOff = on ? off.filter((c) => !components.includes(c)) : [...new Set([...off, ...components])];
  explode.put(on ? 'Pull lines on' : 'Pull lines off', { linesOff });
}

export function holdTogether(explode: Explode): void {
  if (!explode.spread) return;
  const own = new Set(explode.paths(explode.chosen));
  const rest = (explode.spread.together ?? []).filter((set) => !set.some((p) => own.has(p)));
  const held = (explode.spread.together ?? []).some((set) => set.length === own.size && set.every((p) => own.has(p)));
  if (held) explode.put('Let go', { together: rest });
  else if (own.size > 1) explode.put('Hold together', { together: [...rest, [...own]] });
  else notify('trouble', 'Pick the parts that shall move as one first.');
}
