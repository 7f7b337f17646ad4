import { balloonAreaIn, proposeBalloons } from '../../elements/balloon/place/propose.ts';
import type { Assembly, Component } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { QuarryError, type Cancel } from '../base/errors.ts';
import { suggestKeptWhole } from '../cut/keep-whole.ts';
import { suggestSection } from '../cut/main-axis.ts';
import {
  PLAIN_VIEW,
  recordsOf,
  BLANK_DRAWING,
  type DrawingDocument,
  type DrawingDocumentRecord,
  type DrawingRecord,
  type ListRecord,
  type SheetRecord,
  type SpreadRecord,
  type ViewRecord,
} from '../document/records.ts';
import { planSpread, type Plan, type Stuck } from '../explode/plan.ts';
import { fitSpread } from '../explode/fit.ts';
import { heldRecord } from '../explode/held.ts';
import { pullRecord } from '../explode/records.ts';
import type { Pull } from '../explode/spread.ts';
import { itemsOf, type Item } from '../ledger/items.ts';
import { listColumnsFor } from '../ledger/list-rows.ts';
import { frameFrom, namedFrame, sameFrame, type DirectionName, type ViewFrame } from '../outline/directions.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { listRects, sheetsForList } from '../../elements/list/layout.ts';
import { viewBox } from '../shade/raster.ts';
import { groundOf, type Ground } from '../format/ground.ts';
import type { SheetFormat } from '../format/record.ts';
import { paperByName, USUAL_SIZES, scalesFor, type PaperSize, type Standard } from '../sheet/paper.ts';
import { rectOf, type Rect } from '../base/rect.ts';
import { viewRect } from '../../elements/view/draw.ts';
import { proposeDimensions } from '../../elements/dimension/propose.ts';
import type { ValueStyle } from '../dimension/value.ts';
import { featuresSource } from '../features/part-features.ts';
import { titleBlockRect } from '../sheet/page.ts';
import type { ViewResult } from '../views/compute-view.ts';
import { specOf, type ViewSpec } from '../views/view-spec.ts';
import type { Body } from '../outline/scene.ts';
import { dot } from '../base/vector.ts';
import { Scene } from '../../elements/scene.ts';
import { explodedGroups, partAlone, type ExplodedGroup } from './exploded-groups.ts';
import { smallDetails } from './small-details.ts';
import { arrangeViews, pivotPlace, principalFrames, suggestInterruptions, type Arranged, type Principal } from './arrangement.ts';
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
  /** Only the first sheet with the section, or only the exploded view with its list. */
  readonly only?: 'arrangement' | 'exploded';
  /** The sheet format that its sheets lie on; absent: the standard's own. */
  readonly format?: SheetFormat | null | undefined;
  /** How values are written. */
  readonly values?: ValueStyle;
  readonly onProgress?: (done: number, total: number, what: string) => void;
  /** Given the sheets that stand before the exploded view is planned: they can be looked at meanwhile. */
  readonly onSheets?: (first: Draft) => void;
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
  const format = usualFormat(options.sheet ?? options.format?.size, standard);
  const drafter = new Drafter(assembly, geometries, format, standard, options);
  if (drafter.components.length === 0) throw new QuarryError('EMPTY_ASSEMBLY', {});
  if (options.only !== 'exploded') await drafter.arrangement();
  // One piece cannot come apart: its sheet says all.
  if (drafter.components.length > 1 && options.only !== 'arrangement') {
    if (!options.only) options.onSheets?.(drafter.asItStands());
    await drafter.exploded();
  }
  return drafter.completed();
}

/** Of an assembly that is too large to be planned at once. */
const NO_PLAN: Pick<Plan, 'pulls' | 'stuck'> = { pulls: [], stuck: [] };
/** The size of sheets where nothing else decides: the wanted one, else the usual one. @throws QuarryError BAD_USAGE for an unknown size */
export function usualFormat(wanted: string | undefined, standard: Standard): PaperSize {
  const size = wanted ?? (standard === 'iso' ? 'A3' : 'B');
  const format = paperByName(size);
  if (!format) throw new QuarryError('BAD_USAGE', { text: `There is no sheet “${size}”. Choose A0 to A4 or A to E.` });
  return format;
}

