import { canBeCut, detailOf, sectionThrough } from '../cure-steps.ts';
import { BADLY_MM2, coverageOf, SEEN_MM2 } from '../coverage.ts';
import { isModelled, PROPERTY_TITLES, numberText } from '../../ledger/items.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Each item can be seen, is pointed at, and has what the list asks for. */
export const seen: Rule = {
  codes: ['SEEN_NOWHERE', 'SEEN_BADLY', 'LIST_GAP'],

  whole(scene) {
    const out: Finding[] = [];
    const base = { sheet: null } as const;
    const coverage = coverageOf(scene);
    // Sheets of parts alone, or lists for a saw, show no assembly in which something could be found.
    const assembled = scene.all('view').some((v) => !v.off && scene.one('sheet', v.sheet)?.part === undefined);
    scene.items.forEach((i, index) => {
      // What is not in the model can be seen nowhere.
      if (!isModelled(i) || !assembled) return;
      const about = [i.part];
      const area = coverage.most[index]!;
      const name = `${numberText(i)} ${i.values.description.text}`;
      if (area < SEEN_MM2)
        out.push({
          ...base,
          code: 'SEEN_NOWHERE',
          severity: 'must',
          about,
          text: `${name} can be seen in no view (at most ${area.toFixed(1)} mm² on paper). Add a view or a cut that shows it.`,
          ...(canBeCut(scene, i.part) ? { fix: 'Cut a section through it' } : {}),
        });
      else if (area < BADLY_MM2)
        out.push({
          ...base,
          code: 'SEEN_BADLY',
          severity: 'look',
          about,
          text: `${name} is hardly seen: at most ${area.toFixed(1)} mm² on paper.`,
          fix: 'Add a detail around it',
        });
      if (coverage.best(index) !== 'identified')
        out.push({
          ...base,
          code: 'NOT_IDENTIFIED',
          severity: 'must',
          about,
          text: `${name} has no balloon.`,
          ...(area > 0 ? { fix: 'Give it a balloon' } : {}),
        });
    });
    for (const i of scene.items)
      if (i.gaps.length)
        out.push({
          ...base,
          code: 'LIST_GAP',
          severity: 'should',
          about: [i.part],
          text: `${numberText(i)} ${i.values.description.text}: ${i.gaps.map((g) => PROPERTY_TITLES[g].toLowerCase()).join(', ')} missing.`,
        });
    return out;
  },

  fix(f, scene, freshId) {
    if (f.code === 'SEEN_NOWHERE') return sectionThrough(scene, f.about[0]!, freshId);
    const detail = f.code === 'SEEN_BADLY' ? detailOf(scene, f.about[0]!, freshId('view:detail')) : undefined;
    return detail ? [{ op: 'put', record: detail.record }] : [];
  },
};
