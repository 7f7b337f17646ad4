import type { Scene } from '../../elements/scene.ts';
import type { Vec2 } from '../base/vector.ts';
import type { ViewRecord } from '../document/records.ts';
import type { ViewResult } from '../views/compute-view.ts';

/** So few pixels of a component are a speck, not a sight of it. */
const LEAST_PIXELS = 6;

/** A piece of an item as a view shows it. */
export interface Sight {
  readonly item: number;
  /** The piece. */
  readonly component: number;
  readonly view: ViewRecord;
  readonly at: Vec2;
  /** Half of its larger side, model mm. */
  readonly half: number;
  /** Its larger side on paper, mm. */
  readonly size: number;
  /** What is seen of it on paper, mm². */
  readonly areaMm2: number;
}

/** What a view shows of each item, by its item map: the largest piece of each. */
export function sightsIn(scene: Scene, view: ViewRecord, result: ViewResult): Sight[] {
  const { window: w, component } = result.map;
  const boxes = new Map<number, [number, number, number, number, number]>();
  for (let j = 0; j < w.height; j++)
    for (let i = 0; i < w.width; i++) {
      const c = component[j * w.width + i]!;
      if (c < 0) continue;
      const b = boxes.get(c);
      if (!b) boxes.set(c, [i, j, i, j, 1]);
      else {
        b[0] = Math.min(b[0], i);
        b[2] = Math.max(b[2], i);
        b[3] = j;
        b[4]++;
      }
    }
  const index = new Map(scene.items.map((item, i) => [item, i]));
  const out = new Map<number, Sight>();
  for (const [c, [x0, y0, x1, y1, pixels]] of boxes) {
    const item = scene.itemOf(c);
    if (!item || pixels < LEAST_PIXELS) continue;
    const side = Math.max(x1 - x0 + 1, y1 - y0 + 1) * w.pixelMm;
    const at: Vec2 = [w.minX + ((x0 + x1 + 1) / 2) * w.pixelMm, w.maxY - ((y0 + y1 + 1) / 2) * w.pixelMm];
    const sight: Sight = {
      item: index.get(item)!,
      component: c,
      view,
      at,
      half: side / 2,
      size: side * view.scale,
      areaMm2: pixels * (w.pixelMm * view.scale) ** 2,
    };
    if (sight.size > (out.get(sight.item)?.size ?? 0)) out.set(sight.item, sight);
  }
  return [...out.values()];
}

/** Where most of an item is shown; undefined where no view shows it. */
export function sightOf(scene: Scene, views: readonly ViewRecord[], part: string): Sight | undefined {
  const own = scene.items.findIndex((i) => i.part === part);
  let best: Sight | undefined;
  for (const view of views) {
    const result = scene.result(view.id);
    const sight = result && sightsIn(scene, view, result).find((s) => s.item === own);
    if (sight && sight.areaMm2 > (best?.areaMm2 ?? 0)) best = sight;
  }
  return best;
}
