import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Assembly } from '../core/assembly/assembly.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { writeDrawing } from '../core/document/file.ts';
import { featuresSource } from '../core/features/part-features.ts';
import { recordsOf } from '../core/document/records.ts';
import { firstDrawing } from '../core/draft/first-drawing.ts';
import { findingsOf } from '../core/proof/findings.ts';
import { composeSheet } from '../elements/compose.ts';
import { Scene } from '../elements/scene.ts';
import type { Standard } from '../core/sheet/formats.ts';
import { computeView } from '../core/views/compute-view.ts';
import { writeCsv } from '../formats/csv.ts';
import { listAsTable, sheetsAsPdf, sheetsAsSvg } from '../formats/drawing-files.ts';

export interface DraftFileOptions {
  readonly out: string;
  readonly sheet?: string;
  readonly standard: Standard;
  readonly timings: { readonly kernel: number; readonly read: number };
}

/** The complete first drawing set as files. */
export async function draftToFiles(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>, options: DraftFileOptions): Promise<unknown> {
  const views: Record<string, number> = {};
  const start = performance.now();
  let last = start;
  const { document, results } = await firstDrawing(assembly, geometries, {
    standard: options.standard,
    ...(options.sheet ? { sheet: options.sheet } : {}),
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
  await writeFile(join(options.out, 'drawing.pdf'), await sheetsAsPdf(document, sheets, results, font));
  const svgs = sheetsAsSvg(sheets, results, font);
  await Promise.all(svgs.map((svg, i) => writeFile(join(options.out, `sheet-${i + 1}.svg`), svg)));
  await writeFile(join(options.out, 'parts-list.csv'), writeCsv(listAsTable(scene)));
  await writeFile(join(options.out, 'drawing.json'), writeDrawing(document));
  const identified = new Set(findings.filter((f) => f.code === 'NOT_IDENTIFIED').flatMap((f) => f.about));
  return {
    sheets: sheets.length,
    views: recordsOf(document, 'view').length,
    balloons: recordsOf(document, 'balloon').length,
    itemsIdentified: items.length - identified.size,
    itemsTotal: items.length,
    findings,
    timingsMs: { kernel: Math.round(options.timings.kernel), read: Math.round(options.timings.read), ...views, total: Math.round(performance.now() - start) },
  };
}
