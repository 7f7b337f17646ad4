import type { Assembly, Component } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { checkCancel } from '../base/errors.ts';
import { overlaps, rectOf, type Rect } from '../base/rect.ts';
import { drawingOf, recordsOf, sheetsOf, type DrawingDocumentRecord, type ListRecord, type SheetRecord, type ViewRecord } from '../document/records.ts';
import { usualFormat, type Draft } from '../draft/first-drawing.ts';
import { bendMark, bendRows, listedBends } from '../flat/bend-table.ts';
import { featuresSource } from '../features/part-features.ts';
import { itemsOf, numberText, type Item } from '../ledger/items.ts';
import { sameMeasures, shapeTeller } from '../revision/same-shape.ts';
import { listColumnsFor } from '../ledger/list-rows.ts';
import { groundOf, type Ground } from '../format/ground.ts';
import { FORMAT_TYPES } from '../format/record.ts';
import { ISO_FORM } from '../sheet/form.ts';
import { ownSizeName, paperByName, scalesFor, USUAL_SIZES, type PaperSize, type SheetGeometry, type Standard } from '../sheet/paper.ts';
import type { ViewResult } from '../views/compute-view.ts';
import { viewMapOf } from '../views/view-map.ts';
import { balloonAreaIn, proposeBalloons } from '../../elements/balloon/place/propose.ts';
import { proposeDimensions } from '../../elements/dimension/propose.ts';
import { proposePartDimensions } from '../../elements/dimension/propose-part.ts';
import { blocksOn } from '../../elements/list/layout.ts';
import { Scene } from '../../elements/scene.ts';
import { viewRect } from '../../elements/view/draw.ts';
import type { RecipeOptions } from './apply.ts';
import { oppositeHandText } from './opposite-hand.ts';
import { fitAlone, fitOnSheet, type Records } from './fit-on-sheet.ts';
import type { Recipe, RecipeSheet, RecipeSlot } from './record.ts';
import { nameOf, subjectsOf, type Subject } from './subjects.ts';
import { drawPositions, type PositionsRecord } from '../../elements/positions/draw.ts';
import { holesIn } from '../../elements/positions/holes-in.ts';
import { standingOn } from '../../elements/place.ts';
import { SlotViews, VIEW_SLOTS, type ViewSlot, type Wanted } from './slot-views.ts';

/** What became of a slot. */
export interface SlotReport {
  readonly sheet: string;
  readonly name: string;
  readonly filled: boolean;
  readonly why: string;
}

/** A bend table in the corner of its sheet, mm. */
const BEND_WIDTHS_MM = [14, 14, 22, 20, 26, 24] as const;
const TABLE_AIR_MM = 6;
/** Where along a bend line its mark stands, and how far off it, mm. */
const MARK_AT = 0.2;
const MARK_OFF_MM = 1.2;
const MARK_MM = 2.5;
/** The name of a flat pattern stands so far off it, mm: past the first row of dimensions. */
const NAME_OFF_MM = 24;
const NAME_MM = 3.5;
const STANDS = 'It stands already.';
/** Types of records on which items and title blocks depend: a scene of one sheet has them all. */
const COMMON = new Set(['drawing', 'ledger', 'numbers', 'property', 'row', 'thread', 'model']);

const NONE_SHARED = { done: new Set<Subject>(), sheets: [] } as const;
/** Over each part of several on a sheet stands what it is, mm. */
const CAPTION_MM = 12;
/** Edges of a sheet around its frame (ISO 5457), mm: a cell is placed as the frame of a sheet so much larger. */
const CELL_EDGES = {
  left: ISO_FORM.edges.left,
  top: ISO_FORM.edges.top,
  across: ISO_FORM.edges.left + ISO_FORM.edges.right,
  down: ISO_FORM.edges.top + ISO_FORM.edges.bottom,
};

