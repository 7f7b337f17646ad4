import { crosses, inflate, overlaps, rectOf, type Rect, type Segment } from '../../core/base/rect.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { composeSheet } from '../compose.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from '../view/draw.ts';
import { drawDimension, FIRST_MM, NEXT_MM } from './draw.ts';
import { measured, type DimensionRecord, type Stretch } from './measure.ts';

/** Rows beside a view that are tried. */
const MOST_ROWS = 6;
/** Air between texts of one row, and between a dimension and what stands beside, mm. */
const AIR_MM = 2;
/** Distances from the rim at which the value of a circle is tried, mm, and directions, degrees. */
const REACHES = [8, 12, 17, 23, 30, 40, 55, 75] as const;
const TURNS = [45, 135, 60, 120, 30, 150, -45, -135, -60, -120, -30, -150] as const;

type Side = NonNullable<DimensionRecord['side']>;

interface Standing {
  readonly rects: readonly Rect[];
  readonly segments: readonly Segment[];
  /** Does the view itself show something under a rectangle? */
  readonly covers?: ((r: Rect) => boolean) | undefined;
}

/**
 * Gives dimensions their lines: beside their view where nothing stands, shorter ones inside longer ones, the first 10 mm off
 * and 7 mm from line to line (ISO 129-1 and common practice). Those for which there is no room are left out.
 */
export function placeRows(records: readonly DimensionRecord[], scene: Scene): DimensionRecord[] {
  const out: DimensionRecord[] = [];
  const placed: Standing[] = [];
  const length = (r: DimensionRecord) => Math.max(0, ...(measured(r, scene) ?? []).map((m) => m.value));
  // Shorter ones first: they stand inside. Values of circles look for what is left.
  const order = [...records].sort((a, b) => Number(isRound(a)) - Number(isRound(b)) || length(a) - length(b));
  const known = new Map<string, Standing>();
  const place = (r: DimensionRecord, beside: readonly Standing[]): DimensionRecord | undefined => {
    const view = scene.one('view', r.view);
    if (!view) return undefined;
    let standing = known.get(view.id);
    if (!standing) known.set(view.id, (standing = standingAround(view, scene)));
    return candidates(r, view, scene).find((c) => isFree(c, scene, standing, beside, view));
  };
  const keep = (r: DimensionRecord) => {
    out.push(r);
    placed.push(solidOf(r, scene));
  };
  const left: DimensionRecord[] = [];
  for (const r of order) {
    const found = place(r, placed);
    if (found) keep(found);
    else left.push(r);
  }
  // The size of the whole comes before that of anything in it: what stands in its way goes, or finds another place.
  for (const r of left.filter(isOverall)) {
    const others = out.map((o, i) => (isOverall(o) ? [placed[i]!] : [])).flat();
    const found = place(r, others);
    if (!found) continue;
    const gone = [...out].filter((o) => !isOverall(o) && o.view === r.view && !place({ ...o }, [...others, solidOf(found, scene)]));
    const moved = out.filter((o) => o.view === r.view && !isOverall(o) && !gone.includes(o));
    for (const o of [...gone, ...moved]) {
      placed.splice(out.indexOf(o), 1);
      out.splice(out.indexOf(o), 1);
    }
    keep(found);
    for (const o of moved) {
      const again = place(o, placed);
      if (again) keep(again);
    }
  }
  // In the order in which they were asked for.
  return records.flatMap((r) => out.find((o) => o.id === r.id) ?? []);
}

/** Length, width or height of the whole. */
const isOverall = (r: DimensionRecord): boolean => r.of.length === 2 && r.of.every((t) => t.side !== undefined && t.of === undefined);

const isRound = (r: DimensionRecord) => r.kind === 'diameter' || r.kind === 'radius';

/** Ways to place a dimension, the best first. */
function candidates(r: DimensionRecord, view: ViewRecord, scene: Scene): DimensionRecord[] {
  const rows = Array.from({ length: MOST_ROWS }, (_, i) => FIRST_MM + i * NEXT_MM);
  if (r.kind === 'level' || r.kind === 'upright') {
    const sides = sidesFor(r, view, scene);
    return rows.flatMap((away) => sides.map((side): DimensionRecord => ({ ...r, side, away })));
  }
  if (isRound(r) && measured(r, scene)?.[0]?.shape === 'stretch')
    return [...pastEnds(r, view, scene, rows), ...rows.flatMap((away) => [1, -1].map((k): DimensionRecord => ({ ...r, away: k * away })))];
  if (isRound(r)) return REACHES.flatMap((away) => TURNS.map((t): DimensionRecord => ({ ...r, away, turn: (t * Math.PI) / 180 })));
  return rows.flatMap((away) => [1, -1].map((k): DimensionRecord => ({ ...r, away: k * away })));
}

/** A diameter that is seen from the side stands past an end of the view, the nearer one first. */
function pastEnds(r: DimensionRecord, view: ViewRecord, scene: Scene, rows: readonly number[]): DimensionRecord[] {
  const m = measured(r, scene)![0] as Stretch;
  const box = rectOf(viewRect(view, scene.result(view.id)));
  const [px, py] = scene.map(view).toPaper(m.from);
  // As the line is drawn: to the left of the way along it.
  const [nx, ny] = [-m.along[1], -m.along[0]];
  const out = [1, -1].map((k) => {
    const corners = [0, 1, 2, 3].map((i) => [box.x + (i & 1 ? box.width : 0), box.y + (i & 2 ? box.height : 0)] as const);
    return { k, far: Math.max(...corners.map(([x, y]) => k * ((x - px) * nx + (y - py) * ny))) };
  });
  return rows.flatMap((away) => [...out].sort((a, b) => a.far - b.far).map(({ k, far }): DimensionRecord => ({ ...r, away: k * (far + away) })));
}

