import type { ListRecord } from '../../core/document/records.ts';
import { textNear } from '../../core/picture/text-near.ts';
import type { Kind } from '../kind.ts';
import { drawList } from './draw.ts';
import { listTexts } from './texts.ts';

/** The parts list (ISO 7573), docked on the title block. */
export const listKind: Kind<ListRecord> = {
  title: 'parts list',
  layer: 5,
  press(l, at, scene) {
    const item = listKind
      .draw(l, scene)
      .map((d) => textNear(d, at)?.item)
      .find((n) => n !== undefined);
    const part = scene.items.find((i) => i.number === item)?.part;
    return part === undefined ? undefined : { kind: 'item', part };
  },
  texts: listTexts,
  draw: (l, scene) => drawList(l, scene.items, scene.ledger, scene.page(l.sheet), scene.one('sheet', l.sheet)),
};