/** Cells for so many parts above the title block, row by row. */
function cellsOf({ frame, title }: SheetGeometry, count: number): Rect[] {
  const columns = count <= 4 ? 2 : 3;
  const rows = Math.ceil(count / columns);
  const [width, height] = [frame.width / columns, ((title.height > 0 ? title.y : frame.y + frame.height) - frame.y) / rows];
  return Array.from({ length: count }, (_, i) => ({
    x: frame.x + (i % columns) * width,
    y: frame.y + Math.floor(i / columns) * height + CAPTION_MM,
    width,
    height: height - CAPTION_MM,
  }));
}

const isForViews = (slot: RecipeSlot): slot is ViewSlot => VIEW_SLOTS.has(slot.want);

/** Makes the sheets of a recipe one by one. */
export class SheetMaker {
  readonly components: readonly Component[];
  readonly records: Record<string, DrawingDocumentRecord>;
  readonly results: Map<string, ViewResult>;
  readonly slots: SlotReport[] = [];
  private readonly views: SlotViews;
  private readonly features;
  private readonly items: readonly Item[];
  private readonly format: PaperSize;
  private readonly recipe: Recipe;
  private readonly assembly: Assembly;
  private readonly geometries: ReadonlyMap<string, PartGeometry>;
  private readonly options: RecipeOptions & { readonly standard: Standard };
  private done = 0;

  constructor(
    recipe: Recipe,
    assembly: Assembly,
    geometries: ReadonlyMap<string, PartGeometry>,
    options: RecipeOptions & { readonly standard: Standard },
    records: Record<string, DrawingDocumentRecord>,
    results: Map<string, ViewResult>,
  ) {
    this.recipe = recipe;
    this.assembly = assembly;
    this.geometries = geometries;
    this.options = options;
    this.records = records;
    this.results = results;
    this.components = componentsOf(assembly);
    this.features = featuresSource(geometries);
    this.items = itemsOf(assembly, records);
    const [first] = sheetsOf(records);
    const { components } = this;
    this.views = new SlotViews({
      assembly,
      components,
      geometries,
      options,
      records,
      paper: () => this.groundFor(undefined).geometry(this.format, true),
      freshId: (type, own, taken) => this.freshId(type, own, taken),
    });
    this.format = usualFormat(options.sheet ?? first?.size ?? options.format?.size, options.standard);
  }

  /** What sheets lie on: the format that the recipe wants, else the one that was asked for, else that of the drawing's first sheet. */
  private groundFor(wanted: string | undefined): Ground {
    const known = new Map(recordsOf(this.records, 'sheet').flatMap((s) => (s.form ? [[s.name, s.id] as const] : [])));
    const body = this.recipe.formats?.find((f) => f.name === wanted) ?? this.options.format;
    const ground = groundOf(body, known);
    for (const r of ground.records) this.records[r.id] = r;
    this.records['drawing'] = ground.drawing(drawingOf(this.records));
    return ground;
  }

  /** Makes the sheets that one sheet of the recipe stands for. */
  async make(index: number): Promise<void> {
    const sheet = this.recipe.sheets[index]!;
    const subjects = subjectsOf(sheet, this.assembly, this.components, this.records, this.items, (c) => this.views.laid(c) !== undefined);
    if (!subjects.length) {
      const why = `The model has no ${sheet.per === 'whole' ? 'components' : sheet.per}${sheet.only ? ' that is wanted' : ''}.`;
      this.say(sheet, sheet.name, false, why);
      return;
    }
    if (sheet.per === 'made part' && this.components.length === 1 && this.records['view:front']) {
      this.say(sheet, nameOf(sheet, subjects[0]!), true, 'The arrangement is the sheet of this one part.');
      return;
    }
    const opposite = sheet.per === 'made part' ? this.opposites(subjects) : new Map<Subject, Subject>();
    const shared = sheet.together && sheet.per === 'made part' ? await this.makeTogether(sheet, index, subjects, opposite) : NONE_SHARED;
    for (const subject of subjects) {
      if (shared.done.has(subject)) continue;
      const drawn = opposite.get(subject);
      if (drawn) {
        this.say(sheet, nameOf(sheet, subject), true, `On the sheet of ${drawn.name}, opposite hand.`);
        continue;
      }
      checkCancel(this.options.cancel);
      const name = nameOf(sheet, subject);
      if (this.standing(index, subject)) this.say(sheet, name, true, STANDS);
      else {
        const mirrored = [...opposite].flatMap(([other, as]) => (as === subject ? [other] : []));
        await this.fill(sheet, index, subject, name, mirrored);
      }
      this.options.onProgress?.(++this.done, Math.max(this.done, subjects.length), name);
    }
    // Sheets of several come after those of one.
    for (const id of shared.sheets) this.records[id] = { ...(this.records[id] as SheetRecord), order: this.nextOrder() };
  }