/** Steps of a first drawing, and of a group of it. */
const STEPS = 8;
const STEPS_OF_GROUP = 2;
/** From so many items on the exploded view is shown by groups: one crowd of numbers nobody reads. */
const MANY_ITEMS = 60;
/** Balloons for which a sheet smaller than the usual one is taken. */
const MOST_ON_SMALL = 20;

/** Components of which the first drawing plans an exploded view. */
const MOST_PLANNED = 1500;
/** … and of which it is arranged for the sheet besides being tightened. */
export const MOST_FITTED = 400;

/** A list that leaves less of the sheet's width or height to the exploded view goes onto sheets of its own. */
const LEAST_SHARE_BESIDE = 0.4;

/** Distance of a section from the frame, and of its lines from the title block, mm. */
const SECTION_MARGIN = [16, 20] as const;

/** A side that is wider by this factor says more: it is the front. */
const WIDER = 1.15;

/** What the drawing says of itself, from what the file says. */
export function drawingRecordFor(assembly: Assembly, standard: Standard, options: Pick<DraftOptions, 'date' | 'values'>, front: ViewFrame): DrawingRecord {
  const p = new Map(Object.entries(assembly.properties).map(([k, v]) => [k.toLowerCase().replace(/[^a-z]/g, ''), v]));
  return {
    ...BLANK_DRAWING,
    standard,
    title: p.get('title') ?? p.get('description') ?? assembly.name,
    number: p.get('drawingnumber') ?? p.get('partnumber') ?? '',
    revision: p.get('revision') ?? 'A',
    date: options.date,
    owner: p.get('owner') ?? '',
    ...(sameFrame(front, namedFrame('front')) ? {} : { front }),
    ...(options.values ? { values: options.values } : {}),
  };
}

/** The front is the longer of the two upright sides as the machine stands. */
export function frontFor(bodies: readonly Body[]): ViewFrame {
  const width = (n: DirectionName) => {
    const [x0, , x1] = bodies.length ? viewBox(bodies, namedFrame(n)) : [0, 0, 0];
    return x1 - x0;
  };
  return namedFrame(width('right') > WIDER * width('front') ? 'right' : 'front');
}

/** A ratio of two figures at which a box fills four fifths of a room. */
function ratioThatFits(box: readonly number[], width: number, height: number): number {
  const most = 0.8 * Math.min(width / Math.max(box[2]! - box[0]!, 1e-9), height / Math.max(box[3]! - box[1]!, 1e-9));
  const power = 10 ** (Math.floor(Math.log10(most)) - 1);
  return Math.floor(most / power) * power;
}

class Drafter {
  readonly components: readonly Component[];
  private records: Record<string, DrawingDocumentRecord> = {};
  private results = new Map<string, ViewResult>();
  private readonly bodies;
  private readonly assembly: Assembly;
  private readonly geometries: ReadonlyMap<string, PartGeometry>;
  private readonly format: PaperSize;
  private readonly standard: Standard;
  private readonly ground: Ground;
  private readonly options: DraftOptions;
  /** Way up of the sheet at hand. */
  private landscape = true;
  private readonly front: ViewFrame;
  private readonly frames: Readonly<Record<Principal, ViewFrame>>;
  private order = 0;
  /** The standard's scales that come into question for a thing of this size, largest first. */
  private readonly scales: readonly number[];
  /** Size of the sheet at hand: the exploded view's may be larger. */
  private sheetFormat: PaperSize;
  /** The parts list is too long to stand beside the exploded view. */
  private listApart = false;
  private arrangementScale = 1;
  private steps = STEPS;
  private readonly computed = new Map<string, Promise<ViewResult>>();
  private done = 0;

  constructor(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>, format: PaperSize, standard: Standard, options: DraftOptions) {
    this.assembly = assembly;
    this.geometries = geometries;
    this.format = format;
    this.sheetFormat = format;
    this.standard = standard;
    this.options = options;
    this.components = componentsOf(assembly);
    this.bodies = sceneOf(assembly, geometries);
    this.front = frontFor(this.bodies);
    this.frames = principalFrames(this.front);
    const [x0, y0, x1, y1] = this.components.length ? viewBox(this.bodies, this.frames.isometric) : [0, 0, 1, 1];
    this.scales = scalesFor(standard, Math.max(x1! - x0!, y1! - y0!, 1e-9));
    this.ground = groundOf(options.format);
    this.records['drawing'] = this.ground.drawing(drawingRecordFor(assembly, standard, options, this.front));
    for (const r of this.ground.records) this.records[r.id] = r;
  }

