import { elementsOn } from '../../elements/compose.ts';
import { KINDS, kindOf, type ElementRecord } from '../../elements/kinds.ts';
import type { Kind } from '../../elements/kind.ts';
import type { Scene } from '../../elements/scene.ts';
import type { Step } from '../document/steps.ts';
import { findingKey, type Finding } from './finding.ts';
import { RULES } from './rules/index.ts';
import { standingFindings } from './standing.ts';

export type { Finding, FindingCode, Severity } from './finding.ts';

/** Checks the drawing as a checker would. */
export function findingsOf(scene: Scene): Finding[] {
  return [...wholeFindings(scene), ...scene.sheets.flatMap((s) => sheetFindings(scene, s.id))];
}

/** What a checker would mark of the drawing as a whole: items nobody can find, gaps, letters used twice. */
export function wholeFindings(scene: Scene): Finding[] {
  return judged(
    RULES.flatMap((r) => r.whole?.(scene) ?? []),
    scene,
  );
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
  return judged([...own, ...RULES.flatMap((r) => r.sheet?.(scene, sheet) ?? []), ...standingFindings(drawn, sheet, scene.page(sheet).geometry.frame)], scene);
}

/** As this job weighs them: some points are not checked, some count for more or less, some were accepted. */
export function judged(found: readonly Finding[], scene: Scene): Finding[] {
  const proof = scene.one('proof', 'proof');
  if (!proof) return [...found];
  const accepted = new Map(proof.accepted.map((a) => [a.key, { reason: a.reason, when: a.when }]));
  return found.flatMap((f) => {
    if (proof.off.includes(f.code)) return [];
    const severity = proof.severity[f.code] ?? f.severity;
    const a = accepted.get(findingKey(f));
    return [{ ...f, severity, ...(a ? { accepted: a } : {}) }];
  });
}

/** Steps that put a finding right in one press; none when that cannot be done any more. */
export function fixOf(finding: Finding, scene: Scene, freshId: (type: string) => string): readonly Step[] {
  for (const r of RULES) {
    const steps = r.codes.includes(finding.code) ? (r.fix?.(finding, scene, freshId) ?? []) : [];
    if (steps.length) return steps;
  }
  return [];
}