  private nextOrder(): number {
    return Math.max(0, ...sheetsOf(this.records).map((s) => s.order)) + 1;
  }

  /** Small parts that share sheets, as many on one as the recipe lets: those that stand in a cell as large as they would alone. */
  private async makeTogether(
    from: RecipeSheet,
    index: number,
    subjects: readonly Subject[],
    opposite: ReadonlyMap<Subject, Subject>,
  ): Promise<{ readonly done: ReadonlySet<Subject>; readonly sheets: readonly string[] }> {
    const ground = this.groundFor(from.format);
    const paper = from.size ? paperByName(from.size)! : this.format;
    const cells = cellsOf(ground.geometry(paper, true), from.together!);
    const done = new Set<Subject>();
    const sheets: string[] = [];
    let batch: { readonly id: string; readonly subjects: Subject[]; readonly records: string[] } | undefined;
    const close = () => {
      if (!batch) return;
      const { id, subjects: list, records } = batch;
      batch = undefined;
      if (list.length < 2) {
        for (const r of [id, ...records]) delete this.records[r];
        return;
      }
      list.forEach((s) => done.add(s));
      sheets.push(id);
      const name = from.name.replaceAll('{subject}', list.map((s) => s.name).join(', ')).slice(0, 2000);
      const of = list.map((s) => s.id).join('\n');
      this.records[id] = { ...(this.records[id] as SheetRecord), name, from: { recipe: this.recipe.name, sheet: index, of } };
      this.slots.push(
        ...from.slots.map((s) => ({
          sheet: name,
          name: s.name,
          ...(isForViews(s) ? { filled: true, why: `${list.length} small parts on one sheet.` } : { filled: false, why: 'A sheet of several parts has none.' }),
        })),
      );
    };
    for (const subject of subjects) {
      if (opposite.has(subject) || [...opposite.values()].includes(subject) || this.standing(index, subject)) continue;
      checkCancel(this.options.cancel);
      if (!batch) {
        const id = this.freshId('sheet');
        batch = { id, subjects: [], records: [] };
        this.records[id] = { type: 'sheet', id, order: this.nextOrder(), name: from.name, size: paper.name, landscape: true, ...ground.on };
      }
      const cell = cells[batch.subjects.length]!;
      const wanted: Wanted[] = [];
      for (const slot of from.slots) {
        if (!isForViews(slot)) continue;
        const made = await this.views.viewsFor(slot, subject, batch.id, wanted, {});
        if (typeof made !== 'string') wanted.push(...made);
      }
      if (!wanted.length) continue;
      const scales = this.scalesOf(wanted);
      const [small] = this.papers(from, subject, wanted, scales);
      // In a cell as on a sheet of that size: its frame is the cell.
      const own = ownSizeName(cell.width + CELL_EDGES.across, cell.height + CELL_EDGES.down);
      if (!small || small.least === 0 || !own) continue;
      const sheet: SheetRecord = {
        type: 'sheet',
        id: batch.id,
        order: 0,
        name: '',
        size: own,
        landscape: cell.width + CELL_EDGES.across >= cell.height + CELL_EDGES.down,
        noTitle: true,
      };
      const placed = this.placed(
        sheet,
        wanted,
        {},
        subject,
        scales.filter((s) => s >= small.least),
      );
      if (!placed) continue;
      const moved = Object.values(placed).map((r) =>
        r.type === 'view' ? { ...r, at: [r.at[0] + cell.x - CELL_EDGES.left, r.at[1] + cell.y - CELL_EDGES.top] as const } : r,
      );
      const note = this.captionOf(subject, batch.id, cell);
      for (const r of [...moved, note, ...this.centrelines(wanted)]) {
        this.records[r.id] = r;
        batch.records.push(r.id);
      }
      for (const w of wanted) this.results.set(w.view.id, w.result);
      batch.subjects.push(subject);
      this.options.onProgress?.(++this.done, Math.max(this.done, subjects.length), nameOf(from, subject));
      if (batch.subjects.length === cells.length) close();
    }
    close();
    return { done, sheets };
  }

