import type { z } from 'zod';
import type { Segment } from '../core/base/rect.ts';
import type { Vec2 } from '../core/base/vector.ts';
import type { ViewRecord } from '../core/document/records.ts';
import type { leaders } from '../core/features/record.ts';
import type { DisplayItem } from '../core/picture/display-list.ts';
import { arrowHead, circlePath, line, num } from '../core/picture/shapes.ts';
import type { Change } from './change.ts';
import type { Handle } from './kind.ts';
import type { Scene } from './scene.ts';
import { followTarget, holdOf, isLost, pathOfTarget } from './target.ts';

/** Lines from a text or a sign to what it speaks of. */
export type Leaders = z.infer<typeof leaders>;

/** Where leaders join what they belong to, paper mm. */
export interface Joints {
  readonly left: Vec2;
  readonly right: Vec2;
  /** Length of the level piece that a leader ends with there, mm; 0: none. */
  readonly shelfMm: number;
}

/** Side of the equilateral triangle of a datum, as long as an arrow head (ISO 5459, common practice). */
const TRIANGLE_MM = 3.5;
const ARROW_MM = 2.8;
const DOT_MM = 0.6;

export const NO_LEADERS = { items: [] as DisplayItem[], lines: [] as Segment[] } as const;

/** Where a leader points, paper mm; undefined when that is not known. */
export function tipOf({ to }: Leaders[number], view: ViewRecord, scene: Scene): Vec2 | undefined {
  const hold = isLost(to) ? undefined : holdOf(scene, view, to);
  // Where it was pressed: an edge is long, and a rim has many places.
  const tip = to.at ?? (hold && ([hold.at[0], hold.at[1]] as const));
  return tip && scene.map(view).toPaper(tip);
}

/** From what is pointed at to the nearer joint. */
export function drawLeaders(
  list: Leaders,
  view: ViewRecord,
  scene: Scene,
  { left, right, shelfMm }: Joints,
  pen: number,
): { readonly items: DisplayItem[]; readonly lines: Segment[] } {
  const out = { items: [] as DisplayItem[], lines: [] as Segment[] };
  for (const leader of list) {
    const tip = tipOf(leader, view, scene);
    if (!tip) continue;
    const onLeft = tip[0] < (left[0] + right[0]) / 2;
    const joint = onLeft ? left : right;
    const corner: Vec2 = [joint[0] + (onLeft ? -shelfMm : shelfMm), joint[1]];
    out.lines.push([...tip, ...corner]);
    if (shelfMm > 0) out.lines.push([...corner, ...joint]);
    for (const s of out.lines.slice(shelfMm > 0 ? -2 : -1)) out.items.push(line(...s, pen));
    const [dx, dy] = [tip[0] - corner[0], tip[1] - corner[1]];
    if (leader.end === 'arrow') out.items.push(arrowHead(...tip, dx, dy, ARROW_MM));
    if (leader.end === 'dot') out.items.push({ kind: 'fill', d: circlePath(...tip, DOT_MM), color: '#000000' });
    if (leader.end === 'triangle') out.items.push(triangle(tip, [dx, dy]));
  }
  return out;
}

/** With its base on what is pointed at. */
function triangle([x, y]: Vec2, [dx, dy]: Vec2): DisplayItem {
  const l = Math.hypot(dx, dy) || 1;
  const [ux, uy] = [dx / l, dy / l];
  const [half, high] = [TRIANGLE_MM / 2, (TRIANGLE_MM * Math.sqrt(3)) / 2];
  const at = (along: number, across: number) => `${num(x - ux * along - uy * across)} ${num(y - uy * along + ux * across)}`;
  return { kind: 'fill', d: `M${at(0, half)}L${at(0, -half)}L${at(high, 0)}Z`, color: '#000000' };
}

export const lostLeaders = (list: Leaders | undefined): Leaders => (list ?? []).filter((l) => isLost(l.to));

/** Tips can be dragged. */
export function leaderHandles(list: Leaders | undefined, view: ViewRecord | undefined, scene: Scene): Handle[] {
  if (!view) return [];
  const map = scene.map(view);
  return (list ?? []).flatMap((l, i) => (l.to.at ? [{ name: `leader-${i}`, at: map.toPaper(l.to.at) }] : []));
}

/** The leaders after one tip was dragged, paper mm; undefined when the handle is none of theirs. */
export function draggedLeader(list: Leaders | undefined, handle: string, by: Vec2, view: ViewRecord | undefined, scene: Scene): Leaders | undefined {
  const index = Number(/^leader-(\d+)$/.exec(handle)?.[1] ?? -1);
  const leader = list?.[index];
  if (!view || !list || !leader?.to.at) return undefined;
  const map = scene.map(view);
  const from = map.toPaper(leader.to.at);
  const at: Vec2 = map.toView([from[0] + by[0], from[1] + by[1]]);
  return list.map((l, i) => (i === index ? { ...l, to: { ...l.to, at } } : l));
}

/** What stands beside a view with leaders into it, after a change of that view; the same object when nothing happened. */
export function followWithLeaders<R extends { readonly view: string | null; readonly at: Vec2; readonly leaders?: Leaders }>(record: R, change: Change): R {
  const { view } = record;
  if (!view) return record;
  const [first] = record.leaders ?? [];
  const moved = record.leaders?.map((l) => {
    const to = followTarget(l.to, view, change);
    return to === l.to ? l : { ...l, to };
  });
  const at = change.offset(view, record.at, first && pathOfTarget(first.to));
  const same = at[0] === record.at[0] && at[1] === record.at[1] && (moved ?? []).every((l, i) => l === record.leaders![i]);
  return same ? record : { ...record, at, ...(moved ? { leaders: moved } : {}) };
}
