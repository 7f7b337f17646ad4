import { numberText } from '../../ledger/items.ts';
import { arrangeBalloons } from '../../../elements/balloon/place/propose.ts';
import { balloonAreaOf, identifyRest, newBalloon } from '../../../elements/balloon/place/add.ts';
import { itemsOfBalloon } from '../../../elements/balloon/says.ts';
import { anchorsOf } from '../../../elements/balloon/place/anchors.ts';
import type { Scene } from '../../../elements/scene.ts';
import type { ViewRecord } from '../../document/records.ts';
import type { Step } from '../../document/steps.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** An item is pointed at once in a view (ISO 6433: identical parts once); in another view on purpose. */
export const identified: Rule = {
  codes: ['NOT_IDENTIFIED', 'IDENTIFIED_TWICE'],

  sheet(scene, sheet) {
    const out: Finding[] = [];
    for (const view of scene.viewsOn(sheet)) {
      const first = new Map<string, string>();
      for (const b of scene.at(view.id)) {
        for (const item of b.type === 'balloon' ? itemsOfBalloon(b, scene) : []) {
          if (first.has(item.part) && first.get(item.part) !== b.id)
            out.push({
              code: 'IDENTIFIED_TWICE',
              severity: 'should',
              sheet,
              about: [b.id],
              text: `Item ${numberText(item)} has two balloons in ${view.name}: one is enough.`,
              fix: 'Remove this one',
            });
          else first.set(item.part, b.id);
        }
      }
    }
    return out;
  },

  fix(f, scene, freshId) {
    if (f.code === 'IDENTIFIED_TWICE') return onlyOnce(f.about, scene);
    const [part] = f.about;
    const view = bestView(scene, part!);
    if (!view) return [];
    const { records } = identifyRest(scene, view, () => freshId('balloon'));
    const found = records.filter((r) => scene.itemAt(r.component)?.part === part);
    if (found.length) return found.map((record) => ({ op: 'put', record }));
    return placed(scene, view, part!, freshId('balloon'));
  },
};

/** A balloon of one item goes; of a stack only what is said elsewhere. */
function onlyOnce(ids: readonly string[], scene: Scene): Step[] {
  return ids.flatMap((id): Step[] => {
    const b = scene.one('balloon', id);
    if (!b) return [];
    const others = new Set(scene.at(b.view).flatMap((r) => (r.type === 'balloon' && r.id !== id ? itemsOfBalloon(r, scene) : [])));
    const stack = (b.stack ?? []).filter((p) => !others.has(scene.itemAt(p)!));
    const own = scene.itemAt(b.component);
    if (!own || others.has(own)) return [{ op: 'drop', id }];
    return [{ op: 'put', record: { ...b, stack } }];
  });
}

/** The view that shows most of an item on paper: of those that have balloons first. */
export function bestView(scene: Scene, part: string): ViewRecord | undefined {
  const item = scene.items.find((i) => i.part === part);
  const area = (v: ViewRecord) => (item?.components.reduce((s, c) => s + (scene.visibleArea(v.id)?.[c] ?? 0), 0) ?? 0) * v.scale * v.scale;
  const balloons = (v: ViewRecord) => scene.at(v.id).filter((r) => r.type === 'balloon').length;
  const seen = scene.all('view').filter((v) => area(v) > 0);
  return seen.sort((a, b) => Number(balloons(b) > 0) - Number(balloons(a) > 0) || area(b) - area(a))[0];
}

/** Where there is no room by itself, the balloons of the view are arranged anew with one more. */
function placed(scene: Scene, view: ViewRecord, part: string, id: string): ReturnType<NonNullable<Rule['fix']>> {
  const result = scene.result(view.id);
  const item = scene.items.find((i) => i.part === part);
  if (!result || !item) return [];
  const [anchor] = anchorsOf(result, new Set(item.components), 1);
  if (!anchor) return [];
  const component = item.components.find((c) => newBalloon(scene, view, c, scene.map(view).toPaper([anchor.x, anchor.y]), id));
  const record = component === undefined ? undefined : newBalloon(scene, view, component, scene.map(view).toPaper([anchor.x, anchor.y]), id);
  if (!record) return [];
  const withIt = { ...scene.document, [record.id]: record };
  return [{ op: 'put', record }, ...arrangeBalloons(withIt, view, result, scene.items, scene.components, balloonAreaOf(scene, view))];
}
