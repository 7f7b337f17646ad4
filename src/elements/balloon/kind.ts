import type { BalloonRecord } from '../../core/document/records.ts';
import type { Kind } from '../kind.ts';
import { balloonPlace, drawBalloon, secondTip } from './draw.ts';
import { balloonFindings } from './findings.ts';
import { draggedOnRail } from './rail.ts';
import { wordOf } from './says.ts';
import { aimedAt } from './place/aim.ts';

/** A number in a circle with a leader to its component (ISO 6433). */
export const balloonKind: Kind<BalloonRecord> = {
  title: 'balloon',
  layer: 3,

  draw(b, scene) {
    const view = scene.one('view', b.view)!;
    const of = [b.component, ...(b.stack ?? [])].map((path) => {
      const component = scene.component(path)?.index;
      const item = scene.itemOf(component);
      return { component, item, word: (key: string) => wordOf(item, key, scene) };
    });
    return [drawBalloon(b, view, of, scene.page(view.sheet).style)];
  },

  handles(b, scene) {
    const { tipX, tipY } = balloonPlace(b, scene.one('view', b.view)!);
    const second = secondTip(b, scene.one('view', b.view)!);
    return [{ name: 'tip', at: [tipX, tipY] }, ...(second ? [{ name: 'second', at: second }] : [])];
  },

  drag(b, [dx, dy], scene, handle) {
    if (handle === undefined)
      return draggedOnRail(b, [dx, dy], scene) ?? [{ op: 'put', record: { ...b, offset: [b.offset[0] + dx, b.offset[1] + dy], byHand: true } }];
    const view = scene.one('view', b.view)!;
    const result = scene.result(view.id);
    const { tipX, tipY } = balloonPlace(b, view);
    const [fromX, fromY] = (handle === 'second' && secondTip(b, view)) || [tipX, tipY];
    const to = scene.map(view).toView([fromX + dx, fromY + dy]);
    const aim = result && aimedAt(result, to, b.end);
    if (!aim) return [];
    if (handle === 'second') return [{ op: 'put', record: { ...b, second: { component: scene.components[aim.component]!.path, anchor: [aim.x, aim.y] } } }];
    return [{ op: 'put', record: { ...b, component: scene.components[aim.component]!.path, anchor: [aim.x, aim.y] } }];
  },

  follow(b, change) {
    const anchor = change.point(b.view, b.anchor, b.component);
    const offset = change.offset(b.view, b.offset, b.component);
    const second = b.second && change.point(b.view, b.second.anchor, b.second.component);
    if (anchor === b.anchor && offset === b.offset && second === b.second?.anchor) return b;
    return { ...b, anchor, offset, ...(b.second && second ? { second: { ...b.second, anchor: second } } : {}) };
  },

  findings: balloonFindings,
};
