import { HIDDEN, LineClass } from '../../core/outline/linework.ts';
import { crowdedRuns } from '../../core/outline/thin.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { runPath } from '../../core/picture/run-path.ts';
import type { SheetStyle } from '../../core/sheet/paper.ts';
import { componentAt, type ViewResult } from '../../core/views/compute-view.ts';
import type { ViewMap } from '../../core/views/view-map.ts';

const DASHED = [3, 1] as const;
/** Long dash, double dot: outlines of what is only hinted at (ISO 128-2, 05.1). mm */
const PHANTOM = [10, 1, 0.8, 1, 0.8, 1] as const;
/** What is faint does not compete with what is meant (common practice). */
const FAINT = '#6b6b6b';

export interface Pen {
  /** A multiple of the usual width. */
  readonly width?: number | undefined;
  readonly color?: string | undefined;
}

/** How the lines of one view are drawn. */
export interface LineLook {
  /** Lines of one component closer than this on paper thin out, mm. */
  readonly thinMm: number;
  /** Hidden lines only of these components; absent: of all. */
  readonly hiddenOf?: ReadonlySet<number> | undefined;
  readonly tangentWide?: boolean | undefined;
  readonly noEdges?: boolean | undefined;
  readonly pens?: ReadonlyMap<number, Pen> | undefined;
  /** Edges, and `-1 - f` for outlines of faces, that are not drawn: by component. */
  readonly leftOut?: ReadonlyMap<number, ReadonlySet<number>> | undefined;
}

/** Lines of components that are faint, or that stand in a second position. */
export function drawPhantom({ phantom }: ViewResult, map: ViewMap, style: SheetStyle): DisplayItem[] {
  const d = Array.from(phantom.kind, (_, i) => runPath(phantom, i, map)).join('');
  return d ? [{ kind: 'stroke', d, width: style.narrow, dash: PHANTOM, color: FAINT }] : [];
}

export function drawLines(result: ViewResult, map: ViewMap, style: SheetStyle, look: LineLook): DisplayItem[] {
  const { lines } = result;
  if (look.noEdges) return [];
  const { thinMm, hiddenOf, pens } = look;
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
    if (kind & HIDDEN && hiddenOf && !hiddenOf.has(component)) continue;
    if (look.leftOut?.get(component)?.has(lines.edge[i]!)) continue;
    const pen = kind & HIDDEN ? HIDDEN : kind === LineClass.tangent ? LineClass.tangent : LineClass.sharp;
    const key = `${component}/${pen}`;
    let p = paths.get(key);
    if (!p) paths.set(key, (p = { kind: pen, component, d: [] }));
    p.d.push(runPath(lines, i, map));
  }
  const order = [HIDDEN, LineClass.tangent, LineClass.sharp];
  return [...paths.values()]
    .sort((a, b) => order.indexOf(a.kind as never) - order.indexOf(b.kind as never) || a.component - b.component)
    .map((p) => {
      const pen = pens?.get(p.component);
      const wide = p.kind === LineClass.sharp || (p.kind === LineClass.tangent && look.tangentWide);
      return {
        kind: 'stroke',
        d: p.d.join(''),
        width: (wide ? style.wide : style.narrow) * (pen?.width ?? 1),
        ...(p.kind === HIDDEN ? { dash: DASHED } : {}),
        ...(pen?.color ? { color: pen.color } : {}),
        source: { component: p.component },
      };
    });
}
