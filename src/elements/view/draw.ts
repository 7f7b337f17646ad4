import { capStyles } from '../../core/cut/hatch-styles.ts';
import { hatchLines, type HatchStyle } from '../../core/cut/hatch.ts';
import { lineOfCut } from '../../core/cut/section-line.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { MaterialFamily } from '../../core/ledger/materials.ts';
import { ARC_STRIDE, HIDDEN, LineClass, type Linework } from '../../core/outline/linework.ts';
import { arcPoint } from '../../core/outline/arcs.ts';
import { scaleText, type SheetStyle } from '../../core/sheet/formats.ts';
import { crowdedRuns } from '../../core/outline/thin.ts';
import { componentAt, type ViewResult } from '../../core/views/compute-view.ts';
import type { DisplayGroup, DisplayItem } from '../../core/picture/display-list.ts';
import { arrowHead, line, num, text } from '../../core/picture/shapes.ts';

/** From view space (model mm, y up) to the sheet (paper mm, y down). */
export interface PaperMap {
  x(viewX: number): number;
  y(viewY: number): number;
  readonly scale: number;
}

export function paperMapOf(view: ViewRecord): PaperMap {
  const { at, pivot, scale } = view;
  return { scale, x: (v) => at[0] + (v - pivot[0]) * scale, y: (v) => at[1] - (v - pivot[1]) * scale };
}

export interface ViewContext {
  /** Sections whose cutting plane this view shows. */
  readonly cuts: readonly ViewRecord[];
  readonly scaleInLabel: boolean;
  /** Material family of each component, for the hatching. */
  readonly families: readonly MaterialFamily[];
}

/** Box of a view's lines on paper: x, y, width, height. */
export function viewRect(view: ViewRecord, result: Pick<ViewResult, 'box'> | undefined): [number, number, number, number] {
  if (!result) return [view.at[0] - 20, view.at[1] - 15, 40, 30];
  const m = paperMapOf(view);
  const [x0, y0, x1, y1] = result.box;
  return [m.x(x0), m.y(y1), (x1 - x0) * m.scale, (y1 - y0) * m.scale];
}

export function drawView(view: ViewRecord, result: ViewResult | undefined, style: SheetStyle, context: ViewContext): DisplayGroup {
  const box = viewRect(view, result);
  const items: DisplayItem[] = [];
  if (result) {
    const map = paperMapOf(view);
    if (view.shaded && result.shading) {
      const w = result.shading.window;
      items.push({
        kind: 'image',
        x: map.x(w.minX),
        y: map.y(w.maxY),
        width: w.width * w.pixelMm * map.scale,
        height: w.height * w.pixelMm * map.scale,
        image: view.id,
      });
    }
    items.push(...drawCaps(result, map, style, context.families), ...drawPulls(view, result, map, style), ...drawLines(result, map, style, view.thinMm ?? 0));
    items.push(...drawDivider(view, result, map, style), ...drawBreak(view, result, map, style));
    for (const section of context.cuts) items.push(...drawCuttingPlane(view, section, result, map, style));
  }
  const label = labelOf(view, context.scaleInLabel);
  if (label) items.push(text(box[0] + box[2] / 2, box[1] + box[3] + 9, label, view.cut?.letter ? style.letter : style.item, 'middle'));
  return { id: view.id, role: 'view', label: `${view.name}, scale ${scaleText(view.scale)}`, box, items };
}

/** `A–A (1:2)`: sections with a letter always, others when they ask for it or the scales on the sheet differ. */
export function labelOf(view: ViewRecord, scaleInLabel: boolean): string {
  const scale = `(${scaleText(view.scale)})`;
  if (view.cut?.letter) return `${view.cut.letter}–${view.cut.letter} ${scale}`;
  if (!view.label) return '';
  return scaleInLabel ? `${view.name} ${scale}` : view.name;
}

const DASHED = [3, 1] as const;

