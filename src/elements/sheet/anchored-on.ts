import type { Rect } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { SheetRecord } from '../../core/document/records.ts';
import type { FormatElement } from '../../core/format/record.ts';
import { paperByName, sheetGeometry } from '../../core/sheet/paper.ts';
import { laidBlock } from '../block/draw.ts';
import type { BlockRecord } from '../block/layout.ts';
import type { Scene } from '../scene.ts';

/** What stands on the format of a sheet, where it stands on this one: on another size it keeps to the nearest side or corner of the frame. */
export function anchoredOn<E extends FormatElement>(elements: readonly E[], scene: Scene, sheet: SheetRecord, boxOf: (e: E) => Rect): E[] {
  const { form, size, landscape } = scene.formatOf(sheet.id);
  if (size === sheet.size && landscape === sheet.landscape) return [...elements];
  const from = sheetGeometry(paperByName(size)!, landscape, form).frame;
  const to = scene.page(sheet.id).geometry.frame;
  return elements.map((e) => {
    if (isDocked(e)) return e;
    const { x, y, width, height } = boxOf(e);
    return shifted(e, [along(x + width / 2, from.x, from.width, to.x, to.width), along(y + height / 2, from.y, from.height, to.y, to.height)]);
  });
}

/** Where the format of a sheet keeps general notes, paper mm; undefined where it has no place for them. */
export function notesPlace(scene: Scene, sheet: SheetRecord): Vec2 | undefined {
  const { form, size, landscape } = scene.formatOf(sheet.id);
  if (!form.notes) return undefined;
  const from = sheetGeometry(paperByName(size)!, landscape, form).frame;
  const to = scene.page(sheet.id).geometry.frame;
  const [x, y] = form.notes;
  return [x + along(x, from.x, from.width, to.x, to.width), y + along(y, from.y, from.height, to.y, to.height)];
}

/** What shows of a format on a sheet: all of it, or all but the title block; nothing lies under a format itself. */
export function shownOn(scene: Scene, sheet: SheetRecord): readonly FormatElement[] {
  if (sheet.form) return [];
  const { elements } = scene.formatOf(sheet.id);
  return sheet.noTitle ? elements.filter((e) => !(e.type === 'block' && e.corner === 'bottom right')) : elements;
}

/** Blocks of a sheet's format: a press in a cell asks for its field. */
export const formatBlocksOn = (scene: Scene, sheet: SheetRecord): BlockRecord[] =>
  anchoredOn(
    shownOn(scene, sheet).filter((e) => e.type === 'block'),
    scene,
    sheet,
    (e) => laidBlock(e, scene).rect,
  );

const isDocked = (e: FormatElement): boolean => (e.type === 'block' && e.corner !== undefined) || (e.type === 'revisions' && !e.at);

/** How far something goes along one axis: with the side whose third of the frame its middle is in, else with the middle. */
function along(middle: number, from: number, length: number, to: number, toLength: number): number {
  const share = (middle - from) / length;
  if (share < 1 / 3) return to - from;
  return share > 2 / 3 ? to + toLength - (from + length) : to + toLength / 2 - (from + length / 2);
}

/** An element so far from where it stood, paper mm. */
export function shifted<E extends FormatElement>(e: E, [dx, dy]: Vec2): E {
  const by = ([x, y]: Vec2): Vec2 => [x + dx, y + dy];
  if (e.type === 'figure') return { ...e, points: e.points.map(by) };
  return 'at' in e && e.at ? { ...e, at: by(e.at) } : e;
}
