import { readFileSync } from 'node:fs';
import type { MessagePort } from 'node:worker_threads';
import type { Assembly } from '../../core/assembly/assembly.ts';
import { componentsOf } from '../../core/assembly/components.ts';
import { rescaleModel } from '../../core/assembly/rescale.ts';
import { guessUnitMm } from '../../core/assembly/units.ts';
import { assemblyFromMeshes, sizeOfTrees } from '../../core/assembly/mesh-tree.ts';
import type { PartGeometry } from '../../core/assembly/part-geometry.ts';
import { dot } from '../../core/base/vector.ts';
import { middleOf } from '../../core/cut/cut-scene.ts';
import { suggestForCut } from '../../core/cut/keep-whole.ts';
import { sceneOf } from '../../core/outline/scene-of.ts';
import { viewBox } from '../../core/shade/raster.ts';
import { IDENTITY } from '../../core/base/placement.ts';
import { propertiesTable } from '../../core/ledger/exchange.ts';
import { ledgerOf, type DrawingDocument } from '../../core/document/records.ts';
import { applyRecipe } from '../../core/recipe/apply.ts';
import { SHIPPED } from '../../core/recipe/shipped.ts';
import { itemsOf, numberText, type Item } from '../../core/ledger/items.ts';
import { PNG_DPI } from '../../core/picture/print.ts';
import { searchCures, type ShownCure } from '../../core/proof/cure-search.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { namedFrame } from '../../core/outline/directions.ts';
import { hiddenLines } from '../../core/outline/hidden-lines.ts';
import { composeSheet } from '../../elements/compose.ts';
import { Scene } from '../../elements/scene.ts';
import { computeView, type ViewResult } from '../../core/views/compute-view.ts';
import { checkCancel, QuarryError, type Cancel } from '../../core/base/errors.ts';
import type { ViewSpec } from '../../core/views/view-spec.ts';
import type { SolidPort } from '../../core/cut/solid-port.ts';
import { keyedGeometry } from '../../kernel/geometry-key.ts';
import { loadSolidPort } from '../../kernel/manifold.ts';
import { writeApartHtml } from '../../formats/apart-html.ts';
import { writeCsv } from '../../formats/csv.ts';
import { readCsv, readXlsx, writeXlsx } from '../../formats/tables.ts';
import { changeReport } from '../../core/revision/changes.ts';
import { matchAssemblies } from '../../core/revision/match.ts';
import { shapeTeller } from '../../core/revision/same-shape.ts';
import { featuresOf, packFeatures, unpackFeatures } from '../../core/features/part-features.ts';
import { edgeFinder, faceFinder } from '../../core/revision/edges.ts';
import { takeOver } from '../../core/revision/take-over.ts';
import { readMeshFile } from '../../formats/readers/index.ts';
import { flatAsPdf } from '../../formats/flat-pdf.ts';
import { flatAsSvg } from '../../formats/flat-svg.ts';
import { flatKey } from '../../core/flat/k-factor.ts';
import { wrapOf } from '../../core/flat/tube.ts';
import { unfold } from '../../core/flat/unfold.ts';
import { spreadAsGltf } from '../../formats/spread-gltf.ts';
import { stepPictures } from '../../formats/step-pictures.ts';
import { linesAsSvg } from '../../formats/lines-svg.ts';
import { findingsTable } from '../../formats/findings-table.ts';
import { listAsTable, sheetsAsPdf, sheetsAsPng, sheetsAsSvg } from '../../formats/drawing-files.ts';
import { fromStored, storedForm, type StoredResult } from '../stored-result.ts';
import { viewKey } from '../view-key.ts';
import { explode, type Interim } from '../../core/explode/requests.ts';
import { difference, guideWords, makeIssue } from './issue-task.ts';
import { geometriesFor, type Told } from './geometry-cache.ts';
import type {
  CompareTask,
  Comparison,
  Computing,
  DraftMessage,
  DraftReply,
  DraftTask,
  ExplodeTask,
  ExportTask,
  GeometryTask,
  GroupPictureTask,
  MeasureResult,
  MeasureTask,
  ReadResult,
  ReadTask,
  RescaleTask,
  SectionProposal,
  SectionTask,
  FlatFileTask,
  SpreadFileTask,
  ViewTask,
} from './geometry-tasks.ts';

type Of<T extends GeometryTask['type']> = Extract<GeometryTask, { type: T }>;
type Geometries = ReadonlyMap<string, PartGeometry>;

