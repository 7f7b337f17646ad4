import type { DrawingDocumentRecord, DrawingRecord } from '../document/records.ts';
import { sheetGeometry, styleFor, type PaperSize, type SheetGeometry, type SheetStyle } from '../sheet/paper.ts';
import type { BlockRecord } from '../../elements/block/layout.ts';
import { formatRecords, withFields } from './apply.ts';
import type { SheetFormat } from './record.ts';

/** What sheets that are being made lie on. */
export interface Ground {
  /** Records of the format, none for the standard's own. */
  readonly records: readonly DrawingDocumentRecord[];
  /** The drawing with the fields that the format brings. */
  drawing(record: DrawingRecord): DrawingRecord;
  /** What a sheet says of it. */
  readonly on: { readonly format?: string };
  geometry(paper: PaperSize, landscape: boolean): SheetGeometry;
  style(paper: PaperSize): SheetStyle;
}

const BARE: Ground = {
  records: [],
  drawing: (record) => record,
  on: {},
  geometry: (paper, landscape) => sheetGeometry(paper, landscape),
  style: (paper) => styleFor(paper),
};

/** Its title block, as high as its rows are. */
const blockSize = (body: SheetFormat): readonly [number, number] => {
  const block = body.elements.find((e): e is BlockRecord => e.type === 'block' && e.corner === 'bottom right');
  const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0);
  return block ? [sum(block.columns), sum(block.rows)] : [0, 0];
};

/** @param known ids of formats that the drawing has, by name @returns the ground for new sheets; without a format the standard's own */
export function groundOf(body: SheetFormat | null | undefined, known: ReadonlyMap<string, string> = new Map()): Ground {
  if (!body) return BARE;
  const word = body.name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, 60);
  const there = known.get(body.name);
  const id = there ?? `format:${word}`;
  return {
    records: there ? [] : formatRecords(body, id, (base) => `${base}~${word}`),
    drawing: (record) => withFields(record, body),
    on: { format: id },
    geometry: (paper, landscape) => sheetGeometry(paper, landscape, body.form, blockSize(body)),
    style: (paper) => styleFor(paper, body.form.halfSize),
  };
}