  /** What a part on a sheet of several is: number, name, drawing number, material, how many. */
  private captionOf({ item, name }: Subject, sheet: string, cell: Rect): DrawingDocumentRecord {
    const { values } = item ?? {};
    const said = [values?.drawingNumber.text, values?.material.text, item ? `${item.quantity} off` : ''].filter(Boolean).join(' · ');
    const text = `*${item ? `${numberText(item)}  ` : ''}${name}*${said ? `\n${said}` : ''}`;
    return { type: 'note', id: this.freshId('note'), view: null, sheet, at: [cell.x + 2, cell.y - CAPTION_MM + 2], text };
  }

  private centrelines(wanted: readonly Wanted[]): DrawingDocumentRecord[] {
    return wanted.flatMap((w) => (w.centrelines ? [{ type: 'centre' as const, id: `centre:${w.view.id}`, view: w.view.id, circle: null, off: [] }] : []));
  }

  private scalesOf(wanted: readonly Wanted[]): number[] {
    return scalesFor(this.options.standard, Math.max(1e-9, ...wanted.map(({ result: { box } }) => Math.max(box[2] - box[0], box[3] - box[1]))));
  }

  /** The sheet was made before: its slots say so. */
  standsAlready(index: number): void {
    const sheet = this.recipe.sheets[index]!;
    this.say(sheet, sheet.name, true, STANDS);
  }

  /** The same of every slot of a sheet. */
  private say(sheet: RecipeSheet, name: string, filled: boolean, why: string): void {
    this.slots.push(...sheet.slots.map((s) => ({ sheet: name, name: s.name, filled, why })));
  }

  /** Takes over sheets that the first drawing made for so many sheets of the recipe. */
  take(first: Draft, index: number, covers: number): void {
    const last = Math.max(0, ...sheetsOf(this.records).map((s) => s.order));
    const sheets = sheetsOf(first.document);
    // A format of that name that the drawing has already is the one.
    const there = new Map(recordsOf(this.records, 'sheet').flatMap((s) => (s.form ? [[s.name, s.id] as const] : [])));
    const same = new Map(recordsOf(first.document, 'sheet').flatMap((s) => (s.form && there.has(s.name) ? [[s.id, there.get(s.name)!] as const] : [])));
    for (const [id, r] of Object.entries(first.document)) {
      if (r.type === 'sheet' ? !r.form || same.has(id) : 'sheet' in r && same.has(r.sheet ?? '')) continue;
      if (r.type !== 'drawing' || !this.records[id]) this.records[id] = r;
      else if (r.fields) this.records[id] = { ...drawingOf(this.records), fields: { ...r.fields, ...drawingOf(this.records).fields } };
    }
    for (const s of sheets) {
      const of = first.document['view:front'] && s.order <= (recordsOf(first.document, 'view').some((v) => v.sheet === 'sheet:2') ? 2 : 1) ? 0 : covers - 1;
      const lies = s.format ? { format: same.get(s.format) ?? s.format } : {};
      this.records[s.id] = { ...s, ...lies, order: last + s.order, from: { recipe: this.recipe.name, sheet: index + of, of: 'whole' } };
    }
    for (const [id, r] of first.results) this.results.set(id, r);
    for (let k = 0; k < covers; k++) {
      const sheet = this.recipe.sheets[index + k]!;
      const filled = first.document['view:exploded'] !== undefined || !sheet.slots.some((s) => s.want === 'exploded view');
      this.say(sheet, sheet.name, filled, filled ? 'As the first drawing has it.' : 'One piece cannot come apart.');
    }
  }

