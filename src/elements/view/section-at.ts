import { pointToSegment } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import { lineOfCut } from '../../core/cut/section-line.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Scene } from '../scene.ts';
import { PAST } from './draw-section.ts';

/** The section whose cutting line runs through a place on a sheet. @param grace what a press may be off, paper mm */
export function sectionAt(scene: Scene, sheet: string, at: Vec2, grace: number): ViewRecord | undefined {
  let best: { readonly d: number; readonly section: ViewRecord } | undefined;
  for (const view of scene.viewsOn(sheet)) {
    const result = scene.result(view.id);
    if (!result) continue;
    const map = scene.map(view);
    for (const section of scene.sectionsShownIn(view.id)) {
      const points = lineOfCut(section.cut!, view, result.box)?.points.map((p) => map.toPaper(p)) ?? [];
      for (let i = 1; i < points.length; i++) {
        const [a, b] = [points[i - 1]!, points[i]!];
        const long = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
        const [dx, dy] = [((b[0] - a[0]) / long) * PAST, ((b[1] - a[1]) / long) * PAST];
        const [before, behind] = [i === 1 ? 1 : 0, i === points.length - 1 ? 1 : 0];
        const d = pointToSegment(at[0], at[1], a[0] - dx * before, a[1] - dy * before, b[0] + dx * behind, b[1] + dy * behind);
        if (d <= grace && (!best || d < best.d)) best = { d, section };
      }
    }
  }
  return best?.section;
}
