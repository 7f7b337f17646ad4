import { arrangeSheet } from '../../../elements/view/arrange-sheet.ts';
import { isElement, kindOf } from '../../../elements/kinds.ts';
import { arrangeBalloons } from '../../../elements/balloon/place/propose.ts';
import { balloonAreaOf } from '../../../elements/balloon/place/add.ts';
import { rectOf } from '../../base/rect.ts';
import type { Scene } from '../../../elements/scene.ts';
import type { Step } from '../../document/steps.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Views are there and show something; what overlaps or leaves the frame is moved. */
export const views: Rule = {
  codes: ['VIEW_MISSING', 'VIEW_EMPTY', 'OVERLAP', 'OUTSIDE_FRAME'],

  sheet(scene, sheet) {
    return scene.viewsOn(sheet).flatMap((v): Finding[] => {
      if (v.off) return [];
      const result = scene.result(v.id);
      if (!result)
        return [{ code: 'VIEW_MISSING', severity: 'look', sheet, about: [v.id], text: `${v.name} is not drawn yet: what it shows was not checked.` }];
      return result.lines.kind.length
        ? []
        : [{ code: 'VIEW_EMPTY', severity: 'must', sheet, about: [v.id], text: `${v.name} shows nothing.`, fix: 'Remove it' }];
    });
  },

  fix(f, scene) {
    if (f.code === 'VIEW_EMPTY') return f.about.map((id) => ({ op: 'drop', id }));
    const records = f.about.flatMap((id) => scene.document[id.split('/')[0]!] ?? []);
    const balloon = records.find((r) => r.type === 'balloon');
    const view = balloon?.type === 'balloon' ? scene.one('view', balloon.view) : undefined;
    const result = view && scene.result(view.id);
    if (view && result) return arrangeBalloons(scene.document, view, result, scene.items, scene.components, balloonAreaOf(scene, view));
    if (f.code === 'OUTSIDE_FRAME') return broughtInside(scene, f);
    return (f.sheet && records.some((r) => r.type === 'view') && arrangeSheet(scene, f.sheet)) || [];
  },
};

/** Moved by as much as it reaches over the frame. */
function broughtInside(scene: Scene, f: Finding): Step[] {
  const record = scene.document[f.about[0]!.split('/')[0]!];
  if (!record || !f.sheet || !isElement(record)) return [];
  const frame = scene.page(f.sheet).geometry.frame;
  const kind = kindOf(record);
  const [drawn] = kind.draw(record, scene);
  if (!drawn || !kind.drag) return [];
  const { ink } = drawn;
  const by = (at: number, size: number, from: number, room: number) => (at < from ? from - at + 1 : at + size > from + room ? from + room - at - size - 1 : 0);
  const box = ink.width ? ink : rectOf(drawn.box);
  return [...kind.drag(record, [by(box.x, box.width, frame.x, frame.width), by(box.y, box.height, frame.y, frame.height)], scene)];
}