  /**
   * Sheet 1: front, top, right and a shaded isometric; the section through the main axis stands beside them if it is not
   * much smaller there than on a sheet of its own.
   */
  async arrangement(): Promise<void> {
    const sheet = this.sheet(1, this.components.length === 1 ? 'Part' : 'General arrangement');
    const plain = ['front', 'top', 'right'] as const;
    const first = plain.map((n) => this.view(`view:${n}`, sheet.id, { front: 'Front', top: 'Top', right: 'Right' }[n], n));
    for (const v of first) void this.compute(v);
    const section = this.sectionView(sheet.id);
    void this.compute(section);
    for (const v of first) await this.put(v);
    const results = { front: this.results.get('view:front')!, top: this.results.get('view:top')!, right: this.results.get('view:right')! };
    const boxes = { front: results.front.box, top: results.top.box, right: results.right.box, isometric: viewBox(this.bodies, this.frames.isometric) };
    const geometry = this.ground.geometry(this.format, true);
    const title = titleBlockRect(geometry);
    const interruptions = suggestInterruptions(results);
    const { standard, scales } = this;
    const base = { boxes, interruptions, standard, scales, room: geometry.frame, obstacles: [title] };
    const alone = arrangeViews(base);
    const cut = await this.compute(section);
    // The sheet of one piece says all, even if smaller; else nothing there may get smaller for the section.
    const single = this.components.length === 1;
    const shared =
      alone && arrangeViews({ ...base, section: cut.box, scales: single ? scales : scales.filter((s) => s === alone.scale || s === alone.isometricScale) });
    const itsOwn = scales.find((s) => placeByMask(cut, s, geometry.frame, [title], ...SECTION_MARGIN)) ?? 0;
    const asGood = shared?.scale === alone?.scale && shared?.interrupted === alone?.interrupted && itsOwn <= 2.01 * (shared?.scale ?? 0);
    const together = shared !== undefined && (single || asGood);
    const placed = (together ? shared : alone) ?? this.inQuarters(new Map(Object.entries(boxes)), geometry.frame, title);
    this.arrangementScale = placed.scale;
    const views = [...plain, 'isometric' as const].map((n): ViewRecord => {
      const box = boxes[n];
      const gaps = placed.interrupted ? (interruptions[n] ?? []) : [];
      const scale = n === 'isometric' ? placed.isometricScale : placed.scale;
      const pivot: readonly [number, number] = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
      return {
        ...this.view(`view:${n}`, sheet.id, { front: 'Front', top: 'Top', right: 'Right', isometric: 'Isometric' }[n], n),
        scale,
        at: pivotPlace(placed.at.get(n)!, pivot, box, scale, gaps),
        pivot,
        shaded: n === 'isometric',
        ...(gaps.length ? { gaps } : {}),
        parent: n === 'top' || n === 'right' ? 'view:front' : null,
        align: n === 'top' ? 'upright' : n === 'right' ? 'level' : null,
      };
    });
    for (const v of views) this.records[v.id] = v;
    await this.put(views.at(-1)!);
    if (together) {
      const at = placed.at.get('section')!;
      this.records[section.id] = { ...section, scale: placed.scale, at, pivot: [(cut.box[0] + cut.box[2]) / 2, (cut.box[1] + cut.box[3]) / 2] };
      this.results.set(section.id, cut);
      this.step(`${section.name} drawn`);
    } else await this.sectionSheet(section, cut);
  }

  /** On a sheet too small for gaps and title block: each view in its quarter, at a ratio that fits there. */
  private inQuarters(boxes: ReadonlyMap<string, readonly number[]>, frame: Rect, title: Rect): Arranged {
    const first = this.standard === 'iso';
    const grid = {
      front: [first ? 1 : 0, first ? 0 : 1],
      right: [first ? 0 : 1, first ? 0 : 1],
      top: [first ? 1 : 0, first ? 1 : 0],
      isometric: [first ? 0 : 1, first ? 1 : 0],
    } as const;
    const [width, height] = [frame.width / 2, Math.max(title.y - frame.y, frame.height / 2) / 2];
    const names = ['front', 'right', 'top', 'isometric'] as const;
    const scale = Math.min(...names.map((n) => ratioThatFits(boxes.get(n)!, width, height)));
    const at = new Map(names.map((n) => [n, [frame.x + width * (grid[n][0] + 0.5), frame.y + height * (grid[n][1] + 0.5)] as const]));
    return { scale, isometricScale: scale, at, interrupted: false };
  }

