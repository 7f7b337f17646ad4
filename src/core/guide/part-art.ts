import type { Assembly } from '../assembly/assembly.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { IDENTITY } from '../base/placement.ts';
import type { Rect } from '../base/rect.ts';
import { isometricFrom } from '../outline/directions.ts';
import { hiddenLines } from '../outline/hidden-lines.ts';
import { linesBox } from '../outline/linework.ts';
import type { DisplayItem } from '../picture/display-list.ts';
import { runPath } from '../picture/run-path.ts';
import { viewMapOf } from '../views/view-map.ts';

/** A small line drawing of a part: what to look for in the bin. */
export interface PartArt {
  /** How it is drawn into a place of a page, mm. */
  fitted(room: Rect): readonly DisplayItem[];
}

const PEN_MM = 0.13;

/** Seen from the usual corner. */
function partArt(geometry: PartGeometry): PartArt {
  const lines = hiddenLines([{ component: 0, geometry, placement: IDENTITY }], isometricFrom([1, -1, 1]));
  const [x0, y0, x1, y1] = linesBox(lines);
  const [w, h] = [Math.max(1e-6, x1 - x0), Math.max(1e-6, y1 - y0)];
  return {
    fitted({ x, y, width, height }) {
      const scale = Math.min(width / w, height / h);
      const map = viewMapOf({ at: [x + width / 2, y + height / 2], pivot: [(x0 + x1) / 2, (y0 + y1) / 2], scale });
      return [{ kind: 'stroke', d: Array.from(lines.kind, (_, i) => runPath(lines, i, map)).join(''), width: PEN_MM }];
    },
  };
}

/** Small drawings of all parts, by their ids. */
export function partArts(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>): Map<string, PartArt> {
  return new Map(
    assembly.parts.flatMap((p) => {
      const g = geometries.get(p.geometryKey);
      return g ? [[p.id, partArt(g)] as const] : [];
    }),
  );
}
