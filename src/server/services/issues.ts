import { and, desc, eq, gt } from 'drizzle-orm';
import { unzipSync } from 'fflate';
import { randomUUID } from 'node:crypto';
import { changesBetween } from '../../core/document/between.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { carriedOver } from '../../core/document/file.ts';
import { DOCUMENT_FORMAT } from '../../core/document/format.ts';
import { drawingOf, type DrawingDocument } from '../../core/document/records.ts';
import { applySteps } from '../../core/document/steps.ts';
import type { IssueWords } from '../../elements/revisions/issue.ts';
import { verifyPackage, writePackage } from '../../formats/package.ts';
import { config, fontFile, pageLetterFiles, viewerFile } from '../config.ts';
import { getDatabase } from '../database/client.ts';
import { edit, issue } from '../database/schema.ts';
import { tell as tellPages } from '../events.ts';
import { runDifference, runGuide, runIssue } from '../queue/geometry-pool.ts';
import type { IssueOutput, PackedDrawing } from '../queue/geometry-tasks.ts';
import type { GuideWords } from '../../core/guide/guide.ts';
import type { Difference } from '../../core/revision/compare-drawings.ts';
import { assemblyOf, loadDrawing, presentDocument } from './documents.ts';
import { appendEdit } from './edits.ts';
import { drawingFeatures } from './features.ts';
import { duplicateJob } from './jobs.ts';
import { loadGeometries } from './geometries.ts';
import { computeAndStore, keyedViews, storedResult } from './views.ts';

export interface IssueRequest extends IssueWords {
  readonly version: number;
  readonly kind: 'issued' | 'review';
  readonly outputs: readonly IssueOutput[];
  readonly grey: boolean;
  readonly layers: boolean;
  readonly dpi: number;
  /** Of files: `{number}`, `{revision}`, `{title}` and `{what}` stand for themselves. */
  readonly names: string;
}

export interface IssueRow {
  readonly id: string;
  readonly place: number;
  readonly revision: string;
  readonly kind: 'issued' | 'review';
  readonly date: string;
  readonly people: { readonly drawn: string; readonly checked: string; readonly approved: string };
  readonly words: readonly string[];
  readonly version: number;
  readonly sha256: string;
  readonly files: readonly { readonly name: string; readonly bytes: number; readonly sha256: string }[];
  readonly createdAt: Date;
}

const SHOWN = {
  id: issue.id,
  place: issue.place,
  revision: issue.revision,
  kind: issue.kind,
  date: issue.date,
  people: issue.people,
  words: issue.words,
  version: issue.version,
  sha256: issue.sha256,
  files: issue.files,
  createdAt: issue.createdAt,
} as const;

/** What was issued of a job, the latest first. */
export const issuesOf = (jobId: string): Promise<IssueRow[]> =>
  getDatabase().select(SHOWN).from(issue).where(eq(issue.jobId, jobId)).orderBy(desc(issue.place));

/**
 * Issues a drawing: title block and revision table are brought up to date, every wanted file is made, sealed in a package and
 * frozen with the records it was made of. Either all of it happens, or nothing.
 * @param address of this server, as who asks knows it: codes on sheets lead there unless it is set
 * @throws QuarryError STILL_DRAFTING, ISSUE_STOPPED, STALE_VERSION, BAD_REQUEST, CANCELLED
 */