  /** A full section through the main axis. */
  private sectionView(sheet: string): ViewRecord {
    const { plane } = suggestSection(this.bodies, this.front);
    const kept = suggestKeptWhole(this.assembly, this.components, this.bodies, plane);
    const edgeOn = (['top', 'front', 'right'] as const).find((n) => Math.abs(dot(this.frames[n].toward, plane.normal)) < 0.02);
    return {
      ...this.view('view:section', sheet, 'Section A–A', 'front'),
      ...frameFrom(plane.normal, Math.abs(dot(plane.normal, this.frames.top.toward)) > 0.9 ? this.frames.top.up : this.frames.front.up),
      label: true,
      cut: {
        normal: plane.normal,
        d: plane.d,
        letter: 'A',
        keptWhole: kept.map((k) => this.components[k.component]!.path),
        shownIn: edgeOn ? `view:${edgeOn}` : null,
      },
    };
  }

  /** The section on a sheet of its own: the smallest on which it stands at the scale it has on the usual one. */
  private async sectionSheet(section: ViewRecord, result: ViewResult): Promise<void> {
    const placeOn = (format: PaperSize, landscape: boolean, scale: number) => {
      const geometry = this.ground.geometry(format, landscape);
      return placeByMask(result, scale, geometry.frame, [titleBlockRect(geometry)], SECTION_MARGIN[0], SECTION_MARGIN[1]);
    };
    const scale = this.scales.find((s) => placeOn(this.format, true, s));
    const smaller =
      this.options.sheet === undefined
        ? USUAL_SIZES.filter((f) => f.standard === this.standard && f.long < this.format.long).sort((a, b) => a.long - b.long)
        : [];
    const found =
      scale === undefined
        ? undefined
        : smaller.flatMap((f) => [true, false].map((landscape) => ({ f, landscape }))).find(({ f, landscape }) => placeOn(f, landscape, scale));
    const usual = this.sheetFormat;
    [this.sheetFormat, this.landscape] = found ? [found.f, found.landscape] : [this.format, true];
    const sheet = this.sheet(2, 'Section');
    await this.placeAlone({ ...section, sheet: sheet.id }, ...SECTION_MARGIN);
    [this.sheetFormat, this.landscape] = [usual, true];
  }

  /** Sheet 3: the exploded isometric with balloons, and the parts list. */
  async exploded(): Promise<void> {
    const frame = this.frames.isometric;
    const cancel = this.options.cancel ? { cancel: this.options.cancel } : {};
    // Of very large assemblies the plan takes minutes: it is left to the Explode stage, where it can be watched and stopped.
    const small = this.components.length <= MOST_PLANNED;
    const items = itemsOf(this.assembly, this.records);
    const groups = items.length >= MANY_ITEMS ? explodedGroups(this.assembly, this.components, this.bodies, items) : [];
    // The views of the groups are computed while the whole is planned.
    const planned = groups.length > 1 ? this.planGroups(groups) : [];
    const plan = small ? planSpread(this.assembly, this.bodies, { frame, ...cancel }) : NO_PLAN;
    this.step(small ? 'exploded view planned' : 'exploded view left together');
    const view: ViewRecord = { ...this.view('view:exploded', 'sheet:3', 'Exploded view', 'isometric'), spread: 'spread:1', pullLines: true };
    const result = await this.spreadOn(view, plan.pulls, plan.stuck);
    this.sheetFormat = this.formatForExploded(result, items.length);
    if (!this.hasRoomBeside(items.length)) {
      this.listApart = true;
      this.sheetFormat = this.formatForExploded(result, items.length);
    }
    // Gaps are wanted on paper: the distances follow the sheet's scale.
    const room = roomBeside(this.ground.geometry(this.sheetFormat, this.landscape).frame, this.listRects(items.length));
    // What is only an overview is not fitted: its groups are.
    if (this.components.length <= MOST_FITTED && items.length < MANY_ITEMS) {
      const ways = plan.pulls.map((p) => p.ways);
      const fit = fitSpread(this.bodies, plan.pulls, { frame, room, scales: this.scales, ways, ...cancel });
      await this.spreadOn(view, fit.pulls, plan.stuck);
    }
    const sheet = this.sheet(3, this.listApart ? 'Exploded view' : 'Exploded view and parts list');
    if (!this.listApart) this.records['list:1'] = this.list(1, sheet.id);
    const blocks = this.listRects(items.length);
    await this.placeAlone(view, EXPLODED_MARGIN, EXPLODED_MARGIN, blocks);
    const missing = planned.length ? await this.explodedByGroups(planned) : this.balloons('view:exploded', items, blocks);
    this.balloonsElsewhere(missing);
    this.step('balloons placed');
    if (this.listApart) this.listSheets();
  }

