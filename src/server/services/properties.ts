import type { ImportedFile } from '../../core/assembly/importing.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { ledgerOf } from '../../core/document/records.ts';
import { previewTable, type ExchangePreview } from '../../core/ledger/exchange.ts';
import { itemsOf } from '../../core/ledger/items.ts';
import { runTable } from '../queue/geometry-pool.ts';
import { loadDrawing } from './documents.ts';

const MOST_BYTES = 20_000_000;

/**
 * What a table of properties would change in a job. It is read in a thread.
 * @throws QuarryError FILE_TOO_LARGE, FILE_UNKNOWN, FILE_DAMAGED, FILE_TOO_MANY, NOT_FOUND
 */
export async function previewProperties(jobId: string, file: ImportedFile): Promise<ExchangePreview> {
  if (file.bytes.length > MOST_BYTES) throw new QuarryError('FILE_TOO_LARGE', { file: file.name, bytes: file.bytes.length, limitBytes: MOST_BYTES });
  if (!/\.(csv|xlsx)$/i.test(file.name)) throw new QuarryError('BAD_REQUEST', { text: `${file.name} is neither CSV nor XLSX.` });
  const { assembly, document } = await loadDrawing(jobId);
  return previewTable(await runTable(file), itemsOf(assembly, document), ledgerOf(document));
}
