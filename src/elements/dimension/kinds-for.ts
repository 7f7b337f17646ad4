import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { flatWay, type Hold, type Target } from '../target.ts';
import { measureHolds, type DimensionRecord } from './measure.ts';

type Kind = DimensionRecord['kind'];

/**
 * Kinds of dimensions that fit what is picked, the most fitting one first.
 * @param to where the dimension would stand, view space: above two points it measures level, beside them upright
 */
export function kindsFor(of: readonly Target[], holds: readonly Hold[], view: ViewRecord, to: Vec2): Kind[] {
  const wanted = holds.length === 1 ? kindsForOne(holds[0]!) : holds.length === 2 ? kindsForTwo(holds[0]!, holds[1]!, to) : kindsForRow(holds, to);
  return wanted.filter((kind, i) => wanted.indexOf(kind) === i && measureHolds(kind, of, holds, view) !== undefined);
}

const isLevel = (w: Vec2) => Math.abs(w[1]) < 1e-6;
const isUpright = (w: Vec2) => Math.abs(w[0]) < 1e-6;

function kindsForOne(h: Hold): Kind[] {
  if (h.kind === 'circle') return h.arc && h.arc.turn < Math.PI * 1.05 ? ['radius', 'diameter', 'arc', 'angle', 'aligned'] : ['diameter', 'radius', 'arc'];
  if (h.kind === 'point') return [];
  const way = flatWay(h.way);
  const length: Kind[] = isLevel(way) ? ['level'] : isUpright(way) ? ['upright'] : ['aligned', 'level', 'upright'];
  if (h.radius !== undefined) return h.cone ? ['angle', ...length] : ['diameter', 'radius', ...length];
  return isLevel(way) || isUpright(way) ? length : [...length, 'slope', 'chamfer'];
}

function kindsForTwo(a: Hold, b: Hold, to: Vec2): Kind[] {
  const lines = [a, b].filter((h) => h.kind === 'line');
  if (lines.length === 2) {
    const [u, v] = [flatWay(lines[0]!.way), flatWay(lines[1]!.way)];
    if (Math.abs(u[0] * v[1] - u[1] * v[0]) > 1e-6) return ['angle', 'level', 'upright', 'slope'];
    const across: Kind = isUpright(u) ? 'level' : isLevel(u) ? 'upright' : 'aligned';
    const sameRound = lines.every((l) => l.radius !== undefined && l.axis) && Math.abs(lines[0]!.radius! - lines[1]!.radius!) < 1e-6;
    return sameRound ? ['diameter', across, 'radius'] : [across, 'diameter', 'radius'];
  }
  const [line] = lines;
  if (line) {
    const u = flatWay(line.way);
    return isUpright(u) ? ['level', 'upright'] : isLevel(u) ? ['upright', 'level'] : ['aligned', 'level', 'upright'];
  }
  return byPlace(a, b, to);
}

/** Over or under two places: level; beside them: upright; between: straight across. */
function byPlace(a: Hold, b: Hold, to: Vec2): Kind[] {
  const [x0, x1] = [Math.min(a.at[0], b.at[0]), Math.max(a.at[0], b.at[0])];
  const [y0, y1] = [Math.min(a.at[1], b.at[1]), Math.max(a.at[1], b.at[1])];
  const flat = 1e-6 * (1 + Math.hypot(x1 - x0, y1 - y0));
  if (y1 - y0 < flat) return ['level', 'aligned'];
  if (x1 - x0 < flat) return ['upright', 'aligned'];
  const [beside, over] = [to[0] < x0 || to[0] > x1, to[1] < y0 || to[1] > y1];
  if (over && !beside) return ['level', 'aligned', 'upright'];
  if (beside && !over) return ['upright', 'aligned', 'level'];
  return ['aligned', 'level', 'upright'];
}

function kindsForRow(holds: readonly Hold[], to: Vec2): Kind[] {
  const lines = holds.filter((h) => h.kind === 'line');
  if (lines.length) {
    const u = flatWay(lines[0]!.way);
    return isUpright(u) ? ['level'] : isLevel(u) ? ['upright'] : ['aligned'];
  }
  return byPlace(holds[0]!, holds.at(-1)!, to);
}
