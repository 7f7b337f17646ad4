import { arrangeSheet } from '../../../elements/view/arrange-sheet.ts';
import type { Scene } from '../../../elements/scene.ts';
import type { ViewRecord } from '../../document/records.ts';
import type { Step } from '../../document/steps.ts';
import { broughtInLine, projectedSide } from '../../../elements/view/in-line.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Views that are this far out of line are not in line, mm. */
const IN_LINE_MM = 0.5;

/** Neighbours stand where the projection symbol says (ISO 5456-2): in first angle what is seen from the right stands on the left. */
export const projection: Rule = {
  codes: ['PROJECTION', 'OUT_OF_LINE'],

  sheet(scene, sheet) {
    const out: Finding[] = [];
    const first = scene.drawing.standard === 'iso';
    for (const v of scene.viewsOn(sheet)) {
      const parent = scene.one('view', v.parent);
      if (v.off || !parent || parent.off || parent.sheet !== sheet || v.arrow || v.detail || v.spread || parent.spread) continue;
      // A section that stands free is read by its letters; one in line by its arrows.
      if ((v.cut || parent.cut) && !v.align) continue;
      const projected = projectedSide(v, parent, scene.drawing.standard);
      if (!projected) continue;
      const map = scene.map(parent);
      const level = projected.align === 'level';
      const off = level ? v.at[1] - map.y(v.pivot[1]) : v.at[0] - map.x(v.pivot[0]);
      if (v.align && Math.abs(off) > IN_LINE_MM)
        out.push({
          code: 'OUT_OF_LINE',
          severity: 'must',
          sheet,
          about: [v.id],
          text: `${v.name} does not stand in line with ${parent.name}.`,
          fix: 'Bring it into line',
        });
      const along = level ? (v.at[0] - parent.at[0]) * projected.side[0] : (v.at[1] - parent.at[1]) * projected.side[1];
      if (along < 0)
        out.push({
          code: 'PROJECTION',
          severity: 'must',
          sheet,
          about: [v.id, parent.id],
          text: `${v.name} stands on the side of ${parent.name} where ${first ? 'third' : 'first'} angle has it; the title block says ${first ? 'first' : 'third'}.`,
          ...(putRight(scene, v, sheet) ? { fix: 'Put it on the other side' } : {}),
        });
    }
    return out;
  },

  fix(f, scene) {
    const view = scene.one('view', f.about[0]);
    return (view && f.sheet && putRight(scene, view, f.sheet)) || [];
  },
};

/** The steps that put a view where projection has it: it alone where there is room, else with all of its sheet. */
function putRight(scene: Scene, view: ViewRecord, sheet: string): readonly Step[] | undefined {
  const record = broughtInLine(scene, view);
  return record ? [{ op: 'put', record }] : arrangeSheet(scene, sheet);
}
