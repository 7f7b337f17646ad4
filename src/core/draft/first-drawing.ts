import { balloonAreaIn, proposeBalloons } from '../../elements/balloon/place/propose.ts';
import type { Assembly, Component } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { QuarryError, type Cancel } from '../base/errors.ts';
import { suggestKeptWhole } from '../cut/keep-whole.ts';
import { suggestSection } from '../cut/main-axis.ts';
import {
  PLAIN_VIEW,
  BLANK_DRAWING,
  type DrawingDocument,
  type DrawingDocumentRecord,
  type ListRecord,
  type SheetRecord,
  type SpreadRecord,
  type ViewRecord,
} from '../document/records.ts';
import { planSpread } from '../explode/plan.ts';
import { fitSpread } from '../explode/fit.ts';
import { pullRecord } from '../explode/records.ts';
import type { Pull } from '../explode/spread.ts';
import { itemsOf, type Item } from '../ledger/items.ts';
import { DEFAULT_LIST_COLUMNS } from '../ledger/list-rows.ts';
import { frameFrom, namedFrame, type DirectionName } from '../outline/directions.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { listBlocks, rowsPerSheet } from '../../elements/list/draw.ts';
import { viewBox } from '../shade/raster.ts';
import { formatByName, SHEET_FORMATS, scalesFor, sheetGeometry, styleFor, type SheetFormat, type Standard } from '../sheet/formats.ts';
import type { Rect } from '../base/rect.ts';
import { titleBlockRect } from '../../elements/sheet/title-block.ts';
import type { ViewResult } from '../views/compute-view.ts';
import { specOf, type ViewSpec } from '../views/view-spec.ts';
import { arrange, roomsAround, type Block } from './arrange.ts';
import { EXPLODED_MARGIN, leftBeside, roomBeside } from './room.ts';
import { placeByMask } from './place-by-mask.ts';

export interface DraftOptions {
  /** Sheet size by name. Default: A3, or B for ASME, and the exploded view on the next size when it would be too small there. */
  readonly sheet?: string;
  /** Default iso. */
  readonly standard?: Standard;
  /** Date of issue, `YYYY-MM-DD`; the core has no clock. */
  readonly date: string;
  /** Computes a view, or fetches it where it was computed before. */
  readonly compute: (spec: ViewSpec) => Promise<ViewResult>;
  readonly onProgress?: (done: number, total: number, what: string) => void;
  readonly cancel?: Cancel;
}

export interface Draft {
  readonly document: DrawingDocument;
  readonly results: ReadonlyMap<string, ViewResult>;
}

/**
 * The first drawing: three sheets that nobody had to draw.
 * @throws QuarryError EMPTY_ASSEMBLY, CANCELLED, BAD_USAGE for an unknown sheet
 */
export async function firstDrawing(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>, options: DraftOptions): Promise<Draft> {
  const standard = options.standard ?? 'iso';
  const size = options.sheet ?? (standard === 'iso' ? 'A3' : 'B');
  const format = formatByName(size);
  if (!format) throw new QuarryError('BAD_USAGE', { text: `There is no sheet “${size}”. Choose A0 to A4 or A to E.` });
  const drafter = new Drafter(assembly, geometries, format, standard, options);
  if (drafter.components.length === 0) throw new QuarryError('EMPTY_ASSEMBLY', {});
  await drafter.arrangement();
  await drafter.section();
  await drafter.exploded();
  return { document: drafter.records, results: drafter.results };
}

const STEPS = 8;

/** Components of which the first drawing plans an exploded view. */
const MOST_PLANNED = 1500;
/** … and of which it is arranged for the sheet besides being tightened. */
const MOST_FITTED = 400;

const LIST_WIDTH_MM = DEFAULT_LIST_COLUMNS.reduce((s, c) => s + c.widthMm, 0);
/** A list that leaves less of the sheet's width or height to the exploded view goes onto sheets of its own. */
const LEAST_SHARE_BESIDE = 0.4;

/** Generous first; into the corner and closer together when the title block is in the way. */
const ARRANGEMENTS = [{}, { corner: true }, { mostGapMm: 30 }, { mostGapMm: 30, corner: true }, { mostGapMm: 19, corner: true }] as const;

/** A ratio of two figures at which a box fills four fifths of a room. */
function ratioThatFits(box: readonly number[], width: number, height: number): number {
  const most = 0.8 * Math.min(width / Math.max(box[2]! - box[0]!, 1e-9), height / Math.max(box[3]! - box[1]!, 1e-9));
  const power = 10 ** (Math.floor(Math.log10(most)) - 1);
  return Math.floor(most / power) * power;
}

