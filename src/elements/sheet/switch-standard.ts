import { plural } from '../../core/base/plural.ts';
import type { Rect } from '../../core/base/rect.ts';
import { wholeStyle } from '../../core/dimension/value.ts';
import { changesBetween } from '../../core/document/between.ts';
import { changeStandard, resizeSheet } from '../../core/document/moves.ts';
import { recordsOf, type DrawingDocument } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { paperByName, PAPER_SIZES, standardScales, type Standard } from '../../core/sheet/paper.ts';
import { balloonAreaOf } from '../balloon/place/add.ts';
import { arrangeBalloons } from '../balloon/place/propose.ts';
import { composeSheet } from '../compose.ts';
import { kindOf, type ElementRecord } from '../kinds.ts';
import { homeOf, type Scene } from '../scene.ts';
import { arrangeSheet } from '../view/arrange-sheet.ts';
import { rootOf } from '../view/move.ts';
import { scaledTogether } from '../view/scale.ts';

/** What a switch of the standard does, all in one edit. */
export interface StandardSwitch {
  readonly steps: readonly Step[];
  /** What it changes, a sentence each. */
  readonly says: readonly string[];
  /** Sheets on which the views have no room to be arranged. */
  readonly crowded: readonly string[];
}

/** The sheet of the other standard that is as good as one: A4 for A, A3 for B … (common practice). */
const ALIKE = new Map([
  ['A0', 'E'],
  ['A1', 'D'],
  ['A2', 'C'],
  ['A3', 'B'],
  ['A4', 'A'],
]);

/** The size of the other standard that stands for this one; the same for a size of one's own. */
export function sizeIn(standard: Standard, size: string): string {
  if (paperByName(size)?.standard === standard || !PAPER_SIZES.some((p) => p.name === size)) return size;
  if (standard === 'asme') return ALIKE.get(size) ?? nearestIn('asme', size);
  return [...ALIKE].find(([, inch]) => inch === size)?.[0] ?? nearestIn('iso', size);
}

function nearestIn(standard: Standard, size: string): string {
  const { long, short } = paperByName(size)!;
  const off = (p: { long: number; short: number }) => Math.hypot(p.long - long, p.short - short);
  return PAPER_SIZES.filter((p) => p.standard === standard && p.usual).reduce((best, p) => (off(p) < off(best) ? p : best)).name;
}

/** So many steps of scale are tried until the views of a sheet have room. */
const TRIES = 8;

/** What a switch changes, before it is made. */
export function whatSwitches(scene: Scene, to: Standard): string[] {
  const { drawing, document } = scene;
  const turned = recordsOf(document, 'view').filter((v) => v.align && rootOf(document, v) !== v).length;
  const [was, is] = [wholeStyle(drawing.standard, drawing.values).unit, wholeStyle(to, drawing.values).unit];
  const name = { mm: 'millimetres', inch: 'inches', both: 'both units' } as const;
  const sizes = new Set(scene.sheets.map((s) => s.size));
  const other = [...sizes].filter((s) => sizeIn(to, s) !== s).map((s) => `${s} → ${sizeIn(to, s)}`);
  const usual = scene.sheets.filter((s) => typeof s.format !== 'string').length;
  return [
    `Projection: ${to === 'asme' ? 'first angle → third angle' : 'third angle → first angle'}${turned ? `; ${plural(turned, 'view')} in line ${turned === 1 ? 'changes' : 'change'} sides` : ''}.`,
    was === is ? `Dimensions stay in ${name[is]}.` : `Dimensions: ${name[was]} → ${name[is]}.`,
    ...(usual && other.length ? [`Title block of ${plural(usual, 'sheet')}: ${to === 'asme' ? 'ISO 7200 → ASME Y14.1' : 'ASME Y14.1 → ISO 7200'}.`] : []),
    ...(other.length ? [`Sizes: ${other.join(', ')}; scales: the nearest ones of the standard.`] : []),
    'All sheets are arranged anew. One undo takes everything back.',
  ];
}

/**
 * Makes a drawing one of the other standard: projection, units, sizes with their title blocks, scales; every sheet is arranged.
 * @param scene with the views of all sheets there
 */
