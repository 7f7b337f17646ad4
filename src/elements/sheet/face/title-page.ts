import { applyFormat } from '../../../core/format/apply';
import { shippedFormat } from '../../../core/format/shipped';
import { PLAIN_VIEW, type SheetRecord, type ViewRecord } from '../../../core/document/records';
import { rectOf, type Rect } from '../../../core/base/rect';
import { frontOf } from '../../../core/document/front';
import { sideFrame, type ViewFrame } from '../../../core/outline/directions';
import { paperByName, scalesFor, sheetGeometry } from '../../../core/sheet/paper';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { viewRect } from '../../view/draw';

/** Room for the picture over the words, as shares of the frame. */
const PICTURE = { x: 0.1, y: 0.06, width: 0.8, height: 0.58 } as const;

/** A title page before all sheets: large words, and a shaded pictorial of the whole over them. */
export function addTitlePage(drawing: Drawing): void {
  const { scene } = drawing;
  const [first] = scene.sheets;
  if (!first) return;
  const body = shippedFormat(`${scene.drawing.standard === 'iso' ? 'ISO' : 'ASME'} title page`)!;
  const id = drawing.freshId('sheet');
  const known = scene.formats.find((f) => f.name === body.name);
  const on = known ? { steps: [], id: known.id } : applyFormat(scene, { body }, [], (base) => drawing.freshId(base));
  const { size, landscape } = body;
  const sheet: SheetRecord = { type: 'sheet', id, order: first.order - 1, name: 'Title page', size, landscape, format: on.id };
  const view = pictorial(drawing, id, sheetGeometry(paperByName(size)!, landscape, body.form).frame);
  drawing.edit('Title page', [...on.steps, { op: 'put', record: sheet }, { op: 'put', record: view }]);
  drawing.sheetId = id;
}

const seenAlong = ({ right, up, toward }: ViewFrame): ViewFrame => ({ right, up, toward });

function pictorial(drawing: Drawing, sheet: string, frame: Rect): ViewRecord {
  const { scene } = drawing;
  const known = scene.all('view').find((v) => v.id === 'view:isometric');
  const result = known && scene.result(known.id);
  const room = { width: frame.width * PICTURE.width, height: frame.height * PICTURE.height };
  const box = known && result ? rectOf(viewRect({ ...known, scale: 1, at: [0, 0] }, result)) : { width: 100, height: 100 };
  const scales = scalesFor(scene.drawing.standard, Math.max(box.width, box.height));
  const scale = scales.find((s) => box.width * s <= room.width && box.height * s <= room.height) ?? scales.at(-1)!;
  return {
    ...PLAIN_VIEW,
    ...seenAlong(known ?? sideFrame(frontOf(scene.document), 'isometric')),
    type: 'view',
    id: drawing.freshId('view'),
    sheet,
    name: 'Pictorial',
    scale,
    at: [frame.x + frame.width / 2, frame.y + frame.height * (PICTURE.y + PICTURE.height / 2)],
    pivot: result ? [(result.box[0] + result.box[2]) / 2, (result.box[1] + result.box[3]) / 2] : [0, 0],
    shaded: true,
    tangent: true,
    label: false,
    parent: null,
    align: null,
  };
}