  /** Parts that are mirror images of an earlier one: they share its sheet. */
  private opposites(subjects: readonly Subject[]): Map<Subject, Subject> {
    const tell = shapeTeller(this.geometries);
    const partOf = (s: Subject) => this.assembly.parts[this.components[s.components[0]!]!.part]!;
    const out = new Map<Subject, Subject>();
    subjects.forEach((s, i) => {
      const drawn = subjects.slice(0, i).find((o) => {
        if (out.has(o) || !sameMeasures(partOf(o), partOf(s))) return false;
        const verdict = tell(partOf(o), partOf(s));
        return !verdict.same && verdict.mirrored;
      });
      if (drawn) out.set(s, drawn);
    });
    return out;
  }

  /** Was it made before? */
  private standing(index: number, subject: Subject): boolean {
    return sheetsOf(this.records).some((s) => s.from?.recipe === this.recipe.name && s.from.sheet === index && s.from.of.split('\n').includes(subject.id));
  }

  private async fill(from: RecipeSheet, index: number, subject: Subject, name: string, mirrored: readonly Subject[]): Promise<void> {
    const ground = this.groundFor(from.format);
    const id = this.freshId('sheet');
    const order = this.nextOrder();
    const said: SlotReport[] = [];
    const say = (slot: RecipeSlot, filled: boolean, why: string) => said.push({ sheet: name, name: slot.name, filled, why });
    const wanted: Wanted[] = [];
    const own: Record<string, DrawingDocumentRecord> = {};
    const keep = (r: DrawingDocumentRecord) => (own[r.id] = r);
    if (mirrored.length) {
      const said = (s: Subject) => `${s.item ? numberText(s.item) : ''} ${s.name}`.trim();
      const text = oppositeHandText(said(subject), mirrored.map(said));
      keep({ type: 'note', id: this.freshId('note', own), view: null, sheet: id, at: this.tablePlace(from), text });
    }
    for (const slot of from.slots) {
      switch (slot.want) {
        case 'list': {
          const columns = slot.like?.columns ?? listColumnsFor(this.options.standard, slot.like?.rows);
          const list: ListRecord = { ...slot.like, columns, type: 'list', id: this.freshId('list', own), sheet: id };
          own[list.id] =
            subject.id === 'whole'
              ? list
              : subject.item && subject.components.length > 1
                ? { ...list, of: subject.id }
                : { ...list, view: wanted[0]?.view.id ?? null };
          say(slot, true, 'Its rows come from the ledger.');
          break;
        }
        case 'note':
          keep({ ...slot.like, type: 'note', id: this.freshId('note', own), view: null, sheet: id });
          say(slot, true, 'As it was kept.');
          break;
        case 'table':
          keep({ ...slot.like, type: 'table', id: this.freshId('table', own), sheet: id });
          say(slot, true, 'As it was kept.');
          break;
        case 'bend table': {
          const laid = subject.components.length === 1 ? this.views.laid(subject.components[0]!) : undefined;
          if (laid)
            keep({
              type: 'table',
              id: this.freshId('table', own),
              sheet: id,
              at: this.tablePlace(from),
              widths: [...BEND_WIDTHS_MM],
              rows: bendRows(listedBends(laid.bends, laid.sizeMm)),
              head: true,
            });
          say(slot, laid !== undefined, laid ? (laid.bends.length === 1 ? 'One bend.' : `${laid.bends.length} bends.`) : 'It is no bent sheet part.');
          break;
        }
        case 'hole table':
          // It is found a place when the views stand.
          break;
        default: {
          const made = await this.views.viewsFor(slot, subject, id, wanted, own);
          if (typeof made === 'string') say(slot, false, made);
          else {
            wanted.push(...made);
            say(slot, true, made.map((w) => w.view.name).join(', '));
          }
        }
      }
    }
    if (!wanted.length && !Object.values(own).some((r) => r.type === 'list')) {
      this.slots.push(...said);
      return;
    }
    const scales = this.scalesOf(wanted);
    let made: { sheet: SheetRecord; placed: Records } | undefined;
    for (const { format, landscape, least } of this.papers(from, subject, wanted, scales)) {
      const sheet: SheetRecord = {
        type: 'sheet',
        id,
        order,
        name: name.slice(0, 2000),
        size: format.name,
        landscape,
        ...ground.on,
        from: { recipe: this.recipe.name, sheet: index, of: subject.id },
        ...(from.per === 'made part' || from.per === 'bent part' ? { part: subject.id } : {}),
        ...(from.noFrame ? { noFrame: true as const } : {}),
        ...(from.noTitle ? { noTitle: true as const } : {}),
      };
      const placed = this.placed(
        sheet,
        wanted,
        own,
        subject,
        scales.filter((s) => s >= least),
      );
      if (!placed) continue;
      made = { sheet, placed };
      break;
    }
    if (!made) {
      this.slots.push(...said.map((s) => ({ ...s, filled: false, why: 'It does not fit on the sheet at any scale of the standard.' })));
      return;
    }
    Object.assign(this.records, { [id]: made.sheet }, own, made.placed);
    for (const w of wanted) this.results.set(w.view.id, w.result);
    for (const r of this.centrelines(wanted)) this.records[r.id] = r;
    this.balloons(made.sheet, wanted, subject);
    for (const slot of from.slots) if (slot.want === 'hole table') say(slot, ...this.holeTable(made.sheet, wanted));
    this.slots.push(...said);
  }