function drawLines(result: ViewResult, map: PaperMap, style: SheetStyle, thinMm: number): DisplayItem[] {
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

/** SVG path of one run on paper; arcs stay arcs. */
export function runPath(lines: Linework, i: number, map: PaperMap): string {
  const a = lines.arc.subarray(i * ARC_STRIDE, (i + 1) * ARC_STRIDE);
  if (a[2]! > 0) {
    const arc = { cx: a[0]!, cy: a[1]!, rx: a[2]!, ry: a[3]!, turn: a[4]! };
    const sweep = a[6]! - a[5]!;
    const parts = Math.abs(sweep) > Math.PI ? 2 : 1;
    const [x0, y0] = arcPoint(arc, a[5]!);
    let d = `M${num(map.x(x0))} ${num(map.y(y0))}`;
    for (let k = 1; k <= parts; k++) {
      const [x, y] = arcPoint(arc, a[5]! + (sweep * k) / parts);
      // The sheet's y looks down: a turn against the clock keeps its look and gets flag 0.
      d += `A${num(arc.rx * map.scale)} ${num(arc.ry * map.scale)} ${num((-arc.turn * 180) / Math.PI)} 0 ${sweep > 0 ? 0 : 1} ${num(map.x(x))} ${num(map.y(y))}`;
    }
    return d;
  }
  let d = '';
  for (let p = lines.start[i]!; p < lines.start[i + 1]!; p++) d += `${d ? 'L' : 'M'}${num(map.x(lines.xy[p * 2]!))} ${num(map.y(lines.xy[p * 2 + 1]!))}`;
  return d;
}

function drawCaps(result: ViewResult, map: PaperMap, style: SheetStyle, families: readonly MaterialFamily[]): DisplayItem[] {
  const styles = capStyles(result.caps, map.scale, (c) => families[c] ?? 'metal');
  return result.caps.map((cap, i): DisplayItem => {
    const loops = cap.loops.map((l) => Float64Array.from(l, (v, k) => (k % 2 ? map.y(v) : map.x(v))));
    const s = styles[i]!;
    const source = { component: cap.component };
    if (s.solid) {
      const d = loops.map((l) => pointsPath(l) + 'Z').join('');
      return { kind: 'fill', d, color: '#000000', source };
    }
    const d = [s.hatch, ...(s.also ? [s.also] : [])].map((h) => hatchPath(loops, h, map)).join('');
    return { kind: 'stroke', d, width: style.narrow, ...(s.dash ? { dash: s.dash } : {}), source };
  });
}

/** @param loops on paper */
function hatchPath(loops: readonly Float64Array[], style: HatchStyle, map: PaperMap): string {
  // Counted from the view's origin: the lines move with the view.
  const angle = -style.angle;
  const phase = style.phase + map.y(0) * Math.cos(angle) - map.x(0) * Math.sin(angle);
  const h = hatchLines(loops, { ...style, angle, phase });
  let d = '';
  for (let k = 0; k < h.length; k += 4) d += `M${num(h[k]!)} ${num(h[k + 1]!)}L${num(h[k + 2]!)} ${num(h[k + 3]!)}`;
  return d;
}

function pointsPath(p: ArrayLike<number>): string {
  let d = '';
  for (let i = 0; i < p.length; i += 2) d += `${i ? 'L' : 'M'}${num(p[i]!)} ${num(p[i + 1]!)}`;
  return d;
}

/** Pull lines: from where a component sat to where it is, broken where any component lies over them. */
function drawPulls(view: ViewRecord, result: ViewResult, map: PaperMap, style: SheetStyle): DisplayItem[] {
  if (!view.pullLines || result.pulls.length === 0) return [];
  const { window, component } = result.map;
  const taken = (x: number, y: number) => {
    const i = Math.floor((x - window.minX) / window.pixelMm);
    const j = Math.floor((window.maxY - y) / window.pixelMm);
    return i >= 0 && j >= 0 && i < window.width && j < window.height && component[j * window.width + i]! >= 0;
  };
  const seen = new Set<string>();
  let d = '';
  const legs = result.pulls.flatMap((l) => l.points.slice(1).map((to, i) => ({ from: l.points[i]!, to })));
  for (const p of legs) {
    const length = Math.hypot(p.to[0] - p.from[0], p.to[1] - p.from[1]);
    const n = Math.max(1, Math.ceil(length / window.pixelMm));
    let start = -1;
    const at = (k: number): [number, number] => [p.from[0] + ((p.to[0] - p.from[0]) * k) / n, p.from[1] + ((p.to[1] - p.from[1]) * k) / n];
    for (let k = 0; k <= n + 1; k++) {
      const free = k <= n && !taken(...at(k));
      if (free && start < 0) start = k;
      if (free || start < 0) continue;
      const [a, b] = [at(start), at(k - 1)];
      // What is shorter than 1 mm on paper is a speck.
      if (Math.hypot(b[0] - a[0], b[1] - a[1]) * map.scale > 1) {
        const piece = `M${num(map.x(a[0]))} ${num(map.y(a[1]))}L${num(map.x(b[0]))} ${num(map.y(b[1]))}`;
        if (!seen.has(piece)) d += piece;
        seen.add(piece);
      }
      start = -1;
    }
  }
  return d ? [{ kind: 'stroke', d, width: style.narrow / 1.4, dash: [6, 1, 1, 1] }] : [];
}

/** A half section is divided by a centreline (ISO 128-40). */
function drawDivider(view: ViewRecord, result: ViewResult, map: PaperMap, style: SheetStyle): DisplayItem[] {
  const shape = view.cut?.shape;
  if (shape?.kind !== 'half') return [];
  const { across } = shape;
  const side = across[0] * view.right[0] + across[1] * view.right[1] + across[2] * view.right[2];
  // Seen aslant the divider is no line of the picture.
  if (Math.abs(side) < 0.999) return [];
  const x = map.x(shape.from * Math.sign(side));
  const past = 3;
  return [line(x, map.y(result.box[3]) - past, x, map.y(result.box[1]) + past, style.narrow, [8, 1.2, 0.8, 1.2])];
}

/** How far a cutting-plane line runs past the view, and its arrows stand off, mm. */
const PAST = 7;

/** Length of the wide ends of a cutting-plane line, and of each side of its wide bends, mm. */
const WIDE_END = 6;
const WIDE_BEND = 2.5;

/** Cutting-plane line: narrow with wide ends and bends, arrows in the direction of sight, letters beside them (ISO 128-40). */
function drawCuttingPlane(view: ViewRecord, section: ViewRecord, result: ViewResult, map: PaperMap, style: SheetStyle): DisplayItem[] {
  const cut = section.cut!;
  const shown = lineOfCut(cut, view, result.box);
  if (!shown) return [];
  const p = shown.points.map(([x, y]): [number, number] => [map.x(x), map.y(y)]);
  const last = p.length - 1;
  const outward = (end: number, next: number): [number, number] => {
    const [dx, dy] = [p[end]![0] - p[next]![0], p[end]![1] - p[next]![1]];
    const l = Math.hypot(dx, dy) || 1;
    return [dx / l, dy / l];
  };
  for (const [end, next] of [
    [0, 1],
    [last, last - 1],
  ] as const) {
    const [dx, dy] = outward(end, next);
    p[end] = [p[end]![0] + dx * PAST, p[end]![1] + dy * PAST];
  }
  const path = p.map(([x, y], i) => `${i ? 'L' : 'M'}${num(x)} ${num(y)}`).join('');
  const items: DisplayItem[] = [{ kind: 'stroke', d: path, width: style.narrow, dash: [8, 1.2, 0.8, 1.2] }];
  const wide = (at: number, next: number, most: number) => {
    const [dx, dy] = outward(at, next);
    const reach = Math.min(most, Math.hypot(p[at]![0] - p[next]![0], p[at]![1] - p[next]![1]) / 2);
    items.push(line(p[at]![0] - dx * reach, p[at]![1] - dy * reach, p[at]![0], p[at]![1], style.wide));
  };
  for (let i = 1; i < last; i++) {
    wide(i, i - 1, WIDE_BEND);
    wide(i, i + 1, WIDE_BEND);
  }
  [0, last].forEach((end, k) => {
    const next = k ? last - 1 : 1;
    wide(end, next, WIDE_END);
    const reader = shown.readers[k];
    if (!reader) return;
    // The arrow comes from the reader's side and points the way one looks.
    const [px, py] = [reader[0], -reader[1]];
    const [tx, ty] = outward(end, next);
    const [ax, ay] = [p[end]![0] - tx * 1.5, p[end]![1] - ty * 1.5];
    items.push(line(ax + px * 9, ay + py * 9, ax, ay, style.narrow), arrowHead(ax, ay, -px, -py, 3.5));
    const [bx, by] = [ax + px * (9 + style.letter * 0.8), ay + py * (9 + style.letter * 0.8)];
    items.push(text(bx, by + style.letter / 2, cut.letter, style.letter, 'middle'));
  });
  return items;
}

/** The break line around a broken-out section: narrow, only where it runs over something (ISO 128-2, line type 01.1). */
function drawBreak(view: ViewRecord, result: ViewResult, map: PaperMap, style: SheetStyle): DisplayItem[] {
  const shape = view.cut?.shape;
  if (shape?.kind !== 'local') return [];
  const o = shape.outline;
  const grace = 1.5 * result.map.window.pixelMm;
  const step = 2 * result.map.window.pixelMm;
  const shows = (x: number, y: number) => componentAt(result, x, y) >= 0;
  let d = '';
  let pen = false;
  for (let i = 0, j = o.length - 2; i < o.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [o[j]!, o[j + 1]!, o[i]!, o[i + 1]!];
    const l = Math.hypot(bx - ax, by - ay);
    const n = Math.max(1, Math.ceil(l / step));
    const [nx, ny] = [((by - ay) / l) * grace, ((ax - bx) / l) * grace];
    for (let k = 0; k <= n; k++) {
      const [x, y] = [ax + ((bx - ax) * k) / n, ay + ((by - ay) * k) / n];
      const on = shows(x, y) || (shows(x + nx, y + ny) && shows(x - nx, y - ny));
      if (on && (!pen || k === n || d === '')) d += `${pen ? 'L' : 'M'}${num(map.x(x))} ${num(map.y(y))}`;
      else if (!on && pen) {
        const back = Math.max(0, k - 1) / n;
        d += `L${num(map.x(ax + (bx - ax) * back))} ${num(map.y(ay + (by - ay) * back))}`;
      }
      pen = on;
    }
  }
  return d ? [{ kind: 'stroke', d, width: style.narrow }] : [];
}
