import { allowedOn, standingOn } from '../../elements/place.ts';
import { newDetail } from '../../elements/view/detail-of.ts';
import { viewRect } from '../../elements/view/draw.ts';
import { boxFromParts } from '../../elements/view/extent.ts';
import { addSheet } from '../../elements/sheet/sheets.ts';
import { lettersOf, nextLetter } from '../../elements/view/letters.ts';
import type { Scene } from '../../elements/scene.ts';
import { titleBlockRect } from '../sheet/page.ts';
import { cornersOf } from '../base/corners.ts';
import { applyToPoint } from '../base/placement.ts';
import { dot, type Vec2, type Vec3 } from '../base/vector.ts';
import { rectOf, type Rect } from '../base/rect.ts';
import { cutFromLine, type LineCut } from '../cut/section-line.ts';
import { roomFor } from '../draft/new-view.ts';
import { sightOf } from '../draft/sights.ts';
import { PLAIN_VIEW, type ViewRecord } from '../document/records.ts';
import type { Step } from '../document/steps.ts';
import { standardScales } from '../sheet/paper.ts';
import { outlineBox, type Outline } from '../views/outline.ts';
import type { Cure } from './cure-search.ts';

/** Free paper around a view on a sheet of its own, and below it for its label, mm. */
const AROUND_MM = 30;
const LABEL_MM = 12;
/** The circle of a detail on its view, radius on paper, mm. */
const [LEAST_DETAIL_MM, MOST_DETAIL_MM] = [4, 20] as const;

/**
 * Steps that show an item that no view shows: a section through its middle, square to its shortest extent so that most of it is
 * cut, with its line on a view that is there. None where no plain view could carry the line.
 */
export function sectionThrough(scene: Scene, part: string, freshId: (type: string) => string): Step[] {
  const [found] = cuttingLines(scene, part);
  if (!found) return [];
  const { parent, cut } = found;
  const piece = scene.components[scene.items.find((i) => i.part === part)!.components[0]!]!.path;
  const box = boxFromParts(scene, cut.frame, { spread: null, shows: { only: true, of: [piece] } });
  const whole = boxFromParts(scene, cut.frame, { spread: null });
  return cureSteps(scene, { kind: 'section', name: '', frame: cut.frame, cut: { ...cut.plane, keptWhole: [], shownIn: parent.id }, box, whole }, freshId);
}

/** Could a section show it? */
export const canBeCut = (scene: Scene, part: string): boolean => cuttingLines(scene, part).next().done === false;

/** What of a cure its view is made of. */
type Wanted = Pick<Cure, 'kind' | 'name' | 'frame' | 'cut' | 'spread' | 'box' | 'whole'>;

/** An item that would be smaller than this on paper is shown alone with what is around it, larger, mm. */
const SMALL_MM = 12;
/** A view of what is around an item reaches so far, in half sizes of the item, and is at most so large on paper, mm. */
const REACH = 1.9;
const MOST_MM = 70;

/** How a cure is drawn: the whole, or where the item would be too small the neighbourhood of it at a larger scale. */
export function cureScale(scene: Scene, { box, whole }: Wanted): { readonly scale: number; readonly within?: Outline } {
  const [w, h] = [box[2] - box[0], box[3] - box[1]];
  const room = sheetRoom(scene);
  const scales = standardScales(scene.drawing.standard);
  const fits = (width: number, height: number, most: Vec2): number => {
    const wanted = Math.min(most[0] / Math.max(width, 1e-6), most[1] / Math.max(height, 1e-6));
    return scales.find((s) => s <= wanted) ?? wanted;
  };
  const scale = fits(whole[2] - whole[0], whole[3] - whole[1], [room.width, room.height]);
  if (Math.max(w, h) * scale >= SMALL_MM) return { scale };
  const radius = (REACH * Math.hypot(w, h)) / 2;
  const larger = fits(2 * radius, 2 * radius, [MOST_MM, MOST_MM]);
  if (larger <= scale) return { scale };
  return { scale: larger, within: { kind: 'circle', at: [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2], radius } };
}

