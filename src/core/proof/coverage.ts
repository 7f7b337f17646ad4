import type { Scene } from '../../elements/scene.ts';
import { itemsOfBalloon } from '../../elements/balloon/says.ts';
import type { Item } from '../ledger/items.ts';

/** Least visible area that counts as seen, mm² on paper. */
export const SEEN_MM2 = 1;

/** Less than this is hard to make out, mm² on paper (common practice: nothing wanted is smaller than 2 mm either way). */
export const BADLY_MM2 = 4;

export type Mark = 'not seen' | 'seen' | 'identified';
const MARKS: readonly Mark[] = ['not seen', 'seen', 'identified'];

/** Where each item of the ledger can be found: the answer to what takes a checker longest. */
export interface Coverage {
  /** Largest visible area in one view, mm² on paper, by index of the item. */
  readonly most: Float64Array;
  /** @param item,sheet their indices */
  mark(item: number, sheet: number): Mark;
  /** Best of all sheets. */
  best(item: number): Mark;
  /** How many sheets have at least this mark. */
  count(item: number, mark: Mark): number;
}

/** Marks of all items on all sheets: one pass over the views, as far as they are computed. */
export function coverageOf(scene: Scene): Coverage {
  const { items, sheets } = scene;
  const most = new Float64Array(items.length);
  const marks = new Uint8Array(items.length * sheets.length);
  const raise = (item: number, sheet: number, mark: number) => {
    const at = item * sheets.length + sheet;
    if (marks[at]! < mark) marks[at] = mark;
  };
  const sheetIndex = new Map(sheets.map((s, i) => [s.id, i]));
  for (const v of scene.all('view')) {
    const seen = scene.visibleArea(v.id);
    const sheet = sheetIndex.get(v.sheet);
    if (!seen || sheet === undefined) continue;
    const k = v.scale * v.scale;
    const areas = itemAreas(seen, items);
    for (let i = 0; i < areas.length; i++) {
      const area = areas[i]! * k;
      if (area > most[i]!) most[i] = area;
      if (area >= SEEN_MM2) raise(i, sheet, 1);
    }
  }
  // One piece alone needs no number: the title block names it.
  if (scene.components.length === 1) for (let s = 0; s < sheets.length; s++) if (marks[s] === 1) marks[s] = 2;
  const index = new Map(items.map((item, i) => [item, i]));
  for (const b of scene.all('balloon')) {
    const sheet = sheetIndex.get(scene.one('view', b.view)?.sheet ?? '');
    if (sheet !== undefined) for (const item of itemsOfBalloon(b, scene)) raise(index.get(item)!, sheet, 2);
  }
  const row = (item: number) => marks.subarray(item * sheets.length, (item + 1) * sheets.length);
  return {
    most,
    mark: (item, sheet) => MARKS[marks[item * sheets.length + sheet]!]!,
    best: (item) => MARKS[row(item).reduce((a, b) => Math.max(a, b), 0)]!,
    count: (item, mark) => row(item).reduce((n, m) => n + Number(m >= MARKS.indexOf(mark)), 0),
  };
}

const known = new WeakMap<object, { readonly items: readonly Item[]; readonly areas: Float64Array }>();

/** Visible area of each item, mm² at 1:1; worked out once per view. */
function itemAreas(seen: ArrayLike<number>, items: readonly Item[]): Float64Array {
  const there = known.get(seen);
  if (there?.items === items) return there.areas;
  const areas = Float64Array.from(items, (i) => {
    let area = 0;
    for (const c of i.components) area += seen[c] ?? 0;
    return area;
  });
  known.set(seen, { items, areas });
  return areas;
}

export interface CoverageCell {
  /** Number of the item. */
  readonly item: number;
  readonly view: string;
  /** What is seen of all its pieces, mm² on paper. */
  readonly visibleMm2: number;
  /** Share of its own outline that is seen, 0…1: of the piece that is seen best. */
  readonly share: number;
  /** Its balloon is in this view. */
  readonly balloon: boolean;
}

/** Items × views: how much of each item every view shows; views that do not show it are left out. */
export function coverageCells(scene: Scene): CoverageCell[] {
  const out: CoverageCell[] = [];
  const pointed = new Set(scene.all('balloon').flatMap((b) => itemsOfBalloon(b, scene).map((i) => `${i.part} ${b.view}`)));
  for (const v of scene.all('view')) {
    const seen = scene.visibleArea(v.id);
    if (!seen) continue;
    const shares = scene.result(v.id)?.visibleShare;
    const areas = itemAreas(seen, scene.items);
    scene.items.forEach((i, k) => {
      const visibleMm2 = areas[k]! * v.scale * v.scale;
      if (visibleMm2 <= 0) return;
      const share = shares ? Math.max(...i.components.map((c) => shares[c] ?? 0)) : 0;
      out.push({ item: i.number, view: v.id, visibleMm2, share, balloon: pointed.has(`${i.part} ${v.id}`) });
    });
  }
  return out;
}

/** Numbers of the items that a finding is about. */
export function itemsAbout(scene: Scene, about: readonly string[]): number[] {
  const numbers = about.flatMap((id) => {
    const record = scene.document[id.split('/')[0]!];
    if (record?.type === 'balloon') return itemsOfBalloon(record, scene).map((i) => i.number);
    const item = scene.items.find((i) => i.part === id) ?? scene.itemAt(id);
    return item ? [item.number] : [];
  });
  return [...new Set(numbers)];
}

/** Visible area of an item on paper, mm², in one view. @param areas of its components at 1:1 */
export function visibleOnPaper(item: Item, areas: ArrayLike<number>, scale: number): number {
  return item.components.reduce((s, c) => s + (areas[c] ?? 0), 0) * scale * scale;
}
