import { segmentsCross } from '../../core/base/rect.ts';
import type { BalloonRecord } from '../../core/document/records.ts';
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
    const name = item ? `Balloon ${item.number}` : 'A balloon';
    return {
      code: 'OFF_TARGET',
      severity: 'trouble',
      sheet,
      about: [balloon.id],
      text: !item
        ? `${name} points at a part that is gone. Re-aim it, or remove it.`
        : aim
          ? `${name} does not end on its part any more.`
          : `${name} points at a part that shows no edge in ${view.name}.`,
    };
  });
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
        severity: 'look',
        sheet,
        about: [a.id],
        text: `A leader is ${slant < LEAST_SLANT_DEG ? 'level' : 'upright'}: it reads as an edge.`,
      });
    for (const b of list.slice(i + 1))
      if (segmentsCross(a.x, a.y, a.tipX, a.tipY, b.x, b.y, b.tipX, b.tipY))
        out.push({ code: 'LEADERS_CROSS', severity: 'trouble', sheet, about: [a.id, b.id], text: 'Two leaders cross.' });
  });
  return out;
}