  /** Views where they go, with their dimensions. */
  private placed(sheet: SheetRecord, wanted: readonly Wanted[], own: Records, subject: Subject, scales: readonly number[]): Records | undefined {
    const common = Object.fromEntries(Object.entries(this.records).filter(([, r]) => COMMON.has(r.type)));
    const results = new Map(wanted.map((w) => [w.view.id, w.result]));
    const sheets = Object.fromEntries(recordsOf(this.records, 'sheet').map((s) => [s.id, s]));
    const format = Object.fromEntries(Object.entries(this.records).filter(([, r]) => FORMAT_TYPES.has(r.type) && 'sheet' in r && r.sheet === sheet.format));
    const scene = (records: Records) =>
      new Scene({
        document: { ...common, ...sheets, ...format, [sheet.id]: sheet, ...own, ...records },
        assembly: this.assembly,
        results,
        features: this.features,
      });
    if (!wanted.length) return {};
    const [first] = wanted;
    if (wanted.length === 1 && first!.balloons) return fitAlone(sheet, first!, scene, scales);
    const measured = wanted.filter((w) => w.dimensions && !w.pictorial);
    const said = (plain: Scene) => {
      const notes = this.patternNotes(plain, wanted, subject);
      const beside = notes.length ? plain.with({ ...plain.document, ...Object.fromEntries(notes.map((r) => [r.id, r])) }) : plain;
      return [...notes, ...this.dimensions(beside, measured, subject)];
    };
    return fitOnSheet(sheet, wanted, scene, said, scales);
  }

