import type { Scene } from '../scene.ts';

export const sameScale = (a: number, b: number): boolean => Math.abs(a / b - 1) < 1e-9;

/**
 * The scale that a sheet's title block states: that of most of its views, of as many the larger; views at another one say so
 * themselves (ISO 5455: the main scale in the title block, others beside what they are of). 0 for a sheet without views.
 */
export function mainScale(scene: Scene, sheet: string): number {
  const counts: { readonly scale: number; n: number }[] = [];
  for (const { scale, detail, off } of scene.viewsOn(sheet)) {
    if (off) continue;
    const known = counts.find((c) => sameScale(c.scale, scale));
    // A detail speaks for itself.
    const n = detail ? 0.01 : 1;
    if (known) known.n += n;
    else counts.push({ scale, n });
  }
  return counts.sort((a, b) => b.n - a.n || b.scale - a.scale)[0]?.scale ?? 0;
}
