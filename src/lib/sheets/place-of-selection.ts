import type { Vec2 } from '$core/base/vector';
import { isElement, kindOf } from '$elements/kinds';
import { boxOf } from '$elements/together';
import type { Drawing } from '../shared/drawing.svelte';
import type { Tools } from './tools.svelte';

/** A place on the open sheet that a press for what is selected could have, paper mm: for the menu key. */
export function placeOfSelection(drawing: Drawing, tools: Tools): Vec2 | undefined {
  const { scene, selection: s } = drawing;
  if (s.kind === 'field') {
    const sheet = scene.one('sheet', drawing.sheetId);
    const text =
      sheet &&
      kindOf(sheet)
        .texts?.(sheet, scene)
        .find((t) => t.name === s.field);
    return text && middle(text.box);
  }
  if (s.kind === 'item' && s.view !== undefined && s.component !== undefined) {
    const at = shownAt(drawing, s.view, s.component);
    if (at) return at;
  }
  const [first] = tools.pick.chosen;
  if (!first || !isElement(first)) return undefined;
  const box = boxOf(scene, first);
  return box && middle(box);
}

const middle = (b: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }): Vec2 => [
  b.x + b.width / 2,
  b.y + b.height / 2,
];

/** Somewhere in the middle of what a view shows of a component. */
function shownAt(drawing: Drawing, id: string, component: number): Vec2 | undefined {
  const [view, result] = [drawing.scene.one('view', id), drawing.scene.result(id)];
  if (!view || !result) return undefined;
  const { window, component: map } = result.map;
  const seen: number[] = [];
  for (let i = 0; i < map.length; i++) if (map[i] === component) seen.push(i);
  const at = seen[seen.length >> 1];
  if (at === undefined) return undefined;
  const [x, y] = [at % window.width, Math.floor(at / window.width)];
  return drawing.scene.map(view).toPaper([window.minX + (x + 0.5) * window.pixelMm, window.maxY - (y + 0.5) * window.pixelMm]);
}
