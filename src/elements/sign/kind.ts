import type { Finding } from '../../core/proof/finding.ts';
import type { Kind } from '../kind.ts';
import { draggedLeader, followWithLeaders, leaderHandles, lostLeaders } from '../leader.ts';
import { drawSign, massIn, SIGN_NAMES, type SignRecord } from './draw.ts';

/** Signs by standards: welds, surfaces, geometrical tolerances, datums, flags, where it is lifted and where its mass is. */
export const signKind: Kind<SignRecord> = {
  title: 'sign',
  layer: 4.4,
  draw: drawSign,

  handles: (record, scene) => leaderHandles(record.leaders, scene.one('view', record.view), scene),

  drag(record, by, scene, handle) {
    if (handle === undefined) return [{ op: 'put', record: { ...record, at: [record.at[0] + by[0], record.at[1] + by[1]] } }];
    const leaders = draggedLeader(record.leaders, handle, by, scene.one('view', record.view), scene);
    return leaders ? [{ op: 'put', record: { ...record, leaders } }] : [];
  },

  follow: followWithLeaders,

  findings(records, sheet, scene): Finding[] {
    return records.flatMap((r): Finding[] => {
      const view = scene.one('view', r.view);
      if (lostLeaders(r.leaders).length)
        return [
          {
            code: 'LOST_TARGET',
            severity: 'must',
            sheet,
            about: [r.id],
            text: `${SIGN_NAMES[r.is.sign]}: what it points at has another shape now. Drag its leader to the new place.`,
          },
        ];
      if (r.is.sign === 'mass-centre' && view && !massIn(view, scene))
        return [
          {
            code: 'NO_MASS',
            severity: 'must',
            sheet,
            about: [r.id],
            text: `The centre of mass in “${view.name}” is not known: ${view.spread ? 'an exploded view has none' : 'give its parts materials'}.`,
          },
        ];
      return [];
    });
  },
};
