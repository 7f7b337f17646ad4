import { rectOf } from '../../core/base/rect.ts';
import { without } from '../../core/base/without.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { roomFor } from '../../core/draft/new-view.ts';
import { scalesFor } from '../../core/sheet/paper.ts';
import { componentAt } from '../../core/views/compute-view.ts';
import { outlineBox, type Outline } from '../../core/views/outline.ts';
import { allowedOn, standingOn } from '../place.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from './draw.ts';
import { OF_ITS_OWN } from './part.ts';
import { lettersOf, nextLetter } from './letters.ts';

/** Room below a detail for its letter, mm. */
const LABEL_MM = 14;
/** How many scales smaller a detail may be to find room. */
const SMALLER = 1;

/** The scale of a detail unless said otherwise: the smallest of the standard's that is at least twice that of its view. */
export function detailScale(scene: Scene, parent: ViewRecord): number {
  const twice = 2 * parent.scale;
  const usual = scalesFor(scene.drawing.standard, 200 / twice).filter((s) => s >= twice * (1 - 1e-9));
  return usual.at(-1) ?? twice;
}

/** A detail of what an outline on a view encloses, with the next letter, where its sheet has room. @param at where its middle goes; absent: where there is room */
export function newDetail(scene: Scene, parent: ViewRecord, within: Outline, id: string, at?: Vec2): { readonly record: ViewRecord; readonly free: boolean } {
  const letter = nextLetter(lettersOf(scene));
  const [x0, y0, x1, y1] = outlineBox(within);
  const wanted = detailScale(scene, parent);
  const size: [number, number] = [x1 - x0, y1 - y0 + LABEL_MM / wanted];
  const near = rectOf(viewRect(parent, scene.result(parent.id)));
  const scales = [
    wanted,
    ...scalesFor(scene.drawing.standard, 200 / wanted)
      .filter((s) => s < wanted * (1 - 1e-9) && s > parent.scale)
      .slice(0, SMALLER),
  ];
  const place = at
    ? { at, scale: wanted, free: true }
    : roomFor(size, scales, near, allowedOn(scene, parent.sheet), standingOn(scene, parent.sheet, { id: parent.id }));
  const result = scene.result(parent.id);
  const path = result && scene.components[componentAt(result, (x0 + x1) / 2, (y0 + y1) / 2)]?.path;
  const record: ViewRecord = {
    ...without(parent, ...OF_ITS_OWN),
    id,
    name: `Detail ${letter}`,
    at: at ?? [place.at[0], place.at[1] - LABEL_MM / 2],
    pivot: [(x0 + x1) / 2, (y0 + y1) / 2],
    scale: place.scale,
    parent: null,
    align: null,
    label: true,
    within,
    detail: { of: parent.id, letter, ...(path === undefined ? {} : { on: path }) },
  };
  return { record, free: place.free };
}
