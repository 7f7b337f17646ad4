import { rectOf, type Rect } from '../../core/base/rect.ts';
import { add, dot, scale, type Vec2 } from '../../core/base/vector.ts';
import { without } from '../../core/base/without.ts';
import { cutFromLine, turnedRound, type LineCut } from '../../core/cut/section-line.ts';
import type { CutRecord, ViewRecord } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { placeBeside } from '../../core/draft/beside.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import { frameFrom } from '../../core/outline/directions.ts';
import { newView } from './add.ts';
import { mirrored } from '../change.ts';
import { followAll } from '../follow.ts';
import { allowedOn, standingOn } from '../place.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from './draw.ts';
import { LABEL_MM, placeProjected, projectedFrom } from './in-line.ts';
import { lettersOf, nextLetter } from './letters.ts';

export interface NewSection {
  readonly id: string;
  readonly parent: ViewRecord;
  readonly cut: LineCut;
  /** Paths of components that stay uncut. */
  readonly keptWhole: readonly string[];
  /** Of what the section shows: minX minY maxX maxY, view space, model mm. */
  readonly box: readonly [number, number, number, number];
}

/** A section along a line on another view, with the next letter: where projection has it, or free where its sheet has room for it. */
export function newSection(scene: Scene, { id, parent, cut, keptWhole, box }: NewSection): ViewRecord {
  const letter = nextLetter(lettersOf(scene));
  const placed = placeProjected(scene, parent, cut.frame, box, parent.scale);
  return {
    ...parent,
    hidden: false,
    shaded: false,
    pullLines: false,
    id,
    name: `Section ${letter}–${letter}`,
    ...cut.frame,
    ...placed,
    label: true,
    cut: { ...cut.plane, ...(cut.shape ? { shape: cut.shape } : {}), letter, keptWhole, shownIn: parent.id },
  };
}

/** A full cut through the middle of what a component shows in a view, level or upright. Undefined when it shows nothing. */
export function cutThrough(view: ViewRecord, result: ViewResult, component: number, upright: boolean): LineCut | undefined {
  const middle = middleOf(result, component);
  if (!middle) return undefined;
  const [x0, y0, x1, y1] = result.box;
  const line: readonly [Vec2, Vec2] = upright
    ? [
        [middle[0], y0],
        [middle[0], y1],
      ]
    : [
        [x0, middle[1]],
        [x1, middle[1]],
      ];
  const cut = cutFromLine(line, view);
  return 'wrong' in cut ? undefined : cut;
}

/** Middle of what a component shows in a view. */
function middleOf(result: ViewResult, component: number): Vec2 | undefined {
  const { window: w, component: map } = result.map;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < map.length; i++) {
    if (map[i] !== component) continue;
    const [x, y] = [i % w.width, Math.floor(i / w.width)];
    x0 = Math.min(x0, x);
    x1 = Math.max(x1, x);
    y0 = Math.min(y0, y);
    y1 = Math.max(y1, y);
  }
  if (x1 < x0) return undefined;
  return [w.minX + ((x0 + x1 + 1) / 2) * w.pixelMm, w.maxY - ((y0 + y1 + 1) / 2) * w.pixelMm];
}

/**
 * The steps that let a section look from the other side: what belongs to it is turned with it, and one that stands in line
 * goes to the other side of its parent. It keeps the axis that it shares with its parent.
 */
export function turnRound(scene: Scene, view: ViewRecord): { readonly steps: readonly Step[]; readonly freed: boolean } {
  if (!view.cut) return { steps: [], freed: false };
  const { shape, ...cut } = view.cut;
  const parent = projectedFrom(scene, view);
  const keep = parent && dot(view.right, parent.right) > 0.9999 && dot(view.up, parent.up) < 0.9999 ? 'right' : 'up';
  const r = turnedRound({ frame: view, plane: cut, ...(shape ? { shape } : {}) }, keep);
  const pivot: Vec2 = keep === 'up' ? [-view.pivot[0], view.pivot[1]] : [view.pivot[0], -view.pivot[1]];
  const stays = { ...view, ...r.frame, pivot, cut: { ...cut, ...r.plane, ...(r.shape ? { shape: r.shape } : {}) } };
  const b = scene.result(view.id)?.box;
  const box = b && (keep === 'up' ? ([-b[2], b[1], -b[0], b[3]] as const) : ([b[0], -b[3], b[2], -b[1]] as const));
  const placed = view.align && parent && box ? placeProjected(scene, parent, r.frame, box, view.scale, view.id) : {};
  const record: ViewRecord = { ...stays, ...placed };
  const details = detailsBelow(scene, view.id);
  const turned = new Set([view.id, ...details.map((d) => d.id)]);
  const put: Step[] = [{ op: 'put', record }];
  const now = applySteps(scene.document, put);
  return { steps: now.ok ? [...put, ...followAll(now.document, mirrored(turned, keep))] : [], freed: view.align !== null && record.align === null };
}

/** A pictorial of what a section cuts: seen aslant from its reader's side, beside it, at its scale. */
export function pictorialOfCut(scene: Scene, view: ViewRecord, id: string): { readonly record: ViewRecord; readonly free: boolean } | undefined {
  if (!view.cut || view.cut.shape?.kind === 'local') return undefined;
  const over = add(view.cut.normal, add(scale(view.right, 0.75), scale(view.up, 0.65)));
  const frame = frameFrom(over, view.up);
  const { record, free } = newView(scene, { id, name: `${view.name}, pictorial`, sheet: view.sheet, frame, spread: view.spread, like: view });
  return { record: { ...record, cut: { ...view.cut, shownIn: null }, tangent: true }, free };
}

/** Details of a view, details of those, and so on. */
function detailsBelow(scene: Scene, id: string): ViewRecord[] {
  return scene.detailsOf(id).flatMap((d) => (d.id === id ? [] : [d, ...detailsBelow(scene, d.id)]));
}

/** Slices of no depth at distances from a section's plane, in a row beside it. @param idOf the id of the n-th, from 0 */
export function slices(scene: Scene, view: ViewRecord, distances: readonly number[], idOf: (n: number) => string): ViewRecord[] {
  const { cut } = view;
  if (!cut) return [];
  const own = rectOf(viewRect(view, scene.result(view.id)));
  const taken: Rect[] = standingOn(scene, view.sheet);
  const letters = lettersOf(scene);
  return distances.map((distance, n) => {
    const letter = nextLetter(letters);
    letters.add(letter);
    const [width, height] = [own.width, own.height + LABEL_MM];
    const { at } = placeBeside(own, [1, 0], [width, height], allowedOn(scene, view.sheet), taken);
    taken.push({ x: at[0] - width / 2, y: at[1] - height / 2, width, height });
    return {
      ...view,
      id: idOf(n),
      name: `Slice ${letter}–${letter}`,
      at: [at[0] + (view.at[0] - own.x - own.width / 2), at[1] - LABEL_MM / 2 + (view.at[1] - own.y - own.height / 2)],
      parent: null,
      align: null,
      cut: { ...without(cut, 'shape'), d: cut.d + distance, letter, behindMm: 0 },
    };
  });
}

/** From a full section to a half one and back: the half to the right of the view's middle is cut. */
export function toggledHalf(view: ViewRecord): ViewRecord {
  if (!view.cut) return view;
  const { shape, ...cut } = view.cut;
  const half: NonNullable<CutRecord['shape']> = { kind: 'half', across: view.right, from: view.pivot[0] };
  return { ...view, cut: shape ? cut : { ...cut, shape: half } };
}