export function switchStandard(scene: Scene, to: Standard): StandardSwitch {
  if (scene.drawing.standard === to) return { steps: [], says: [], crowded: [] };
  let now = after(scene.document, changeStandard(scene.document, to));
  for (const s of scene.sheets) {
    const size = sizeIn(to, s.size);
    if (size !== s.size) now = after(now, resizeSheet(now, s.id, size, s.landscape));
    now = after(now, asLargeAsBefore(scene.with(now), s.id, scene.document));
  }
  const crowded: string[] = [];
  for (const s of scene.sheets) {
    const arranged = arrangedAtSomeScale(scene.with(now), s.id, scene.document);
    if (arranged) now = arranged;
    else crowded.push(s.id);
    now = after(now, broughtInside(scene.with(now), s.id));
  }
  return { steps: changesBetween(scene.document, now), says: whatSwitches(scene, to), crowded };
}

function after(document: DrawingDocument, steps: readonly Step[]): DrawingDocument {
  const r = applySteps(document, steps);
  if (!r.ok) throw new RangeError(r.reason);
  return r.document;
}

/** Views at the scale of the standard that is nearest to the one they had, not smaller: they are made smaller only where there is no room. */
function asLargeAsBefore(scene: Scene, sheet: string, before: DrawingDocument): Step[] {
  const wanted = new Map<number, string[]>();
  for (const v of scene.viewsOn(sheet)) {
    const was = before[v.id];
    if (was?.type !== 'view') continue;
    const scale = standardScales(scene.drawing.standard).findLast((s) => s >= was.scale * 0.999) ?? was.scale;
    wanted.set(scale, [...(wanted.get(scale) ?? []), v.id]);
  }
  const now = [...wanted].reduce((document, [scale, ids]) => after(document, scaledTogether(document, ids, scale)), scene.document);
  return changesBetween(scene.document, now);
}

/** A sheet with its views arranged, smaller where they have no room at their scale; undefined where that does not help. */
function arrangedAtSomeScale(scene: Scene, sheet: string, before: DrawingDocument): DrawingDocument | undefined {
  let at = scene;
  for (let n = 0; n < TRIES; n++) {
    at = at.with(balloonsAnew(at, sheet, before));
    const steps = arrangeSheet(at, sheet);
    if (steps) return after(at.document, steps);
    const roots = at.viewsOn(sheet).filter((v) => !v.detail && rootOf(at.document, v) === v);
    const largest = Math.max(0, ...roots.map((v) => v.scale));
    const smaller = standardScales(at.drawing.standard).find((s) => s < largest * 0.999);
    if (!smaller) return undefined;
    const these = roots.filter((v) => v.scale > smaller * 0.999).map((v) => v.id);
    at = at.with(after(at.document, scaledTogether(at.document, these, smaller)));
  }
  return undefined;
}

/** The balloons of views that are drawn at another scale now, placed anew around them. */
function balloonsAnew(scene: Scene, sheet: string, before: DrawingDocument): DrawingDocument {
  return scene.viewsOn(sheet).reduce((document, view) => {
    const was = before[view.id];
    const result = scene.result(view.id);
    if (!result || (was?.type === 'view' && was.scale === view.scale) || !scene.at(view.id).some((r) => r.type === 'balloon')) return document;
    const area = balloonAreaOf(scene.with(document), view);
    return after(document, arrangeBalloons(document, view, result, scene.items, scene.components, area));
  }, scene.document);
}

/** Notes, tables and the like that stand on the sheet itself, moved as far as they stick out of its frame. */
function broughtInside(scene: Scene, sheet: string): Step[] {
  const { frame } = scene.page(sheet).geometry;
  return composeSheet(scene, sheet).groups.flatMap((g) => {
    const record = scene.document[g.id];
    if (!record || homeOf(record) !== sheet || record.type === 'view' || !('at' in record)) return [];
    const [x, y, width, height] = g.box;
    const by = [outside(x, width, frame.x, frame.width), outside(y, height, frame.y, frame.height)] as const;
    return by[0] || by[1] ? (kindOf(record as ElementRecord).drag?.(record as ElementRecord, by, scene) ?? []) : [];
  });
}

/** How far a stretch has to move to lie in another one. */
function outside(at: number, size: number, from: number, room: Rect['width']): number {
  if (at < from) return from - at;
  return at + size > from + room ? from + room - at - size : 0;
}
