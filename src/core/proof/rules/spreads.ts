import type { Scene } from '../../../elements/scene.ts';
import type { ViewRecord } from '../../document/records.ts';
import { specified } from '../../views/view-spec.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Parts that meet along more than this on paper touch or hide each other, mm. */
const MEETING_MM = 3;
/** So many pairs are named. */
const MOST_NAMED = 3;

/** Exploded views: what was moved stands by itself on paper (common practice). */
export const spreads: Rule = {
  codes: ['EXPLODED_TOUCH'],

  sheet(scene, sheet) {
    return scene.viewsOn(sheet).flatMap((v): Finding[] => {
      if (!v.spread || v.off) return [];
      const pairs = meeting(scene, v);
      if (!pairs.length) return [];
      const name = (c: number) => `${scene.itemOf(c)?.number ?? '?'} ${scene.itemOf(c)?.values.description.text ?? ''}`.trim();
      const named = pairs.slice(0, MOST_NAMED).map(([a, b]) => `${name(a)} and ${name(b)}`);
      return [
        {
          code: 'EXPLODED_TOUCH',
          severity: 'look',
          sheet,
          about: [v.id],
          text: `In ${v.name} parts touch or hide each other on paper: ${named.join('; ')}${pairs.length > MOST_NAMED ? `; ${pairs.length - MOST_NAMED} more` : ''}.`,
        },
      ];
    });
  },
};

/** Pairs of components with different pulls that meet on paper, those that meet longest first. */
function meeting(scene: Scene, view: ViewRecord): (readonly [number, number])[] {
  const result = scene.result(view.id);
  const pulls = specified(view, scene.document, scene.assembly).spec.spread?.pulls ?? [];
  if (!result || !pulls.length) return [];
  // What makes the same moves moves as one; within it parts may touch as they do in the assembly.
  const moves = scene.components.map(() => '');
  pulls.forEach((p, i) => p.components.forEach((c, k) => (moves[c] += ` ${i}${p.ranks ? `/${p.ranks[k]}` : ''}`)));
  const { window, component } = result.map;
  const { width, height } = window;
  const count = new Map<number, number>();
  const n = scene.components.length;
  const meet = (a: number, b: number) => {
    if (a < 0 || b < 0 || a === b || moves[a] === moves[b]) return;
    const key = Math.min(a, b) * n + Math.max(a, b);
    count.set(key, (count.get(key) ?? 0) + 1);
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width) meet(component[i]!, component[i + 1]!);
      if (y + 1 < height) meet(component[i]!, component[i + width]!);
    }
  const least = MEETING_MM / (window.pixelMm * view.scale);
  return [...count]
    .filter(([, pixels]) => pixels > least)
    .sort((a, b) => b[1] - a[1])
    .map(([key]) => [Math.floor(key / n), key % n] as const);
}
