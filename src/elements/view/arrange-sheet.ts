import { rectOf, type Rect } from '../../core/base/rect.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';
import { layOut, type Body } from '../../core/draft/lay-out.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import type { Standard } from '../../core/sheet/paper.ts';
import { joined } from '../../core/picture/ink.ts';
import { composeSheet } from '../compose.ts';
import { homeOf, type Scene } from '../scene.ts';
import { projectedSide } from './in-line.ts';
import { alignedFamily, rootOf, shiftedView } from './move.ts';

/** Roles of what stays where it is while views are arranged. */
const STANDING: ReadonlySet<string> = new Set(['title', 'block', 'revisions', 'list', 'table', 'positions', 'code', 'picture', 'note', 'sign']);
/** White space between views that there must be, mm. */
const LEAST_MM = 15;

/**
 * The steps that spread the views of a sheet over its free room: balanced, at least 15 mm apart, neighbours in line with
 * their parent and on the side where projection has them, all with their balloons and labels. Title block, revision table, lists, tables, notes and codes of the sheet stay.
 * @param fixed ids of views that stay where they are
 * @returns undefined when there is no room for that
 */
export function arrangeSheet(scene: Scene, sheet: string, fixed: ReadonlySet<string> = new Set()): Step[] | undefined {
  const picture = composeSheet(scene, sheet);
  const views = scene.viewsOn(sheet).filter((v) => !v.off);
  const here = new Set(views.map((v) => v.id));
  const footprints = new Map(views.map((v) => [v.id, footprintOf(v, picture.groups, scene)]));
  const stands = (g: Drawn): boolean => {
    const r = scene.document[g.id];
    // What is of the sheet itself, or of its format; lines and clouds drawn around views are in nobody's way.
    return STANDING.has(g.role) && (r === undefined || scene.one('view', homeOf(r)) === undefined);
  };
  const obstacles = picture.groups.filter(stands).map((g) => rectOf(g.box));
  const families: Family[] = [];
  // By their root, also when that is hidden or stands elsewhere: what is in line stays together.
  for (const root of new Set(views.map((v) => rootOf(scene.document, v).id))) {
    const members = alignedFamily(scene.document, root).filter((v) => here.has(v.id));
    if (members.some((v) => fixed.has(v.id))) obstacles.push(...members.map((v) => footprints.get(v.id)!));
    else families.push(new Family(root, members, footprints, scene.drawing.standard));
  }
  if (!families.length) return [];
  const layout = layOut(families, scene.page(sheet).geometry.frame, obstacles, LEAST_MM);
  return layout && families.flatMap((f) => f.movedTo(layout.at.get(f.id)!, layout.gap));
}

/** Views in line with each other, as one body. */
class Family implements Body {
  readonly id: string;
  private readonly members: readonly ViewRecord[];
  private readonly footprints: ReadonlyMap<string, Rect>;

  private readonly standard: Standard;

  constructor(id: string, members: readonly ViewRecord[], footprints: ReadonlyMap<string, Rect>, standard: Standard) {
    this.standard = standard;
    this.id = id;
    this.members = members;
    this.footprints = footprints;
  }

  rects(gap: number): Rect[] {
    const { placed, corner } = this.apart(gap);
    return placed.map((r) => ({ ...r, x: r.x - corner[0], y: r.y - corner[1] }));
  }

  /** The steps that put its upper left corner at a place, its views `gap` apart. */
  movedTo([x, y]: readonly [number, number], gap: number): Step[] {
    const { offsets, corner } = this.apart(gap);
    return this.members.map((v) => {
      const [dx, dy] = offsets.get(v.id)!;
      return { op: 'put', record: shiftedView(v, x - corner[0] + dx, y - corner[1] + dy) };
    });
  }

  /** Where its views would be on the sheet, its first one where it is. */
  private apart(gap: number) {
    const offsets = offsetsOf(this.members, this.footprints, gap, this.standard);
    const placed = this.members.map((v): Rect => {
      const f = this.footprints.get(v.id)!;
      const [dx, dy] = offsets.get(v.id)!;
      return { ...f, x: f.x + dx, y: f.y + dy };
    });
    const all = joined(placed);
    return { offsets, placed, corner: [all.x, all.y] as const };
  }
}

/** What a view takes up with its label and all that belongs to it. */
function footprintOf(view: ViewRecord, groups: readonly Drawn[], scene: Scene): Rect {
  const own = groups.filter((g) => {
    const id = g.id.split('/')[0]!;
    const record = scene.document[id];
    return id === view.id || (record && homeOf(record) === view.id);
  });
  return joined(own.map((g) => g.ink));
}

/** How far each view of a family moves so that neighbours stand `gap` apart, on the side where projection has them; the root stays. */
function offsetsOf(
  family: readonly ViewRecord[],
  footprints: ReadonlyMap<string, Rect>,
  gap: number,
  standard: Standard,
): ReadonlyMap<string, readonly [number, number]> {
  const out = new Map<string, readonly [number, number]>();
  for (const v of family) {
    const parent = family.find((p) => p.id === v.parent);
    const shift = parent && out.get(parent.id);
    if (!parent || !shift) {
      out.set(v.id, [0, 0]);
      continue;
    }
    const [a, b] = [footprints.get(parent.id)!, footprints.get(v.id)!];
    const side = projectedSide(v, parent, standard)?.side ?? [v.at[0] - parent.at[0], v.at[1] - parent.at[1]];
    const [right, below] = [side[0] > 0, side[1] > 0];
    if (v.align === 'level') out.set(v.id, [shift[0] + (right ? a.x + a.width + gap - b.x : a.x - gap - b.width - b.x), shift[1]]);
    else out.set(v.id, [shift[0], shift[1] + (below ? a.y + a.height + gap - b.y : a.y - gap - b.height - b.y)]);
  }
  return out;
}
