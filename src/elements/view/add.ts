import { rectOf } from '../../core/base/rect.ts';
import { without } from '../../core/base/without.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { roomFor } from '../../core/draft/new-view.ts';
import type { ViewFrame } from '../../core/outline/directions.ts';
import { standardScales } from '../../core/sheet/paper.ts';
import { allowedOn, standingOn } from '../place.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from './draw.ts';
import { boxFromParts } from './extent.ts';
import { OF_ITS_OWN } from './part.ts';

export interface NewView {
  readonly id: string;
  readonly name: string;
  readonly sheet: string;
  readonly frame: ViewFrame;
  /** That it shows; null: everything together. */
  readonly spread: string | null;
  /** A view that it takes everything else over from. */
  readonly like?: ViewRecord | undefined;
  /** Where its middle goes, and its scale; absent: where there is room, at a scale that fits there. */
  readonly at?: readonly [number, number];
  readonly scale?: number;
}

/** Is no axis of the model seen end-on? */
const isPictorial = ({ toward }: ViewFrame): boolean => toward.every((v) => Math.abs(v) < 0.999);

/**
 * A view where its sheet has room for it, at the scale of another view or the next smaller one that fits.
 * @returns its record, and whether there was free room: else it stands where it covers least
 */
export function newView(scene: Scene, wanted: NewView): { readonly record: ViewRecord; readonly free: boolean } {
  const { id, name, sheet, frame, spread, like } = wanted;
  const here = scene.viewsOn(sheet);
  const beside = like ?? here[0];
  const [x0, y0, x1, y1] = boxFromParts(scene, frame, { spread, ...(like?.shows ? { shows: like.shows } : {}) });
  const most = beside?.scale ?? scene.all('view').reduce((m, v) => Math.max(m, v.scale), 0.1);
  // One that is still being drawn is as large as its parts say.
  const rectOfView = (v: ViewRecord) => rectOf(viewRect(v, scene.result(v.id) ?? { box: boxFromParts(scene, v, v) }));
  const allowed = allowedOn(scene, sheet);
  const near = beside ? rectOfView(beside) : { x: allowed.x + allowed.width / 2, y: allowed.y + allowed.height / 2, width: 0, height: 0 };
  const others = wanted.at ? [] : standingOn(scene, sheet, { views: false });
  const obstacles = [...others, ...here.filter((v) => v.id !== beside?.id).map(rectOfView)];
  const scales = standardScales(scene.drawing.standard).filter((s) => s <= most * 1.001);
  const room = wanted.at ? { scale: most, at: wanted.at, free: true } : roomFor([x1 - x0, y1 - y0], scales.length ? scales : [most], near, allowed, obstacles);
  const { right, up, toward } = frame;
  const taken = like ? without(like, ...OF_ITS_OWN) : {};
  const plain = { hidden: false, tangent: false, shaded: false, label: false } as const;
  const record: ViewRecord = {
    ...plain,
    ...taken,
    type: 'view',
    id,
    sheet,
    name,
    right,
    up,
    toward,
    scale: wanted.scale ?? room.scale,
    at: wanted.at ?? room.at,
    pivot: [(x0 + x1) / 2, (y0 + y1) / 2],
    parent: null,
    align: null,
    cut: null,
    spread,
    pullLines: spread !== null,
    // Common practice: without tangent edges rounded parts lose half their look in a pictorial.
    tangent: like ? like.tangent : isPictorial(frame),
  };
  return { record, free: room.free };
}