/** What this thread can do. Work on a model gets the geometry that it needs, whatever else the task carries. */
const TASKS: { readonly [T in GeometryTask['type']]: (task: Of<T>) => unknown } = {
  draft: withModel((task: Of<'draft'>, geometries) => draft(task, geometries, cancelBy(task.stop))),
  view: withModel((task: Of<'view'>, geometries) => view(task, geometries, cancelBy(task.stop))),
  section: withModel((task: Of<'section'>, geometries) => section(task, geometries)),
  explode: exploded,
  cures: withModel((task: Of<'cures'>, geometries) =>
    searchCures(task.assembly, geometries, task.document, task.part, cancelBy(task.stop), progressTo(task.geometry)).map((c): ShownCure => ({
      ...c,
      picture: `data:image/png;base64,${Buffer.from(c.picture).toString('base64')}`,
    })),
  ),
  'flat-file': withModel((task: Of<'flat-file'>, geometries) => flatFile(task, geometries)),
  'spread-file': withModel((task: Of<'spread-file'>, geometries) => spreadFile(task, geometries)),
  read: (task) => read(task, cancelBy(task.stop)),
  measure,
  compare: async (task) => compare(task, await geometriesFor(keysToCompare(task), task.geometry)),
  rescale: withModel((task: Of<'rescale'>, geometries) => rescale(task, geometries)),
  pictures: withModel((_: Of<'pictures'>, geometries) => pictures(geometries)),
  features: withModel((task: Of<'features'>, geometries) => (task.ks ? flatFeatures(task.ks, geometries) : features(geometries))),
  'group-picture': withModel((task: Of<'group-picture'>, geometries) => groupPicture(task, geometries)),
  table: ({ file }) => (/\.xlsx$/i.test(file.name) ? readXlsx(file.name, file.bytes) : readCsv(file.name, new TextDecoder().decode(file.bytes))),
  export: exportFile,
  issue: withModel((task: Of<'issue'>, geometries) => makeIssue(task, geometries, cancelBy(task.stop), progressTo(task.geometry))),
  guide: withModel((task: Of<'guide'>, geometries) => guideWords(task, geometries, cancelBy(task.stop))),
  difference,
};

function withModel<T extends Computing & { readonly assembly: Assembly }>(work: (task: T, geometries: Geometries) => unknown) {
  return async (task: T): Promise<unknown> => work(task, await geometriesFor(keysOf(task), task.geometry));
}

/** Errors cross to the caller as data: their class would be lost on the way. */
export default async function run(task: GeometryTask): Promise<unknown> {
  try {
    return await (TASKS[task.type] as (task: GeometryTask) => unknown)(task);
  } catch (e) {
    if (e instanceof QuarryError) return { failed: e.code, details: e.details };
    throw e;
  }
}

/** What both models have needs no look: it is the same. */
function keysToCompare({ before, after }: CompareTask): string[] {
  const [a, b] = [new Set(keysOf({ assembly: before })), new Set(keysOf({ assembly: after }))];
  return [...[...a].filter((k) => !b.has(k)), ...[...b].filter((k) => !a.has(k))];
}

function keysOf(task: { readonly assembly: Assembly }): string[] {
  return [...new Set(task.assembly.parts.map((p) => p.geometryKey))];
}

const cancelBy = (stop: Int32Array): Cancel => ({
  get aborted() {
    return Atomics.load(stop, 0) !== 0;
  },
});

async function draft(task: DraftTask, geometries: ReadonlyMap<string, PartGeometry>, cancel: Cancel) {
  const views = new RemoteViews(task.port);
  let stored = new Map<string, StoredResult>();
  let measured = false;
  const taken = () => {
    const given = { results: [...stored], features: measured ? [] : features(geometries) };
    [stored, measured] = [new Map(), true];
    return given;
  };
  const done = await applyRecipe(task.recipe ?? SHIPPED[0]!, task.assembly, geometries, {
    ...(task.onto ? { onto: { document: task.onto, results: new Map() } } : {}),
    standard: task.standard,
    ...(task.sheet ? { sheet: task.sheet } : {}),
    ...(task.format ? { format: task.format } : {}),
    date: task.date,
    cancel,
    compute: async (spec) => {
      const packed = await views.compute(spec);
      checkCancel(cancel);
      stored.set(viewKey(spec, task.assembly), packed);
      return fromStored(packed.data)!;
    },
    onProgress: (at, total, what) => task.port.postMessage({ progress: { at, total, what } } satisfies DraftMessage),
    onSheets: ({ document }) => task.port.postMessage({ first: { document, ...taken() } } satisfies DraftMessage),
  });
  return { document: done.document, slots: done.slots, ...taken(), pictures: task.onto ? [] : pictures(geometries) };
}

/** Pens across a small picture. */

/** Small line drawings of parts. */
function pictures(geometries: ReadonlyMap<string, PartGeometry>): (readonly [string, string])[] {
  return [...geometries].map(
    ([key, geometry]) => [key, linesAsSvg(hiddenLines([{ component: 0, geometry, placement: IDENTITY }], namedFrame('isometric')), true)] as const,
  );
}

