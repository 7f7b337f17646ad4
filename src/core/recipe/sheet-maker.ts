import type { Assembly, Component } from '../assembly/assembly.ts';
import { componentsOf } from '../assembly/components.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { checkCancel } from '../base/errors.ts';
import { rectOf } from '../base/rect.ts';
import { dot } from '../base/vector.ts';
import { suggestKeptWhole } from '../cut/keep-whole.ts';
import { suggestSection } from '../cut/main-axis.ts';
import type { Plane } from '../cut/plane-cut.ts';
import {
  drawingOf,
  PLAIN_VIEW,
  recordsOf,
  sheetsOf,
  type DrawingDocumentRecord,
  type ListRecord,
  type SheetRecord,
  type ViewRecord,
} from '../document/records.ts';
import { framesFor, MOST_FITTED, usualFormat, type Draft } from '../draft/first-drawing.ts';
import { partAlone } from '../draft/exploded-groups.ts';
import { bendMark, bendRows, listedBends } from '../flat/bend-table.ts';
import { heldRecord } from '../explode/held.ts';
import { fitSpread } from '../explode/fit.ts';
import { planSpread } from '../explode/plan.ts';
import { pullRecord } from '../explode/records.ts';
import { featuresOf, featuresSource } from '../features/part-features.ts';
import { itemsOf, numberText, type Item } from '../ledger/items.ts';
import { sameMeasures, shapeTeller } from '../revision/same-shape.ts';
import { listColumnsFor } from '../ledger/list-rows.ts';
import { frameFrom, namedFrame, type ViewFrame } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { groundOf, type Ground } from '../format/ground.ts';
import { FORMAT_TYPES } from '../format/record.ts';
import { paperByName, scalesFor, USUAL_SIZES, type PaperSize, type Standard } from '../sheet/paper.ts';
import { roomBeside } from '../draft/room.ts';
import { viewBox } from '../shade/raster.ts';
import { specOf } from '../views/view-spec.ts';
import type { ViewResult } from '../views/compute-view.ts';
import { viewMapOf } from '../views/view-map.ts';
import { balloonAreaIn, proposeBalloons } from '../../elements/balloon/place/propose.ts';
import { proposeDimensions } from '../../elements/dimension/propose.ts';
import { proposePartDimensions } from '../../elements/dimension/propose-part.ts';
import { blocksOn } from '../../elements/list/layout.ts';
import { Scene } from '../../elements/scene.ts';
import { titleBlockRect } from '../sheet/page.ts';
import { viewRect } from '../../elements/view/draw.ts';
import { lettersOf, nextLetter } from '../../elements/view/letters.ts';
import type { RecipeOptions } from './apply.ts';
import { fitAlone, fitOnSheet, type Records, type Waiting } from './fit-on-sheet.ts';
import { lookAt, seenFrom, type Side } from './part-look.ts';
import type { Recipe, RecipeSheet, RecipeSlot } from './record.ts';
import { nameOf, subjectsOf, type Subject } from './subjects.ts';

/** What became of a slot. */
export interface SlotReport {
  readonly sheet: string;
  readonly name: string;
  readonly filled: boolean;
  readonly why: string;
}

type ViewSlot = Extract<RecipeSlot, { readonly want: 'view' | 'section' | 'exploded view' | 'part views' | 'arrangement' | 'flat pattern' }>;
interface Wanted extends Waiting {
  readonly balloons: boolean;
  readonly dimensions: boolean;
  readonly centrelines: boolean;
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
const SIDE_NAMES: Readonly<Record<Side, string>> = { right: 'Right', left: 'Left', top: 'Top', bottom: 'Bottom' };

/** Makes the sheets of a recipe one by one. */
export class SheetMaker {
  readonly components: readonly Component[];
  readonly records: Record<string, DrawingDocumentRecord>;
  readonly results: Map<string, ViewResult>;
  readonly slots: SlotReport[] = [];
  private readonly bodies: readonly Body[];
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
    this.bodies = sceneOf(assembly, geometries);
    this.features = featuresSource(geometries);
    this.items = itemsOf(assembly, records);
    const [first] = sheetsOf(records);
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
    const subjects = subjectsOf(sheet, this.assembly, this.components, this.records, this.items, (c) => this.laid(c) !== undefined);
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
    for (const subject of subjects) {
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
    return sheetsOf(this.records).some((s) => s.from?.recipe === this.recipe.name && s.from.sheet === index && s.from.of === subject.id);
  }