class Drafter {
  readonly components: readonly Component[];
  readonly records: Record<string, DrawingDocumentRecord> = {};
  readonly results = new Map<string, ViewResult>();
  private readonly bodies;
  private readonly assembly: Assembly;
  private readonly format: SheetFormat;
  private readonly standard: Standard;
  private readonly options: DraftOptions;
  private readonly landscape = true;
  /** The standard's scales that come into question for a thing of this size, largest first. */
  private readonly scales: readonly number[];
  /** Size of the sheet at hand: the exploded view's may be larger. */
  private sheetFormat: SheetFormat;
  /** The parts list is too long to stand beside the exploded view. */
  private listApart = false;
  private arrangementScale = 1;
  private done = 0;

  constructor(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>, format: SheetFormat, standard: Standard, options: DraftOptions) {
    this.assembly = assembly;
    this.format = format;
    this.sheetFormat = format;
    this.standard = standard;
    this.options = options;
    this.components = componentsOf(assembly);
    this.bodies = sceneOf(assembly, geometries);
    const [x0, y0, x1, y1] = this.components.length ? viewBox(this.bodies, namedFrame('isometric')) : [0, 0, 1, 1];
    this.scales = scalesFor(standard, Math.max(x1! - x0!, y1! - y0!, 1e-9));
    const p = new Map(Object.entries(assembly.properties).map(([k, v]) => [k.toLowerCase().replace(/[^a-z]/g, ''), v]));
    this.records['drawing'] = {
      ...BLANK_DRAWING,
      standard,
      title: p.get('title') ?? p.get('description') ?? assembly.name,
      number: p.get('drawingnumber') ?? p.get('partnumber') ?? '',
      revision: p.get('revision') ?? 'A',
      date: options.date,
      owner: p.get('owner') ?? '',
    };
  }

  /** Sheet 1: front, top, right and a shaded isometric. */
  async arrangement(): Promise<void> {
    const sheet = this.sheet(1, 'General arrangement');
    const names = ['front', 'top', 'right', 'isometric'] as const;
    const boxes = new Map(names.map((n) => [n, viewBox(this.bodies, namedFrame(n))]));
    const geometry = sheetGeometry(this.format, this.landscape);
    const title = titleBlockRect(geometry);
    const placed = this.fitArrangement(boxes, geometry.frame, title);
    this.arrangementScale = placed.scale;
    const views = names.map((n): ViewRecord => {
      const box = boxes.get(n)!;
      return {
        ...this.view(`view:${n}`, sheet.id, { front: 'Front', top: 'Top', right: 'Right', isometric: 'Isometric' }[n], n),
        scale: n === 'isometric' ? placed.isometricScale : placed.scale,
        at: placed.at.get(n)!,
        pivot: [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2],
        shaded: n === 'isometric',
        parent: n === 'top' || n === 'right' ? 'view:front' : null,
        align: n === 'top' ? 'upright' : n === 'right' ? 'level' : null,
      };
    });
    await Promise.all(views.map((v) => this.put(v)));
  }

  private fitArrangement(boxes: ReadonlyMap<string, readonly number[]>, frame: Rect, title: Rect) {
    const size = (n: string, s: number) => {
      const b = boxes.get(n)!;
      return { width: (b[2]! - b[0]!) * s, height: (b[3]! - b[1]!) * s };
    };
    // First angle puts the view from the right to the left of the front, the view from above below it; third angle the other way.
    const first = this.standard === 'iso';
    const grids = [
      { front: [first ? 1 : 0, first ? 0 : 1], right: [first ? 0 : 1, first ? 0 : 1], top: [first ? 1 : 0, first ? 1 : 0], isometric: [2, 0] },
      {
        front: [first ? 1 : 0, first ? 0 : 1],
        right: [first ? 0 : 1, first ? 0 : 1],
        top: [first ? 1 : 0, first ? 1 : 0],
        isometric: [first ? 0 : 1, first ? 1 : 0],
      },
    ] as const;
    const { scales } = this;
    for (let i = 0; i < scales.length; i++)
      for (const smaller of [0, 1])
        for (const grid of grids)
          for (const room of [frame, ...roomsAround(frame, title)]) {
            const isometricScale = scales[i + smaller];
            if (isometricScale === undefined) continue;
            const blocks: Block[] = (['front', 'right', 'top', 'isometric'] as const).map((n) => ({
              id: n,
              column: grid[n][0],
              row: grid[n][1],
              rows: 1,
              ...size(n, n === 'isometric' ? isometricScale : scales[i]!),
            }));
            for (const way of ARRANGEMENTS) {
              const at = arrange(blocks, room, [title], way);
              if (at) return { scale: scales[i]!, isometricScale, at };
            }
          }
    return this.inQuarters(boxes, frame, title, grids[1]);
  }

