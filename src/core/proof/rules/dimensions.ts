import { axesMarkedBy, markedBy } from '../../../elements/centre/kind.ts';
import { marksAll, toggleAll } from '../../../elements/centre/toggle.ts';
import { statedOf, statedText } from '../../../elements/dimension/stated.ts';
import { keysOf } from '../../../elements/dimension/propose.ts';
import type { DimensionRecord } from '../../../elements/dimension/measure.ts';
import { dimensionInstead, leadersInstead } from '../../../elements/reattach.ts';
import { withText, seenNow } from '../../../elements/dimension/edit.ts';
import { holdOf, isLost, isSeenRound, pathOfTarget, type Target } from '../../../elements/target.ts';
import type { Scene } from '../../../elements/scene.ts';
import type { ViewRecord } from '../../document/records.ts';
import { HIDDEN } from '../../outline/linework.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Places closer than this are one, mm of the model. */
const ONE_MM = 0.05;

/** Dimensions: each size once, to edges that are seen, from centres that are marked (ISO 129-1; common practice). */
export const dimensions: Rule = {
  codes: ['DIMENSION_TWICE', 'HIDDEN_DIMENSION', 'NO_CENTRELINE', 'AGAINST_MODEL', 'TYPED_VALUE', 'CHANGED_VALUE', 'AWKWARD_VALUE', 'LOST_TARGET'],

  whole(scene) {
    const out: Finding[] = [];
    const first = new Map<string, string>();
    for (const d of scene.all('dimension')) {
      const view = scene.one('view', d.view);
      if (!view || view.off || d.of.some(isLost) || d.text?.form === 'reference') continue;
      // The sheet of a part says its sizes whatever the arrangement says of them.
      const of = scene.one('sheet', view.sheet)?.part ?? '';
      const measured = keysOf(d, scene).join('; ');
      const key = `${of} ${view.laid ? 'flat ' : ''}${d.kind === 'diameter' ? d.text?.before : ''} ${measured}`;
      if (measured && first.has(key))
        out.push({
          code: 'DIMENSION_TWICE',
          severity: 'should',
          sheet: view.sheet,
          about: [d.id],
          text: `A size is given twice: again in ${view.name}.`,
          fix: 'Remove this one',
        });
      else first.set(key, d.id);
    }
    return out;
  },

  sheet(scene, sheet) {
    const out: Finding[] = [];
    for (const view of scene.viewsOn(sheet)) {
      const records = view.off ? [] : scene.at(view.id).flatMap((r) => (r.type === 'dimension' && !r.of.some(isLost) ? [r] : []));
      const unmarked = new Set<string>();
      for (const d of records) {
        if (d.of.some((t) => isHidden(scene, view, t)))
          out.push({
            code: 'HIDDEN_DIMENSION',
            severity: 'should',
            sheet,
            about: [d.id],
            text: `A dimension in ${view.name} goes to an edge that is hidden there.`,
          });
        if (d.of.some((t) => wantsCentre(scene, view, d, t))) unmarked.add(d.id);
      }
      if (unmarked.size)
        out.push({
          code: 'NO_CENTRELINE',
          severity: 'should',
          sheet,
          about: [view.id, ...unmarked],
          text: `Dimensions in ${view.name} go to centres that have no mark.`,
          fix: 'Mark the centres of this view',
        });
    }
    return out;
  },

  fix(f, scene, freshId) {
    const d = scene.one('dimension', f.about[0]);
    switch (f.code) {
      case 'DIMENSION_TWICE':
        return f.about.map((id) => ({ op: 'drop', id }));
      case 'NO_CENTRELINE': {
        const view = scene.one('view', f.about[0]);
        const there = view && scene.at(view.id).some((r) => r.type === 'centre' && marksAll(r));
        return view && !there ? toggleAll(scene, view, freshId('centre')) : [];
      }
      case 'TYPED_VALUE':
        return d ? [{ op: 'put', record: withText(d, { typed: undefined }) }] : [];
      case 'CHANGED_VALUE':
        return d ? [{ op: 'put', record: seenNow(d, scene) }] : [];
      case 'AGAINST_MODEL': {
        const stated = d && statedOf(d, scene);
        return stated ? [{ op: 'put', record: withText(d, statedText(stated)) }] : [];
      }
      case 'LOST_TARGET': {
        const [instead] = d ? dimensionInstead(d, scene) : [];
        if (instead) return [{ op: 'put', record: instead.record }];
        const led = scene.one('note', f.about[0]) ?? scene.one('sign', f.about[0]);
        const leaders = led && leadersInstead(led.leaders, scene.one('view', led.view), scene);
        return leaders ? [{ op: 'put', record: { ...led, leaders } }] : [];
      }
      default:
        return [];
    }
  },
};

/** Does a view show the edge of a target only as a hidden line, or not at all? */
function isHidden(scene: Scene, view: ViewRecord, t: Target): boolean {
  const path = pathOfTarget(t);
  const c = path === undefined ? undefined : scene.component(path)?.index;
  const result = scene.result(view.id);
  if (c === undefined || !result || !t.edge || t.with) return false;
  const { lines } = result;
  let hidden = false;
  for (let i = 0; i < lines.kind.length; i++) {
    if (lines.component[i] !== c || lines.edge[i] !== t.edge.edge) continue;
    if (!(lines.kind[i]! & HIDDEN)) return false;
    hidden = true;
  }
  // Not drawn at all it may lie under another line: that is seen.
  return hidden;
}

/** A distance to the centre of something round wants a mark there. */
function wantsCentre(scene: Scene, view: ViewRecord, d: DimensionRecord, t: Target): boolean {
  if (d.kind === 'diameter' || d.kind === 'radius' || d.kind === 'arc' || t.as) return false;
  const hold = t.edge || t.face ? holdOf(scene, view, t) : undefined;
  if (hold?.kind !== 'circle' || !isSeenRound(hold) || hold.arc) return false;
  const [x, y] = hold.at;
  const near = (px: number, py: number) => Math.hypot(px - x, py - y) < ONE_MM;
  return !scene.at(view.id).some((r) => {
    if (r.type !== 'centre') return false;
    if (markedBy(r, scene).some((c) => near(c.x, c.y))) return true;
    return axesMarkedBy(r, view, scene).some((a) => near(a.from[0], a.from[1]) || near(a.to[0], a.to[1]));
  });
}
