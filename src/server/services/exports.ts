import { QuarryError } from '../../core/base/errors.ts';
import { sheetsOf } from '../../core/document/records.ts';
import { writeCsv } from '../../formats/csv.ts';
import { fontFile } from '../config.ts';
import { runExport } from '../queue/geometry-pool.ts';
import { loadDrawing } from './jobs.ts';
import { changeTable } from './models.ts';
import { computeAndStore, keyedViews, storedResult } from './views.ts';

const CSV = 'text/csv; charset=utf-8';

export interface ExportedFile {
  readonly name: string;
  readonly type: string;
  readonly data: Uint8Array;
}

/**
 * One of the drawing's files: `drawing.pdf`, `sheet-N.svg`, `parts-list.csv`, `properties.csv`, `properties.xlsx`, `changes.csv`, `drawing.json`.
 * Views that are not computed yet are computed first.
 * @throws QuarryError NOT_FOUND
 */
export async function exportFile(jobId: string, name: string): Promise<ExportedFile> {
  const { assembly, document } = await loadDrawing(jobId);
  if (name === 'changes.csv') return { name, type: CSV, data: new TextEncoder().encode(writeCsv(await changeTable(jobId))) };
  if (name === 'drawing.json') {
    const data = new TextEncoder().encode(JSON.stringify({ format: 'nimble-quarry-drawing', version: 1, records: document }, null, 2));
    return { name, type: 'application/json', data };
  }
  const sheet = /^sheet-(\d+)\.svg$/.exec(name);
  const kind =
    name === 'drawing.pdf'
      ? 'pdf'
      : name === 'parts-list.csv'
        ? 'csv'
        : name === 'properties.csv' || name === 'properties.xlsx'
          ? name
          : sheet
            ? 'svg'
            : undefined;
  if (!kind || (sheet && Number(sheet[1]) > sheetsOf(document).length) || (sheet && Number(sheet[1]) < 1))
    throw new QuarryError('NOT_FOUND', { what: `“${name}”` });
  const results: [string, Uint8Array][] = [];
  if (kind === 'pdf' || kind === 'svg')
    for (const keyed of keyedViews(assembly, document)) {
      await computeAndStore(assembly, keyed);
      results.push([keyed.view.id, (await storedResult(keyed.key))!]);
    }
  const files = await runExport({ type: 'export', kind, assembly, document, results, fontFile: fontFile() });
  const type = {
    pdf: 'application/pdf',
    csv: CSV,
    svg: 'image/svg+xml',
    'properties.csv': CSV,
    'properties.xlsx': 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  }[kind];
  return { name, type, data: files[sheet ? Number(sheet[1]) - 1 : 0]! };
}
