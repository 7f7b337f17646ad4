import type { Rect } from '../../core/base/rect.ts';
import type { RecordOf } from '../../core/document/records.ts';
import type { Kind } from '../kind.ts';

export type PictureRecord = RecordOf<'picture'>;

const LEAST_MM = 3;

const boxOf = (p: PictureRecord): Rect => ({ x: p.at[0], y: p.at[1], width: p.widthMm, height: p.widthMm * p.ratio });

/** Pictures from a file: a logo, a photograph. */
export const pictureKind: Kind<PictureRecord> = {
  title: 'picture',
  layer: 0.5,
  draw(record) {
    const box = boxOf(record);
    return [
      {
        id: record.id,
        role: 'picture',
        label: `Picture ${record.name}`,
        box: [box.x, box.y, box.width, box.height],
        items: [{ kind: 'image', ...box, image: `data:image/png;base64,${record.png}` }],
        ink: box,
        solid: { rects: [box], segments: [] },
      },
    ];
  },

  /** The lower right corner: the picture keeps its shape. */
  handles: (record) => [{ name: 'size', at: [record.at[0] + record.widthMm, record.at[1] + record.widthMm * record.ratio] }],

  drag(record, by, _, handle) {
    if (handle === undefined) return [{ op: 'put', record: { ...record, at: [record.at[0] + by[0], record.at[1] + by[1]] } }];
    if (handle !== 'size') return [];
    const more = Math.abs(by[0]) > Math.abs(by[1]) ? by[0] : by[1] / record.ratio;
    return [{ op: 'put', record: { ...record, widthMm: Math.max(LEAST_MM, record.widthMm + more) } }];
  },
};