  /** On a sheet too small for gaps and title block: each view in its quarter, at a ratio that fits there. */
  private inQuarters(
    boxes: ReadonlyMap<string, readonly number[]>,
    frame: Rect,
    title: Rect,
    grid: Readonly<Record<'front' | 'right' | 'top' | 'isometric', readonly [number, number]>>,
  ) {
    const [width, height] = [frame.width / 2, Math.max(title.y - frame.y, frame.height / 2) / 2];
    const names = ['front', 'right', 'top', 'isometric'] as const;
    const scale = Math.min(...names.map((n) => ratioThatFits(boxes.get(n)!, width, height)));
    const at = new Map(names.map((n) => [n, [frame.x + width * (grid[n][0] + 0.5), frame.y + height * (grid[n][1] + 0.5)] as const]));
    return { scale, isometricScale: scale, at };
  }

  /** Sheet 2: a full section through the main axis. */
  async section(): Promise<void> {
    const suggestion = suggestSection(this.bodies);
    const sheet = this.sheet(2, 'Section');
    const kept = suggestKeptWhole(this.assembly, this.components, this.bodies, suggestion.plane);
    const base = this.view('view:section', sheet.id, 'Section A–A', suggestion.direction);
    const view: ViewRecord = {
      ...base,
      ...frameFrom(suggestion.plane.normal, namedFrame(suggestion.direction).up),
      label: true,
      cut: {
        normal: suggestion.plane.normal,
        d: suggestion.plane.d,
        letter: 'A',
        keptWhole: kept.map((k) => this.components[k.component]!.path),
        shownIn: suggestion.direction === 'front' ? 'view:top' : 'view:front',
      },
    };
    await this.placeAlone(view, 16, 20);
  }

  /** Sheet 3: the exploded isometric with balloons, and the parts list. */
  async exploded(): Promise<void> {
    const frame = namedFrame('isometric');
    const cancel = this.options.cancel ? { cancel: this.options.cancel } : {};
    // Of very large assemblies the plan takes minutes: it is left to the Explode stage, where it can be watched and stopped.
    const small = this.components.length <= MOST_PLANNED;
    const plan = small ? planSpread(this.assembly, this.bodies, { frame, ...cancel }) : { pulls: [] };
    this.step(small ? 'exploded view planned' : 'exploded view left together');
    const view: ViewRecord = { ...this.view('view:exploded', 'sheet:3', 'Exploded view', 'isometric'), spread: 'spread:1', pullLines: true };
    const items = itemsOf(this.assembly, this.records);
    const result = await this.spreadOn(view, plan.pulls);
    this.sheetFormat = this.formatForExploded(result, items.length);
    if (!this.hasRoomBeside(items.length)) {
      this.listApart = true;
      this.sheetFormat = this.formatForExploded(result, items.length);
    }
    // Gaps are wanted on paper: the distances follow the sheet's scale.
    const room = roomBeside(sheetGeometry(this.sheetFormat, this.landscape).frame, this.listRects(items.length));
    if (this.components.length <= MOST_FITTED) {
      const ways = plan.pulls.map((p) => p.ways);
      const fit = fitSpread(this.bodies, plan.pulls, { frame, room, scales: this.scales, ways, ...cancel });
      await this.spreadOn(view, fit.pulls);
    }
    const sheet = this.sheet(3, this.listApart ? 'Exploded view' : 'Exploded view and parts list');
    if (!this.listApart) this.records['list:1'] = { type: 'list', id: 'list:1', sheet: sheet.id, columns: DEFAULT_LIST_COLUMNS };
    const blocks = this.listRects(items.length);
    await this.placeAlone(view, EXPLODED_MARGIN, EXPLODED_MARGIN, blocks);
    const missing = this.balloons('view:exploded', items, blocks);
    // What the exploded view does not show may be seen in the section.
    this.sheetFormat = this.format;
    this.balloons('view:section', missing, [titleBlockRect(sheetGeometry(this.format, this.landscape))]);
    this.step('balloons placed');
    if (this.listApart) this.listSheets(items.length);
  }

  /** Keeps a spread and computes the view that shows it. */
  private spreadOn(view: ViewRecord, pulls: readonly Pull[]): Promise<ViewResult> {
    const spread: SpreadRecord = { type: 'spread', id: 'spread:1', name: 'Spread 1', pulls: pulls.map((p) => pullRecord(p, this.components)) };
    this.records[spread.id] = spread;
    return this.options.compute(specOf(view, this.records, this.components));
  }

  /** The next size, if nobody asked for a size and it lets the exploded view be drawn larger than on this one, where it would be small. */
  private formatForExploded(result: ViewResult, rows: number): SheetFormat {
    if (this.options.sheet !== undefined) return this.format;
    const scaleOn = (format: SheetFormat): number => {
      this.sheetFormat = format;
      const { frame } = sheetGeometry(format, this.landscape);
      const blocks = this.listRects(rows);
      return this.scales.find((s) => placeByMask(result, s, frame, blocks, EXPLODED_MARGIN, EXPLODED_MARGIN)) ?? 0;
    };
    const here = scaleOn(this.format);
    if (here >= this.arrangementScale) return this.format;
    const larger = SHEET_FORMATS.filter((f) => f.standard === this.format.standard && f.long > this.format.long).sort((a, b) => a.long - b.long)[0];
    return larger && scaleOn(larger) > here ? larger : this.format;
  }

