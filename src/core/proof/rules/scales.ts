import { scaleText, standardScales } from '../../sheet/paper.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

const SAME = 1e-6;
/** Outside the row that is tabled any step of it is right. */
const isStandard = (scale: number, row: readonly number[]): boolean =>
  scale > row[0]! * (1 + SAME) || scale < row.at(-1)! * (1 - SAME) || row.some((s) => Math.abs(s / scale - 1) < SAME);

/** Scales of the standard's row (ISO 5455; inch practice for ASME). */
export const scales: Rule = {
  codes: ['SCALE_ODD'],

  sheet(scene, sheet) {
    const row = standardScales(scene.drawing.standard);
    return scene.viewsOn(sheet).flatMap((v): Finding[] =>
      v.off || isStandard(v.scale, row)
        ? []
        : [
            {
              code: 'SCALE_ODD',
              severity: 'should',
              sheet,
              about: [v.id],
              text: `${v.name} is drawn at ${scaleText(v.scale)}, which is no scale of ${scene.drawing.standard === 'iso' ? 'ISO 5455' : 'inch practice'}.`,
              fix: `Draw it at ${scaleText(below(v.scale, row))}`,
            },
          ],
    );
  },

  fix(f, scene) {
    const view = scene.one('view', f.about[0]);
    return view ? [{ op: 'put', record: { ...view, scale: below(view.scale, standardScales(scene.drawing.standard)) } }] : [];
  },
};

/** The next smaller scale: what was inside stays inside. */
const below = (scale: number, row: readonly number[]): number => row.find((s) => s < scale) ?? row.at(-1)!;
