import { numberText } from '../../core/ledger/items.ts';
import { pointToSegment, segmentsCross } from '../../core/base/rect.ts';
import type { BalloonRecord, ViewRecord } from '../../core/document/records.ts';
import { HIDDEN } from '../../core/outline/linework.ts';
import { componentAt, type ViewResult } from '../../core/views/compute-view.ts';
import type { Finding } from '../../core/proof/finding.ts';
import type { Scene } from '../scene.ts';
import { balloonPlace } from './draw.ts';
import { strayBalloons } from './place/stray.ts';

/** Leaders at less than this from level or upright read as edges, degrees (common practice). */
const LEAST_SLANT_DEG = 5;

export function balloonFindings(balloons: readonly BalloonRecord[], sheet: string, scene: Scene): Finding[] {
  return [...offTarget(balloons, sheet, scene), ...leaders(balloons, sheet, scene)];
}

/** Leaders that do not end on their component. */
function offTarget(balloons: readonly BalloonRecord[], sheet: string, scene: Scene): Finding[] {
  return strayBalloons(scene, balloons).map(({ balloon, view, aim }) => {
    const item = scene.itemAt(balloon.component);
    const name = item ? `Balloon ${numberText(item)}` : 'A balloon';
    const base = { severity: 'must', sheet, about: [balloon.id], ...(aim ? { fix: 'Re-aim it' } : {}) } as const;
    if (!item) return { ...base, code: 'OFF_TARGET', text: `${name} points at a part that is gone. Re-aim it, or remove it.` };
    const result = scene.result(view.id)!;
    const under = scene.itemOf(componentAt(result, ...balloon.anchor));
    if (under && under !== item)
      return { ...base, code: 'WRONG_TARGET', text: `${name} points at ${numberText(under)} ${under.values.description.text} in ${view.name}.` };
    if (hiddenAt(result, balloon, view, scene)) return { ...base, code: 'HIDDEN_TARGET', text: `${name} ends on an edge that is hidden in ${view.name}.` };
    return {
      ...base,
      code: 'OFF_TARGET',
      text: aim ? `${name} does not end on its part any more.` : `${name} points at a part that shows no edge in ${view.name}.`,
    };
  });
}

/** Does a leader end on a hidden line of its part? */
function hiddenAt({ lines }: ViewResult, b: BalloonRecord, view: ViewRecord, scene: Scene): boolean {
  const own = scene.component(b.component)?.index;
  const [x, y] = b.anchor;
  for (let i = 0; i < lines.kind.length; i++) {
    if (lines.component[i] !== own || !(lines.kind[i]! & HIDDEN)) continue;
    for (let p = lines.start[i]! * 2; p < lines.start[i + 1]! * 2 - 2; p += 2)
      if (pointToSegment(x, y, lines.xy[p]!, lines.xy[p + 1]!, lines.xy[p + 2]!, lines.xy[p + 3]!) * view.scale < 1) return true;
  }
  return false;
}

function leaders(balloons: readonly BalloonRecord[], sheet: string, scene: Scene): Finding[] {
  const out: Finding[] = [];
  const list = balloons.flatMap((b) => {
    const view = scene.one('view', b.view);
    return view ? [{ id: b.id, ...balloonPlace(b, view) }] : [];
  });
  list.forEach((a, i) => {
    const slant = (Math.atan2(Math.abs(a.tipY - a.y), Math.abs(a.tipX - a.x)) * 180) / Math.PI;
    if (slant < LEAST_SLANT_DEG || slant > 90 - LEAST_SLANT_DEG)
      out.push({
        code: 'LEADER_SLANT',
        severity: 'should',
        sheet,
        about: [a.id],
        fix: 'Arrange the balloons anew',
        text: `A leader is ${slant < LEAST_SLANT_DEG ? 'level' : 'upright'}: it reads as an edge.`,
      });
    for (const b of list.slice(i + 1))
      if (segmentsCross(a.x, a.y, a.tipX, a.tipY, b.x, b.y, b.tipX, b.tipY))
        out.push({ code: 'LEADERS_CROSS', severity: 'must', sheet, about: [a.id, b.id], text: 'Two leaders cross.', fix: 'Arrange the balloons anew' });
  });
  return out;
}
