import { rectOf, type Rect } from '../../core/base/rect.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';
import { layOut, type Body } from '../../core/draft/lay-out.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import { joined } from '../../core/picture/ink.ts';
import { composeSheet } from '../compose.ts';
import { homeOf, type Scene } from '../scene.ts';
import { alignedFamily, rootOf, shiftedView } from './move.ts';

/** White space between views that there must be, mm. */
const LEAST_MM = 15;

/**
 * The steps that spread the views of a sheet over its free room: balanced, at least 15 mm apart, neighbours in line with
 * their parent, all with their balloons and labels. Title block and lists stay.
 * @param fixed ids of views that stay where they are
 * @returns undefined when there is no room for that
 */
export function arrangeSheet(scene: Scene, sheet: string, fixed: ReadonlySet<string> = new Set()): Step[] | undefined {
  const picture = composeSheet(scene, sheet);
  const views = scene.viewsOn(sheet).filter((v) => !v.off);
  const footprints = new Map(views.map((v) => [v.id, footprintOf(v, picture.groups, scene)]));
  const here = new Set(views.map((v) => v.id));
  const roots = views.filter((v) => {
    const root = rootOf(scene.document, v);
    return root.id === v.id || !here.has(root.id);
  });
  const families = new Map(
    roots.map((r) => [
      r.id,
      alignedFamily(scene.document, r.id).filter((v) => here.has(v.id) && rootOf(scene.document, v).id === rootOf(scene.document, r).id),
    ]),
  );
  const stays = (id: string) => families.get(id)!.some((v) => fixed.has(v.id));
  const obstacles: Rect[] = picture.groups.flatMap((g) => {
    if (g.role === 'title' || g.role === 'list') return [rectOf(g.box)];
    return [];
  });
  for (const r of roots) if (stays(r.id)) obstacles.push(...families.get(r.id)!.map((v) => footprints.get(v.id)!));
  const bodies: (Body & { readonly offsets: (gap: number) => ReadonlyMap<string, readonly [number, number]> })[] = [];
  for (const r of roots) {
    if (stays(r.id)) continue;
    const family = families.get(r.id)!;
    const offsets = (gap: number) => offsetsOf(family, footprints, gap);
    const placedRects = (gap: number) => {
      const by = offsets(gap);
      return family.map((v): Rect => {
        const f = footprints.get(v.id)!;
        const [dx, dy] = by.get(v.id)!;
        return { ...f, x: f.x + dx, y: f.y + dy };
      });
    };
    const rects = (gap: number) => {
      const list = placedRects(gap);
      const all = joined(list);
      return list.map((q) => ({ ...q, x: q.x - all.x, y: q.y - all.y }));
    };
    bodies.push({ id: r.id, rects, offsets });
  }
  if (!bodies.length) return [];
  const layout = layOut(bodies, scene.page(sheet).geometry.frame, obstacles, LEAST_MM);
  if (!layout) return undefined;
  return bodies.flatMap((b): Step[] => {
    const by = b.offsets(layout.gap);
    const family = families.get(b.id)!;
    const now = joined(
      family.map((v) => ({ ...footprints.get(v.id)!, x: footprints.get(v.id)!.x + by.get(v.id)![0], y: footprints.get(v.id)!.y + by.get(v.id)![1] })),
    );
    const [x, y] = layout.at.get(b.id)!;
    return family.map((v) => {
      const [dx, dy] = by.get(v.id)!;
      return { op: 'put', record: shiftedView(v, x - now.x + dx, y - now.y + dy) };
    });
  });
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

/** How far each view of a family moves so that neighbours stand `gap` apart; the root stays. */
function offsetsOf(family: readonly ViewRecord[], footprints: ReadonlyMap<string, Rect>, gap: number): ReadonlyMap<string, readonly [number, number]> {
  const out = new Map<string, readonly [number, number]>();
  for (const v of family) {
    const parent = family.find((p) => p.id === v.parent);
    const shift = parent && out.get(parent.id);
    if (!parent || !shift) {
      out.set(v.id, [0, 0]);
      continue;
    }
    const [a, b] = [footprints.get(parent.id)!, footprints.get(v.id)!];
    const right = v.at[0] > parent.at[0];
    const below = v.at[1] > parent.at[1];
    if (v.align === 'level') out.set(v.id, [shift[0] + (right ? a.x + a.width + gap - b.x : a.x - gap - b.width - b.x), shift[1]]);
    else out.set(v.id, [shift[0], shift[1] + (below ? a.y + a.height + gap - b.y : a.y - gap - b.height - b.y)]);
  }
  return out;
}