/** What is measured on parts, to be stored. */
const features = (geometries: Geometries): [string, Uint8Array][] => [...geometries].map(([key, g]) => [key, packFeatures(featuresOf(g))]);

/** What is measured on parts laid flat with chosen Ks. */
const flatFeatures = (ks: readonly (readonly [string, number])[], geometries: Geometries): [string, Uint8Array][] =>
  ks.flatMap(([key, k]) => {
    const g = geometries.get(key);
    return g && featuresOf(g).laid ? [[flatKey(key, k), packFeatures(featuresOf(g, k))] as [string, Uint8Array]] : [];
  });

function groupPicture({ assembly, components }: GroupPictureTask, geometries: ReadonlyMap<string, PartGeometry>): string {
  const own = new Set(components);
  const bodies = sceneOf(assembly, geometries).filter((b) => own.has(b.component));
  return linesAsSvg(hiddenLines(bodies, namedFrame('isometric')), true);
}

function compare({ before, after, document, decisions, model, options }: CompareTask, geometries: ReadonlyMap<string, PartGeometry>): Comparison {
  const matching = matchAssemblies(before, after, decisions, shapeTeller(geometries));
  const doubtful = matching.doubtful.map((d) => {
    const [p, q] = [before.parts[d.before]!, after.parts[d.after]!];
    return { before: p.id, after: q.id, names: [p.name, q.name] as const, keys: [p.geometryKey, q.geometryKey] as const, why: d.why, assumed: d.assumed };
  });
  return {
    ...takeOver(before, after, document, matching, model, { ...options, edges: edgeFinder(geometries), faces: faceFinder(geometries) }),
    report: changeReport(before, after, matching, geometries),
    doubtful,
  };
}

function rescale({ assembly, unitMm }: RescaleTask, geometries: ReadonlyMap<string, PartGeometry>): ReadResult {
  const packed = new Map<string, Uint8Array>();
  const scaled = rescaleModel(assembly, geometries, unitMm, (g) => {
    const { key, packed: bytes } = keyedGeometry(g);
    packed.set(key, bytes);
    return key;
  });
  return { assembly: scaled.assembly, geometries: [...packed] };
}

/** Views that other threads compute while this one drafts. */
class RemoteViews {
  private readonly waiting = new Map<number, { resolve: (packed: StoredResult) => void; reject: (e: Error) => void }>();
  private next = 0;
  private readonly port: MessagePort;

  constructor(port: MessagePort) {
    this.port = port;
    port.on('message', (reply: DraftReply) => {
      const entry = this.waiting.get(reply.id);
      this.waiting.delete(reply.id);
      if ('packed' in reply) entry?.resolve(reply.packed);
      else entry?.reject(new QuarryError('CANCELLED', {}));
    });
  }

  compute(view: ViewSpec): Promise<StoredResult> {
    const id = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.port.postMessage({ view, id } satisfies DraftMessage);
    });
  }
}

let solids: Promise<SolidPort> | undefined;

async function view(task: ViewTask & { geometry: MessagePort }, geometries: ReadonlyMap<string, PartGeometry>, cancel: Cancel): Promise<StoredResult> {
  const port = task.spec.cut?.shape ? await (solids ??= loadSolidPort()) : undefined;
  return storedForm(computeView(task.assembly, geometries, task.spec, cancel, port, progressTo(task.geometry)));
}

async function exploded(task: ExplodeTask & Computing) {
  const progress = progressTo(task.geometry);
  const tell = (message: Interim) => ('progress' in message ? progress(message.progress) : task.geometry.postMessage(message satisfies Told));
  const geometries = await geometriesFor(keysOf(task), task.geometry);
  return explode(task.assembly, geometries, task.request, cancelBy(task.stop), tell, () => performance.now());
}

function spreadFile(task: SpreadFileTask & Computing, geometries: ReadonlyMap<string, PartGeometry>): Promise<Uint8Array> | Uint8Array {
  if (task.kind === 'apart.html') {
    const model = { viewer: readFileSync(task.viewerFile, 'utf8'), assembly: task.assembly, geometries };
    return new TextEncoder().encode(writeApartHtml(model, task.title, task.pulls, task.frame));
  }
  return task.kind === 'apart.glb'
    ? spreadAsGltf(task.assembly, geometries, task.pulls)
    : stepPictures(task.assembly, sceneOf(task.assembly, geometries), task.pulls, task.frame, cancelBy(task.stop), progressTo(task.geometry));
}

