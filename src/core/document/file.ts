import { namedFrame, nameOfFrame, sameFrame } from '../outline/directions.ts';
import { DOCUMENT_FORMAT } from './format.ts';
import type { DrawingDocument, DrawingDocumentRecord } from './records.ts';
import { brokenReference, followed } from './refs.ts';
import { SCHEMAS } from './schemas.ts';

const NAME = 'nimble-quarry-drawing';

/** The drawing as a JSON text: everything that people decided, nothing that is computed. */
export function writeDrawing(document: DrawingDocument): string {
  return JSON.stringify({ format: NAME, version: DOCUMENT_FORMAT, records: document }, null, 2);
}

/**
 * Reads what `writeDrawing` wrote, in this version or an older one.
 * @returns the drawing, or a sentence about what is wrong
 */
export function readDrawing(text: string): { readonly document: DrawingDocument } | { readonly wrong: string } {
  let file: unknown;
  try {
    file = JSON.parse(text);
  } catch {
    return { wrong: 'The file is not JSON. Take the “Drawing, JSON” that a job gives away.' };
  }
  const { format, version, records } = (file ?? {}) as { format?: unknown; version?: unknown; records?: unknown };
  if (format !== NAME || typeof version !== 'number' || typeof records !== 'object' || records === null)
    return { wrong: 'The file is JSON, but no drawing. Take the “Drawing, JSON” that a job gives away.' };
  if (version > DOCUMENT_FORMAT)
    return { wrong: `The drawing was written by a newer version of the program (${version}, this one reads up to ${DOCUMENT_FORMAT}).` };
  const read: Record<string, DrawingDocumentRecord> = {};
  for (const [id, value] of Object.entries(records)) {
    const schema = SCHEMAS.get(String((value as { type?: unknown } | null)?.type));
    const parsed = schema?.safeParse(value);
    if (!parsed?.success || (parsed.data as DrawingDocumentRecord).id !== id || id === '__proto__') {
      const issue = parsed?.error?.issues[0];
      return {
        wrong: `The record “${id.slice(0, 80)}” of the drawing is not understood${issue ? `: ${issue.path.join('.') || 'type'}: ${issue.message.replace(/\.?$/, '.')}` : '.'}`,
      };
    }
    read[id] = parsed.data as DrawingDocumentRecord;
  }
  const document = carriedOver(read, version);
  if (document['drawing']?.type !== 'drawing') return { wrong: 'The drawing has no title and no standard: its record “drawing” is missing.' };
  const broken = brokenReference(document);
  return broken ? { wrong: `The drawing does not hold together: ${broken}.` } : { document };
}

/** What each version made of the one before, oldest first: the first entry leads from 1 to 2. */
const STEPS: readonly ((document: DrawingDocument) => DrawingDocument)[] = [freeOfDangling, (d) => withLabels(withOneFront(d))];

/** Records of an older version as they are now. What did not change is the same object. */
export function carriedOver(document: DrawingDocument, from: number): DrawingDocument {
  return STEPS.slice(from - 1).reduce((d, step) => step(d), document);
}

/** Version 1 let a view point at views that had been removed; now that is refused. What only stood on them goes. */
function freeOfDangling(document: DrawingDocument): DrawingDocument {
  let now = document;
  for (;;) {
    const next: Record<string, DrawingDocumentRecord> = {};
    let changed = false;
    for (const r of Object.values(now)) {
      const { record } = followed(r, {
        record: (id, { type }) => (Object.hasOwn(now, id) && now[id]!.type === type ? id : undefined),
      });
      if (record !== r) changed = true;
      if (record) next[record.id] = record;
    }
    if (!changed) return now;
    now = next;
  }
}

const SIDES: ReadonlySet<string> = new Set(['Front', 'Back', 'Top', 'Bottom', 'Left', 'Right']);

/**
 * Version 2 had no front of its own: the first drawing chose one, named sides went by the model's axes. The front is that of the
 * first view called so; views keep their pictures, and those that are named after a side get the name of the one they show.
 */
function withOneFront(document: DrawingDocument): DrawingDocument {
  const drawing = document['drawing'];
  const first = document['view:front'];
  if (drawing?.type !== 'drawing' || drawing.front || first?.type !== 'view') return document;
  const front = { right: first.right, up: first.up, toward: first.toward };
  if (sameFrame(front, namedFrame('front'))) return document;
  const next: Record<string, DrawingDocumentRecord> = { ...document, drawing: { ...drawing, front } };
  for (const r of Object.values(document))
    if (r.type === 'view' && SIDES.has(r.name) && nameOfFrame(r, front) !== r.name) next[r.id] = { ...r, name: nameOfFrame(r, front) };
  return next;
}

/** Version 2 printed the label of every view with a letter, whatever its switch said; now the switch is meant. */
function withLabels(document: DrawingDocument): DrawingDocument {
  const next: Record<string, DrawingDocumentRecord> = { ...document };
  let changed = false;
  for (const r of Object.values(document))
    if (r.type === 'view' && !r.label && (r.detail?.letter || r.cut?.letter || r.arrow)) {
      next[r.id] = { ...r, label: true };
      changed = true;
    }
  return changed ? next : document;
}
