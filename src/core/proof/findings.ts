import { elementsOn } from '../../elements/compose.ts';
import { KINDS, kindOf, type ElementRecord } from '../../elements/kinds.ts';
import type { Kind } from '../../elements/kind.ts';
import type { Scene } from '../../elements/scene.ts';
import { PROPERTY_TITLES, type Item } from '../ledger/items.ts';
import { coverageOf, SEEN_MM2 } from './coverage.ts';
import type { Finding } from './finding.ts';
import { standingFindings } from './standing.ts';

export type { Finding, FindingCode } from './finding.ts';

/** Checks the drawing as a checker would. */
export function findingsOf(scene: Scene): Finding[] {
  return [...itemFindings(scene), ...scene.sheets.flatMap((s) => sheetFindings(scene, s.id))];
}

/** What a checker would mark on one sheet. */
export function sheetFindings(scene: Scene, sheet: string): Finding[] {
  const elements = elementsOn(scene, sheet);
  const drawn = elements.flatMap((record) =>
    kindOf(record)
      .draw(record, scene)
      .map((d) => ({ ...d, record })),
  );
  const own = Object.entries(KINDS).flatMap(([type, kind]) => {
    const records = elements.filter((r) => r.type === type);
    return records.length ? ((kind as Kind<ElementRecord>).findings?.(records, sheet, scene) ?? []) : [];
  });
  return [...own, ...standingFindings(drawn, sheet, scene.page(sheet).geometry.frame)];
}

/** Visible area of an item on paper, mm², in one view. @param areas of its components at 1:1 */
export function visibleOnPaper(item: Item, areas: ArrayLike<number>, scale: number): number {
  return item.components.reduce((s, c) => s + (areas[c] ?? 0), 0) * scale * scale;
}

/** What a checker would mark of the ledger: items nobody can find, and gaps. */
export function itemFindings(scene: Scene): Finding[] {
  const out: Finding[] = [];
  const base = { sheet: null } as const;
  const coverage = coverageOf(scene);
  scene.items.forEach((i, index) => {
    const about = [i.part];
    const seen = coverage.most[index]!;
    const name = `${i.number} ${i.values.description.text}`;
    if (seen < SEEN_MM2)
      out.push({
        ...base,
        code: 'SEEN_NOWHERE',
        severity: 'trouble',
        about,
        text: `${name} can be seen in no view (at most ${seen.toFixed(1)} mm² on paper). Add a view or a cut that shows it.`,
      });
    if (coverage.best(index) !== 'identified') out.push({ ...base, code: 'NOT_IDENTIFIED', severity: 'trouble', about, text: `${name} has no balloon.` });
  });
  for (const i of scene.items)
    if (i.gaps.length)
      out.push({
        ...base,
        code: 'LIST_GAP',
        severity: 'look',
        about: [i.part],
        text: `${i.number} ${i.values.description.text}: ${i.gaps.map((g) => PROPERTY_TITLES[g].toLowerCase()).join(', ')} missing.`,
      });
  return out;
}
