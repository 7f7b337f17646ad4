import { readFileSync } from 'node:fs';
import type { Assembly } from '../../core/assembly/assembly.ts';
import { componentsOf } from '../../core/assembly/components.ts';
import type { PartGeometry } from '../../core/assembly/part-geometry.ts';
import { checkCancel, QuarryError, type Cancel } from '../../core/base/errors.ts';
import { writeDrawing } from '../../core/document/file.ts';
import { recordsOf, type DrawingDocument } from '../../core/document/records.ts';
import { plainPull, pullsOf } from '../../core/explode/records.ts';
import { planSpread } from '../../core/explode/plan.ts';
import { spreadHits } from '../../core/explode/spread-hits.ts';
import type { Pull } from '../../core/explode/spread.ts';
import { unpackFeatures } from '../../core/features/part-features.ts';
import { arranged } from '../../core/guide/arrange.ts';
import { guideColumns } from '../../core/guide/columns.ts';
import { partArts } from '../../core/guide/part-art.ts';
import { guideOf, type GuideWords } from '../../core/guide/guide.ts';
import { PICTURE_ROOM } from '../../core/guide/pages.ts';
import { StepPainter, type StepPicture } from '../../core/guide/picture.ts';
import { buildOrder } from '../../core/guide/steps.ts';
import { frontOf } from '../../core/document/front.ts';
import { sideFrame } from '../../core/outline/directions.ts';
import { sceneOf } from '../../core/outline/scene-of.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { changeWords, compareDrawings, compareTables, type Difference } from '../../core/revision/compare-drawings.ts';
import { num } from '../../core/picture/shapes.ts';
import { svgItems } from '../../core/picture/svg-items.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { numberText } from '../../core/ledger/items.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import { composeSheet } from '../../elements/compose.ts';
import { Scene, type SpreadHits } from '../../elements/scene.ts';
import { writeApartHtml } from '../../formats/apart-html.ts';
import { writeCsv } from '../../formats/csv.ts';
import { listAsTable, sheetsAsPdf, sheetsAsPng, sheetsAsSvg } from '../../formats/drawing-files.ts';
import { guideAsPdf } from '../../formats/guide-files.ts';
import { writeGuideHtml } from '../../formats/guide-html.ts';
import type { PackageFile } from '../../formats/package.ts';
import { spreadAsGltf } from '../../formats/spread-gltf.ts';
import { findingsTable } from '../../formats/findings-table.ts';
import { stepPictures } from '../../formats/step-pictures.ts';
import { writeXlsx } from '../../formats/tables.ts';
import { fromStored } from '../stored-result.ts';
import { applySteps } from '../../core/document/steps.ts';
import { issueSteps } from '../../elements/revisions/issue.ts';
import type { DifferenceTask, GuideTask, IssueMade, IssueTask, Packed, PackedDrawing } from './geometry-tasks.ts';

type Geometries = ReadonlyMap<string, PartGeometry>;
const text = (s: string) => new TextEncoder().encode(s);

function sceneIn({ assembly, document, results, features }: PackedDrawing, hits?: SpreadHits): { scene: Scene; results: Map<string, ViewResult> } {
  const views = new Map<string, ViewResult>(results.map(([id, b]) => [id, fromStored(b)!]));
  return { scene: new Scene({ document, assembly, results: views, features: featuresIn(features), hits }), results: views };
}

const featuresIn = (features: Packed) =>
  new Map(
    features.flatMap(([key, b]) => {
      const f = unpackFeatures(b);
      return f ? [[key, f] as const] : [];
    }),
  );

/** The order of building that a drawing's spread says, or a planned one where it has none. */
function pullsFor(assembly: Assembly, document: DrawingDocument, geometries: Geometries, cancel: Cancel): readonly Pull[] {
  const spreads = recordsOf(document, 'spread');
  const wanted = recordsOf(document, 'guide')[0]?.spread;
  const spread = spreads.find((s) => s.id === wanted) ?? spreads[0];
  const pulls = spread ? pullsOf(spread, componentsOf(assembly)).map(plainPull) : [];
  return pulls.length ? pulls : planSpread(assembly, sceneOf(assembly, geometries), { frame: sideFrame(frontOf(document), 'isometric'), cancel }).pulls;
}

/**
 * Every file of an issue. Findings that must be put right and were not accepted stop it.
 * @throws QuarryError ISSUE_STOPPED, CANCELLED
 */
