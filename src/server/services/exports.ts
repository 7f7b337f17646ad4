import { QuarryError } from '../../core/base/errors.ts';
import type { Assembly } from '../../core/assembly/assembly.ts';
import { componentsOf } from '../../core/assembly/components.ts';
import { writeDrawing } from '../../core/document/file.ts';
import { drawingOf, recordsOf, sheetsOf, type DrawingDocument } from '../../core/document/records.ts';
import { viewsShowing } from '../../core/explode/edits.ts';
import { plainPull, pullsOf } from '../../core/explode/records.ts';
import { chosenKs } from '../../core/flat/k-factor.ts';
import type { SheetFileOptions } from '../../core/picture/print.ts';
import { frontOf } from '../../core/document/front.ts';
import { sideFrame } from '../../core/outline/directions.ts';
import { writeCsv } from '../../formats/csv.ts';
import { fontFile, viewerFile } from '../config.ts';
import { itemsOf } from '../../core/ledger/items.ts';
import { runExport, runFlatFile, runSpreadFile } from '../queue/geometry-pool.ts';
import { benchTable } from './bench.ts';
import { loadDrawing } from './documents.ts';
import { drawingFeatures } from './features.ts';
import { changeTable } from './models.ts';
import { loadGeometries } from './geometries.ts';
import { computeAndStore, keyedViews, storedResult } from './views.ts';

const CSV = 'text/csv; charset=utf-8';
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

export interface ExportedFile {
  readonly name: string;
  readonly type: string;
  readonly data: Uint8Array;
}

/** What of a file is wanted, and how. */
export interface FileQuery {
  readonly spread?: string | undefined;
  readonly list?: string | undefined;
  readonly part?: string | undefined;
  /** Of the PDF: numbers of the sheets that are wanted, from 1. */
  readonly sheets?: readonly number[] | undefined;
  readonly how?: Omit<SheetFileOptions, 'only'> | undefined;
  /** Of pictures: pixels per inch. */
  readonly dpi?: number | undefined;
}

/**
 * One of the drawing's files; of a spread `apart.glb`, `apart.html` and `steps.zip`, of a bent part or a round tube `flat.svg` and `flat.pdf` besides: `drawing.pdf`, `sheet-N.svg`, `sheet-N.png`, `findings.xlsx`, `parts-list.csv`, `parts-list.xlsx`, `properties.csv`, `properties.xlsx`, `items.json`, `findings.json`, `changes.csv`, `units.csv`, `drawing.json`.
 * Views that are not computed yet are computed first.
 * @throws QuarryError NOT_FOUND
 */
