import { layoutBalloons } from '../../elements/balloon/place/layout.ts';
import { anchorsOf } from '../../elements/balloon/place/anchors.ts';
import { drawLines, type Pen } from '../../elements/view/draw-lines.ts';
import type { Assembly } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { contains, type Rect } from '../base/rect.ts';
import { cornersOf } from '../base/corners.ts';
import { applyToPoint } from '../base/placement.ts';
import { anyPerpendicular, cross, dot, type Vec2, type Vec3 } from '../base/vector.ts';
import { flatLines, pullLines } from '../explode/pull-lines.ts';
import { motionsOf, movedBodies, type Pull } from '../explode/spread.ts';
import { numberText } from '../ledger/items.ts';
import { inFrameOf, isometricFrom, namedFrame, type Corner, type ViewFrame } from '../outline/directions.ts';
import { projectScene, type Body } from '../outline/scene.ts';
import { sceneOf } from '../outline/scene-of.ts';
import type { DisplayItem } from '../picture/display-list.ts';
import { textWidth } from '../picture/lettering.ts';
import { arrowHead, circlePath, line, num, text } from '../picture/shapes.ts';
import { hexOf, itemColor } from '../shade/colors.ts';
import { writePng } from '../shade/png.ts';
import { planeBox, rasterize, visiblePixels, windowAround, windowOf, type Window } from '../shade/raster.ts';
import type { SheetStyle } from '../sheet/paper.ts';
import { computeView, type ViewResult } from '../views/compute-view.ts';
import type { Outline } from '../views/outline.ts';
import { partOfView } from '../views/part-of-view.ts';
import { viewMapOf, type ViewMap } from '../views/view-map.ts';
import type { GuideStep } from './guide.ts';
import type { BuildOrder } from './steps.ts';

export interface StepPicture {
  readonly items: readonly DisplayItem[];
  readonly frame: ViewFrame;
  /** The way in, turned round: pulls that take off what comes. */
  readonly pulls: readonly Pull[];
  /** The shaded picture that the items name, PNG; a picture of the drafter's stands in its item. */
  readonly image?: { readonly key: string; readonly png: Uint8Array };
}

/** Pens of a picture that is read at arm's length. */
export const GUIDE_STYLE: SheetStyle = { wide: 0.35, narrow: 0.18, text: 3.5, item: 5, balloon: 11, letter: 5, caption: 2.5 };

/** From where a step may be looked at, the usual one first. */
const CORNERS = [
  [1, -1, 1],
  [-1, -1, 1],
  [1, 1, 1],
  [-1, 1, 1],
  [1, -1, -1],
  [-1, -1, -1],
] as const;
/** Another side is taken only where it shows so much more of what comes: a reader should not be turned about. */
const WORTH_TURNING = 1.5;
const LOOK_PIXELS = 160;
const SHADE_PIXELS = 720;
/** Room around the picture for balloons, paper mm. */
const MARGIN_MM = 20;
const STANDING = '#8f8b83';
const STANDING_TONE = [238, 235, 229] as const;
const ARROW = '#b4690e';
const MOST_BALLOONS = 12;
const MOST_ARROWS = 6;

/** What hangs in the air before it goes on: its way, where it is across that, and how far out it reaches. */
interface Hung {
  readonly direction: Vec3;
  readonly across: readonly (readonly [number, number])[];
  readonly front: number;
}

/** Draws the steps of a guide: what stands there faint, what comes strong and in its colour, its way in, its numbers. */
export class StepPainter {
  private readonly assembly: Assembly;
  private readonly geometries: ReadonlyMap<string, PartGeometry>;
  private readonly order: BuildOrder;
  private readonly bodies: readonly Body[];
  private readonly count: number;
  private readonly front: ViewFrame;

  /** @param front of the drawing: corners are named by it */
  constructor(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>, order: BuildOrder, front = namedFrame('front')) {
    [this.assembly, this.geometries, this.order, this.front] = [assembly, geometries, order, front];
    this.bodies = sceneOf(assembly, geometries);
    this.count = componentsOf(assembly).length;
  }

  /** @param room where the picture may be, paper mm */
  paint(step: GuideStep, room: Rect): StepPicture {
    const fresh = new Set(step.kind === 'join' ? step.joins : step.adds);
    const shown = new Set([...step.there, ...fresh]);
    const pulls = this.shortPulls(step);
    const bodies = movedBodies(
      this.bodies.filter((b) => shown.has(b.component)),
      motionsOf(pulls, this.count),
    );
    const frame = step.corner ? this.seenFrom(step.corner) : this.bestFrame(bodies, fresh);
    if (step.picture) return { items: ownPicture(step.picture, room), frame, pulls };
    const leftOut = this.bodies.flatMap((b) => (shown.has(b.component) ? [] : [b.component]));
    const result = computeView(this.assembly, this.geometries, {
      frame,
      hidden: false,
      tangent: false,
      shaded: false,
      cut: null,
      spread: pulls.length ? { pulls, lines: false, linesOff: [] } : null,
      ...(leftOut.length ? { leftOut } : {}),
    });
    const components = componentsOf(this.assembly);
    const key = `step-${step.number}`;
    const { window, png } = this.shaded(bodies, frame, (c) => (fresh.has(c) ? itemColor(components[c]!.part) : STANDING_TONE));
    return { items: this.compose(step, result, bodies, pulls, fresh, frame, room, { key, window }), frame, pulls, image: { key, png } };
  }

