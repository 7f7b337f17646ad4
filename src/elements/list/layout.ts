import type { Rect } from '../../core/base/rect.ts';
import { without } from '../../core/base/without.ts';
import type { ListColumn, ListRecord } from '../../core/document/records.ts';
import { headOf, massColumn } from '../../core/ledger/list-rows.ts';
import { textWidth, wrapText } from '../../core/picture/lettering.ts';
import type { SheetGeometry } from '../../core/sheet/paper.ts';
import type { Scene } from '../scene.ts';
import { titleBlockRect } from '../../core/sheet/page.ts';
import { cellOf, rowsOf, type ShownRow } from './rows.ts';

/** Height of a row of one line, and of each further line, as shares of the height of capitals. */
const ROW = 2.4;
const LINE = 1.5;
/** Air to the left and right of a text in its cell, mm. */
export const AIR_MM = 1.2;
const MOST_LINES = 12;
const MOST_SHEETS = 100;
/** A level stands in by so much, as a share of the height of capitals. */
const STEP = 1.6;
/** What is made to fit exactly is a hair smaller: rounding would cut it. */
const JUST = 1 - 1e-9;
/** Texts are made no smaller than this share of their height. */
const LEAST_SIZE = 0.7;

export interface LaidCell {
  readonly column: ListColumn;
  readonly box: Rect;
  readonly lines: readonly string[];
  /** Height of capitals, paper mm. */
  readonly size: number;
  /** Of a level, mm. */
  readonly indent: number;
  /** The text was cut short. */
  readonly cut: boolean;
}

export interface LaidRow {
  readonly row: ShownRow;
  readonly box: Rect;
  readonly cells: readonly LaidCell[];
}

export interface ListBlock {
  readonly rect: Rect;
  /** Index of its first row among the rows of the whole list. */
  readonly from: number;
  readonly head: { readonly box: Rect; readonly cells: readonly LaidCell[] };
  readonly rows: readonly LaidRow[];
  /** The head is at the foot, and the rows follow it upward. */
  readonly up: boolean;
}

/** Where everything of a list stands, paper mm. */
export function layOutList(list: ListRecord, scene: Scene): ListBlock[] {
  const { geometry, style } = scene.page(list.sheet);
  const all = rowsOf(list, scene);
  const part = listRows(list, all.length);
  const shown = all.slice(part.from, part.to);
  const size = list.heightMm ?? style.text;
  const total = list.columns.reduce((s, c) => s + c.widthMm, 0);
  const place = placeOf(list, geometry, scene.one('sheet', list.sheet), total);
  const k = place.width / total;
  const widths = list.columns.map((c) => c.widthMm * k);
  const least = list.rowMm ?? size * ROW;
  const rows = shown.map((row) => {
    const texts = list.columns.map((c, i) =>
      fitted(cellOf(row, c.key, scene), c, c.heightMm ?? size, widths[i]!, c.key === 'description' ? row.level * STEP * size : 0),
    );
    return { row, texts, height: Math.max(least, ...texts.map((t) => t.size * (ROW + LINE * (t.lines.length - 1)))) };
  });
  const mass = massColumn(scene.items, scene.ledger.massUnit);
  const headSize = list.headMm ?? size;
  const heads = list.columns.map((c, i) => {
    const words = headOf(c, list.columns, mass);
    // Of several words it rather takes two lines than small letters.
    return fitted(words, { ...c, long: c.long === 'wrap' || words.includes(' ') ? 'wrap' : 'shrink' }, headSize, widths[i]!, 0);
  });
  const head = Math.max(list.headMm ? headSize * ROW : least, ...heads.map((t) => t.size * (ROW + LINE * (t.lines.length - 1))));
  const up = list.head === undefined ? place.up : list.head === 'foot';
  let from = part.from;
  return shares(
    rows.map((r) => r.height),
    place.height - head,
    list.beside ?? 1,
  ).map((count, block): ListBlock => {
    const taken = rows.slice(from - part.from, from - part.from + count);
    const height = head + taken.reduce((s, r) => s + r.height, 0);
    const rect: Rect = {
      x: place.fromRight ? place.x - place.width * (block + 1) : place.x + place.width * block,
      y: place.up ? place.y - height : place.y,
      width: place.width,
      height,
    };
    const cellsAt = (texts: readonly Fitted[], y: number, h: number): LaidCell[] => {
      let x = rect.x;
      return texts.map((t, i) => {
        const box = { x, y, width: widths[i]!, height: h };
        x += widths[i]!;
        return { column: list.columns[i]!, box, ...t };
      });
    };
    const headY = up ? rect.y + height - head : rect.y;
    let y = up ? headY : rect.y + head;
    const laid = taken.map(({ row, texts, height: h }): LaidRow => {
      const top = up ? y - h : y;
      y += up ? -h : h;
      return { row, box: { x: rect.x, y: top, width: rect.width, height: h }, cells: cellsAt(texts, top, h) };
    });
    const first = from;
    from += count;
    return { rect, from: first, head: { box: { x: rect.x, y: headY, width: rect.width, height: head }, cells: cellsAt(heads, headY, head) }, rows: laid, up };
  });
}