export async function exportFile(jobId: string, name: string, which: FileQuery = {}): Promise<ExportedFile> {
  const { assembly, document } = await loadDrawing(jobId);
  if (name === 'apart.glb' || name === 'apart.html' || name === 'steps.zip') return spreadFile(assembly, document, name, which.spread);
  if (name === 'flat.svg' || name === 'flat.pdf') return flatFile(assembly, document, name, which.part ?? '');
  if (name === 'units.csv') return { name, type: CSV, data: new TextEncoder().encode(writeCsv(await benchTable(jobId))) };
  if (name === 'changes.csv') return { name, type: CSV, data: new TextEncoder().encode(writeCsv(await changeTable(jobId))) };
  if (name === 'drawing.json') {
    const data = new TextEncoder().encode(writeDrawing(document));
    return { name, type: 'application/json', data };
  }
  const sheet = /^sheet-(\d+)\.(svg|png)$/.exec(name);
  const kind =
    name === 'drawing.pdf'
      ? 'pdf'
      : name === 'parts-list.csv' ||
          name === 'parts-list.xlsx' ||
          name === 'properties.csv' ||
          name === 'properties.xlsx' ||
          name === 'items.json' ||
          name === 'findings.json' ||
          name === 'findings.xlsx'
        ? name
        : sheet
          ? (sheet[2] as 'svg' | 'png')
          : undefined;
  if (!kind || (sheet && Number(sheet[1]) > sheetsOf(document).length) || (sheet && Number(sheet[1]) < 1))
    throw new QuarryError('NOT_FOUND', { what: `“${name}”` });
  const results: [string, Uint8Array][] = [];
  const drawn = kind === 'pdf' || kind === 'svg' || kind === 'png' || kind.startsWith('findings');
  const lists = recordsOf(document, 'list');
  const list = kind.startsWith('parts-list') ? (lists.find((l) => l.id === which.list) ?? lists[0]) : undefined;
  // A list of what one view shows needs that view.
  if (drawn || list?.view)
    for (const keyed of keyedViews(assembly, document)) {
      if (!drawn && keyed.view.id !== list?.view) continue;
      await computeAndStore(assembly, keyed);
      results.push([keyed.view.id, (await storedResult(keyed.key))!]);
    }
  const features = drawn || list ? await drawingFeatures(assembly, document) : [];
  const only = kind === 'png' ? [Number(sheet![1]) - 1] : which.sheets?.map((n) => n - 1);
  if (only?.some((i) => i < 0 || i >= sheetsOf(document).length)) throw new QuarryError('NOT_FOUND', { what: 'A sheet of the print' });
  const files = await runExport({
    type: 'export',
    kind,
    assembly,
    document,
    results,
    features,
    fontFile: fontFile(),
    sheets: { ...which.how, ...(only ? { only } : {}) },
    ...(which.dpi === undefined ? {} : { dpi: which.dpi }),
    ...(list ? { list: list.id } : {}),
  });
  const type = {
    pdf: 'application/pdf',
    'parts-list.csv': CSV,
    'parts-list.xlsx': XLSX,
    svg: 'image/svg+xml',
    png: 'image/png',
    'findings.xlsx': XLSX,
    'properties.csv': CSV,
    'properties.xlsx': XLSX,
    'items.json': 'application/json',
    'findings.json': 'application/json',
  }[kind];
  return { name, type, data: files[kind === 'svg' ? Number(sheet![1]) - 1 : 0]! };
}

/** @throws QuarryError NOT_FOUND for a part that cannot be laid flat */
async function flatFile(assembly: Assembly, document: DrawingDocument, kind: 'flat.svg' | 'flat.pdf', id: string): Promise<ExportedFile> {
  const part = assembly.parts.find((p) => p.id === id);
  if (!part) throw new QuarryError('NOT_FOUND', { what: `The part “${id}”` });
  const item = itemsOf(assembly, document).find((i) => i.part === id);
  const name = item?.values.drawingNumber.text || item?.values.description.text || part.name;
  const as = kind === 'flat.svg' ? 'svg' : 'pdf';
  const data = await runFlatFile(
    { type: 'flat-file', kind: as, assembly, part: id, name, k: chosenKs(assembly, document).get(part.geometryKey), fontFile: fontFile() },
    loadGeometries,
  );
  const file = name.replace(/[^\w.-]+/g, '-') || 'part';
  return { name: `${file}-flat.${as}`, type: as === 'svg' ? 'image/svg+xml' : 'application/pdf', data };
}

async function spreadFile(
  assembly: Assembly,
  document: DrawingDocument,
  kind: 'apart.glb' | 'apart.html' | 'steps.zip',
  spreadId: string | undefined,
): Promise<ExportedFile> {
  const spread = recordsOf(document, 'spread').find((s) => spreadId === undefined || s.id === spreadId);
  if (!spread) throw new QuarryError('NOT_FOUND', { what: 'The spread' });
  const pulls = pullsOf(spread, componentsOf(assembly)).map(plainPull);
  const view = viewsShowing(document, spread.id)[0] ?? sideFrame(frontOf(document), 'isometric');
  const frame = { right: view.right, up: view.up, toward: view.toward };
  const { title, number } = drawingOf(document);
  const data = await runSpreadFile({ type: 'spread-file', kind, assembly, pulls, frame, title: { title, number }, viewerFile: viewerFile() }, loadGeometries);
  return { name: kind, type: kind === 'apart.glb' ? 'model/gltf-binary' : kind === 'apart.html' ? 'text/html; charset=utf-8' : 'application/zip', data };
}