  /** The pulls of a step, no longer than a look needs: beside what stands there, and what comes later behind what comes first. */
  private shortPulls(step: GuideStep): Pull[] {
    const there = new Set(step.there);
    const hung: Hung[] = [];
    return step.moves.flatMap((m) =>
      m.pulls.map((i): Pull => {
        const p = this.order.pulls[i]!;
        const moving = new Set(m.components);
        const [low, own] = [this.reach(p.direction, (c) => moving.has(c)), this.reach(p.direction, (c) => there.has(c))];
        // Past what stands there, and a little air.
        const past = Number.isFinite(own[1]) ? Math.max(0, own[1] - low[0]) : 0;
        const air = 0.25 * (low[1] - low[0]) + 0.06 * Math.max(0, own[1] - own[0]);
        let distanceMm = Math.max(1e-6, Math.min(p.distanceMm, past + air));
        if (m.pulls.length === 1 && !p.turn) {
          const right = anyPerpendicular(p.direction);
          const across = [right, cross(p.direction, right)].map((a) => this.reach(a, (c) => moving.has(c)));
          for (const h of hung)
            if (dot(h.direction, p.direction) > 0.999 && across.every(([a, b], k) => a < h.across[k]![1] && b > h.across[k]![0]))
              distanceMm = Math.max(distanceMm, h.front - low[0] + 0.3 * (low[1] - low[0]));
          hung.push({ direction: p.direction, across, front: low[1] + distanceMm });
        }
        return { components: m.components, direction: p.direction, distanceMm, ...(p.turn ? { turn: p.turn } : {}) };
      }),
    );
  }

  /** How far some components reach along a direction, model mm. */
  private reach(direction: Vec3, inside: (component: number) => boolean): readonly [number, number] {
    let [low, high] = [Infinity, -Infinity];
    for (const b of this.bodies) {
      if (!inside(b.component)) continue;
      for (const corner of cornersOf(b.geometry.box)) {
        const h = dot(applyToPoint(b.placement, corner), direction);
        low = Math.min(low, h);
        high = Math.max(high, h);
      }
    }
    return [low, high];
  }

  private seenFrom(corner: Corner): ViewFrame {
    return inFrameOf(this.front, isometricFrom(corner));
  }

  private bestFrame(bodies: readonly Body[], fresh: ReadonlySet<number>): ViewFrame {
    let best = { frame: this.seenFrom(CORNERS[0]), seen: -1 };
    CORNERS.forEach((corner, i) => {
      const frame = this.seenFrom(corner);
      const scene = projectScene(bodies, frame);
      const pixels = visiblePixels(rasterize(scene, windowAround(planeBox(scene), LOOK_PIXELS), this.count), this.count);
      let [seen, all] = [0, 0];
      pixels.forEach((n, c) => {
        all += n;
        if (fresh.has(c)) seen += n;
      });
      const share = seen / Math.max(1, all);
      // From below only where nothing else does.
      const worth = i === 0 ? 1 : i < 4 ? WORTH_TURNING : 2 * WORTH_TURNING;
      if (share > best.seen * worth || best.seen < 0) best = { frame, seen: share };
    });
    return best.frame;
  }

