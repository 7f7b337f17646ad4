import type { Kind } from '../kind.ts';
import { isLost } from '../target.ts';
import { drawPositions, type PositionsRecord } from './draw.ts';

/** Tables of the positions of holes from a zero (common practice; ISO 129-1 shows coordinates so). */
export const positionsKind: Kind<PositionsRecord> = {
  title: 'table of positions',
  layer: 4,
  draw: drawPositions,
  drag: (record, by) => [{ op: 'put', record: { ...record, at: [record.at[0] + by[0], record.at[1] + by[1]] } }],
  follow(record, change) {
    const at = change.offset(record.view, record.at);
    return at[0] === record.at[0] && at[1] === record.at[1] ? record : { ...record, at };
  },
  findings(records, sheet) {
    return records
      .filter((r) => [r.zeroX, r.zeroY].some((t) => t && isLost(t)))
      .map((r) => ({
        code: 'LOST_TARGET',
        severity: 'must',
        sheet,
        about: [r.id],
        text: 'The zero of a table of positions was on a shape that is another one now. Press its new place.',
      }));
  },
};
