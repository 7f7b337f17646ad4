import type { Rect } from '../base/rect.ts';
import { inflate, overlaps } from '../base/rect.ts';
import type { DisplayGroup, DisplayItem, DisplayList } from '../picture/display-list.ts';
import { inkOf, joined } from '../picture/ink.ts';

/** A sheet to be compared: what it is known by, and its picture. */
export interface PicturedSheet {
  readonly id: string;
  readonly name: string;
  readonly picture: DisplayList;
}

/** Something that is other on a sheet than it was. */
export interface ElementChange {
  readonly kind: 'added' | 'removed' | 'moved' | 'changed';
  readonly id: string;
  readonly role: string;
  readonly label: string;
  /** Where it is now, of what is gone where it was: one or more places, paper mm. */
  readonly boxes: readonly Rect[];
}

export interface SheetDifference {
  readonly id: string;
  readonly name: string;
  readonly kind: 'same' | 'changed' | 'added' | 'removed';
  readonly width: number;
  readonly height: number;
  readonly changes: readonly ElementChange[];
  /** What is drawn on both, only before, and only now. */
  readonly same: readonly DisplayItem[];
  readonly gone: readonly DisplayItem[];
  readonly come: readonly DisplayItem[];
}

/** Boxes nearer than this are one place, mm. */
const NEAR_MM = 6;
/** Numbers in paths are written to a thousandth: places that differ by less are the same, mm. */
const SAME_MM = 0.02;

/** Sheets of two states of a drawing, by their ids: first those that are there now, in their order, then those that are gone. */
export function compareDrawings(before: readonly PicturedSheet[], after: readonly PicturedSheet[]): SheetDifference[] {
  const old = new Map(before.map((s) => [s.id, s]));
  const now = new Set(after.map((s) => s.id));
  return [...after.map((s) => compareSheet(old.get(s.id), s)), ...before.filter((s) => !now.has(s.id)).map((s) => compareSheet(s, undefined))];
}

/** One sheet before and after; of one that came or went everything did. */
export function compareSheet(before: PicturedSheet | undefined, after: PicturedSheet | undefined): SheetDifference {
  const { id, name, picture } = (after ?? before)!;
  const [old, now] = [groupsOf(before), groupsOf(after)];
  const changes: ElementChange[] = [];
  const [same, gone, come]: DisplayItem[][] = [[], [], []];
  for (const [key, g] of now) {
    const was = old.get(key);
    const [left, right] = was ? apart(was.items, g.items) : [[], [...g.items]];
    come!.push(...right);
    gone!.push(...left);
    same!.push(...g.items.filter((i) => !right.includes(i)));
    if (!was) changes.push(change('added', g, g.items));
    else if (left.length || right.length) changes.push(change(hasMoved(was, g) ? 'moved' : 'changed', g, right.length ? right : left));
  }
  for (const [key, g] of old)
    if (!now.has(key)) {
      gone!.push(...g.items);
      changes.push(change('removed', g, g.items));
    }
  const kind = !before ? 'added' : !after ? 'removed' : changes.length ? 'changed' : 'same';
  return { id, name, kind, width: picture.width, height: picture.height, changes, same: same!, gone: gone!, come: come! };
}

const groupsOf = (s: PicturedSheet | undefined) => new Map((s?.picture.groups ?? []).map((g) => [g.id, g]));

const change = (kind: ElementChange['kind'], g: DisplayGroup, items: readonly DisplayItem[]): ElementChange => ({
  kind,
  id: g.id,
  role: g.role,
  label: g.label,
  boxes: placesOf(inkOf(items)),
});

/** What makes an item look as it does; where it comes from does not. */
function lookOf(i: DisplayItem): string {
  if (i.kind === 'text') return `t ${i.text} ${i.height} ${i.anchor} ${i.turn ?? 0} ${i.bold ?? ''} ${i.color ?? ''} ${round(i.x)} ${round(i.y)}`;
  if (i.kind === 'image')
    return `i ${i.image.length > 200 ? `${i.image.length} ${i.image.slice(-60)}` : i.image} ${round(i.x)} ${round(i.y)} ${round(i.width)} ${round(i.height)}`;
  return i.kind === 'fill' ? `f ${i.d} ${i.color}` : `s ${i.d} ${i.width} ${i.dash?.join() ?? ''} ${i.color ?? ''}`;
}
const round = (v: number) => Math.round(v / SAME_MM);

/** Items of either that the other does not have. Strokes of many lines are taken line by line. */
function apart(before: readonly DisplayItem[], after: readonly DisplayItem[]): [DisplayItem[], DisplayItem[]] {
  const looks = (items: readonly DisplayItem[]) => {
    const counts = new Map<string, number>();
    for (const i of items) counts.set(lookOf(i), (counts.get(lookOf(i)) ?? 0) + 1);
    return counts;
  };
  const [old, now] = [looks(before), looks(after)];
  const missing = (items: readonly DisplayItem[], other: Map<string, number>) => {
    const left = new Map(other);
    return items.filter((i) => {
      const n = left.get(lookOf(i)) ?? 0;
      if (n > 0) left.set(lookOf(i), n - 1);
      return n === 0;
    });
  };
  return byLine(missing(before, now), missing(after, old));
}