type Fitted = Pick<LaidCell, 'lines' | 'size' | 'indent' | 'cut'>;

function fitted(words: string, { long }: Pick<ListColumn, 'long'>, size: number, width: number, indent: number): Fitted {
  const room = width - 2 * AIR_MM - indent + 0.4;
  const lines = (height: number, most: number) => {
    const out = words === '' ? [] : wrapText(words, height, room, most);
    return { lines: out, size: height, indent, cut: out.join(' ') !== words.split(/\s+/).filter(Boolean).join(' ') };
  };
  if (long === 'wrap') return lines(size, MOST_LINES);
  const wide = textWidth(words, size);
  return lines(long === 'shrink' && wide > room ? size * Math.max(LEAST_SIZE, (room / wide) * JUST) : size, 1);
}

interface Place {
  /** The corner that the first block stands in. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  /** Room for one block. */
  readonly height: number;
  readonly up: boolean;
  readonly fromRight: boolean;
}

function placeOf(list: ListRecord, geometry: SheetGeometry, sheet: { readonly noTitle?: boolean } | undefined, total: number): Place {
  const { frame } = geometry;
  const [right, foot] = [frame.x + frame.width, frame.y + frame.height];
  if (list.at) {
    const { at, to } = list;
    if (!to) return { x: at[0], y: at[1], width: total, height: Math.max(1, foot - at[1]), up: false, fromRight: false };
    const region = { x: Math.min(at[0], to[0]), y: Math.min(at[1], to[1]), width: Math.abs(to[0] - at[0]), height: Math.abs(to[1] - at[1]) };
    // As many whole blocks as fit beside each other; a region narrower than one narrows it.
    return { x: region.x, y: region.y, width: Math.min(total, region.width), height: region.height, up: false, fromRight: false };
  }
  const width = Math.min(total, frame.width);
  const title = titleBlockRect(geometry, sheet);
  const overTitle = (x: number) => x + width > title.x;
  switch (list.corner) {
    case 'top left':
      return { x: frame.x, y: frame.y, width, height: (overTitle(frame.x) ? title.y : foot) - frame.y, up: false, fromRight: false };
    case 'top right':
      return { x: right, y: frame.y, width, height: title.y - frame.y, up: false, fromRight: true };
    case 'bottom left':
      return { x: frame.x, y: overTitle(frame.x) ? title.y : foot, width, height: (overTitle(frame.x) ? title.y : foot) - frame.y, up: true, fromRight: false };
    case 'bottom right':
      return { x: right - title.width, y: foot, width: Math.min(width, frame.width - title.width), height: frame.height, up: true, fromRight: true };
    default:
      return { x: right, y: title.y, width, height: title.y - frame.y, up: true, fromRight: true };
  }
}