export async function makeIssue(task: IssueTask, geometries: Geometries, cancel: Cancel, tell: (share: number) => void): Promise<IssueMade> {
  const { assembly, outputs } = task;
  // The workbook says what spreads pass through as Proof does.
  const present = sceneIn(task, outputs.includes('findings') ? spreadHits(task.document, assembly, geometries, cancel) : undefined);
  const { results } = present;
  const steps = issueSteps(present.scene, task.words, task.place);
  const applied = applySteps(task.document, steps);
  if (!applied.ok) throw new QuarryError('STEP_DOES_NOT_FIT', { reason: applied.reason });
  const { document } = applied;
  const scene = present.scene.with(document);
  const open = findingsOf(scene).filter((f) => f.severity === 'must' && !f.accepted);
  if (open.length) throw new QuarryError('ISSUE_STOPPED', { count: open.length, first: open[0]!.text });
  const wanted = new Set(outputs);
  const font = new Uint8Array(readFileSync(task.fontFile));
  const files: PackageFile[] = [];
  const add = (what: string, ending: string, bytes: Uint8Array) => files.push({ name: task.names.replace('{what}', what) + ending, bytes });
  const step = () => {
    checkCancel(cancel);
    tell(Math.min(0.95, files.length / Math.max(1, wanted.size)));
  };
  const sheets = scene.sheets.map((s) => composeSheet(scene, s.id));
  const how = { ...task.sheets, ...(task.kind === 'review' ? { watermark: 'FOR REVIEW' } : {}) };
  if (wanted.has('pdf')) add('drawing', '.pdf', await sheetsAsPdf(document, sheets, results, font, how));
  step();
  if (wanted.has('sheets'))
    for (const i of sheets.keys()) add(`sheet-${i + 1}`, '.pdf', await sheetsAsPdf(document, sheets, results, font, { ...how, only: [i] }));
  if (wanted.has('half')) add('half-size', '.pdf', await sheetsAsPdf(document, sheets, results, font, { ...how, print: { mode: 'half', bar: true } }));
  step();
  if (wanted.has('png'))
    for (const i of sheets.keys()) {
      const [png] = sheetsAsPng(sheets, results, task.fontFile, task.dpi, { ...task.sheets, only: [i] });
      add(`sheet-${i + 1}`, '.png', png!);
      checkCancel(cancel);
    }
  step();
  if (wanted.has('svg')) sheetsAsSvg(sheets, results, font).forEach((svg, i) => add(`sheet-${i + 1}`, '.svg', text(svg)));
  step();
  if (wanted.has('list')) {
    const lists = scene.all('list').filter((l) => (l.share?.part ?? 1) === 1);
    for (const [i, l] of (lists.length ? lists : [undefined]).entries()) {
      const table = listAsTable(scene, l?.id);
      const what = i === 0 ? 'parts-list' : `parts-list-${i + 1}`;
      add(what, '.xlsx', await writeXlsx('Parts list', table));
      add(what, '.csv', text(writeCsv(table)));
    }
  }
  if (wanted.has('findings')) add('findings', '.xlsx', await writeXlsx('Findings', findingsTable(scene)));
  if (wanted.has('json')) {
    add('drawing', '.json', text(writeDrawing(document)));
    add('model', '.json', text(modelJson(assembly, scene)));
  }
  step();
  const pulls = (['glb', 'steps', 'apart', 'guide'] as const).some((w) => wanted.has(w)) ? pullsFor(assembly, document, geometries, cancel) : [];
  if (wanted.has('glb')) add('apart', '.glb', await spreadAsGltf(assembly, geometries, pulls));
  step();
  if (wanted.has('steps'))
    add(
      'steps',
      '.zip',
      stepPictures(assembly, sceneOf(assembly, geometries), pulls, sideFrame(frontOf(document), 'isometric'), cancel, () => undefined),
    );
  step();
  if (wanted.has('apart')) {
    const model = { viewer: readFileSync(task.viewerFile, 'utf8'), assembly, geometries };
    add('apart', '.html', text(writeApartHtml(model, scene.drawing, pulls, sideFrame(frontOf(document), 'isometric'))));
  }
  step();
  if (wanted.has('guide')) {
    const made = makeGuide(scene, geometries, pulls, cancel, (share) => tell(0.4 + 0.5 * share));
    const { title, number, revision, date } = scene.drawing;
    const heading = { title, number, revision, date: /^\d{4}-\d\d-\d\d$/.test(date) ? date : '2000-01-01' };
    const parts = partArts(assembly, geometries);
    const model = { viewer: readFileSync(task.viewerFile, 'utf8'), assembly, geometries };
    const letters = task.pageLetterFiles.map(({ weight, file }) => ({ weight, data: new Uint8Array(readFileSync(file)) }));
    add('guide', '.html', text(writeGuideHtml(made.guide, { title: heading, pictures: made.pictures, font, letters, model, parts })));
    add('guide', '.pdf', await guideAsPdf(made.guide, heading, made.pictures, font, parts, scene.one('guide', 'guide')?.paper));
  }
  step();
  return { steps, files };
}