  private dimensions(scene: Scene, wanted: readonly Wanted[], subject: Subject): DrawingDocumentRecord[] {
    if (!wanted.length) return [];
    const views = wanted.flatMap((w) => scene.one('view', w.view.id) ?? []);
    const taken: Record<string, DrawingDocumentRecord> = {};
    const freshId = () => {
      const id = this.freshId('dimension', taken);
      taken[id] = this.records['drawing']!;
      return id;
    };
    return subject.components.length === 1 ? proposePartDimensions(scene, views, subject.components[0]!, freshId) : proposeDimensions(scene, views, freshId);
  }

  /** Sheets that come into question, and the least scale that is asked of each: for a part the smallest on which it stands as large as it should. */
  private papers(from: RecipeSheet, subject: Subject, wanted: readonly Wanted[], scales: readonly number[]) {
    const chosen = from.size ? paperByName(from.size)! : this.format;
    const usual = { format: chosen, landscape: from.landscape ?? true, least: 0 };
    if (from.size || subject.components.length !== 1 || subject.id === 'whole') return [usual];
    const estimate = (format: PaperSize, landscape: boolean) => {
      const [w, h] = landscape ? [format.long, format.short] : [format.short, format.long];
      // As a rough block: the front with what stands beside and above it, and room for sizes.
      const plain = wanted.filter((x) => !x.pictorial);
      const [front] = plain;
      const size = (x: Wanted) => [x.result.box[2] - x.result.box[0], x.result.box[3] - x.result.box[1]] as const;
      const beside = plain.filter((x) => x.side === 'left' || x.side === 'right').reduce((s, x) => s + size(x)[0], 0);
      const above = plain.filter((x) => x.side === 'top' || x.side === 'bottom').reduce((s, x) => s + size(x)[1], 0);
      const [across, up] = front ? size(front) : [1, 1];
      return scales.find((s) => (across + beside) * s < w - 110 && (up + above) * s < h - 130) ?? 0;
    };
    const best = Math.min(1, estimate(chosen, true));
    const smaller = USUAL_SIZES.filter((f) => f.standard === chosen.standard && f.long < chosen.long && f.long > 250).sort((a, b) => a.long - b.long);
    const good = smaller
      .flatMap((format) => [false, true].map((landscape) => ({ format, landscape, least: best })))
      .filter((p) => estimate(p.format, p.landscape) >= best);
    return [...good, usual];
  }

  /** Upper left corner of the frame. */
  private tablePlace(from: RecipeSheet): readonly [number, number] {
    const { frame } = this.groundFor(from.format).geometry(from.size ? paperByName(from.size)! : this.format, from.landscape ?? true);
    return [frame.x + TABLE_AIR_MM, frame.y + TABLE_AIR_MM];
  }

  /** What a flat pattern is, and beside each bend line its letter, direction and angle. */
  private patternNotes(scene: Scene, wanted: readonly Wanted[], subject: Subject): DrawingDocumentRecord[] {
    const taken = new Set<string>();
    return wanted.flatMap((w) => {
      const view = w.view.laid && scene.one('view', w.view.id);
      const laid = view && this.views.laid(subject.components[0]!);
      if (!view || !laid) return [];
      const note = (x: number, y: number, text: string, heightMm: number): DrawingDocumentRecord => {
        const id = this.freshId('note', {}, taken);
        taken.add(id);
        return { type: 'note', id, view: view.id, sheet: null, at: [x - view.at[0], y - view.at[1]], text, heightMm };
      };
      const map = viewMapOf(view);
      const box = rectOf(viewRect(view, w.result));
      const marks = listedBends(laid.bends, laid.sizeMm).map((b) => {
        // A little off the middle: that is where dimensions and holes are.
        const [p, q] = b.line;
        const [x, y] = map.toPaper([p[0] + (q[0] - p[0]) * MARK_AT, p[1] + (q[1] - p[1]) * MARK_AT]);
        return note(x + MARK_OFF_MM, y - MARK_OFF_MM - MARK_MM, bendMark(b), MARK_MM);
      });
      return [note(box.x, box.y - NAME_OFF_MM - NAME_MM, `${view.name}, ${Math.round(laid.thicknessMm * 100) / 100} thick`, NAME_MM), ...marks];
    });
  }

