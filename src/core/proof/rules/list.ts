import { listColumnsFor } from '../../ledger/list-rows.ts';
import { itemsOfBalloon } from '../../../elements/balloon/says.ts';
import { shownInFull } from '../../../elements/list/columns.ts';
import { listRows } from '../../../elements/list/layout.ts';
import { rowsOf } from '../../../elements/list/rows.ts';
import type { Item } from '../../ledger/items.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Every number has its row, once (ISO 7573). */
export const list: Rule = {
  codes: ['NO_LIST', 'NOT_IN_LIST', 'LISTED_TWICE', 'LIST_CUT_SHORT'],

  whole(scene) {
    const { items } = scene;
    const lists = scene.all('list');
    const numbered = new Set(scene.all('balloon').flatMap((b) => itemsOfBalloon(b, scene).map((i) => i.number)));
    if (!numbered.size) return [];
    if (!lists.length)
      return [
        { code: 'NO_LIST', severity: 'must', sheet: null, about: [], text: 'Numbers are on the sheets, but there is no parts list.', fix: 'Add the list' },
      ];
    const rows = items.map(() => 0);
    const index = new Map(items.map((i, k) => [i.part, k]));
    // The row of a sub-assembly stands for all that is in it, where a list goes no deeper.
    const listedBy = (row: Item): number[] => {
      const own = index.get(row.part);
      return own === undefined ? [...new Set(row.components.map((c) => index.get(scene.itemOf(c)!.part)!))] : [own];
    };
    for (const l of lists) {
      const all = rowsOf(l, scene);
      const { from, to } = listRows(l, all.length);
      for (const r of all.slice(from, to)) for (const i of r.item ? listedBy(r.item) : []) rows[i]!++;
    }
    const out: Finding[] = [];
    const missing = items.filter((i, k) => rows[k] === 0 && numbered.has(i.number));
    if (missing.length)
      out.push({
        code: 'NOT_IN_LIST',
        severity: 'must',
        sheet: null,
        about: missing.map((i) => i.part),
        text: `${missing.length === 1 ? `Item ${missing[0]!.number} has` : `Items ${missing.map((i) => i.number).join(', ')} have`} no row in a parts list: a share of the list is missing.`,
      });
    return out;
  },

  fix(f, scene, freshId) {
    const sheet = scene.sheets.find((s) => s.id === scene.one('view', scene.all('balloon')[0]?.view)?.sheet) ?? scene.sheets.at(-1);
    const cut = f.code === 'LIST_CUT_SHORT' ? scene.one('list', f.about[0]) : undefined;
    if (cut) return shownInFull(cut, scene);
    return f.code === 'NO_LIST' && sheet
      ? [{ op: 'put', record: { type: 'list', id: freshId('list'), sheet: sheet.id, columns: listColumnsFor(scene.drawing.standard) } }]
      : [];
  },
};