export async function makeIssue(
  jobId: string,
  request: IssueRequest,
  address: string,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<IssueRow> {
  const { version, before } = await mayIssue(jobId, request);
  const place = (before[0]?.place ?? 0) + 1;
  const packed = await packedDrawing(jobId, 'now', signal);
  const d = drawingOf(packed.document);
  const names = fileNames(request.names, { number: d.number || d.title || 'drawing', revision: request.revision, title: d.title });
  const { revision, date, drawn, checked, approved, words, kind, outputs } = request;
  const id = randomUUID();
  const guide = outputs.includes('guide') ? { guide: `${config.address ?? address}/guide/${id}` } : {};
  const { steps, files } = await runIssue(
    {
      type: 'issue',
      ...packed,
      words: { revision, date, drawn, checked, approved, words, ...guide },
      place,
      kind,
      outputs,
      names,
      sheets: { grey: request.grey, layers: request.layers },
      dpi: request.dpi,
      fontFile: fontFile(),
      pageLetterFiles: pageLetterFiles(),
      viewerFile: viewerFile(),
    },
    loadGeometries,
    signal,
    onProgress,
  );
  const result = applySteps(packed.document, steps);
  if (!result.ok) throw new QuarryError('STEP_DOES_NOT_FIT', { reason: result.reason });
  const data = writePackage(files, { title: d.title, number: d.number, revision, date });
  const sealed = verifyPackage(data, 'package.zip');
  await appendEdit(jobId, version, kind === 'issued' ? `Issue ${revision}` : `Issue ${revision} for review`, steps, undefined, async (tx) => {
    await tx.insert(issue).values({
      id,
      jobId,
      place,
      revision,
      kind,
      date,
      people: { drawn, checked, approved },
      words: [...words],
      version: version + 1,
      document: result.document,
      documentFormat: DOCUMENT_FORMAT,
      sha256: sealed.sha256,
      files: [...sealed.files],
      data,
    });
  });
  await tellPages({ type: 'job', job: jobId });
  return (await issuesOf(jobId)).find((i) => i.id === id)!;
}

/** What stands against an issue and is known before anything of it is made. @throws QuarryError STILL_DRAFTING, STALE_VERSION, BAD_REQUEST */
export async function mayIssue(jobId: string, request: IssueRequest): Promise<{ readonly version: number; readonly before: readonly IssueRow[] }> {
  const { version, state } = await presentDocument(jobId);
  if (state === 'drafting') throw new QuarryError('STILL_DRAFTING', {});
  if (version !== request.version) throw new QuarryError('STALE_VERSION', { have: request.version, now: version });
  const before = await issuesOf(jobId);
  if (before.some((i) => i.revision === request.revision && i.kind === 'issued'))
    throw new QuarryError('BAD_REQUEST', { text: `Revision ${request.revision} was issued already, and nothing in it can change. Take the next one.` });
  return { version, before };
}

/** File names by a pattern; what a file system does not take becomes a dash. */
export function fileNames(pattern: string, words: Readonly<Record<string, string>>): string {
  const filled = (pattern.includes('{what}') ? pattern : `${pattern}-{what}`).replace(/\{(\w+)\}/g, (all, key: string) => words[key] ?? all);
  return filled.replace(/[\u0000-\u001f<>:"/\\|?*]+/g, '-').slice(0, 150);
}

async function issueRow(jobId: string | undefined, id: string) {
  const wanted = jobId === undefined ? eq(issue.id, id) : and(eq(issue.id, id), eq(issue.jobId, jobId));
  const [row] = await getDatabase().select().from(issue).where(wanted);
  if (!row) throw new QuarryError('NOT_FOUND', { what: 'The issue' });
  return row;
}

/** A file of an issue exactly as it was made; `package.zip` is all of them. @throws QuarryError NOT_FOUND */
export async function issueFile(jobId: string | undefined, id: string, name: string): Promise<{ readonly name: string; readonly data: Uint8Array }> {
  const row = await issueRow(jobId, id);
  if (name === 'package.zip')
    return { name: `${fileNames('{number}-{what}', { number: drawingOf(row.document).number || 'drawing', what: row.revision })}.zip`, data: row.data };
  const data = unzipSync(row.data, { filter: (f) => f.name === name })[name];
  if (!data) throw new QuarryError('NOT_FOUND', { what: `“${name}”` });
  return { name, data };
}

/** Is the package still what was sealed? @throws QuarryError PACKAGE_CHANGED */
export async function verifyIssue(jobId: string, id: string): Promise<{ readonly sha256: string }> {
  const row = await issueRow(jobId, id);
  const found = verifyPackage(row.data, `${row.revision}.zip`);
  if (found.sha256 !== row.sha256) throw new QuarryError('PACKAGE_CHANGED', { file: `${row.revision}.zip`, names: [] });
  return { sha256: found.sha256 };
}

/** The page of the guide of an issue, that sends ticks and remarks home. @throws QuarryError NOT_FOUND */
export async function guidePage(id: string): Promise<string> {
  const row = await issueRow(undefined, id);
  const name = row.files.find((f) => f.name.endsWith('guide.html'))?.name;
  if (!name) throw new QuarryError('NOT_FOUND', { what: 'A build guide in this issue' });
  const html = new TextDecoder().decode((await issueFile(undefined, id, name)).data);
  return html.replace('"answers":null', `"answers":${JSON.stringify(`/api/issues/${id}/answers`)}`);
}

/** A drawing at another moment: `now`, the id of an issue, or `v` and a version of its history. */
async function documentOf(jobId: string, which: string): Promise<DrawingDocument> {
  if (which === 'now') return (await loadDrawing(jobId)).document;
  const v = /^v(\d{1,9})$/.exec(which);
  if (v) return documentOfVersion(jobId, Number(v[1]));
  const row = await issueRow(jobId, which);
  return carriedOver(row.document, row.documentFormat);
}

/** The document as it was: what came since is taken back, the latest first. @throws QuarryError NOT_FOUND */
async function documentOfVersion(jobId: string, version: number): Promise<DrawingDocument> {
  const present = await presentDocument(jobId);
  if (version > present.version) throw new QuarryError('NOT_FOUND', { what: `Version ${version}` });
  const since = await getDatabase()
    .select({ inverse: edit.inverse })
    .from(edit)
    .where(and(eq(edit.jobId, jobId), gt(edit.version, version)))
    .orderBy(desc(edit.version));
  if (since.length !== present.version - version) throw new QuarryError('NOT_FOUND', { what: `Version ${version}` });
  let { document } = present;
  for (const { inverse } of since) {
    const r = applySteps(document, inverse);
    if (!r.ok) throw new QuarryError('NOT_FOUND', { what: `Version ${version}` });
    document = r.document;
  }
  return document;
}

async function packedDrawing(jobId: string, which: string, signal?: AbortSignal): Promise<PackedDrawing> {
  const document = await documentOf(jobId, which);
  const assembly = await assemblyOf(jobId, document);
  const results: [string, Uint8Array][] = [];
  for (const keyed of keyedViews(assembly, document)) {
    await computeAndStore(assembly, keyed, undefined, signal);
    results.push([keyed.view.id, (await storedResult(keyed.key))!]);
  }
  return { assembly, document, results, features: await drawingFeatures(assembly, document) };
}

/** What two moments of a drawing differ in. @throws QuarryError NOT_FOUND */
export async function compareMoments(jobId: string, from: string, to: string): Promise<Difference> {
  const [before, after] = [await packedDrawing(jobId, from), await packedDrawing(jobId, to)];
  return runDifference({ type: 'difference', before, after });
}

/** What the guide says as the drawing stands. */
export async function guideNow(jobId: string): Promise<GuideWords> {
  const { assembly, document } = await loadDrawing(jobId);
  return runGuide({ type: 'guide', assembly, document }, loadGeometries);
}

/** Takes the drawing of an issue back as the start of what comes next; undo brings the present one back. */
export async function takeIssueBack(jobId: string, id: string, version: number): Promise<{ readonly version: number }> {
  const present = await presentDocument(jobId);
  const row = await issueRow(jobId, id);
  const steps = changesBetween(present.document, carriedOver(row.document, row.documentFormat));
  if (!steps.length) throw new QuarryError('BAD_REQUEST', { text: 'The drawing is as it was issued: there is nothing to take back.' });
  return appendEdit(jobId, version, `Back to ${row.revision}`, steps);
}

/** A job of its own that begins with the drawing of an issue; this one stays as it is. @returns its id @throws QuarryError NOT_FOUND */
export async function branchOff(jobId: string, id: string): Promise<string> {
  const row = await issueRow(jobId, id);
  return duplicateJob(jobId, carriedOver(row.document, row.documentFormat), `from ${row.revision}`);
}

/** The latest edits, for a list of moments to compare with. */
export async function historyOf(jobId: string, most = 100) {
  const rows = await getDatabase()
    .select({ version: edit.version, kind: edit.kind, label: edit.label, createdAt: edit.createdAt })
    .from(edit)
    .where(eq(edit.jobId, jobId))
    .orderBy(desc(edit.version))
    .limit(most);
  return rows;
}
