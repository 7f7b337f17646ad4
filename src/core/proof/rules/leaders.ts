import { arrangeBalloons } from '../../../elements/balloon/place/propose.ts';
import { balloonAreaOf } from '../../../elements/balloon/place/add.ts';
import { balloonPlace } from '../../../elements/balloon/draw.ts';
import { reaimSteps, strayBalloons } from '../../../elements/balloon/place/stray.ts';
import { kindOf } from '../../../elements/kinds.ts';
import type { Scene } from '../../../elements/scene.ts';
import { crosses, type Rect } from '../../base/rect.ts';
import { without } from '../../base/without.ts';
import type { BalloonRecord, ViewRecord } from '../../document/records.ts';
import type { Step } from '../../document/steps.ts';
import { HIDDEN, LineClass } from '../../outline/linework.ts';
import { textRect } from '../../picture/ink.ts';
import type { ViewResult } from '../../views/compute-view.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** A leader longer than this share of the frame's diagonal is hard to follow (common practice). */
const LONGEST_SHARE = 0.35;
/** An arrow that meets its edge at less than this runs along it, degrees (common practice). */
const LEAST_MEETING_DEG = 8;
/** The edge that a leader ends on is this near, mm. */
const ON_EDGE_MM = 0.3;

/** Leaders of balloons: where they end, how long they are, what they run over (ISO 6433; common practice). */
export const leaders: Rule = {
  codes: [
    'OFF_TARGET',
    'WRONG_TARGET',
    'HIDDEN_TARGET',
    'ALONG_EDGE',
    'LEADER_LONG',
    'LEADER_OVER_TEXT',
    'BALLOON_OVER_VIEW',
    'LEADER_SLANT',
    'LEADERS_CROSS',
    'BALLOON_SIZES',
  ],

  sheet(scene, sheet) {
    const out: Finding[] = [];
    const { frame } = scene.page(sheet).geometry;
    const sizes = new Map<string, number>();
    const longest = LONGEST_SHARE * Math.hypot(frame.width, frame.height);
    for (const view of scene.viewsOn(sheet)) {
      const result = scene.result(view.id);
      const balloons = scene.at(view.id).flatMap((r) => (r.type === 'balloon' ? [r] : []));
      if (!result || !balloons.length || view.off) continue;
      const [drawn] = kindOf(view).draw(view, scene);
      const words = (drawn?.items ?? []).flatMap((i) => (i.kind === 'text' ? [textRect(i)] : []));
      for (const b of balloons) {
        const number = scene.itemAt(b.component)?.number;
        const found = (code: Finding['code'], severity: Finding['severity'], text: string, fix?: string) =>
          out.push({ code, severity, sheet, about: [b.id], text, ...(fix ? { fix } : {}) });
        const { x, y, tipX, tipY } = balloonPlace(b, view);
        const name = number === undefined ? 'A balloon' : `Balloon ${number}`;
        const length = Math.hypot(tipX - x, tipY - y);
        if (length > longest)
          found('LEADER_LONG', 'should', `The leader of ${name.toLowerCase()} is ${Math.round(length)} mm long.`, 'Arrange the balloons anew');
        if (words.some((w) => crosses([x, y, tipX, tipY], w)))
          found('LEADER_OVER_TEXT', 'must', `The leader of ${name.toLowerCase()} runs through a text of ${view.name}.`, 'Arrange the balloons anew');
        const r = scene.page(sheet).style.balloon / 2;
        if (!b.shape || b.shape === 'hexagon') sizes.set(b.id, kindOf(b).draw(b, scene)[0]?.solid.rects[0]?.width ?? 0);
        const circle: Rect = { x: x - r, y: y - r, width: 2 * r, height: 2 * r };
        if (drawn?.solid.covers?.(circle) && (drawn.solid.loose ?? []).some((l) => l.x < x && x < l.x + l.width && l.y < y && y < l.y + l.height))
          found('BALLOON_OVER_VIEW', 'must', `${name} stands over what ${view.name} shows.`, 'Arrange the balloons anew');
        if (b.end === 'arrow' && meetsAlong(result, scene, view, b, [tipX - x, tipY - y]))
          found('ALONG_EDGE', 'look', `The leader of ${name.toLowerCase()} runs along the edge that it ends on.`);
      }
    }
    const usual = [...sizes.values()].sort((p, q) => p - q)[sizes.size >> 1] ?? 0;
    const odd = [...sizes].filter(([, s]) => Math.abs(s - usual) > 0.1);
    if (odd.length)
      out.push({
        code: 'BALLOON_SIZES',
        severity: 'look',
        sheet,
        about: odd.map(([id]) => id),
        text: `${odd.length === 1 ? 'A balloon is' : `${odd.length} balloons are`} of another size than the others: circles are of one size.`,
      });
    return out;
  },

  fix(f, scene) {
    const balloons = f.about.flatMap((id) => scene.one('balloon', id) ?? []);
    const [first] = balloons;
    if (!first) return [];
    if (['OFF_TARGET', 'WRONG_TARGET', 'HIDDEN_TARGET'].includes(f.code)) return reaimSteps(strayBalloons(scene, balloons));
    return arranged(scene, first);
  },
};

/** Balloons of a view placed anew; the one in question gives its own place up. */
function arranged(scene: Scene, b: BalloonRecord): Step[] {
  const view = scene.one('view', b.view);
  const result = scene.result(b.view);
  if (!view || !result) return [];
  const free = scene.at(view.id).flatMap((r) => (r.type === 'balloon' && r.end === 'arrow' ? [without(r, 'byHand') as BalloonRecord] : []));
  const document = { ...scene.document, ...Object.fromEntries(free.map((r) => [r.id, r])) };
  return arrangeBalloons(document, view, result, scene.items, scene.components, balloonAreaOf(scene, view));
}

/** Does an arrow meet the edge under its tip so flatly that both read as one line? @param way of the leader on paper */
function meetsAlong({ lines }: ViewResult, scene: Scene, view: ViewRecord, b: BalloonRecord, way: readonly [number, number]): boolean {
  const own = scene.component(b.component)?.index;
  if (own === undefined) return false;
  const reach = ON_EDGE_MM / view.scale;
  const [x, y] = b.anchor;
  let flattest = Infinity;
  for (let i = 0; i < lines.kind.length; i++) {
    if (lines.component[i] !== own || lines.kind[i]! & HIDDEN || lines.kind[i] === LineClass.tangent) continue;
    for (let p = lines.start[i]! * 2; p < lines.start[i + 1]! * 2 - 2; p += 2) {
      const [ax, ay, bx, by] = [lines.xy[p]!, lines.xy[p + 1]!, lines.xy[p + 2]!, lines.xy[p + 3]!];
      const l = Math.hypot(bx - ax, by - ay);
      if (l < 1e-9) continue;
      const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / (l * l)));
      if (Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay)) > reach) continue;
      // On paper y looks down.
      const sine = Math.abs(way[0] * (ay - by) - way[1] * (bx - ax)) / (l * Math.hypot(way[0], way[1]) || 1);
      flattest = Math.min(flattest, (Math.asin(Math.min(1, sine)) * 180) / Math.PI);
    }
  }
  return flattest < LEAST_MEETING_DEG;
}