  private async fill(from: RecipeSheet, index: number, subject: Subject, name: string, mirrored: readonly Subject[]): Promise<void> {
    const ground = this.groundFor(from.format);
    const id = this.freshId('sheet');
    const order = Math.max(0, ...sheetsOf(this.records).map((s) => s.order)) + 1;
    const said: SlotReport[] = [];
    const say = (slot: RecipeSlot, filled: boolean, why: string) => said.push({ sheet: name, name: slot.name, filled, why });
    const wanted: Wanted[] = [];
    const own: Record<string, DrawingDocumentRecord> = {};
    const keep = (r: DrawingDocumentRecord) => (own[r.id] = r);
    if (mirrored.length) {
      const said = (s: Subject) => `${s.item ? numberText(s.item) : ''} ${s.name}`.trim();
      const text = `As drawn: ${said(subject)}\nOpposite hand: ${mirrored.map(said).join(', ')}`;
      keep({ type: 'note', id: this.freshId('note', own), view: null, sheet: id, at: this.tablePlace(from), text });
    }
    for (const slot of from.slots) {
      switch (slot.want) {
        case 'list': {
          const columns = slot.like?.columns ?? listColumnsFor(this.options.standard);
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
          const laid = subject.components.length === 1 ? this.laid(subject.components[0]!) : undefined;
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
        default: {
          const made = await this.viewsFor(slot, subject, id, wanted, own);
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
    const scales = scalesFor(this.options.standard, Math.max(1e-9, ...wanted.map(({ result: { box } }) => Math.max(box[2] - box[0], box[3] - box[1]))));
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
    for (const w of wanted.filter((x) => x.centrelines)) {
      const centre = `centre:${w.view.id}`;
      this.records[centre] = { type: 'centre', id: centre, view: w.view.id, circle: null, off: [] };
    }
    this.balloons(made.sheet, wanted, subject);
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

  /** Views of a slot, or why there are none. */
  private async viewsFor(
    slot: ViewSlot,
    subject: Subject,
    sheet: string,
    before: readonly Wanted[],
    own: Record<string, DrawingDocumentRecord>,
  ): Promise<Wanted[] | string> {
    const part = subject.components.length === 1 && this.components.length > 1;
    const shows = subject.id === 'whole' ? {} : { shows: { only: true, of: subject.components.map((c) => this.components[c]!.path) } };
    const bodies = this.bodies.filter((b) => subject.components.includes(b.component));
    if (!bodies.length) return 'It has no geometry.';
    const besides = {
      balloons: 'balloons' in slot && slot.balloons === true,
      dimensions: 'dimensions' in slot && slot.dimensions === true,
      centrelines: 'centrelines' in slot && slot.centrelines === true,
    };
    const taken = new Set(before.map((w) => w.view.id));
    const view = (name: string, frame: ViewFrame, more: Partial<ViewRecord> = {}): ViewRecord => {
      const id = this.freshId('view', own, taken);
      taken.add(id);
      return { type: 'view', id, sheet, name, ...frame, ...PLAIN_VIEW, ...shows, ...more };
    };
    const computed = async (list: readonly (Omit<Wanted, 'result'> & { readonly view: ViewRecord })[]): Promise<Wanted[]> => {
      const doc = { ...this.records, ...own, ...Object.fromEntries(list.map((w) => [w.view.id, w.view])) };
      const results = await Promise.all(list.map((w) => this.options.compute(specOf(w.view, doc, this.components))));
      return list.map((w, i) => ({ ...w, result: results[i]! }));
    };
    const letter = () => nextLetter(new Set([...lettersOf(new Scene({ document: this.records, assembly: this.assembly, results: new Map() }))]));
    switch (slot.want) {
      case 'part views': {
        if (subject.components.length !== 1) return 'It is more than one part.';
        return computed(this.partViews(subject, view, besides, letter));
      }
      case 'view':
      case 'arrangement': {
        const frames = part ? this.framesOfPart(subject) : framesFor(bodies);
        if (slot.want === 'arrangement') {
          const front = view('Front', frames.front);
          const list = [
            { view: front, ...besides },
            { view: view('Top', frames.top, { parent: front.id, align: 'upright' }), side: 'top' as const, ...besides },
            { view: view('Right', frames.right, { parent: front.id, align: 'level' }), side: 'right' as const, ...besides },
            { view: view('Isometric', frames.isometric, { shaded: true, tangent: true }), pictorial: true as const, ...besides },
          ];
          return computed(list);
        }
        const frame = slot.axes ?? (slot.look ? ((frames as Readonly<Record<string, ViewFrame>>)[slot.look] ?? sideOf(frames.front, slot.look)) : frames.front);
        const parent = slot.beside === undefined ? undefined : before[slot.beside]?.view;
        const side = parent && sideBetween(parent, frame);
        const more: Partial<ViewRecord> = {
          ...(slot.hidden ? { hidden: true } : {}),
          ...(slot.tangent ? { tangent: true } : {}),
          ...(slot.shaded ? { shaded: true } : {}),
          ...(parent && side ? { parent: parent.id, align: side === 'left' || side === 'right' ? ('level' as const) : ('upright' as const) } : {}),
        };
        const pictorial = [frame.toward, frame.right, frame.up].every((v) => v.every((x) => Math.abs(x) < 1 - 1e-6));
        return computed([{ view: view(slot.name, frame, more), ...besides, ...(side ? { side } : {}), ...(pictorial ? { pictorial: true as const } : {}) }]);
      }
      case 'flat pattern': {
        const laid = subject.components.length === 1 ? this.laid(subject.components[0]!) : undefined;
        if (!laid) return 'It is no bent sheet part.';
        const frame: ViewFrame = { right: [1, 0, 0], up: [0, 1, 0], toward: [0, 0, 1] };
        return computed([{ view: view(slot.name, frame, { laid: true, tangent: true }), ...besides }]);
      }
      case 'section': {
        const { plane } = suggestSection(bodies);
        const kept =
          subject.components.length > 1
            ? suggestKeptWhole(this.assembly, this.components, this.bodies, plane).filter((k) => subject.components.includes(k.component))
            : [];
        const l = letter();
        const line = before.find((w) => !w.view.cut && !w.view.spread && Math.abs(dot(w.view.toward, plane.normal)) < 0.02);
        const frame = frameFrom(plane.normal, Math.abs(plane.normal[2]) > 0.9 ? [0, 1, 0] : [0, 0, 1]);
        const cut = this.cut(
          plane,
          l,
          line?.view.id ?? null,
          kept.map((k) => this.components[k.component]!.path),
        );
        return computed([{ view: view(`Section ${l}–${l}`, frame, { label: true, cut }), ...besides }]);
      }
      case 'exploded view': {
        if (subject.components.length < 2) return 'One piece cannot come apart.';
        const frame = namedFrame('isometric');
        const { assembly, bodies: alone, whole, held } = partAlone(this.assembly, this.components, this.bodies, subject.components);
        const plan = planSpread(assembly, alone, { frame, ...(this.options.cancel ? { cancel: this.options.cancel } : {}) });
        if (!plan.pulls.length) return 'Nothing in it comes apart.';
        const paper = this.groundFor(undefined).geometry(this.format, true);
        const room = roomBeside(paper.frame, [titleBlockRect(paper)]);
        const scales = scalesFor(this.options.standard, Math.max(1e-9, ...viewBox(alone, frame).map(Math.abs)));
        const fit = alone.length <= MOST_FITTED ? fitSpread(alone, plan.pulls, { frame, room, scales, ways: plan.pulls.map((p) => p.ways) }) : plan;
        const spread = this.freshId('spread', own);
        const stuck = held(plan.stuck).map((s) => heldRecord(s, this.components));
        own[spread] = {
          type: 'spread',
          id: spread,
          name: subject.name || 'Spread',
          pulls: whole(fit.pulls).map((p) => pullRecord(p, this.components)),
          ...(stuck.length ? { held: stuck } : {}),
        };
        return computed([{ view: view(slot.name, frame, { spread, pullLines: true, tangent: true, ...(slot.shaded ? { shaded: true } : {}) }), ...besides }]);
      }
    }
  }

  private cut(plane: Plane, letter: string, shownIn: string | null, keptWhole: readonly string[] = []): NonNullable<ViewRecord['cut']> {
    return { normal: plane.normal, d: plane.d, letter, keptWhole, shownIn };
  }

  /** The fewest views of a part. */
  private partViews(
    subject: Subject,
    view: (name: string, frame: ViewFrame, more?: Partial<ViewRecord>) => ViewRecord,
    besides: Pick<Wanted, 'balloons' | 'dimensions' | 'centrelines'>,
    letter: () => string,
  ): (Omit<Wanted, 'result'> & { readonly view: ViewRecord })[] {
    const look = this.lookOf(subject);
    const out: (Omit<Wanted, 'result'> & { view: ViewRecord })[] = [];
    const l = letter();
    const front = view('Front', look.front);
    out.push({ view: front, ...besides });
    for (const n of look.neighbours) {
      const level = n.from === 'left' || n.from === 'right';
      out.push({ view: view(SIDE_NAMES[n.from], n.frame, { parent: front.id, align: level ? 'level' : 'upright' }), side: n.from, ...besides });
    }
    if (look.frontCut) {
      const endOn = out.find((w) => w.side)?.view;
      // Its line is drawn where the axis is seen end-on; without such a view the section speaks for itself.
      out[0] = { ...out[0]!, view: { ...front, name: `Section ${l}–${l}`, label: true, cut: this.cut(look.frontCut, l, endOn?.id ?? null) } };
    } else if (look.section) {
      const { from, frame, plane } = look.section;
      const level = from === 'left' || from === 'right';
      const section = view(`Section ${l}–${l}`, frame, {
        label: true,
        cut: this.cut(plane, l, front.id),
        parent: front.id,
        align: level ? 'level' : 'upright',
      });
      out.push({ view: section, side: from, ...besides });
    }
    const none = { balloons: false, dimensions: false, centrelines: false };
    out.push({ view: view('Isometric', look.pictorial, { shaded: true, tangent: true }), pictorial: true, ...none });
    return out;
  }

  /** The flat pattern of a component, if it is bent from sheet. */
  private laid(component: number) {
    return this.features.get(this.assembly.parts[this.components[component]!.part]!.geometryKey)?.laid;
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
      const laid = view && this.laid(subject.components[0]!);
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

  private lookOf(subject: Subject) {
    const c = this.components[subject.components[0]!]!;
    const geometry = this.geometries.get(this.assembly.parts[c.part]!.geometryKey)!;
    return lookAt(featuresOf(geometry), c.placement);
  }

  private framesOfPart(subject: Subject) {
    const { front, pictorial } = this.lookOf(subject);
    return { front, top: seenFrom(front, 'top'), right: seenFrom(front, 'right'), isometric: pictorial };
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

/** A look by name from a front: those that the principal views do not have. */
function sideOf(front: ViewFrame, look: string): ViewFrame {
  if (look === 'left' || look === 'bottom') return seenFrom(front, look);
  const back = (v: ViewFrame['up']): ViewFrame['up'] => [-v[0], -v[1], -v[2]];
  return { right: back(front.right), up: front.up, toward: back(front.toward) };
}

/** From which side of its parent something is seen; undefined when it is not in line with it. */
function sideBetween(parent: ViewFrame, { toward }: ViewFrame): Side | undefined {
  const [x, y] = [dot(toward, parent.right), dot(toward, parent.up)];
  if (x > 1 - 1e-6) return 'right';
  if (x < -1 + 1e-6) return 'left';
  if (y > 1 - 1e-6) return 'top';
  return y < -1 + 1e-6 ? 'bottom' : undefined;
}
