import { HIDDEN, LineClass } from '../../core/outline/linework.ts';
import { crowdedRuns } from '../../core/outline/thin.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { runPath } from '../../core/picture/run-path.ts';
import type { SheetStyle } from '../../core/sheet/formats.ts';
import { componentAt, type ViewResult } from '../../core/views/compute-view.ts';
import type { ViewMap } from '../../core/views/view-map.ts';

const DASHED = [3, 1] as const;

export function drawLines(result: ViewResult, map: ViewMap, style: SheetStyle, thinMm: number): DisplayItem[] {
  const { lines } = result;
  const drop = crowdedRuns(lines, {
    limit: thinMm / map.scale,
    shows: (component, x, y) => componentAt(result, x, y) === component,
    beside: result.map.window.pixelMm,
  });
  // One path per component and pen: few elements, and each can be picked.
  const paths = new Map<string, { kind: number; component: number; d: string[] }>();
  for (let i = 0; i < lines.kind.length; i++) {
    if (drop[i]) continue;
    const kind = lines.kind[i]!;
    const component = lines.component[i]!;
    const pen = kind & HIDDEN ? HIDDEN : kind === LineClass.tangent ? LineClass.tangent : LineClass.sharp;
    const key = `${component}/${pen}`;
    let p = paths.get(key);
    if (!p) paths.set(key, (p = { kind: pen, component, d: [] }));
    p.d.push(runPath(lines, i, map));
  }
  const order = [HIDDEN, LineClass.tangent, LineClass.sharp];
  return [...paths.values()]
    .sort((a, b) => order.indexOf(a.kind as never) - order.indexOf(b.kind as never) || a.component - b.component)
    .map((p) => ({
      kind: 'stroke',
      d: p.d.join(''),
      width: p.kind === LineClass.sharp ? style.wide : style.narrow,
      ...(p.kind === HIDDEN ? { dash: DASHED } : {}),
      source: { component: p.component },
    }));
}