export function guideWords({ assembly, document }: GuideTask, geometries: Geometries, cancel: Cancel): GuideWords {
  const scene = new Scene({ document, assembly, results: new Map() });
  const guide = guideIn(scene, geometries, pullsFor(assembly, document, geometries, cancel), cancel).guide;
  const words = scene.one('guide', 'guide')?.words ?? {};
  return {
    checked: guide.checked,
    language: guide.language,
    steps: guide.steps.map((s) => ({
      key: s.key,
      number: s.number,
      where: `${s.unitName}, ${s.place} of ${s.places}`,
      text: s.text,
      own: words[s.key]?.text !== undefined,
      ownPicture: s.picture !== undefined,
      kit: s.kit.map((k) => `${k.quantity} × ${numberText(k.item)} ${k.name}`),
      checks: s.checks,
      callouts: s.callouts,
      kind: s.kind,
      parts: s.of ?? [s.key],
      moves: s.moves.length,
      unit: s.unit,
      blocked: s.blocked,
    })),
  };
}

function makeGuide(scene: Scene, geometries: Geometries, pulls: readonly Pull[], cancel: Cancel, tell: (share: number) => void) {
  const { guide, order } = guideIn(scene, geometries, pulls, cancel);
  const painter = new StepPainter(scene.assembly, geometries, order, frontOf(scene.document));
  const pictures = new Map<number, StepPicture>();
  for (const s of guide.steps) {
    checkCancel(cancel);
    pictures.set(s.number, painter.paint(s, PICTURE_ROOM));
    tell(s.number / guide.steps.length);
  }
  return { guide, pictures };
}

function guideIn(scene: Scene, geometries: Geometries, pulls: readonly Pull[], cancel: Cancel) {
  const { assembly, items, components } = scene;
  const bodies = sceneOf(assembly, geometries);
  const paths = components.map((c) => c.path);
  const record = scene.one('guide', 'guide');
  const order = arranged(buildOrder(assembly, bodies, pulls, cancel), record ?? {}, paths, assembly, bodies, cancel);
  const language = record?.language ?? 'en';
  const guide = guideOf(paths, items, order, { language, words: record?.words, columns: guideColumns(scene.ledger, language), front: frontOf(scene.document) });
  return { guide, order };
}

/** The model's structure and measures: what a drawing's JSON refers to. */
function modelJson(assembly: Assembly, scene: Scene): string {
  return `${JSON.stringify(
    {
      format: 'quarry-model',
      version: 1,
      name: assembly.name,
      unit: 'mm',
      parts: assembly.parts.map((p) => ({
        id: p.id,
        name: p.name,
        geometry: p.geometryKey,
        volumeMm3: p.volumeMm3,
        areaMm2: p.areaMm2,
        box: p.box,
        properties: p.properties,
      })),
      components: scene.components.map((c) => ({
        path: c.path,
        part: assembly.parts[c.part]!.id,
        placement: c.placement,
        item: scene.itemOf(c.index)?.number ?? null,
      })),
    },
    null,
    1,
  )}\n`;
}

/** Two states of a drawing beside each other: what changed, and each sheet in two inks. */
export function difference({ before, after }: DifferenceTask): Difference {
  const [old, now] = [sceneIn(before).scene, sceneIn(after).scene];
  const pictured = (scene: Scene) => scene.sheets.map((s) => ({ id: s.id, name: s.name, picture: composeSheet(scene, s.id) }));
  const found = compareDrawings(pictured(old), pictured(now));
  const [was, is] = [listAsTable(old), listAsTable(now)];
  const head = is[0] ?? [];
  const at = Math.max(0, now.all('list')[0]?.columns.findIndex((c) => c.key === 'description') ?? 0);
  // Rows are known by their number where the list has one.
  const number = now.all('list')[0]?.columns.findIndex((c) => c.key === 'item') ?? 0;
  const rows = compareTables(was, is, (r) => r[Math.max(0, number)] || r.join(' '));
  return {
    sheets: found.map(({ same, gone, come, ...d }) => ({ ...d, svg: inTwoInks(d, same, gone, come) })),
    rows,
    head,
    words: changeWords(found, rows, at),
  };
}

/** What stays grey, what went in one ink and dashed, what came in the other: told apart without colour too. */
function inTwoInks(
  { width, height }: { readonly width: number; readonly height: number },
  same: readonly DisplayItem[],
  gone: readonly DisplayItem[],
  come: readonly DisplayItem[],
): string {
  const inked = (items: readonly DisplayItem[], color: string, dash?: readonly number[]) =>
    svgItems(
      items.flatMap((i): DisplayItem[] => (i.kind === 'image' ? [] : [{ ...i, color, ...(dash && i.kind === 'stroke' ? { dash } : {}) } as DisplayItem])),
      () => undefined,
    );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${num(width)} ${num(height)}"><style>path{fill:none;stroke-linecap:round;stroke-linejoin:round}text{font-family:osifont,sans-serif}</style><rect width="100%" height="100%" fill="#fffefb"/><g id="same">${inked(same, '#a8a39a')}</g><g id="gone">${inked(gone, '#b3261e', [1.6, 1])}</g><g id="come">${inked(come, '#0b6e4f')}</g></svg>`;
}
