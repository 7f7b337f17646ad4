import type { Item } from '$core/ledger/items';
import { BADLY_MM2, SEEN_MM2, type CoverageCell } from '$core/proof/coverage';

export interface HeatRow {
  readonly item: Item;
  /** Largest area in one view, mm² on paper. */
  readonly most: number;
  readonly balloons: number;
}

/** Items with those first that are hard to find: seen nowhere, then badly, then without a balloon, then by number. */
export function heatRows(items: readonly Item[], cells: readonly CoverageCell[]): HeatRow[] {
  const most = new Map<number, number>();
  const balloons = new Map<number, number>();
  for (const c of cells) {
    most.set(c.item, Math.max(most.get(c.item) ?? 0, c.visibleMm2));
    if (c.balloon) balloons.set(c.item, (balloons.get(c.item) ?? 0) + 1);
  }
  const rows = items.map((item): HeatRow => ({ item, most: most.get(item.number) ?? 0, balloons: balloons.get(item.number) ?? 0 }));
  const rank = (r: HeatRow) => (r.most < SEEN_MM2 ? 0 : r.most < BADLY_MM2 ? 1 : r.balloons === 0 ? 2 : 3);
  return rows.sort((a, b) => rank(a) - rank(b) || a.item.number - b.item.number);
}

/** How dark a cell is, 0…1: areas grow by the square, and what is hardly seen shall be told from what is not. */
export const shade = (mm2: number, most: number): number => (mm2 <= 0 || most <= 0 ? 0 : Math.max(0.08, Math.log1p(mm2) / Math.log1p(most)));

/** Written in a cell: whole square millimetres, one decimal under ten. */
export const areaText = (mm2: number): string => (mm2 >= 10 ? String(Math.round(mm2)) : mm2 >= 0.05 ? mm2.toFixed(1) : '0');
