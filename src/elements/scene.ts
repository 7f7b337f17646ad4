import type { Assembly, Component } from '../core/assembly/assembly.ts';
import { componentsOf } from '../core/assembly/components.ts';
import {
  drawingOf,
  ledgerOf,
  type LedgerRecord,
  type DrawingDocument,
  type DrawingDocumentRecord,
  type DrawingRecord,
  type RecordOf,
  type RecordType,
  type SheetRecord,
  type ViewRecord,
} from '../core/document/records.ts';
import { referencesOf } from '../core/document/refs.ts';
import { itemsOf, type Item } from '../core/ledger/items.ts';
import { groupsOf, type Group } from '../core/ledger/groups.ts';
import { familyOf, type MaterialFamily } from '../core/ledger/materials.ts';
import type { Page } from '../core/sheet/page.ts';
import { formatOfSheet, pageOnFormat, type FormatOf } from './sheet/format-of.ts';
import { seenAs } from '../core/views/detail.ts';
import type { PartFeatures } from '../core/features/part-features.ts';
import { chosenK, flatKey } from '../core/flat/k-factor.ts';
import { placesInView } from '../core/features/in-view.ts';
import { threadsOf, type Thread } from '../core/thread/threads-of.ts';
import type { Hit } from '../core/explode/way-out.ts';
import type { Placement } from '../core/base/placement.ts';
import { specified } from '../core/views/view-spec.ts';
import { partOfView } from '../core/views/part-of-view.ts';
import { viewMapOf, type ViewMap } from '../core/views/view-map.ts';
import type { ViewResult } from '../core/views/compute-view.ts';

/** Everything that pictures and findings are made of. */
export interface SceneInput {
  readonly document: DrawingDocument;
  readonly assembly: Assembly;
  /** Computed views by record id; a view without one is drawn as an empty place. */
  readonly results: { get(view: string): ViewResult | undefined };
  /** Visible areas of views whose results are not at hand, mm² at 1:1 by component. */
  readonly seen?: { get(view: string): ArrayLike<number> | undefined };
  /** What is measured on parts, by geometry key, as far as it is at hand. */
  readonly features?: { get(geometry: string): PartFeatures | undefined };
  /** What pulls of spreads pass through, by spread, as far as it was checked. */
  readonly hits?: SpreadHits | undefined;
  /** Is a word spelt right? Absent: spelling is not checked. */
  readonly speller?: ((word: string) => boolean) | undefined;
}

/** By id of the spread; pulls are counted as they are made, components by index. */
export interface SpreadHits {
  get(spread: string): readonly Pick<Hit, 'pull' | 'component' | 'through'>[] | undefined;
}

/** A drawing at one moment, indexed: by type, sheet, view and path. Built once per version of the document. */
export class Scene {
  readonly document: DrawingDocument;
  readonly assembly: Assembly;
  readonly components: readonly Component[];
  readonly drawing: DrawingRecord;
  readonly ledger: LedgerRecord;
  /** In their order. */
  readonly sheets: readonly SheetRecord[];
  /** Formats that sheets of this drawing lie on, or may. */
  readonly formats: readonly SheetRecord[];
  readonly items: readonly Item[];
  private readonly results: SceneInput['results'];
  private readonly seen: SceneInput['seen'];
  /** Where features of parts come from: another object once more are at hand. */
  readonly partFeatures: SceneInput['features'];
  readonly speller: SceneInput['speller'];
  readonly hits: SceneInput['hits'];
  private readonly places = new Map<string, readonly Placement[]>();
  private readonly byType = new Map<string, DrawingDocumentRecord[]>();
  private readonly homes = new Map<string, DrawingDocumentRecord[]>();
  private readonly sections = new Map<string, ViewRecord[]>();
  private readonly details = new Map<string, ViewRecord[]>();
  private readonly arrows = new Map<string, ViewRecord[]>();
  private readonly pages = new Map<string, Page>();
  private readonly lies = new Map<string, FormatOf>();
  private readonly inOrder = new Set<readonly DrawingDocumentRecord[]>();
  private readonly paths: ReadonlyMap<string, Component>;
  private readonly itemByComponent: readonly (Item | undefined)[];
  private known: { readonly families?: readonly MaterialFamily[] } = {};

