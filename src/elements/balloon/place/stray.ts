import type { Component } from '../../../core/assembly/assembly.ts';
import { recordsOf, type BalloonRecord, type DrawingDocument, type ViewRecord } from '../../../core/document/records.ts';
import type { Step } from '../../../core/document/steps.ts';
import type { ViewResult } from '../../../core/views/compute-view.ts';
import { aimAt, type Aim } from './aim.ts';

/** A leader may end this far from its component on paper, mm. */
const MOST_OFF_MM = 1;

/** A balloon whose leader does not end on its component any more. */
export interface StrayBalloon {
  readonly balloon: BalloonRecord;
  readonly view: ViewRecord;
  /** Where it could end; undefined when the component shows no edge in the view. */
  readonly aim: Aim | undefined;
}

const known = new WeakMap<ViewResult, WeakMap<BalloonRecord, Aim | undefined>>();

/** Balloons that lost their target, in views whose result is there. */
export function strayBalloons(doc: DrawingDocument, components: readonly Component[], results: ReadonlyMap<string, ViewResult>): StrayBalloon[] {
  const index = new Map(components.map((c) => [c.path, c.index]));
  return recordsOf(doc, 'balloon').flatMap((balloon) => {
    const view = doc[balloon.view];
    const result = results.get(balloon.view);
    if (view?.type !== 'view' || !result) return [];
    const aim = aimOf(balloon, index.get(balloon.component), result);
    return aim && aim.distance * view.scale <= MOST_OFF_MM ? [] : [{ balloon, view, aim }];
  });
}

/** Looked for once per balloon and result: records are replaced, never changed. */
function aimOf(balloon: BalloonRecord, component: number | undefined, result: ViewResult): Aim | undefined {
  const own = known.get(result) ?? new WeakMap<BalloonRecord, Aim | undefined>();
  known.set(result, own);
  if (!own.has(balloon)) own.set(balloon, component === undefined ? undefined : aimAt(result, balloon.anchor[0], balloon.anchor[1], component));
  return own.get(balloon);
}

/** Steps that end leaders on their components again, at the nearest edge; the balloons stay where they are. */
export function reaimSteps(strays: readonly StrayBalloon[]): Step[] {
  return strays.flatMap(({ balloon, aim }): Step[] => (aim ? [{ op: 'put', record: { ...balloon, anchor: [aim.x, aim.y] } }] : []));
}
