import { rectOf } from '../../core/base/rect.ts';
import type { SheetRecord } from '../../core/document/records.ts';
import type { Drawn } from '../../core/picture/display-list.ts';
import { kindOf } from '../kinds.ts';
import type { Scene } from '../scene.ts';
import { anchoredOn, shownOn } from './anchored-on.ts';

/** Marks pictures of what stands on a sheet's format: it is changed there. */
const ON_FORMAT = 'format/';

/** Pictures of what stands on the format of a sheet. */
export const drawFormat = (scene: Scene, sheet: SheetRecord): Drawn[] =>
  anchoredOn(shownOn(scene, sheet), scene, sheet, (e) => rectOf(kindOf(e).draw(e, scene)[0]?.box ?? [0, 0, 0, 0]))
    .sort((a, b) => kindOf(a).layer - kindOf(b).layer || (a.id < b.id ? -1 : 1))
    .flatMap((e) =>
      kindOf(e)
        .draw(e, scene)
        .map((d) => ({ ...d, id: d.role === 'title' ? 'title' : `${ON_FORMAT}${d.id}` })),
    );