/** Of paths of several lines only the lines that differ. */
function byLine(before: readonly DisplayItem[], after: readonly DisplayItem[]): [DisplayItem[], DisplayItem[]] {
  const linesOf = (i: DisplayItem) => (i.kind === 'stroke' ? i.d.split(/(?=M)/) : []);
  const all = (items: readonly DisplayItem[]) => new Set(items.flatMap(linesOf));
  const [old, now] = [all(before), all(after)];
  const cut = (items: readonly DisplayItem[], other: ReadonlySet<string>) =>
    items.flatMap((i): DisplayItem[] => {
      if (i.kind !== 'stroke') return [i];
      const d = linesOf(i)
        .filter((l) => !other.has(l))
        .join('');
      return d ? [{ ...i, d }] : [];
    });
  return [cut(before, now), cut(after, old)];
}

/** As large as before, with as much in it, in another place. */
function hasMoved(before: DisplayGroup, after: DisplayGroup): boolean {
  const [x0, y0, w0, h0] = before.box;
  const [x1, y1, w1, h1] = after.box;
  const shifted = Math.hypot(x1 - x0, y1 - y0) > SAME_MM;
  return shifted && Math.abs(w1 - w0) < 0.1 && Math.abs(h1 - h0) < 0.1 && before.items.length === after.items.length && before.label === after.label;
}

/** Places where something is: boxes that are near each other are one. */
export function placesOf(boxes: readonly Rect[]): Rect[] {
  const out: Rect[] = [];
  for (const b of boxes) {
    let box = b;
    for (let i = 0; i < out.length;) {
      if (overlaps(inflate(out[i]!, NEAR_MM), box)) {
        box = joined([out[i]!, box]);
        out.splice(i, 1);
        i = 0;
      } else i++;
    }
    out.push(box);
  }
  return out;
}

/** Rows of two tables that differ, by their first cell that is not empty; the first row of each is its head. */
export interface RowChange {
  readonly kind: 'added' | 'removed' | 'changed';
  readonly row: readonly string[];
  readonly before?: readonly string[];
}

export function compareTables(
  before: readonly (readonly string[])[],
  after: readonly (readonly string[])[],
  key: (row: readonly string[]) => string,
): RowChange[] {
  const old = new Map(before.slice(1).map((r) => [key(r), r]));
  const now = new Map(after.slice(1).map((r) => [key(r), r]));
  const out: RowChange[] = [];
  for (const [k, row] of now) {
    const was = old.get(k);
    if (!was) out.push({ kind: 'added', row });
    else if (was.length !== row.length || was.some((c, i) => c !== row[i])) out.push({ kind: 'changed', row, before: was });
  }
  for (const [k, row] of old) if (!now.has(k)) out.push({ kind: 'removed', row });
  return out;
}

/** What changed, in sentences that a revision table can hold: few words, the most important first. */
export function changeWords(differences: readonly SheetDifference[], rows: readonly RowChange[], nameAt: number): string[] {
  const out: string[] = [];
  const names = (kind: RowChange['kind']) => rows.filter((r) => r.kind === kind).map((r) => r.row[nameAt] || r.row.find(Boolean) || '');
  const say = (list: readonly string[], what: string) => {
    if (list.length) out.push(`${list.length > 3 ? `${list.length} items` : list.join(', ')} ${what}`);
  };
  say(names('added'), 'added');
  say(names('removed'), 'removed');
  say(names('changed'), 'changed in the list');
  for (const d of differences) {
    if (d.kind === 'added') out.push(`Sheet “${d.name}” added`);
    if (d.kind === 'removed') out.push(`Sheet “${d.name}” removed`);
  }
  const counts = new Map<string, number>();
  for (const d of differences)
    if (d.kind === 'changed')
      for (const c of d.changes)
        if (c.role !== 'list' && c.role !== 'title' && c.role !== 'frame') counts.set(`${c.role} ${c.kind}`, (counts.get(`${c.role} ${c.kind}`) ?? 0) + 1);
  for (const [what, n] of counts) {
    const [role, kind] = what.split(' ') as [string, string];
    out.push(n === 1 ? `${role.charAt(0).toUpperCase()}${role.slice(1)} ${kind}` : `${n} ${role}s ${kind}`);
  }
  return out;
}

/** Two states of a drawing as they go over the line: each sheet with its picture in two inks. */
export interface Difference {
  readonly sheets: readonly (Omit<SheetDifference, 'same' | 'gone' | 'come'> & { readonly svg: string })[];
  readonly rows: readonly RowChange[];
  readonly head: readonly string[];
  readonly words: readonly string[];
}