/** Steps that draw a cure: on the first sheet that has room for it, else on one of its own. */
export function cureSteps(scene: Scene, cure: Wanted, freshId: (type: string) => string): Step[] {
  const [first] = scene.sheets;
  if (!first) return [];
  const { frame, whole } = cure;
  const { scale, within } = cureScale(scene, cure);
  const [x0, y0, x1, y1] = within ? outlineBox(within) : whole;
  const size: Vec2 = [x1 - x0, y1 - y0 + LABEL_MM / scale];
  const section = cure.cut ? nextLetter(lettersOf(scene)) : undefined;
  const name = section ? `Section ${section}–${section}` : cure.name;
  const there = sheetWithRoom(scene, size, scale);
  const sheet = there?.sheet ?? freshId('sheet');
  const room = sheetRoom(scene);
  const middle: Vec2 = there?.at ?? [room.x + room.width / 2, room.y + room.height / 2];
  const view: ViewRecord = {
    type: 'view',
    id: freshId(section ? 'view:section' : 'view'),
    sheet,
    name,
    ...PLAIN_VIEW,
    right: frame.right,
    up: frame.up,
    toward: frame.toward,
    scale,
    at: [middle[0], middle[1] - LABEL_MM / 2],
    pivot: [(x0 + x1) / 2, (y0 + y1) / 2],
    label: true,
    ...(cure.cut && section ? { cut: { ...cure.cut, letter: section } } : {}),
    ...(cure.spread ? { spread: cure.spread, pullLines: true } : {}),
    ...(within ? { within } : {}),
  };
  return [...(there ? [] : addSheet(scene, sheet, scene.sheets.at(-1)!.id, { ...first, name })), { op: 'put', record: view }];
}

/** Room on a sheet like the first one, paper mm. */
function sheetRoom(scene: Scene): Rect {
  const first = scene.sheets[0]!;
  const { geometry } = scene.page(first.id);
  const { frame } = geometry;
  return {
    x: frame.x + AROUND_MM,
    y: frame.y + AROUND_MM / 2,
    width: frame.width - 2 * AROUND_MM,
    height: titleBlockRect(geometry, first).y - frame.y - AROUND_MM,
  };
}

/** The first sheet of the whole that has free room of a size. @param size model mm @param scale paper mm per model mm */
function sheetWithRoom(scene: Scene, size: Vec2, scale: number): { readonly sheet: string; readonly at: Vec2 } | undefined {
  for (const { id, part } of scene.sheets) {
    const [view] = scene.viewsOn(id);
    if (part !== undefined || !view) continue;
    const near = rectOf(viewRect(view, scene.result(view.id)));
    const place = roomFor(size, [scale], near, allowedOn(scene, id), standingOn(scene, id, { id: view.id }));
    if (place.free) return { sheet: id, at: place.at };
  }
  return undefined;
}

/** Cutting lines that pass the middle of an item's first piece, that square to its shortest extent first. */
export function* cuttingLines(scene: Scene, part: string): Generator<{ readonly parent: ViewRecord; readonly cut: LineCut }> {
  const item = scene.items.find((i) => i.part === part);
  const [first] = item?.components ?? [];
  const component = first === undefined ? undefined : scene.components[first];
  if (!component) return;
  const own = scene.assembly.parts[component.part]!;
  const at = applyToPoint(component.placement, own.centroid as Vec3);
  const corners = cornersOf(own.box).map((p) => applyToPoint(component.placement, p));
  const extent = [0, 1, 2].map((k) => Math.max(...corners.map((p) => p[k]!)) - Math.min(...corners.map((p) => p[k]!)));
  const axes = [0, 1, 2].sort((a, b) => extent[a]! - extent[b]!);
  const plain = scene.all('view').filter((v) => !v.off && !v.cut && !v.spread && !v.detail && v.toward.some((x) => Math.abs(x) > 1 - 1e-6));
  for (const axis of axes) {
    const parent = plain.find((v) => Math.abs(v.toward[axis]!) < 1e-6);
    if (!parent) continue;
    const box = boxFromParts(scene, parent, { spread: null });
    const [x, y]: Vec2 = [dot(at, parent.right), dot(at, parent.up)];
    // The line runs square to the axis.
    const level = Math.abs(parent.up[axis]!) > 0.5;
    const line: readonly Vec2[] = level
      ? [
          [box[0], y],
          [box[2], y],
        ]
      : [
          [x, box[1]],
          [x, box[3]],
        ];
    const cut = cutFromLine(line, parent);
    if (!('wrong' in cut)) yield { parent, cut };
  }
}

/** A detail around an item, in the view that shows it largest; undefined where no view does. */
export function detailOf(
  scene: Scene,
  part: string,
  id: string,
): { readonly record: ViewRecord; readonly areaMm2: number; readonly share: number } | undefined {
  const views = scene.all('view').filter((v) => !v.off && !v.detail && !v.within && !v.laid && scene.one('sheet', v.sheet)?.part === undefined);
  const sight = sightOf(scene, views, part);
  if (!sight) return undefined;
  const { view, at, half, component } = sight;
  const [least, most] = [LEAST_DETAIL_MM / view.scale, MOST_DETAIL_MM / view.scale];
  if (half > most) return undefined;
  const outline: Outline = { kind: 'circle', at, radius: Math.min(most, Math.max(least, REACH * half)) };
  const { record } = newDetail(scene, view, outline, id);
  const result = scene.result(view.id)!;
  return { record, areaMm2: result.visibleArea[component] ?? 0, share: result.visibleShare[component] ?? 0 };
}