/** The nearer side first, so that extension lines are short; both alike below and to the left. */
function sidesFor(r: DimensionRecord, view: ViewRecord, scene: Scene): readonly Side[] {
  const m = measured(r, scene)?.[0] as Stretch | undefined;
  const map = scene.map(view);
  const box = rectOf(viewRect(view, scene.result(view.id)));
  if (!m) return [];
  // What only says how far the whole goes has no place of its own.
  const places = [m.from, m.to].filter((_, i) => !r.of[i === 0 ? 0 : r.of.length - 1]?.side);
  const ends = (places.length ? places : [m.from, m.to]).map((p) => map.toPaper(p));
  if (r.kind === 'level') {
    const y = ends.reduce((s, p) => s + p[1], 0) / ends.length;
    return y < box.y + box.height / 2 - 1 ? ['top', 'bottom'] : ['bottom', 'top'];
  }
  const x = ends.reduce((s, p) => s + p[0], 0) / ends.length;
  return x > box.x + box.width / 2 + 1 ? ['right', 'left'] : ['left', 'right'];
}

/** What stands on the sheet around a view: other views with their boxes, of the view itself what lies beside its lines. */
function standingAround(view: ViewRecord, scene: Scene): Standing {
  const rects: Rect[] = [];
  const segments: Segment[] = [];
  const { groups } = composeSheet(scene, view.sheet);
  for (const g of groups) {
    // Centrelines cross whatever is there.
    if (g.role === 'frame' || g.role === 'centre') continue;
    const record = scene.document[g.id.split('/')[0]!];
    rects.push(...g.solid.rects);
    // Of other views the whole box is kept clear of.
    if (record?.type === 'view' && record.id !== view.id) rects.push(inflate(rectOf(g.box), AIR_MM));
    else segments.push(...g.solid.segments);
  }
  return { rects, segments, covers: groups.find((g) => g.id === view.id)?.solid.covers };
}

function solidOf(r: DimensionRecord, scene: Scene): Standing {
  const [drawn] = drawDimension(r, scene);
  return { rects: drawn?.texts ?? [], segments: drawn?.solid.segments ?? [] };
}

/** Does a dimension stand where nothing else does? Extension lines may cross one another, dimension lines and texts cross nothing. */
function isFree(r: DimensionRecord, scene: Scene, standing: Standing, placed: readonly Standing[], view: ViewRecord): boolean {
  const [drawn] = drawDimension(r, scene);
  if (!drawn) return false;
  const frame = inflate(scene.page(view.sheet).geometry.frame, -AIR_MM);
  const b = drawn.ink;
  if (b.x < frame.x || b.y < frame.y || b.x + b.width > frame.x + frame.width || b.y + b.height > frame.y + frame.height) return false;
  const texts = drawn.texts.map((t) => inflate(t, AIR_MM / 2));
  // What runs through a circle crosses what is there; its value stands on the last line.
  const fromSide = isRound(r) && measured(r, scene)?.[0]?.shape === 'stretch';
  const lines = isRound(r) && !fromSide ? drawn.solid.segments.slice(-1) : drawn.solid.segments;
  const box = rectOf(viewRect(view, scene.result(view.id)));
  const hit = (s: Standing) =>
    texts.some((t) => s.rects.some((q) => overlaps(t, q)) || s.segments.some((l) => crosses(l, t))) ||
    lines.some((l) => s.rects.some((q) => crosses(l, inflate(q, 0.5))) || s.segments.some((q) => tooClose(l, q)));
  // Values of circles, and of distances aslant, may stand in a view where that is empty.
  const beside = r.kind === 'level' || r.kind === 'upright';
  if (texts.some((t) => overlaps(t, box) && (beside || standing.covers?.(t)))) return false;
  // A leader into a view may cross lines there, never a value.
  const overValue = (p: Standing) => isRound(r) && !fromSide && drawn.solid.segments.some((l) => p.rects.some((q) => crosses(l, q)));
  return !hit(standing) && placed.every((p) => !hit(p) && !overValue(p));
}

/** Two dimension lines that cross, or run along each other nearer than a line apart. */
function tooClose(a: Segment, b: Segment): boolean {
  const ra: Rect = inflate(around(a), 0.05);
  return overlaps(ra, inflate(around(b), 0.05), NEXT_MM - 0.2 - (isSquare(a, b) ? NEXT_MM - 0.3 : 0));
}

const around = ([x0, y0, x1, y1]: Segment): Rect => ({ x: Math.min(x0, x1), y: Math.min(y0, y1), width: Math.abs(x1 - x0), height: Math.abs(y1 - y0) });
const isSquare = (a: Segment, b: Segment) => Math.abs((a[2] - a[0]) * (b[2] - b[0]) + (a[3] - a[1]) * (b[3] - b[1])) < 1e-6;