  private compose(
    step: GuideStep,
    result: ViewResult,
    bodies: readonly Body[],
    pulls: readonly Pull[],
    fresh: ReadonlySet<number>,
    frame: ViewFrame,
    room: Rect,
    image: { readonly key: string; readonly window: Window },
  ): DisplayItem[] {
    const lines = flatLines(
      pullLines(
        this.bodies.filter((b) => fresh.has(b.component)),
        pulls,
      ),
      frame,
    );
    const [x0, y0, x1, y1] = result.box;
    const scale = Math.min((room.width - 2 * MARGIN_MM) / Math.max(1e-6, x1 - x0), (room.height - 2 * MARGIN_MM) / Math.max(1e-6, y1 - y0));
    const map = viewMapOf({ at: [room.x + room.width / 2, room.y + room.height / 2], pivot: [(x0 + x1) / 2, (y0 + y1) / 2], scale });
    // Of the first step everything is fresh: colours are for what comes to something.
    const strong = step.kind !== 'start';
    const pens = new Map<number, Pen>(
      bodies.map((b) => [
        b.component,
        strong && fresh.has(b.component) ? { width: 1.6, color: '#12110f' } : strong ? { color: STANDING, width: 0.8 } : { width: 1.2 },
      ]),
    );
    const { window: w, key } = image;
    const items: DisplayItem[] = [
      { kind: 'image', x: map.x(w.minX), y: map.y(w.maxY), width: w.width * w.pixelMm * scale, height: w.height * w.pixelMm * scale, image: key },
    ];
    items.push(...drawLines(result, map, GUIDE_STYLE, { thinMm: 0.25, pens }));
    for (const l of shownLines(lines)) items.push(...arrow(l.points.map(map.toPaper)));
    const place = strong ? freeCorner(result, map, room) : undefined;
    const inset = place ? this.inset(result, fresh, pens, map, place) : [];
    items.push(...inset, ...this.numbers(step, result, map, room, place && inset.length ? [place] : []));
    return items;
  }

  /** What comes is small on the picture: it is shown larger in a corner, with a ring where it is. */
  private inset(result: ViewResult, fresh: ReadonlySet<number>, pens: ReadonlyMap<number, Pen>, map: ViewMap, place: Rect): DisplayItem[] {
    const box = seenBox(result, fresh);
    if (!box) return [];
    const [x, y] = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
    const half = Math.max(box[2] - box[0], box[3] - box[1]) / 2;
    if (2 * half * map.scale > SMALL_MM) return [];
    const r = INSET_MM / 2;
    const radius = Math.max(INSET_REACH * half, 1e-6);
    const at: Vec2 = [place.x + r, place.y + r];
    const larger = viewMapOf({ at, pivot: [x, y], scale: r / radius });
    const within: Outline = { kind: 'circle', at: [x, y], radius };
    const ring = Math.max(radius * map.scale, 3);
    const on: Vec2 = [map.x(x), map.y(y)];
    const [dx, dy] = [at[0] - on[0], at[1] - on[1]];
    const length = Math.hypot(dx, dy);
    if (length < r + ring) return [];
    return [
      { kind: 'fill', d: circlePath(...at, r), color: '#ffffff' },
      ...drawLines(partOfView(result, { within }), larger, GUIDE_STYLE, { thinMm: 0.25, pens }),
      { kind: 'stroke', d: circlePath(...at, r), width: GUIDE_STYLE.wide },
      { kind: 'stroke', d: circlePath(...on, ring), width: GUIDE_STYLE.narrow },
      line(on[0] + (dx / length) * ring, on[1] + (dy / length) * ring, at[0] - (dx / length) * r, at[1] - (dy / length) * r, GUIDE_STYLE.narrow),
    ];
  }

  private shaded(bodies: readonly Body[], frame: ViewFrame, colorOf: (c: number) => readonly [number, number, number]): { window: Window; png: Uint8Array } {
    const scene = projectScene(bodies, frame);
    const box = planeBox(scene);
    const window = windowOf(box, Math.max(box[2] - box[0], box[3] - box[1], 1e-6) / SHADE_PIXELS);
    const colors = Array.from({ length: this.count }, (_, c) => colorOf(c));
    const { rgba } = rasterize(scene, window, this.count, { colors });
    return { window, png: writePng(window.width, window.height, rgba!) };
  }

  private numbers(step: GuideStep, result: ViewResult, map: ViewMap, room: Rect, obstacles: readonly Rect[]): DisplayItem[] {
    const adds = new Set(step.adds);
    const kit = step.kit.slice(0, MOST_BALLOONS);
    const requests = kit.map(({ item }) => ({
      id: item.part,
      anchors: anchorsOf(result, new Set(item.components.filter((c) => adds.has(c))), 24).map((a) => ({
        x: map.x(a.x),
        y: map.y(a.y),
        outX: a.outX,
        outY: -a.outY,
      })),
    }));
    const [x0, y0, x1, y1] = result.box;
    const view: Rect = { x: map.x(x0), y: map.y(y1), width: (x1 - x0) * map.scale, height: (y1 - y0) * map.scale };
    const placed = layoutBalloons(requests, { view, allowed: room, obstacles, diameter: GUIDE_STYLE.balloon });
    const r = GUIDE_STYLE.balloon / 2;
    return placed.flatMap((p): DisplayItem[] => {
      const row = kit.find((k) => k.item.part === p.id)!;
      const words = `${numberText(row.item)}${row.quantity > 1 ? ` ×${row.quantity}` : ''}`;
      const d = Math.hypot(p.anchor.x - p.x, p.anchor.y - p.y) || 1;
      const [ux, uy] = [(p.anchor.x - p.x) / d, (p.anchor.y - p.y) / d];
      const size = Math.min(4.4, (4.4 * (GUIDE_STYLE.balloon - 2.4)) / Math.max(1e-6, textWidth(words, 4.4)));
      const round = circlePath(p.x, p.y, r);
      return [
        line(p.x + ux * r, p.y + uy * r, p.anchor.x, p.anchor.y, GUIDE_STYLE.wide),
        arrowHead(p.anchor.x, p.anchor.y, ux, uy, 3),
        { kind: 'fill', d: round, color: '#ffffff' },
        { kind: 'stroke', d: round, width: GUIDE_STYLE.wide },
        text(p.x, p.y + size / 2, words, size, 'middle'),
      ];
    });
  }
}