  /** Plans each group of parts by itself and asks for its exploded view. */
  private planGroups(groups: readonly ExplodedGroup[]) {
    const frame = this.frames.isometric;
    const cancel = this.options.cancel ? { cancel: this.options.cancel } : {};
    this.steps += STEPS_OF_GROUP * groups.length;
    return groups.map((group, n) => {
      const { assembly, bodies, whole, held } = partAlone(this.assembly, this.components, this.bodies, group.components);
      // As for the whole: what would take minutes is left to the Explode stage.
      const plan = bodies.length <= MOST_PLANNED ? planSpread(assembly, bodies, { frame, ...cancel }) : NO_PLAN;
      const spread = `spread:${n + 2}`;
      const view: ViewRecord = {
        ...this.view(`view:exploded-${n + 1}`, `sheet:exploded-${n + 1}`, group.name, 'isometric'),
        spread,
        pullLines: true,
        shows: { only: true, of: group.components.map((c) => this.components[c]!.path) },
      };
      const drawn = this.spreadOn(view, whole(plan.pulls), held(plan.stuck), spread, group.name);
      this.step(`${group.name} planned`);
      return { group, bodies, whole, held, plan, spread, view, drawn };
    });
  }

  /** An exploded view for each group on a sheet of its own, with the balloons of its items; returns those that show no edge there. */
  private async explodedByGroups(planned: ReturnType<Drafter['planGroups']>): Promise<Item[]> {
    const frame = this.frames.isometric;
    const cancel = this.options.cancel ? { cancel: this.options.cancel } : {};
    const missing: Item[] = [];
    const usual = this.sheetFormat;
    const fitted = [];
    for (const of of planned) {
      const { group, bodies, whole, held, plan, spread, view } = of;
      [this.sheetFormat, this.landscape] = [this.format, true];
      const result = await of.drawn;
      this.sheetFormat = this.formatForExploded(result, 0, group.items.length);
      const blocks = this.listRects(0);
      if (bodies.length <= MOST_FITTED) {
        const room = roomBeside(this.ground.geometry(this.sheetFormat, this.landscape).frame, blocks);
        const ways = plan.pulls.map((p) => p.ways);
        const fit = fitSpread(bodies, plan.pulls, { frame, room, scales: this.scales, ways, ...cancel });
        void this.spreadOn(view, whole(fit.pulls), held(plan.stuck), spread, group.name);
      }
      fitted.push({ group, view, blocks, paper: [this.sheetFormat, this.landscape] as const });
    }
    for (const [n, { group, view, blocks, paper }] of fitted.entries()) {
      [this.sheetFormat, this.landscape] = paper;
      this.sheet(`exploded-${n + 1}`, `Exploded view: ${group.name}`);
      await this.placeAlone(view, EXPLODED_MARGIN, EXPLODED_MARGIN, blocks);
      missing.push(...this.balloons(view.id, group.items, blocks));
    }
    [this.sheetFormat, this.landscape] = [usual, true];
    return missing;
  }