  constructor({ document, assembly, results, seen, features, speller, hits }: SceneInput) {
    this.document = document;
    this.assembly = assembly;
    this.results = results;
    this.seen = seen;
    this.partFeatures = features;
    this.speller = speller;
    this.hits = hits;
    this.components = componentsOf(assembly);
    this.drawing = drawingOf(document);
    this.ledger = ledgerOf(document);
    for (const r of Object.values(document)) {
      push(this.byType, r.type, r);
      const home = homeOf(r);
      if (home !== undefined) push(this.homes, home, r);
      if (r.type !== 'view') continue;
      // The line of a section is drawn once, not again for every detail of it.
      if (r.cut?.shownIn && !r.detail?.of && !r.off) push(this.sections, r.cut.shownIn, r);
      if (r.off) continue;
      if (r.detail?.of) push(this.details, r.detail.of, r);
      if (r.arrow && r.parent) push(this.arrows, r.parent, r);
    }
    const sheets = [...this.all('sheet')].sort((a, b) => a.order - b.order || byId(a, b));
    this.sheets = sheets.filter((s) => !s.form);
    this.formats = sheets.filter((s) => s.form);
    const { items, itemByComponent, paths } = ledgerFor(
      assembly,
      document,
      this.components,
      (['property', 'ledger', 'numbers', 'row'] as const).flatMap((type): DrawingDocumentRecord[] => this.byType.get(type) ?? []),
    );
    this.items = items;
    this.itemByComponent = itemByComponent;
    this.paths = paths;
  }

  /** The same drawing with another document. */
  with(document: DrawingDocument, results: SceneInput['results'] = this.results): Scene {
    return new Scene({
      document,
      assembly: this.assembly,
      results,
      ...(this.seen ? { seen: this.seen } : {}),
      ...(this.partFeatures ? { features: this.partFeatures } : {}),
      speller: this.speller,
      hits: this.hits,
    });
  }

  /** With a detail that is not there yet: it shows what its view shows. */
  withDetail(record: ViewRecord): Scene {
    const { results } = this;
    const of = record.detail?.of;
    return this.with({ ...this.document, [record.id]: record }, { get: (view) => results.get(view === record.id && of ? of : view) });
  }

  /** All records of a type, by id. */
  all<T extends RecordType>(type: T): readonly RecordOf<T>[] {
    return this.sorted(this.byType.get(type)) as readonly RecordOf<T>[];
  }

  /** Lists are put in order when they are asked for: most never are. */
  private sorted<R extends DrawingDocumentRecord>(list: R[] | undefined): readonly R[] {
    if (!list) return [];
    if (!this.inOrder.has(list)) {
      list.sort(byId);
      this.inOrder.add(list);
    }
    return list;
  }

  one<T extends RecordType>(type: T, id: string | null | undefined): RecordOf<T> | undefined {
    const r = id !== null && id !== undefined && Object.hasOwn(this.document, id) ? this.document[id] : undefined;
    return r?.type === type ? (r as RecordOf<T>) : undefined;
  }

  /** What stands on a sheet or belongs to a view, by id: records that go with it when it goes. */
  at(home: string): readonly DrawingDocumentRecord[] {
    return this.sorted(this.homes.get(home));
  }

  viewsOn(sheet: string): readonly ViewRecord[] {
    return this.at(sheet).filter((r): r is ViewRecord => r.type === 'view');
  }

  /** The sheet that a record is drawn on. */
  sheetOf(record: DrawingDocumentRecord): SheetRecord | undefined {
    if (record.type === 'sheet') return record;
    const home = homeOf(record);
    const at = home === undefined ? undefined : this.document[home];
    return at && this.sheetOf(at);
  }

  /** @throws RangeError for an unknown sheet */
  page(sheet: string): Page {
    let page = this.pages.get(sheet);
    if (!page) {
      const record = this.one('sheet', sheet);
      if (!record) throw new RangeError(`No sheet ${sheet}`);
      this.pages.set(sheet, (page = pageOnFormat(record, this.formatOf(sheet), this)));
    }
    return page;
  }