/** A picture of the drafter's, as large as its room. */
function ownPicture({ png, ratio }: NonNullable<GuideStep['picture']>, room: Rect): readonly DisplayItem[] {
  const width = Math.min(room.width, room.height / ratio);
  const [x, y] = [room.x + (room.width - width) / 2, room.y + (room.height - width * ratio) / 2];
  return [{ kind: 'image', x, y, width, height: width * ratio, image: `data:image/png;base64,${png}` }];
}

/** What comes is shown larger when it is smaller than this; how large that picture is, and how far around it reaches, in half sizes. */
const SMALL_MM = 9;
const INSET_MM = 52;
const INSET_REACH = 2.2;

/** The corner of a picture where least is drawn; none where a quarter of it would be covered. */
function freeCorner({ map: { window: w, component } }: ViewResult, map: ViewMap, room: Rect): Rect | undefined {
  const [right, low] = [room.x + room.width - INSET_MM - 2, room.y + room.height - INSET_MM - 2];
  const corners = [room.x + 2, right].flatMap((x) => [room.y + 2, low].map((y): Rect => ({ x, y, width: INSET_MM, height: INSET_MM })));
  const pixelMm2 = (w.pixelMm * map.scale) ** 2;
  const covered = corners.map((c) => {
    let n = 0;
    component.forEach((v, i) => {
      if (v >= 0 && contains(c, [map.x(w.minX + (i % w.width) * w.pixelMm), map.y(w.maxY - Math.floor(i / w.width) * w.pixelMm)])) n++;
    });
    return n * pixelMm2;
  });
  const least = Math.min(...covered);
  return least < 0.25 * INSET_MM ** 2 ? corners[covered.indexOf(least)] : undefined;
}

/** Where some components are seen, by the item map; view space, model mm. */
function seenBox({ map: { window: w, component } }: ViewResult, of: ReadonlySet<number>): readonly [number, number, number, number] | undefined {
  const out: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  component.forEach((c, i) => {
    if (!of.has(c)) return;
    const [x, y] = [w.minX + (i % w.width) * w.pixelMm, w.maxY - Math.floor(i / w.width) * w.pixelMm];
    out[0] = Math.min(out[0], x);
    out[1] = Math.min(out[1], y - w.pixelMm);
    out[2] = Math.max(out[2], x + w.pixelMm);
    out[3] = Math.max(out[3], y);
  });
  return out[0] < out[2] ? out : undefined;
}

/** Of many ways that are alike the longest few say enough. */
function shownLines<L extends { readonly points: readonly Vec2[] }>(lines: readonly L[]): readonly L[] {
  const length = (l: L) => l.points.slice(1).reduce((s, p, i) => s + Math.hypot(p[0] - l.points[i]![0], p[1] - l.points[i]![1]), 0);
  return [...lines].sort((a, b) => length(b) - length(a)).slice(0, MOST_ARROWS);
}

/** The way in, from where a part hangs to its place, with an arrow half way. */
function arrow(points: readonly Vec2[]): DisplayItem[] {
  const way = [...points].reverse();
  if (way.length < 2) return [];
  const d = way.map(([x, y], i) => `${i ? 'L' : 'M'}${num(x)} ${num(y)}`).join('');
  const [a, b] = [way.at(-2)!, way.at(-1)!];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (length < 3) return [];
  const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const at: Vec2 = [a[0] + ux * length * 0.62, a[1] + uy * length * 0.62];
  const wing = (s: number): Vec2 => [at[0] - ux * 4.5 - uy * s * 2, at[1] - uy * 4.5 + ux * s * 2];
  const [p, q] = [wing(1), wing(-1)];
  return [
    { kind: 'stroke', d, width: 0.45, dash: [5, 1.4, 1, 1.4], color: ARROW },
    { kind: 'fill', d: `M${num(at[0])} ${num(at[1])}L${num(p[0])} ${num(p[1])}L${num(q[0])} ${num(q[1])}Z`, color: ARROW },
  ];
}

export const colorOfItem = (part: number): string => hexOf(itemColor(part).map((c) => c / 255));
