import { addSheet } from '../../elements/sheet/sheets.ts';
import { lettersOf, nextLetter } from '../../elements/view/letters.ts';
import type { Scene } from '../../elements/scene.ts';
import { titleBlockRect } from '../sheet/page.ts';
import { cornersOf } from '../base/corners.ts';
import { applyToPoint } from '../base/placement.ts';
import { dot, type Vec2, type Vec3 } from '../base/vector.ts';
import { cutFromLine } from '../cut/section-line.ts';
import { PLAIN_VIEW, type ViewRecord } from '../document/records.ts';
import type { Step } from '../document/steps.ts';
import type { ViewFrame } from '../outline/directions.ts';
import { standardScales } from '../sheet/paper.ts';

/** Free paper around a section on a sheet of its own, mm. */
const AROUND_MM = 30;

/**
 * Steps that show an item that no view shows: a section through its middle, square to its shortest extent so that most of it is
 * cut, on a sheet of its own, with its line on a view that is there. None where no plain view could carry the line.
 */
export function sectionThrough(scene: Scene, part: string, freshId: (type: string) => string): Step[] {
  const found = lineThrough(scene, part);
  const [first] = scene.sheets;
  if (!found || !first) return [];
  const { parent, cut } = found;
  const box = boxIn(scene, cut.frame);
  const { geometry } = scene.page(first.id);
  const { frame } = geometry;
  const title = titleBlockRect(geometry, first);
  const [width, height] = [frame.width - 2 * AROUND_MM, title.y - frame.y - AROUND_MM];
  const wanted = Math.min(width / Math.max(box[2] - box[0], 1e-6), height / Math.max(box[3] - box[1], 1e-6));
  const size = standardScales(scene.drawing.standard).find((s) => s <= wanted) ?? wanted;
  const letter = nextLetter(lettersOf(scene));
  const sheet = freshId('sheet');
  const view: ViewRecord = {
    type: 'view',
    id: freshId('view:section'),
    sheet,
    name: `Section ${letter}–${letter}`,
    ...PLAIN_VIEW,
    ...cut.frame,
    scale: size,
    at: [frame.x + frame.width / 2, frame.y + AROUND_MM / 2 + height / 2],
    pivot: [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2],
    label: true,
    cut: { ...cut.plane, letter, keptWhole: [], shownIn: parent.id },
  };
  return [...addSheet(scene, sheet, scene.sheets.at(-1)!.id, { ...first, name: view.name }), { op: 'put', record: view }];
}

/** Could a section show it? */
export const canBeCut = (scene: Scene, part: string): boolean => lineThrough(scene, part) !== undefined;

/** The view that carries the cutting line, and what the line means. */
function lineThrough(scene: Scene, part: string) {
  const item = scene.items.find((i) => i.part === part);
  const [first] = item?.components ?? [];
  const component = first === undefined ? undefined : scene.components[first];
  if (!component) return undefined;
  const own = scene.assembly.parts[component.part]!;
  const at = applyToPoint(component.placement, own.centroid as Vec3);
  const corners = cornersOf(own.box).map((p) => applyToPoint(component.placement, p));
  const extent = [0, 1, 2].map((k) => Math.max(...corners.map((p) => p[k]!)) - Math.min(...corners.map((p) => p[k]!)));
  const axes = [0, 1, 2].sort((a, b) => extent[a]! - extent[b]!);
  const plain = scene.all('view').filter((v) => !v.off && !v.cut && !v.spread && !v.detail && v.toward.some((x) => Math.abs(x) > 1 - 1e-6));
  for (const axis of axes) {
    const parent = plain.find((v) => Math.abs(v.toward[axis]!) < 1e-6);
    if (!parent) continue;
    const box = boxIn(scene, parent);
    const [x, y]: Vec2 = [dot(at, parent.right), dot(at, parent.up)];
    // The line runs square to the shortest extent.
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
    if (!('wrong' in cut)) return { parent, cut };
  }
  return undefined;
}

/** How far the assembly reaches in a frame, by the boxes of its parts; minX minY maxX maxY, model mm. */
function boxIn(scene: Scene, { right, up }: Pick<ViewFrame, 'right' | 'up'>): readonly [number, number, number, number] {
  const out: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const c of scene.components)
    for (const p of cornersOf(scene.assembly.parts[c.part]!.box).map((q) => applyToPoint(c.placement, q))) {
      const [x, y] = [dot(p, right), dot(p, up)];
      out[0] = Math.min(out[0], x);
      out[1] = Math.min(out[1], y);
      out[2] = Math.max(out[2], x);
      out[3] = Math.max(out[3], y);
    }
  return out;
}