  /** What a sheet lies on. @throws RangeError for an unknown sheet */
  formatOf(sheet: string): FormatOf {
    let format = this.lies.get(sheet);
    if (!format) {
      const record = this.one('sheet', sheet);
      if (!record) throw new RangeError(`No sheet ${sheet}`);
      this.lies.set(sheet, (format = formatOfSheet(record, this)));
    }
    return format;
  }

  /** The sheet that fields on it speak of: on a format the first sheet that lies on it, if any does. */
  shownSheet(sheet: SheetRecord): SheetRecord | undefined {
    return sheet.form ? this.sheets.find((s) => s.format === sheet.id) : sheet;
  }

  /** What a view shows, as far as it is computed: the whole of it, or the part that is wanted. View space, model mm. */
  result(view: string): ViewResult | undefined {
    const whole = this.results.get(view);
    const record = whole && this.one('view', view);
    return record ? partOfView(whole, record) : whole;
  }

  /** The whole of what a view would show, also of what is cut off or left out. */
  whole(view: string): ViewResult | undefined {
    return this.results.get(view);
  }

  /** A view as it is seen: details take much from the view they are of. */
  seenAs(view: ViewRecord): ViewRecord {
    return view.detail ? seenAs(view, this.document) : view;
  }

  /** Visible area of each component in a view, mm² at 1:1, as far as it is known. */
  visibleArea(view: string): ArrayLike<number> | undefined {
    const record = this.one('view', view);
    // What is known of the whole of a view is not known of a part of it.
    const whole = !record?.within && !record?.gaps;
    if (record?.off) return undefined;
    return this.result(view)?.visibleArea ?? (whole ? this.seen?.get(view) : undefined);
  }

  /** What is measured on the part of a component; undefined while it is not at hand. */
  features(component: number): PartFeatures | undefined {
    return this.partFeatures?.get(this.assembly.parts[this.components[component]!.part]!.geometryKey);
  }

  /** … as a view shows it: folded or laid flat. */
  featuresIn(view: ViewRecord, component: number): PartFeatures | undefined {
    return this.featuresOfShape(component, view.laid ? LAID : '');
  }

  /** … as what a reference names has it. */
  featuresOfShape(component: number, shape: string): PartFeatures | undefined {
    const f = this.features(component);
    return shape.endsWith(LAID) ? this.flatOf(component)?.laid?.features : f;
  }

  /** What is measured on a part whose flat pattern goes by the K that someone chose for it, if anyone did. */
  flatOf(component: number): PartFeatures | undefined {
    const item = this.itemOf(component);
    const k = item && chosenK(this.document, item.part, item.values.material.text);
    const laid = k === undefined ? undefined : this.partFeatures?.get(flatKey(this.assembly.parts[this.components[component]!.part]!.geometryKey, k));
    return laid ?? this.features(component);
  }

  /** Names the shape of which a view shows edges: those of a flat pattern are others than those of the part. */
  shapeIn(view: ViewRecord, component: number): string {
    return `${this.assembly.parts[this.components[component]!.part]!.geometryKey}${view.laid ? LAID : ''}`;
  }

  private knownThreads: readonly Thread[] | undefined;

  /** Screw threads of the model: those that were set, and those that are recognised. */
  get threads(): readonly Thread[] {
    return (this.knownThreads ??= threadsFor(this));
  }

  /** Where the components are in a view: placements into its axes (x right, y up, z towards the reader), model mm. */
  placed(view: ViewRecord): readonly Placement[] {
    let places = this.places.get(view.id);
    if (!places) this.places.set(view.id, (places = placesInView(specified(view, this.document, this.assembly).spec, this.components)));
    return places;
  }

  map(view: ViewRecord): ViewMap {
    return viewMapOf(view);
  }

  /** Sections whose cutting plane a view shows. */
  sectionsShownIn(view: string): readonly ViewRecord[] {
    return this.sorted(this.sections.get(view)) as readonly ViewRecord[];
  }

  /** Details of a view: their outlines are drawn on it. */
  detailsOf(view: string): readonly ViewRecord[] {
    return this.sorted(this.details.get(view)) as readonly ViewRecord[];
  }

