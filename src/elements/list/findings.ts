import type { ListRecord } from '../../core/document/records.ts';
import type { Finding } from '../../core/proof/finding.ts';
import type { Scene } from '../scene.ts';
import { layOutList } from './layout.ts';

/** Texts that had to be cut short because their column is too narrow. */
export function listFindings(lists: readonly ListRecord[], sheet: string, scene: Scene): Finding[] {
  return lists.flatMap((list): Finding[] => {
    const narrow = new Set<string>();
    for (const { rows } of layOutList(list, scene)) for (const { cells } of rows) for (const c of cells) if (c.cut) narrow.add(c.column.title);
    if (!narrow.size) return [];
    const columns = [...narrow].join(', ');
    return [
      {
        code: 'LIST_CUT_SHORT',
        severity: 'should',
        sheet,
        about: [list.id],
        text: `The parts list cuts texts short in ${narrow.size === 1 ? 'the column' : 'the columns'} ${columns}.`,
        fix: 'Show them in full',
      },
    ];
  });
}
