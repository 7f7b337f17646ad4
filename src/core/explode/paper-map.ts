import { dot, type Vec3 } from '../base/vector.ts';
import type { ViewFrame } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';
import { viewBox } from '../shade/raster.ts';
import { columnGrid, columnsOf, type ColumnGrid } from './depth-columns.ts';

/** Cells across the assembled view; the map reaches several times as far. */
const SIDE = 280;
const MAP = 2048;

/** Which places on paper are taken by components already set down, on a coarse grid in the view's direction. */
export class PaperMap {
  private readonly grid: ColumnGrid;
  private readonly masks = new Map<number, { x: Int32Array; y: Int32Array }>();
  private readonly taken = new Uint8Array(MAP * MAP);
  private readonly bodies: readonly Body[];
  private readonly frame: ViewFrame;
  private readonly margin: number;

  /** @param gap least distance on paper, mm in the model */
  constructor(bodies: readonly Body[], frame: ViewFrame, gap: number) {
    this.bodies = bodies;
    this.frame = frame;
    this.grid = columnGrid(viewBox(bodies, frame), SIDE);
    this.margin = Math.max(1, Math.round(gap / 3 / this.grid.pixelMm));
  }

  /** Cells that the components would share with those set down, if moved by `offset`. */
  overlap(components: readonly number[], offset: Vec3): number {
    const [dx, dy] = this.shift(offset);
    let n = 0;
    for (const c of components) {
      const m = this.mask(c);
      for (let i = 0; i < m.x.length; i++) n += this.taken[cell(m.x[i]! + dx, m.y[i]! + dy)] ?? 0;
    }
    return n;
  }

  put(component: number, offset: Vec3): void {
    const [dx, dy] = this.shift(offset);
    const m = this.mask(component);
    for (let i = 0; i < m.x.length; i++)
      for (let a = -this.margin; a <= this.margin; a++)
        for (let b = -this.margin; b <= this.margin; b++) this.taken[cell(m.x[i]! + dx + a, m.y[i]! + dy + b)] = 1;
  }

  private shift(offset: Vec3): [number, number] {
    return [Math.round(dot(offset, this.frame.right) / this.grid.pixelMm), Math.round(dot(offset, this.frame.up) / this.grid.pixelMm)];
  }

  private mask(component: number): { x: Int32Array; y: Int32Array } {
    let m = this.masks.get(component);
    if (!m) {
      const c = columnsOf(this.bodies[component]!, this.frame, this.grid);
      const x: number[] = [];
      const y: number[] = [];
      for (let i = 0; i < c.high.length; i++)
        if (c.high[i]! > -Infinity) {
          x.push(c.x0 + (i % c.width));
          y.push(c.y0 + Math.floor(i / c.width));
        }
      m = { x: Int32Array.from(x), y: Int32Array.from(y) };
      this.masks.set(component, m);
    }
    return m;
  }
}

/** Cells may lie far outside the assembled view, on any side; what is off the map is free. */
function cell(x: number, y: number): number {
  const i = x + (MAP - SIDE) / 2;
  const j = y + (MAP - SIDE) / 2;
  return i >= 0 && j >= 0 && i < MAP && j < MAP ? j * MAP + i : -1;
}