  /** Views that an arrow on this one stands for. */
  arrowsOn(view: string): readonly ViewRecord[] {
    return this.sorted(this.arrows.get(view)) as readonly ViewRecord[];
  }

  component(path: string): Component | undefined {
    return this.paths.get(path);
  }

  itemOf(component: number | undefined): Item | undefined {
    return component === undefined ? undefined : this.itemByComponent[component];
  }

  itemAt(path: string): Item | undefined {
    return this.itemOf(this.paths.get(path)?.index);
  }

  /** Sub-assemblies as rows of lists, in the order of the tree. */
  get groups(): readonly Group[] {
    return groupsOf(this.assembly, this.document, this.items);
  }

  /** Material family of each component, for the hatching. */
  get families(): readonly MaterialFamily[] {
    if (!this.known.families) {
      const families: MaterialFamily[] = [];
      for (const i of this.items) for (const c of i.components) families[c] = familyOf(i.values.material.text);
      this.known = { families };
    }
    return this.known.families!;
  }
}

/** After the key of a part's geometry: its flat pattern. */
const LAID = '~laid';

const NO_THREADS: readonly Thread[] = [];

interface Threads {
  readonly parts: unknown;
  readonly items: unknown;
  readonly records: readonly RecordOf<'thread'>[];
  readonly threads: readonly Thread[];
}

const threads = new WeakMap<Assembly, Threads>();

/** Threads depend on the model, on names in the ledger and on what was set by hand: as long as those stay, they stay. */
function threadsFor(scene: Scene): readonly Thread[] {
  const { assembly, components, partFeatures, items } = scene;
  if (!partFeatures) return NO_THREADS;
  const records = scene.all('thread');
  const known = threads.get(assembly);
  if (
    known &&
    known.parts === partFeatures &&
    known.items === items &&
    known.records.length === records.length &&
    records.every((r, i) => r === known.records[i])
  )
    return known.threads;
  const found = threadsOf({
    assembly,
    components,
    features: partFeatures,
    names: (c) => {
      const part = assembly.parts[components[c]!.part]!;
      const item = scene.itemOf(c);
      return [item?.values.description.text ?? '', components[c]!.name, part.name, ...Object.values(part.properties)];
    },
    byHand: records.map((r) => ({
      geometry: r.face.geometry,
      face: r.face.face,
      designation: r.designation,
      lengthMm: r.lengthMm,
      none: r.designation === '',
    })),
  });
  threads.set(assembly, { parts: partFeatures, items, records, threads: found });
  return found;
}

const byId = (a: { readonly id: string }, b: { readonly id: string }) => (a.id < b.id ? -1 : 1);

function push<V>(map: Map<string, V[]>, key: string, value: V): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

const homes = new WeakMap<DrawingDocumentRecord, { readonly id: string | undefined }>();

/** What a record stands on: the first record it goes with. Records are replaced, never changed: it is looked for once. */
export function homeOf(record: DrawingDocumentRecord): string | undefined {
  let known = homes.get(record);
  if (!known) {
    const held = referencesOf(record).find(({ reference: r }) => r.to === 'record' && r.whenGone === 'dropWith');
    homes.set(record, (known = { id: held?.value as string | undefined }));
  }
  return known.id;
}

interface Ledger {
  readonly records: readonly DrawingDocumentRecord[];
  readonly items: readonly Item[];
  readonly itemByComponent: readonly (Item | undefined)[];
  readonly paths: ReadonlyMap<string, Component>;
}

const ledgers = new WeakMap<Assembly, Ledger>();

/** Items depend on the model and on few records: as long as those stay, they stay. */
function ledgerFor(assembly: Assembly, document: DrawingDocument, components: readonly Component[], records: readonly DrawingDocumentRecord[]): Ledger {
  const known = ledgers.get(assembly);
  if (known && known.records.length === records.length && records.every((r, i) => r === known.records[i])) return known;
  const items = itemsOf(assembly, document);
  const itemByComponent: (Item | undefined)[] = [];
  for (const i of items) for (const c of i.components) itemByComponent[c] = i;
  const ledger = { records, items, itemByComponent, paths: known?.paths ?? new Map(components.map((c) => [c.path, c])) };
  ledgers.set(assembly, ledger);
  return ledger;
}