/** @throws QuarryError NOT_FOUND for a part that is neither bent from sheet nor a round tube */
function flatFile(task: FlatFileTask, geometries: ReadonlyMap<string, PartGeometry>): Promise<Uint8Array> | Uint8Array {
  const part = task.assembly.parts.find((p) => p.id === task.part);
  const geometry = part && geometries.get(part.geometryKey);
  if (!geometry) throw new QuarryError('NOT_FOUND', { what: 'The part' });
  const bent = unfold(geometry, task.k);
  const round = 'flat' in bent ? undefined : wrapOf(geometry);
  const pattern = 'flat' in bent ? bent.flat : round && 'wrap' in round ? round.wrap.pattern : undefined;
  if (!pattern) throw new QuarryError('NOT_FOUND', { what: 'A flat pattern: the part is neither bent from sheet nor a round tube. It' });
  return task.kind === 'svg'
    ? new TextEncoder().encode(flatAsSvg(task.name, pattern))
    : flatAsPdf(task.name, pattern, new Uint8Array(readFileSync(task.fontFile)));
}

/** Tells progress, not more often than anyone can see. */
function progressTo(port: MessagePort): (progress: number) => void {
  let told = performance.now();
  return (progress) => {
    if (performance.now() - told < 250) return;
    told = performance.now();
    port.postMessage({ progress } satisfies Told);
  };
}

function section(task: SectionTask, geometries: ReadonlyMap<string, PartGeometry>): SectionProposal {
  const components = componentsOf(task.assembly);
  const bodies = sceneOf(task.assembly, geometries);
  const kept = suggestForCut(task.assembly, components, bodies, task.cut);
  return {
    keptWhole: kept.map((k) => ({ path: components[k.component]!.path, why: k.why })),
    box: viewBox(bodies, task.frame),
    depths: bodies.map((b) => dot(middleOf(b), task.frame.toward)),
  };
}

async function read(task: ReadTask, cancel: Cancel): Promise<ReadResult> {
  const tree = await readMeshFile(task.file, task.beside);
  checkCancel(cancel);
  const own = tree.unitMm === undefined ? task.choices : { unitMm: tree.unitMm, up: tree.up };
  const bytes = new Map<string, Uint8Array>();
  const keyOf = (geometry: PartGeometry) => {
    const { key, packed } = keyedGeometry(geometry);
    bytes.set(key, packed);
    return key;
  };
  const { assembly } = assemblyFromMeshes(tree, own, keyOf, (done, total) => {
    checkCancel(cancel);
    task.port.postMessage([done, total]);
  });
  return { assembly, geometries: [...bytes] };
}

async function measure(task: MeasureTask): Promise<MeasureResult> {
  const trees = await Promise.all(task.files.map((f) => readMeshFile(f, [])));
  const size = { z: sizeOfTrees(trees, 'z'), y: sizeOfTrees(trees, 'y') };
  return { size, guess: { unitMm: guessUnitMm(size.z), up: trees[0]?.up ?? 'z' } };
}

/** An item with the texts of its properties, as programs want it. */
const itemAsJson = (i: Item) => ({
  number: numberText(i),
  part: i.part,
  quantity: i.quantity,
  massKg: i.massKg ?? null,
  properties: Object.fromEntries(Object.entries(i.values).map(([key, v]) => [key, v.text])),
  own: i.own,
  gaps: i.gaps,
});

async function exportFile(task: ExportTask): Promise<readonly Uint8Array[]> {
  const { assembly } = task;
  const document: DrawingDocument = task.document;
  const results = new Map<string, ViewResult>(task.results.map(([id, b]) => [id, fromStored(b)!]));
  const text = (s: string) => new TextEncoder().encode(s);
  if (task.kind === 'properties.csv' || task.kind === 'properties.xlsx') {
    const table = propertiesTable(itemsOf(assembly, document), ledgerOf(document));
    return [task.kind === 'properties.csv' ? text(writeCsv(table)) : await writeXlsx('Properties', table)];
  }
  const parts = new Map(
    task.features.flatMap(([key, b]) => {
      const f = unpackFeatures(b);
      return f ? [[key, f] as const] : [];
    }),
  );
  const scene = new Scene({ document, assembly, results, features: parts });
  if (task.kind === 'parts-list.csv' || task.kind === 'parts-list.xlsx') {
    const table = listAsTable(scene, task.list);
    return [task.kind === 'parts-list.csv' ? text(writeCsv(table)) : await writeXlsx('Parts list', table)];
  }
  if (task.kind === 'items.json') return [text(JSON.stringify(scene.items.map(itemAsJson)))];
  if (task.kind === 'findings.xlsx') return [await writeXlsx('Findings', findingsTable(scene))];
  if (task.kind === 'findings.json') return [text(JSON.stringify(findingsOf(scene)))];
  const sheets = scene.sheets.map((s) => composeSheet(scene, s.id));
  const font = new Uint8Array(readFileSync(task.fontFile));
  if (task.kind === 'png') return sheetsAsPng(sheets, results, task.fontFile, task.dpi ?? PNG_DPI.usual, task.sheets);
  return task.kind === 'pdf' ? [await sheetsAsPdf(document, sheets, results, font, task.sheets)] : sheetsAsSvg(sheets, results, font).map(text);
}
