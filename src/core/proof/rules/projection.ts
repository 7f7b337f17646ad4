import { dot } from '../../base/vector.ts';
import type { ViewRecord } from '../../document/records.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

const SAME = 1e-6;
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
      if (v.off || !parent || parent.off || parent.sheet !== sheet || v.arrow || v.cut || parent.cut || v.detail || v.spread || parent.spread) continue;
      const side = sideSeen(v, parent);
      if (!side) continue;
      const [dx, dy] = [v.at[0] - parent.at[0], v.at[1] - parent.at[1]];
      const [across, off] = side.index === 0 ? [dx, dy] : [-dy, dx];
      if (v.align && Math.abs(off) > IN_LINE_MM)
        out.push({
          code: 'OUT_OF_LINE',
          severity: 'must',
          sheet,
          about: [v.id],
          text: `${v.name} does not stand in line with ${parent.name}.`,
          fix: 'Bring it into line',
        });
      if (Math.sign(across) === (first ? side.sign : -side.sign))
        out.push({
          code: 'PROJECTION',
          severity: 'must',
          sheet,
          about: [v.id, parent.id],
          text: `${v.name} stands on the side of ${parent.name} where ${first ? 'third' : 'first'} angle has it; the title block says ${first ? 'first' : 'third'}.`,
        });
    }
    return out;
  },

  fix(f, scene) {
    const view = scene.one('view', f.about[0]);
    const parent = scene.one('view', view?.parent);
    const side = view && parent && sideSeen(view, parent);
    if (f.code !== 'OUT_OF_LINE' || !side) return [];
    return [{ op: 'put', record: { ...view, at: side.index === 0 ? [view.at[0], parent.at[1]] : [parent.at[0], view.at[1]] } }];
  },
};

/** From which side of the parent a neighbour looks: across (0) or up (1), and to which end; undefined for any other view. */
function sideSeen(v: ViewRecord, parent: ViewRecord): { readonly index: 0 | 1; readonly sign: number } | undefined {
  const [x, y] = [dot(v.toward, parent.right), dot(v.toward, parent.up)];
  // Turned in its plane it is no neighbour any more.
  if (Math.abs(Math.abs(x) - 1) < SAME && dot(v.up, parent.up) > 1 - SAME) return { index: 0, sign: Math.sign(x) };
  if (Math.abs(Math.abs(y) - 1) < SAME && dot(v.right, parent.right) > 1 - SAME) return { index: 1, sign: Math.sign(y) };
  return undefined;
}
