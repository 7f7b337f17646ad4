import { numberText } from '../../core/ledger/items.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Finding } from '../../core/proof/finding.ts';
import type { Scene } from '../scene.ts';

const ADVICE = 'Keep it whole on purpose, or mend the model.';

/** Components that a section should cut but cannot. */
export function viewFindings(views: readonly ViewRecord[], sheet: string, scene: Scene): Finding[] {
  return views.flatMap((v) => {
    const result = scene.result(v.id);
    const named = (components: readonly number[] | undefined) => {
      const wanted = new Set(components);
      return scene.items
        .filter((i) => i.components.some((c) => wanted.has(c)))
        .map((i) => `${numberText(i)} ${i.values.description.text}`)
        .join(', ');
    };
    const [uncut, unhatched] = [named(result?.uncut), named(result?.unhatched)];
    const base = { severity: 'must', sheet, about: [v.id] } as const;
    const out: Finding[] = [];
    if (uncut) out.push({ ...base, code: 'NOT_CUT', text: `${v.name} shows ${uncut} whole: the surface is open, so there is no inside to cut. ${ADVICE}` });
    if (unhatched) out.push({ ...base, code: 'NOT_HATCHED', text: `${v.name} cuts ${unhatched} without hatching: the surface is open there. ${ADVICE}` });
    return out;
  });
}