  /** The table of holes of the first view that sees any end-on, in a corner of the frame where nothing stands. @returns whether there is one, and why */
  private holeTable(sheet: SheetRecord, wanted: readonly Wanted[]): readonly [boolean, string] {
    const scene = new Scene({ document: this.records, assembly: this.assembly, results: this.results, features: this.features });
    const view = wanted.flatMap((w) => (w.pictorial ? [] : (scene.one('view', w.view.id) ?? []))).find((v) => holesIn(scene, v).length > 0);
    if (!view) return [false, 'No view sees a hole along its axis.'];
    const record: PositionsRecord = { type: 'positions', id: this.freshId('positions'), view: view.id, at: [0, 0] };
    const [drawn] = drawPositions(record, scene);
    if (!drawn) return [false, 'No view sees a hole along its axis.'];
    const { frame, title } = scene.page(sheet.id).geometry;
    const [x, y, width, height] = drawn.box;
    const taken = standingOn(scene, sheet.id);
    const [right, foot] = [frame.x + frame.width, frame.y + frame.height];
    const corners = [
      [right - width - TABLE_AIR_MM, frame.y + TABLE_AIR_MM],
      [frame.x + TABLE_AIR_MM, frame.y + TABLE_AIR_MM],
      [frame.x + TABLE_AIR_MM, foot - height - TABLE_AIR_MM],
      [right - width - TABLE_AIR_MM, title.y - height - TABLE_AIR_MM],
    ] as const;
    const free = corners.find(([cx, cy]) => cx >= frame.x && cy >= frame.y && !taken.some((t) => overlaps(t, { x: cx, y: cy, width, height })));
    if (!free) return [false, 'There is no corner left for it on the sheet.'];
    this.records[record.id] = { ...record, at: [free[0] - x, free[1] - y] };
    return [true, `The holes of ${view.name}.`];
  }

  /** A balloon for each item of the subject that has none on this sheet yet, each in the view that wants them. */
  private balloons(sheet: SheetRecord, wanted: readonly Wanted[], subject: Subject): void {
    const { geometry, style } = new Scene({ document: this.records, assembly: this.assembly, results: this.results }).page(sheet.id);
    const shown = new Set(subject.components);
    let missing = this.items.filter((i) => i.components.some((c) => shown.has(c))).map((i) => ({ ...i, components: i.components.filter((c) => shown.has(c)) }));
    for (const w of wanted.filter((x) => x.balloons)) {
      const scene = new Scene({ document: this.records, assembly: this.assembly, results: this.results });
      const view = scene.one('view', w.view.id);
      if (!view) continue;
      const beside = wanted.filter((x) => x !== w).map((x) => rectOf(viewRect(this.records[x.view.id] as ViewRecord, x.result)));
      const area = balloonAreaIn(geometry.frame, [...blocksOn(scene, sheet.id), ...beside], style.balloon);
      const proposed = proposeBalloons(view, w.result, missing, this.components, area, (p) => `balloon:${p}@${sheet.id}`);
      for (const { record } of proposed) this.records[record.id] = record;
      const done = new Set(proposed.map((p) => p.part));
      missing = missing.filter((i) => !done.has(i.part));
    }
  }

  private freshId(type: string, own: Records = {}, taken: ReadonlySet<string> = new Set()): string {
    for (let n = 1; ; n++) {
      const id = `${type}:r${n}`;
      if (!this.records[id] && !own[id] && !taken.has(id)) return id;
    }
  }
}