  /** What the exploded view does not show may be seen in the section, else in another view. */
  private balloonsElsewhere(items: readonly Item[]): void {
    let missing = items;
    for (const id of ['view:section', 'view:isometric', 'view:front', 'view:top', 'view:right']) {
      const view = this.records[id];
      if (view?.type !== 'view' || !missing.length) continue;
      const sheet = this.records[view.sheet] as SheetRecord;
      [this.sheetFormat, this.landscape] = [paperByName(sheet.size)!, sheet.landscape];
      const beside = recordsOf(this.records, 'view').filter((v) => v.sheet === view.sheet && v.id !== id);
      const standing = beside.map((v) => rectOf(viewRect(v, this.results.get(v.id))));
      missing = this.balloons(id, missing, [titleBlockRect(this.ground.geometry(this.sheetFormat, this.landscape)), ...standing]);
    }
    [this.sheetFormat, this.landscape] = [this.format, true];
  }

  private scene(): Scene {
    const features = featuresSource(this.geometries);
    return new Scene({ document: { ...this.records }, assembly: this.assembly, results: this.results, features });
  }

  /** What would be given away were this all, without changing it: balloons to come may still take room. */
  asItStands(): Draft {
    const [records, results] = [this.records, this.results];
    [this.records, this.results] = [{ ...records }, new Map(results)];
    const draft = this.completed();
    [this.records, this.results] = [records, results];
    return draft;
  }

  /** With what is put onto views when they stand. */
  completed(): Draft {
    this.centrelines();
    this.dimensions();
    this.details();
    return { document: this.records, results: this.results };
  }

  /** Centrelines of whatever is round in plain views and sections; pictorials have none. */
  private centrelines(): void {
    for (const id of ['view:front', 'view:top', 'view:right', 'view:section'])
      if (this.records[id]) this.records[`centre:${id}`] = { type: 'centre', id: `centre:${id}`, view: id, circle: null, off: [] };
  }

  /** Overall sizes, heights and distances of axes, fixing holes. */
  private dimensions(): void {
    const scene = this.scene();
    const views = ['view:front', 'view:top', 'view:right'].flatMap((id) => scene.one('view', id) ?? []);
    for (const record of proposeDimensions(scene, views, (n) => `dimension:${n + 1}`)) this.records[record.id] = record;
  }

  /** Details of what would be too small to be read; they need nothing computed. */
  private details(): void {
    const scene = this.scene();
    const views = scene.all('view').filter((v) => !v.spread && v.id !== 'view:isometric');
    for (const record of smallDetails(scene, views, (n) => `view:detail-${n + 1}`)) {
      this.records[record.id] = record;
      this.results.set(record.id, this.results.get(record.detail!.of!)!);
    }
  }

  /** Keeps a spread and computes the view that shows it. */
  private spreadOn(view: ViewRecord, pulls: readonly Pull[], stuck: readonly Stuck[], id = 'spread:1', name = 'Spread 1'): Promise<ViewResult> {
    const held = stuck.map((s) => heldRecord(s, this.components));
    const spread: SpreadRecord = { type: 'spread', id, name, pulls: pulls.map((p) => pullRecord(p, this.components)), ...(held.length ? { held } : {}) };
    this.records[spread.id] = spread;
    return this.compute(view);
  }

  /** The next size, if nobody asked for a size and it lets the exploded view be drawn larger than on this one, where it would be small. */
  private formatForExploded(result: ViewResult, rows: number, balloons = 0): PaperSize {
    if (this.options.sheet !== undefined) return this.format;
    const scaleOn = (format: PaperSize): number => {
      this.sheetFormat = format;
      const { frame } = this.ground.geometry(format, this.landscape);
      const blocks = this.listRects(rows);
      return this.scales.find((s) => placeByMask(result, s, frame, blocks, EXPLODED_MARGIN, EXPLODED_MARGIN)) ?? 0;
    };
    const here = scaleOn(this.format);
    const others = USUAL_SIZES.filter((f) => f.standard === this.format.standard).sort((a, b) => a.long - b.long);
    const larger = others.find((f) => f.long > this.format.long);
    if (here < this.arrangementScale && larger && scaleOn(larger) > here) return larger;
    // A sheet as small as it can be at that scale.
    // Many balloons want the room.
    for (const smaller of balloons > MOST_ON_SMALL ? [] : others.filter((f) => f.long < this.format.long))
      for (const landscape of [true, false]) {
        this.landscape = landscape;
        if (here > 0 && scaleOn(smaller) >= here) return smaller;
      }
    this.landscape = true;
    return this.format;
  }

