import type { BalloonRecord, ViewRecord } from '../../../core/document/records.ts';
import type { Step } from '../../../core/document/steps.ts';
import { componentAt, type ViewResult } from '../../../core/views/compute-view.ts';
import type { Scene } from '../../scene.ts';
import { nearestEdge, type EdgePlace } from '../../../core/views/nearest-edge.ts';

/** A leader may end this far from its component on paper, mm. */
const MOST_OFF_MM = 1;

/** A balloon whose leader does not end on its component any more. */
export interface StrayBalloon {
  readonly balloon: BalloonRecord;
  readonly view: ViewRecord;
  /** Where it could end; undefined when the component shows no edge in the view. */
  readonly aim: EdgePlace | undefined;
}

const known = new WeakMap<ViewResult, WeakMap<BalloonRecord, EdgePlace | undefined>>();

/** Balloons that lost their target, in views whose result is there. */
export function strayBalloons(scene: Scene, balloons: readonly BalloonRecord[] = scene.all('balloon')): StrayBalloon[] {
  return balloons.flatMap((balloon) => {
    const view = scene.one('view', balloon.view);
    const result = scene.result(balloon.view);
    if (!view || !result) return [];
    const aim = aimOf(balloon, scene.component(balloon.component)?.index, result);
    return aim && aim.distance * view.scale <= MOST_OFF_MM ? [] : [{ balloon, view, aim }];
  });
}

/** Looked for once per balloon and result: records are replaced, never changed. */
function aimOf(balloon: BalloonRecord, component: number | undefined, result: ViewResult): EdgePlace | undefined {
  const own = known.get(result) ?? new WeakMap<BalloonRecord, EdgePlace | undefined>();
  known.set(result, own);
  if (!own.has(balloon)) own.set(balloon, component === undefined ? undefined : nearest(balloon, component, result));
  return own.get(balloon);
}

function nearest({ anchor: [x, y], end }: BalloonRecord, component: number, result: ViewResult): EdgePlace | undefined {
  // A dot ends inside the face.
  if (end === 'dot' && componentAt(result, x, y) === component) return { component, x, y, distance: 0 };
  return nearestEdge(result, x, y, component);
}

/** Steps that end leaders on their components again, at the nearest edge; the balloons stay where they are. */
export function reaimSteps(strays: readonly StrayBalloon[]): Step[] {
  return strays.flatMap(({ balloon, aim }): Step[] => (aim ? [{ op: 'put', record: { ...balloon, anchor: [aim.x, aim.y] } }] : []));
}
