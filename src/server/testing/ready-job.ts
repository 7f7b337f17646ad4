import type { Assembly } from '../../core/assembly/assembly.ts';
import type { DrawingDocument } from '../../core/document/records.ts';
import { getDatabase } from '../database/client.ts';
import { job } from '../database/schema.ts';
import { changesBetween } from '../../core/document/between.ts';
import { writeRecords } from '../services/documents.ts';

/** A job that is ready, without an import. @returns its id */
export function readyJob(assembly: Assembly, document: DrawingDocument, more: { readonly title?: string; readonly demo?: boolean } = {}): Promise<string> {
  return getDatabase().transaction(async (tx) => {
    const [row] = await tx
      .insert(job)
      .values({ title: 'test', state: 'ready', assembly, version: 1, ...more })
      .returning({ id: job.id });
    await writeRecords(tx, row!.id, changesBetween({}, document), document);
    return row!.id;
  });
}