  /** What an exploded view has to keep clear of: the title block, and the list unless that has sheets of its own. */
  private listRects(rows: number): Rect[] {
    const geometry = this.ground.geometry(this.sheetFormat, this.landscape);
    const blocks = this.listApart || rows === 0 ? [] : this.laidOut((list, scene) => listRects(list, scene));
    return [titleBlockRect(geometry), ...blocks];
  }

  private list(part: number, sheet: string): ListRecord {
    return { type: 'list', id: `list:${part}`, sheet, columns: listColumnsFor(this.options.standard ?? 'iso') };
  }

  /** Something about the whole list as it would stand on a sheet of the size in hand. */
  private laidOut<T>(ask: (list: ListRecord, scene: Scene) => T): T {
    const sheet: SheetRecord = { type: 'sheet', id: 'sheet:list', order: 0, name: '', ...this.paper() };
    const list = this.list(1, sheet.id);
    const document = { ...this.records, [sheet.id]: sheet, [list.id]: list };
    return ask(list, new Scene({ document, assembly: this.assembly, results: this.results }));
  }

  /** Does a list of so many rows leave enough of the sheet to the view? */
  private hasRoomBeside(rows: number): boolean {
    const { frame } = this.ground.geometry(this.sheetFormat, this.landscape);
    const [, ...lists] = this.listRects(rows);
    const { left, above } = leftBeside(frame, lists);
    return Math.max(left / frame.width, above / frame.height) >= LEAST_SHARE_BESIDE;
  }

  /** Sheets with nothing but the list, as many as it takes. */
  private listSheets(): void {
    this.sheetFormat = this.format;
    const of = this.laidOut(sheetsForList);
    for (let part = 1; part <= of; part++) {
      const sheet = this.sheet(3 + part, of > 1 ? `Parts list, ${part} of ${of}` : 'Parts list');
      this.records[`list:${part}`] = { ...this.list(part, sheet.id), ...(of > 1 ? { share: { part, of } } : {}) };
    }
  }

  /** One balloon per item in the view; returns the items that have no visible edge there. */
  private balloons(viewId: string, items: readonly Item[], obstacles: readonly Rect[]): Item[] {
    const area = balloonAreaIn(this.ground.geometry(this.sheetFormat, this.landscape).frame, obstacles, this.ground.style(this.sheetFormat).balloon);
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
    const geometry = this.ground.geometry(this.sheetFormat, this.landscape);
    const obstacles = corner ?? [titleBlockRect(geometry)];
    const result = await this.compute(view);
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

  /** Size, way up and format of the sheet at hand. */
  private paper(): Pick<SheetRecord, 'size' | 'landscape' | 'format'> {
    return { size: this.sheetFormat.name, landscape: this.landscape, ...this.ground.on };
  }

  private sheet(key: number | string, name: string): SheetRecord {
    const sheet: SheetRecord = { type: 'sheet', id: `sheet:${key}`, order: ++this.order, name, ...this.paper() };
    this.records[sheet.id] = sheet;
    return sheet;
  }

  private view(id: string, sheet: string, name: string, direction: Principal): ViewRecord {
    const { right, up, toward } = this.frames[direction];
    // Common practice: tangent edges in pictorials, where rounded parts would lose half their look without; none elsewhere.
    return { type: 'view', id, sheet, name, right, up, toward, ...PLAIN_VIEW, tangent: direction === 'isometric' };
  }

  /** What a view shows; asked for twice, it is computed once. Whoever computes may do several side by side. */
  private compute(view: ViewRecord): Promise<ViewResult> {
    const spec = specOf(view, this.records, this.components, this.assembly);
    const key = JSON.stringify(spec);
    let result = this.computed.get(key);
    if (!result) {
      this.computed.set(key, (result = this.options.compute(spec)));
      // Its failure is heard where it is waited for.
      result.catch(() => undefined);
    }
    return result;
  }

  private async put(view: ViewRecord): Promise<void> {
    this.records[view.id] = view;
    const result = await this.compute(view);
    this.results.set(view.id, result);
    this.step(`${view.name} drawn`);
  }

  private step(what: string): void {
    this.options.onProgress?.(++this.done, this.steps, what);
  }
}
