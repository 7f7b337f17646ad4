import type { ViewRecord } from '../../core/document/records.ts';
import { holeAt } from '../../core/features/holes.ts';
import { circlesOf } from '../centre/circles.ts';
import type { Scene } from '../scene.ts';
import type { Target } from '../target.ts';
import { holeText } from '../note/words.ts';

/** A hole that a view sees along its axis. */
export interface SeenHole {
  /** `A1`, `A2`, `B1`: a letter for each size. */
  readonly label: string;
  /** Centre, view space, model mm. */
  readonly x: number;
  readonly y: number;
  readonly radius: number;
  /** What it is, without how many there are. */
  readonly says: string;
  readonly target: Target;
}

const ONE_MM = 0.01;
/** Letters of sizes, in order; not I, O and Q, which read as figures. */
const LETTERS = 'ABCDEFGHJKLMNPRSTUVWXYZ';

/** Holes of a view by size, the widest first, and from left to right and from the foot upwards within a size. */
export function holesIn(scene: Scene, view: ViewRecord): SeenHole[] {
  const result = scene.result(view.id);
  if (!result) return [];
  const found: Omit<SeenHole, 'label'>[] = [];
  for (const c of circlesOf(result)) {
    const component = scene.components[c.component]!;
    const f = scene.featuresIn(view, c.component);
    if (!f || c.edge < 0) continue;
    const rounds = [f.edgeFaces[c.edge * 2]!, f.edgeFaces[c.edge * 2 + 1]!].flatMap((face) =>
      face >= 0 && f.faceRound[face]! >= 0 ? [f.faceRound[face]!] : [],
    );
    const hole = rounds.flatMap((r) => holeAt(f, r) ?? [])[0];
    if (!hole || found.some((o) => Math.hypot(o.x - c.x, o.y - c.y) < ONE_MM)) continue;
    const geometry = scene.shapeIn(view, c.component);
    const target: Target = { edge: { component: component.path, geometry, edge: c.edge }, at: [c.x, c.y] };
    const says = holeText(target, c.component, scene, false);
    if (says !== undefined) found.push({ x: c.x, y: c.y, radius: c.radius, says, target });
  }
  const sizes = [...new Set(found.map((h) => h.says))].sort((a, b) => Math.max(...radii(found, b)) - Math.max(...radii(found, a)) || (a < b ? -1 : 1));
  return sizes.flatMap((says, i) =>
    found
      .filter((h) => h.says === says)
      .sort((a, b) => a.x - b.x || a.y - b.y)
      .map((h, n) => ({ ...h, label: `${LETTERS[i % LETTERS.length]}${n + 1}` })),
  );
}

const radii = (holes: readonly Omit<SeenHole, 'label'>[], says: string) => holes.filter((h) => h.says === says).map((h) => h.radius);
