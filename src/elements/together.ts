import { rectOf, type Rect } from '../core/base/rect.ts';
import { joined } from '../core/picture/ink.ts';
import type { Vec2 } from '../core/base/vector.ts';
import { applySteps, type Step } from '../core/document/steps.ts';
import { isElement, kindOf, type ElementRecord } from './kinds.ts';
import { homeOf, Scene } from './scene.ts';

/** What a drawn element takes hold of, paper mm: of a view its lines, of a balloon its circle. */
export function boxOf(scene: Scene, record: ElementRecord): Rect | undefined {
  const boxes = kindOf(record)
    .draw(record, scene)
    .map((d) => rectOf(d.box));
  return boxes.length ? joined(boxes) : undefined;
}

/** The elements of a choice that can be moved and do not go along with another of them. */
export function movable(scene: Scene, ids: readonly string[]): ElementRecord[] {
  const chosen = new Set(ids);
  const goesAlong = (home: string | undefined): boolean =>
    home !== undefined && (chosen.has(home) || goesAlong(scene.document[home] && homeOf(scene.document[home])));
  return ids.flatMap((id) => {
    const r = Object.hasOwn(scene.document, id) ? scene.document[id] : undefined;
    return r && isElement(r) && kindOf(r).drag && !goesAlong(homeOf(r)) ? [r] : [];
  });
}

/** A drawing that changes step by step while something is moved, with what was changed so far. */
class Moving {
  scene: Scene;
  private readonly changed = new Map<string, Step>();

  constructor(scene: Scene) {
    this.scene = scene;
  }

  get steps(): Step[] {
    return [...this.changed.values()];
  }

  /** Moves an element as if by hand. @returns whether it could */
  move(id: string, by: Vec2): boolean {
    const record = this.scene.document[id];
    if (!record || !isElement(record) || (!by[0] && !by[1])) return false;
    const steps = kindOf(record).drag?.(record, by, this.scene) ?? [];
    const result = applySteps(this.scene.document, steps);
    if (!steps.length || !result.ok) return false;
    for (const s of steps) if (s.op === 'put') this.changed.set(s.record.id, s);
    this.scene = this.scene.with(result.document);
    return true;
  }

  /** Has it gone along with something that was moved? */
  has = (id: string): boolean => this.changed.has(id);
}

/** Moves elements by the same way. Views in line with each other go once. */
export function movedTogether(scene: Scene, ids: readonly string[], by: Vec2): Step[] {
  const moving = new Moving(scene);
  const all = movable(scene, ids);
  // A view that others are in line with takes them along: it goes first, and those then go the rest of the way.
  const parents = new Set(all.flatMap((r) => (r.type === 'view' && r.parent ? [r.parent] : [])));
  for (const r of [...all].sort((a, b) => Number(parents.has(b.id)) - Number(parents.has(a.id)))) {
    const before = r.type === 'view' ? r.at : undefined;
    const now = moving.scene.document[r.id];
    const gone: Vec2 = before && now?.type === 'view' ? [now.at[0] - before[0], now.at[1] - before[1]] : [0, 0];
    moving.move(r.id, [by[0] - gone[0], by[1] - gone[1]]);
  }
  return moving.steps;
}

export type Edge = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom';

const along = (b: Rect, edge: Edge): number => {
  switch (edge) {
    case 'left':
      return b.x;
    case 'centre':
      return b.x + b.width / 2;
    case 'right':
      return b.x + b.width;
    case 'top':
      return b.y;
    case 'middle':
      return b.y + b.height / 2;
    case 'bottom':
      return b.y + b.height;
  }
};
const isLevel = (edge: Edge) => edge === 'left' || edge === 'centre' || edge === 'right';

/** Brings the edges or middles of elements onto one line: the outermost edge of them, or the middle of them all. */
export function aligned(scene: Scene, ids: readonly string[], edge: Edge): Step[] {
  const all = movable(scene, ids).flatMap((r) => {
    const box = boxOf(scene, r);
    return box ? [{ id: r.id, box }] : [];
  });
  if (all.length < 2) return [];
  const values = all.map(({ box }) => along(box, edge));
  const [low, high] = isLevel(edge)
    ? [Math.min(...all.map((a) => a.box.x)), Math.max(...all.map((a) => a.box.x + a.box.width))]
    : [Math.min(...all.map((a) => a.box.y)), Math.max(...all.map((a) => a.box.y + a.box.height))];
  const target = edge === 'left' || edge === 'top' ? Math.min(...values) : edge === 'right' || edge === 'bottom' ? Math.max(...values) : (low + high) / 2;
  return toLine(scene, all, (box) => target - along(box, edge), isLevel(edge));
}

/** Spaces elements evenly between the two outermost: equal gaps between their boxes. */
export function distributed(scene: Scene, ids: readonly string[], direction: 'across' | 'down'): Step[] {
  const level = direction === 'across';
  const all = movable(scene, ids)
    .flatMap((r) => {
      const box = boxOf(scene, r);
      return box ? [{ id: r.id, box, from: level ? box.x : box.y, size: level ? box.width : box.height }] : [];
    })
    .sort((a, b) => a.from + a.size / 2 - (b.from + b.size / 2));
  const [first, last] = [all[0], all.at(-1)];
  if (all.length < 3 || !first || !last) return [];
  const room = last.from + last.size - first.from;
  const gap = (room - all.reduce((sum, a) => sum + a.size, 0)) / (all.length - 1);
  const places = new Map<string, number>();
  let next = first.from;
  for (const a of all) {
    places.set(a.id, next);
    next += a.size + gap;
  }
  return toLine(scene, all, (box, id) => places.get(id)! - (level ? box.x : box.y), level);
}

/** Moves each along one direction by what is missing; what went along with another is moved by the rest. */
function toLine(scene: Scene, all: readonly { readonly id: string }[], missing: (box: Rect, id: string) => number, level: boolean): Step[] {
  const moving = new Moving(scene);
  for (const { id } of all) {
    const record = moving.scene.document[id];
    const box = record && isElement(record) ? boxOf(moving.scene, record) : undefined;
    const d = box ? missing(box, id) : 0;
    if (Math.abs(d) > 1e-9) moving.move(id, level ? [d, 0] : [0, d]);
  }
  return moving.steps;
}
