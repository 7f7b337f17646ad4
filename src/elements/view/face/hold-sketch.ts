import type { Sketch } from '$lib/sheets/tool';
import type { Vec2 } from '../../../core/base/vector';
import type { ViewMap } from '../../../core/views/view-map';
import type { Hold } from '../../target';

/** What a press would take, shown on the sheet: a line, a circle or a ring. */
export function holdSketch(hold: Hold, map: ViewMap): Sketch {
  const paper = (p: readonly [number, number, number]): Vec2 => map.toPaper([p[0], p[1]]);
  if (hold.kind === 'line') return { kind: 'line', points: hold.ends.map(paper), look: 'outline', id: 'target' };
  if (hold.kind === 'circle') return { kind: 'circle', at: paper(hold.at), radius: hold.radius * map.scale, id: 'target' };
  return { kind: 'ring', at: paper(hold.at), id: 'target' };
}
