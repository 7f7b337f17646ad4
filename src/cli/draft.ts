import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { QuarryError } from '../core/base/errors.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';
import { join } from 'node:path';
import type { Assembly } from '../core/assembly/assembly.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { writeDrawing } from '../core/document/file.ts';
import { featuresSource } from '../core/features/part-features.ts';
import { recordsOf } from '../core/document/records.ts';
import { applyRecipe } from '../core/recipe/apply.ts';
import type { SheetFormat } from '../core/format/record.ts';
import type { Recipe } from '../core/recipe/record.ts';
import { SHIPPED } from '../core/recipe/shipped.ts';
import { findFormat } from './format.ts';
import { findRecipe } from './recipe.ts';
import { findingsOf } from '../core/proof/findings.ts';
import { composeSheet } from '../elements/compose.ts';
import { Scene } from '../elements/scene.ts';
import type { Standard } from '../core/sheet/paper.ts';
import { computeView } from '../core/views/compute-view.ts';
import { writeCsv } from '../formats/csv.ts';
import { writePackage, type PackageFile } from '../formats/package.ts';
import { writeXlsx } from '../formats/tables.ts';
import { listAsTable, sheetsAsPdf, sheetsAsSvg } from '../formats/drawing-files.ts';

/** The first drawing of a model as files. */
export async function draft(args: Arguments): Promise<unknown> {
  const out = args.options.get('out');
  if (!out) throw new QuarryError('BAD_USAGE', { text: 'draft needs --out DIR.' });
  const standard = args.options.get('standard') ?? 'iso';
  if (standard !== 'iso' && standard !== 'asme') throw new QuarryError('BAD_USAGE', { text: '--standard takes iso or asme.' });
  const asked = args.options.get('recipe');
  const recipe = asked === undefined ? undefined : await findRecipe(asked);
  const lies = args.options.get('format');
  const format = lies === undefined ? undefined : await findFormat(lies);
  const m = await loadModel(args.files, args);
  await mkdir(out, { recursive: true });
  const sheet = args.options.get('sheet');
  return draftToFiles(m.assembly, m.geometries, {
    out,
    standard,
    ...(sheet ? { sheet } : {}),
    ...(recipe ? { recipe } : {}),
    ...(format ? { format } : {}),
    package: args.options.has('package'),
    timings: m.read.times,
  });
}

interface DraftFileOptions {
  readonly out: string;
  readonly sheet?: string;
  readonly standard: Standard;
  readonly recipe?: Recipe;
  readonly format?: SheetFormat;
  /** Everything in one sealed zip besides. */
  readonly package?: boolean;
  readonly timings: { readonly kernel: number; readonly read: number };
}

/** The complete first drawing set as files. */
async function draftToFiles(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>, options: DraftFileOptions): Promise<unknown> {
  const views: Record<string, number> = {};
  const start = performance.now();
  let last = start;
  const { document, results, slots } = await applyRecipe(options.recipe ?? SHIPPED[0]!, assembly, geometries, {
    standard: options.standard,
    ...(options.sheet ? { sheet: options.sheet } : {}),
    ...(options.format ? { format: options.format } : {}),
    date: new Date().toISOString().slice(0, 10),
    compute: async (spec) => computeView(assembly, geometries, spec),
    onProgress: (_done, _total, what) => {
      views[what] = Math.round(performance.now() - last);
      last = performance.now();
    },
  });
  const features = featuresSource(geometries);
  const scene = new Scene({ document, assembly, results, features });
  const { items } = scene;
  const sheets = scene.sheets.map((s) => composeSheet(scene, s.id));
  const findings = findingsOf(scene);
  const font = new Uint8Array(await readFile(join(process.cwd(), 'static/fonts/osifont.ttf')));
  const text = (s: string) => new TextEncoder().encode(s);
  const files: PackageFile[] = [
    { name: 'drawing.pdf', bytes: await sheetsAsPdf(document, sheets, results, font) },
    ...sheetsAsSvg(sheets, results, font).map((svg, i) => ({ name: `sheet-${i + 1}.svg`, bytes: text(svg) })),
    { name: 'parts-list.csv', bytes: text(writeCsv(listAsTable(scene))) },
    { name: 'drawing.json', bytes: text(writeDrawing(document)) },
  ];
  await Promise.all(files.map((f) => writeFile(join(options.out, f.name), f.bytes)));
  const packed = options.package ? await packedWith(files, scene) : undefined;
  if (packed) await writeFile(join(options.out, 'package.zip'), packed);
  const identified = new Set(findings.filter((f) => f.code === 'NOT_IDENTIFIED').flatMap((f) => f.about));
  return {
    sheets: sheets.length,
    ...(packed ? { package: 'package.zip' } : {}),
    views: recordsOf(document, 'view').length,
    balloons: recordsOf(document, 'balloon').length,
    itemsIdentified: items.length - identified.size,
    itemsTotal: items.length,
    ...(options.recipe ? { slots } : {}),
    findings,
    timingsMs: { kernel: Math.round(options.timings.kernel), read: Math.round(options.timings.read), ...views, total: Math.round(performance.now() - start) },
  };
}

async function packedWith(files: readonly PackageFile[], scene: Scene): Promise<Uint8Array> {
  const { title, number, revision, date } = scene.drawing;
  const list = { name: 'parts-list.xlsx', bytes: await writeXlsx('Parts list', listAsTable(scene)) };
  return writePackage([...files, list], { title, number, revision, date });
}