  /** What an exploded view has to keep clear of: the title block, and the list unless that has sheets of its own. */
  private listRects(rows: number): Rect[] {
    const geometry = sheetGeometry(this.sheetFormat, this.landscape);
    const blocks = this.listApart ? [] : listBlocks(rows, LIST_WIDTH_MM, geometry, styleFor(this.sheetFormat));
    return [titleBlockRect(geometry), ...blocks.map((b) => b.rect)];
  }

  /** Does a list of so many rows leave enough of the sheet to the view? */
  private hasRoomBeside(rows: number): boolean {
    const { frame } = sheetGeometry(this.sheetFormat, this.landscape);
    const [, ...lists] = this.listRects(rows);
    const { left, above } = leftBeside(frame, lists);
    return Math.max(left / frame.width, above / frame.height) >= LEAST_SHARE_BESIDE;
  }

  /** Sheets with nothing but the list, as many as it takes. */
  private listSheets(rows: number): void {
    this.sheetFormat = this.format;
    const of = Math.ceil(rows / rowsPerSheet(LIST_WIDTH_MM, sheetGeometry(this.format, this.landscape), styleFor(this.format)));
    for (let part = 1; part <= of; part++) {
      const sheet = this.sheet(3 + part, of > 1 ? `Parts list, ${part} of ${of}` : 'Parts list');
      const list: ListRecord = { type: 'list', id: `list:${part}`, sheet: sheet.id, columns: DEFAULT_LIST_COLUMNS, ...(of > 1 ? { share: { part, of } } : {}) };
      this.records[list.id] = list;
    }
  }

  /** One balloon per item in the view; returns the items that have no visible edge there. */
  private balloons(viewId: string, items: readonly Item[], obstacles: readonly Rect[]): Item[] {
    const area = balloonAreaIn(sheetGeometry(this.sheetFormat, this.landscape).frame, obstacles, styleFor(this.sheetFormat).balloon);
    const view = this.records[viewId] as ViewRecord;
    const proposed = proposeBalloons(view, this.results.get(viewId)!, items, this.components, area, (part) => `balloon:${part}`);
    for (const { record } of proposed) this.records[record.id] = record;
    const done = new Set(proposed.map((p) => p.part));
    return items.filter((i) => !done.has(i.part));
  }

  /**
   * Gives a view the sheet's free room at the largest standard scale. Lists and title block may reach into the view's
   * box where the view itself is empty.
   */
  private async placeAlone(view: ViewRecord, marginX: number, marginY: number, corner?: readonly Rect[]): Promise<void> {
    const geometry = sheetGeometry(this.sheetFormat, this.landscape);
    const obstacles = corner ?? [titleBlockRect(geometry)];
    const result = await this.options.compute(specOf(view, this.records, this.components));
    const [x0, y0, x1, y1] = result.box;
    const { frame } = geometry;
    let place: { scale: number; at: readonly [number, number] } | undefined;
    for (const scale of this.scales) {
      const at = placeByMask(result, scale, frame, obstacles, marginX, marginY);
      if (!at) continue;
      place = { scale, at };
      break;
    }
    // A drawing on which something covers something else is better than none: the findings say so.
    place ??= { scale: ratioThatFits(result.box, frame.width, frame.height), at: [frame.x + frame.width / 2, frame.y + frame.height / 2] };
    this.records[view.id] = { ...view, ...place, pivot: [(x0 + x1) / 2, (y0 + y1) / 2] };
    this.results.set(view.id, result);
    this.step(`${view.name} drawn`);
  }

  private sheet(order: number, name: string): SheetRecord {
    const sheet: SheetRecord = { type: 'sheet', id: `sheet:${order}`, order, name, size: this.sheetFormat.name, landscape: this.landscape };
    this.records[sheet.id] = sheet;
    return sheet;
  }

  private view(id: string, sheet: string, name: string, direction: DirectionName): ViewRecord {
    const { right, up, toward } = namedFrame(direction);
    return { type: 'view', id, sheet, name, right, up, toward, ...PLAIN_VIEW };
  }

  private async put(view: ViewRecord): Promise<void> {
    this.records[view.id] = view;
    const result = await this.options.compute(specOf(view, this.records, this.components));
    this.results.set(view.id, result);
    this.step(`${view.name} drawn`);
  }

  private step(what: string): void {
    this.options.onProgress?.(++this.done, STEPS, what);
  }
}
