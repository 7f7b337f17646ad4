import type { Component } from '../../assembly/assembly.ts';
import type { BalloonRecord, ViewRecord } from '../../document/records.ts';
import type { Item } from '../../ledger/items.ts';
import { paperMapOf, viewRect } from '../../picture/draw-view.ts';
import type { ViewResult } from '../../views/compute-view.ts';
import { aimAt } from './aim.ts';
import { anchorsOf } from './anchors.ts';
import { layoutBalloons, type LayoutArea } from './layout.ts';

/** Anchors looked at per item. */
const ANCHORS = 48;

/**
 * A balloon for each item that has a visible outside edge in the view and room around it.
 * @param idOf id for the balloon of a part
 */
export function proposeBalloons(
  view: ViewRecord,
  result: ViewResult,
  items: readonly Item[],
  components: readonly Component[],
  area: Omit<LayoutArea, 'view'>,
  idOf: (part: string) => string,
): { part: string; record: BalloonRecord }[] {
  const map = paperMapOf(view);
  const requests = items.map((i) => ({
    id: i.part,
    anchors: anchorsOf(result, new Set(i.components), ANCHORS).map((a) => ({ x: map.x(a.x), y: map.y(a.y), outX: a.outX, outY: -a.outY, view: a })),
  }));
  const [x, y, width, height] = viewRect(view, result);
  return layoutBalloons(requests, { ...area, view: { x, y, width, height } }).flatMap((p) => {
    const anchor = (p.anchor as (typeof requests)[number]['anchors'][number]).view;
    const item = items.find((i) => i.part === p.id)!;
    // Which of the item's components has the edge that the leader ends on.
    const aims = item.components.flatMap((c) => aimAt(result, anchor.x, anchor.y, c) ?? []);
    const aim = aims.reduce((a, b) => (b.distance < a.distance ? b : a), aims[0]!);
    if (!aim) return [];
    const record: BalloonRecord = {
      type: 'balloon',
      id: idOf(p.id),
      view: view.id,
      component: components[aim.component]!.path,
      anchor: [anchor.x, anchor.y],
      offset: [p.x - view.at[0], p.y - view.at[1]],
      end: 'arrow',
    };
    return [{ part: p.id, record }];
  });
}
