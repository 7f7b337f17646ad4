import { inflate } from '../../core/base/rect.ts';
import { applyToPoint } from '../../core/base/placement.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { RecordOf, ViewRecord } from '../../core/document/records.ts';
import { massText } from '../../core/ledger/items.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import { inkOf, joined } from '../../core/picture/ink.ts';
import { specified } from '../../core/views/view-spec.ts';
import { drawLeaders, lostLeaders, NO_LEADERS, tipOf } from '../leader.ts';
import type { Scene } from '../scene.ts';
import { projectionSymbol } from '../block/projection-symbol.ts';
import { datumPicture, flagPicture, framePicture } from './pictures/frame.ts';
import { liftingPicture, massCentrePicture } from './pictures/mass.ts';
import type { SignPen, SignPicture } from './pictures/picture.ts';
import { surfacePicture, surfaceShelf } from './pictures/surface.ts';
import { weldPicture } from './pictures/weld.ts';

export type SignRecord = RecordOf<'sign'>;
export type Sign = SignRecord['is'];

export const SIGN_NAMES: Readonly<Record<Sign['sign'], string>> = {
  weld: 'Weld',
  surface: 'Surface texture',
  frame: 'Geometrical tolerance',
  datum: 'Datum',
  flag: 'Flag',
  projection: 'Projection symbol',
  lifting: 'Lifting point',
  'mass-centre': 'Centre of mass',
};

/** Paper mm of its reference point. */
export function signPlace(sign: SignRecord, scene: Scene): Vec2 {
  const view = scene.one('view', sign.view);
  return view ? [view.at[0] + sign.at[0], view.at[1] + sign.at[1]] : sign.at;
}

/** Mass of what a view shows and where its centre is, view space, model mm; undefined when no mass is known, or the view is exploded. */
export function massIn(view: ViewRecord, scene: Scene): { readonly kg: number; readonly at: Vec2; readonly missing: number } | undefined {
  if (view.spread) return undefined;
  const leftOut = new Set(specified(view, scene.document, scene.assembly).spec.leftOut ?? []);
  const places = scene.placed(view);
  let [kg, x, y, missing] = [0, 0, 0, 0];
  for (const c of scene.components) {
    if (leftOut.has(c.index)) continue;
    const mass = scene.itemOf(c.index)?.massKg;
    if (mass === undefined) {
      missing++;
      continue;
    }
    const p = applyToPoint(places[c.index]!, scene.assembly.parts[c.part]!.centroid);
    kg += mass;
    x += mass * p[0];
    y += mass * p[1];
  }
  return kg > 0 ? { kg, at: [x / kg, y / kg], missing } : undefined;
}

function pictureOf(sign: SignRecord, pen: SignPen, view: ViewRecord | undefined, scene: Scene): SignPicture | undefined {
  const { is } = sign;
  const { standard } = scene.drawing;
  switch (is.sign) {
    case 'weld':
      return weldPicture(is, standard, pen);
    case 'surface': {
      const picture = surfacePicture(is, pen);
      return sign.leaders?.length ? { ...picture, items: [...picture.items, surfaceShelf(pen)] } : picture;
    }
    case 'frame':
      return framePicture(is, pen);
    case 'datum':
      return datumPicture(is.letter, pen);
    case 'flag':
      return flagPicture(is.shape, is.text, pen);
    case 'projection':
      return { items: projectionSymbol(...pen.at, standard, pen.width), left: pen.at, right: pen.at, shelfMm: 0 };
    case 'lifting':
      return liftingPicture(is.text, pen);
    case 'mass-centre': {
      const mass = view && massIn(view, scene);
      return mass && massCentrePicture(scene.map(view).toPaper(mass.at), is.mass ? `${massText(mass.kg)}${mass.missing ? ', incomplete' : ''}` : '', pen);
    }
  }
}

export function drawSign(sign: SignRecord, scene: Scene): Drawn[] {
  const view = scene.one('view', sign.view);
  const sheet = scene.sheetOf(sign);
  if (view?.off || !sheet) return [];
  const { style } = scene.page(sheet.id);
  const at = signPlace(sign, scene);
  const [first] = sign.leaders ?? [];
  const tip = view && first && tipOf(first, view, scene);
  const pen: SignPen = { at, h: style.text, width: style.text / 10, side: tip && tip[0] > at[0] ? 'right' : 'left' };
  const picture = pictureOf(sign, pen, view, scene);
  if (!picture) return [];
  const { items: leaderItems, lines } = view ? drawLeaders(sign.leaders ?? [], view, scene, picture, pen.width) : NO_LEADERS;
  const items = [...picture.items, ...leaderItems];
  const box = joined(inkOf(picture.items));
  const lost = lostLeaders(sign.leaders).length > 0;
  return [
    {
      id: sign.id,
      role: 'sign',
      label: `${SIGN_NAMES[sign.is.sign]}${lost ? ' that lost what it points at' : ''}`,
      box: [box.x, box.y, box.width, box.height],
      items,
      ink: joined(inkOf(items)),
      solid: { rects: [box], segments: lines },
      grab: inflate(box, 1),
      grabLines: lines,
    },
  ];
}