/** How many rows each block has: as few blocks as hold them, of as even height as rows allow. */
function shares(heights: readonly number[], room: number, least: number): number[] {
  const greedy = (limit: number): number[] => {
    const out = [0];
    let used = 0;
    for (const h of heights) {
      if (used + h > limit + 1e-9 && out.at(-1)! > 0) {
        out.push(0);
        used = 0;
      }
      used += h;
      out[out.length - 1]!++;
    }
    return out;
  };
  const blocks = Math.max(least, greedy(Math.max(room, 0)).length);
  if (blocks === 1) return [heights.length];
  const even = Math.ceil(heights.length / blocks);
  // Rows of one height are shared by their number: each block but the last has as many.
  if (heights.every((h) => Math.abs(h - heights[0]!) < 1e-9))
    return Array.from({ length: blocks }, (_, k) => Math.max(0, Math.min(even, heights.length - k * even))).filter((n, k) => n > 0 || k === 0);
  let [low, high] = [heights.reduce((a, b) => a + b, 0) / blocks, room];
  for (let i = 0; i < 20 && high > low; i++) {
    const middle = (low + high) / 2;
    if (greedy(middle).length <= blocks) high = middle;
    else low = middle;
  }
  return greedy(high);
}

/** The rows that a list shows: all, or its even share of them. */
export function listRows(list: ListRecord, count: number): { from: number; to: number } {
  const { part, of } = list.share ?? { part: 1, of: 1 };
  const even = Math.ceil(count / of);
  return { from: Math.min(count, (part - 1) * even), to: Math.min(count, part * even) };
}

/** How many sheets with nothing but the list it takes. */
export function sheetsForList(list: ListRecord, scene: Scene): number {
  const { frame } = scene.page(list.sheet).geometry;
  const fits = (of: number) =>
    Array.from({ length: of }, (_, k) => listRects({ ...list, share: { part: k + 1, of } }, scene)).every((rects) => rects.every((r) => r.x >= frame.x - 1e-6));
  let of = 1;
  while (of < MOST_SHEETS && !fits(of)) of++;
  return of;
}

/** Title block and parts lists of a sheet, paper mm. */
export const blocksOn = (scene: Scene, sheet: string): Rect[] => [
  titleBlockRect(scene.page(sheet).geometry, scene.one('sheet', sheet)),
  ...scene.all('list').flatMap((l) => (l.sheet === sheet ? listRects(l, scene) : [])),
];

/** What a list covers, paper mm. */
export const listRects = (list: ListRecord, scene: Scene): Rect[] => layOutList(list, scene).map((b) => b.rect);

/** How near a list snaps to where it docks, mm. */
const SNAP_MM = 5;

/** A list that is dragged: back on the title block, into a corner, or free. */
export function movedList(list: ListRecord, scene: Scene, [dx, dy]: readonly [number, number]): ListRecord {
  const rects = listRects(list, scene);
  const [x0, y0] = [Math.min(...rects.map((r) => r.x)) + dx, Math.min(...rects.map((r) => r.y)) + dy];
  const [x1, y1] = [Math.max(...rects.map((r) => r.x + r.width)) + dx, Math.max(...rects.map((r) => r.y + r.height)) + dy];
  const { to } = list;
  const docked = without(list, 'at', 'to', 'corner') as ListRecord;
  if (list.at && to) return { ...list, at: [list.at[0] + dx, list.at[1] + dy], to: [to[0] + dx, to[1] + dy] };
  const { geometry } = scene.page(list.sheet);
  const { frame } = geometry;
  const title = titleBlockRect(geometry, scene.one('sheet', list.sheet));
  const [right, foot] = [frame.x + frame.width, frame.y + frame.height];
  const near = (a: number, b: number) => Math.abs(a - b) < SNAP_MM;
  if (near(x1, right) && near(y1, title.y)) return docked;
  const [left, top] = [near(x0, frame.x), near(y0, frame.y)];
  const [toRight, below] = [near(x1, right), near(y1, foot)];
  if (left && top) return { ...docked, corner: 'top left' };
  if (toRight && top) return { ...docked, corner: 'top right' };
  if (left && (below || (near(y1, title.y) && x1 > title.x))) return { ...docked, corner: 'bottom left' };
  if (below && near(x1, title.x)) return { ...docked, corner: 'bottom right' };
  return { ...docked, at: [x0, y0] };
}
