import { z } from 'zod';
import { createDocument, type ZodOpenApiOperationObject, type ZodOpenApiPathsObject } from 'zod-openapi';
import {
  answerRequest,
  compareRequest,
  componentList,
  decisionsRequest,
  drawingRequest,
  editRequest,
  curesRequest,
  explodeRequest,
  fileFields,
  issueRequest,
  jobQuery,
  keepRequest,
  keyList,
  formatBody,
  listStyleBody,
  recipeBody,
  recipeQuery,
  recipeRequest,
  remarkAnswer,
  renameRequest,
  sectionRequest,
  takeRequest,
  unitRequest,
  uploadOptions,
  versionRequest,
} from './validation.ts';

/** One thing that can be asked of the server. */
interface Operation {
  readonly says: string;
  /** What comes back. */
  readonly gives: string;
  readonly query?: z.ZodObject;
  readonly body?: z.ZodType;
  /** A form with files. */
  readonly form?: z.ZodObject;
  /** The answer is told line by line: progress, then `{result}` or `{error}`. */
  readonly streamed?: true;
  /** Type of what comes back when it is not JSON. */
  readonly type?: string;
  readonly status?: 201 | 204;
}

const files = z.array(z.file()).describe('Files of the assembly, the top one first: STEP, glTF, 3MF, STL, OBJ, or a zip of them.');
const upload = uploadOptions.extend({ file: files });
const NDJSON = 'application/x-ndjson';
const EVENTS = 'text/event-stream';

/** Every address by its methods. `routes/api.test.ts` sees to it that none is missing. */
export const OPERATIONS: Readonly<Record<string, Readonly<Record<string, Operation>>>> = {
  '/api/jobs': {
    GET: { says: 'Jobs, looked for by words of their title', gives: 'A page of jobs; how many there are in all is in the header x-total.', query: jobQuery },
    POST: {
      says: 'A new job from files',
      gives: '{"id"}: it is brought in and drawn. Where the files do not say their unit: 200 with {"question"}; ask again with unitMm.',
      form: upload,
      status: 201,
    },
  },
  '/api/jobs/{id}': {
    GET: {
      says: 'How a job stands',
      gives: 'State (queued, working, drafting, ready, failed, cancelled), stage, progress 0…1, and what became of the slots of its recipe.',
    },
    PATCH: { says: 'Another title', gives: 'Nothing.', body: renameRequest, status: 204 },
    DELETE: { says: 'Removes a job with everything in it', gives: 'Nothing.', status: 204 },
  },
  '/api/jobs/{id}/cancel': { POST: { says: 'Stops bringing in, or drawing the rest', gives: 'Nothing.', status: 204 } },
  '/api/jobs/{id}/retry': { POST: { says: 'Brings a failed job in once more', gives: 'Nothing.', status: 204 } },
  '/api/jobs/{id}/duplicate': { POST: { says: 'A copy of the drawing as a job of its own', gives: '{"id"}', status: 201 } },
  '/api/jobs/{id}/drawing': {
    GET: {
      says: 'The drawing: its records (sheets, views, lists, spreads, properties …) and the assembly',
      gives: 'Version, records by id, assembly, what undo takes back.',
    },
    PUT: { says: 'Reads a drawing back in', gives: 'The version that it made.', body: drawingRequest },
  },
  '/api/jobs/{id}/edits': {
    GET: { says: 'Edits since a version', gives: 'Edits with their steps.', query: z.object({ since: z.coerce.number().int().min(0) }) },
    POST: {
      says: 'Changes the drawing: records are put or dropped, all or none',
      gives: 'The version that it made. A stale version is refused with 409 and changes nothing.',
      body: editRequest,
    },
  },
  '/api/jobs/{id}/undo': { POST: { says: 'Takes the latest edit back', gives: 'The version that it made.', body: versionRequest } },
  '/api/jobs/{id}/redo': { POST: { says: 'Brings back what undo took away', gives: 'The version that it made.', body: versionRequest } },
  '/api/jobs/{id}/history': { GET: { says: 'The latest edits', gives: 'Version, kind, label and time of each.' } },
  '/api/jobs/{id}/recipe': {
    GET: { says: 'Which sheets a recipe would make', gives: 'Sheets with their slots; whether each stands already; what is left out.', query: recipeQuery },
    POST: { says: 'Makes the sheets of a recipe', gives: 'Version, how many sheets came, what became of each slot.', body: recipeRequest, streamed: true },
  },
  '/api/jobs/{id}/recipe/keep': {
    POST: { says: 'Keeps the sheets of a drawing as a recipe', gives: 'The recipe as it is listed.', body: keepRequest, status: 201 },
  },
  '/api/list-styles': {
    GET: { says: 'Layouts of parts lists: shipped ones, then those that were kept', gives: 'Name, columns, rows, letters, version.' },
    POST: { says: 'Keeps a layout; under a name that is there as its next version', gives: 'The layout as it is listed.', body: listStyleBody, status: 201 },
  },
  '/api/list-styles/{name}': {
    DELETE: { says: 'Removes a layout that was kept', gives: 'Nothing.', status: 204 },
  },
  '/api/formats': {
    GET: { says: 'Sheet formats: shipped ones, then those that were kept', gives: 'Name, words, version, size and way up.' },
    POST: { says: 'Keeps a sheet format; under a name that is there as its next version', gives: 'The format as it is listed.', body: formatBody, status: 201 },
  },
  '/api/formats/{name}': {
    GET: { says: 'A whole sheet format', gives: 'The format, to be changed and kept; one that was kept says its version.' },
    DELETE: { says: 'Removes a sheet format that was kept', gives: 'Nothing.', status: 204 },
  },
  '/api/recipes': {
    GET: { says: 'Recipes: shipped ones, then those that were kept', gives: 'Name, words, version, sheets with their slots.' },
    POST: { says: 'Keeps a recipe; under a name that is there as its next version', gives: 'The recipe as it is listed.', body: recipeBody, status: 201 },
  },
  '/api/recipes/{name}': {
    GET: { says: 'A whole recipe', gives: 'The recipe, to be changed and kept.' },
    DELETE: { says: 'Removes a recipe that was kept', gives: 'Nothing.', status: 204 },
  },
  '/api/jobs/{id}/files/{name}': {
    GET: {
      says: 'One of the drawing’s files: drawing.pdf, sheet-N.svg, sheet-N.png, findings.xlsx, parts-list.csv or .xlsx, properties.csv or .xlsx, items.json, findings.json, drawing.json, changes.csv, units.csv, apart.glb, apart.html, steps.zip; of a part flat.svg, flat.pdf',
      gives: 'The file.',
      query: fileFields,
      type: 'application/octet-stream',
    },
  },
  '/api/jobs/{id}/properties': {
    POST: { says: 'What a table of properties (CSV, XLSX) would change', gives: 'The changes, to be made by an edit.', form: z.object({ file: z.file() }) },
  },
  '/api/jobs/{id}/views/{view}': {
    GET: { says: 'What a view shows: its lines', gives: 'Packed lines; computed first where they are not yet.', type: 'application/octet-stream' },
  },
  '/api/jobs/{id}/section': {
    POST: { says: 'Where a section would best be cut, and what stays whole', gives: 'A plane or the components.', body: sectionRequest },
  },
  '/api/jobs/{id}/cures': {
    POST: {
      says: 'Ways to show an item that is seen nowhere or badly',
      gives: 'Directions, sections and spreads with what each shows of it.',
      body: curesRequest,
      streamed: true,
    },
  },
  '/api/jobs/{id}/explode': {
    POST: { says: 'Plans, checks or fits a spread', gives: 'Pulls, what is held, what is passed through.', body: explodeRequest, streamed: true },
  },
  '/api/jobs/{id}/seen': { GET: { says: 'How much of each component every view shows', gives: 'Areas in mm² at 1:1, by view.' } },
  '/api/jobs/{id}/features': { GET: { says: 'What is measured on the parts', gives: 'Packed, by geometry key.', type: 'application/octet-stream' } },
  '/api/jobs/{id}/picture': {
    GET: { says: 'A small picture of some components', gives: 'SVG.', query: z.object({ of: componentList }), type: 'image/svg+xml' },
  },
  '/api/jobs/{id}/unit': { PUT: { says: 'The unit that the model means', gives: 'The version that it made.', body: unitRequest } },
  '/api/jobs/{id}/models': {
    GET: { says: 'Newer models of a job', gives: 'Each with its state and what it changes.' },
    POST: { says: 'Brings a newer model in', gives: '{"id"}: it is read and compared; nothing changes until it is taken over.', form: upload, status: 201 },
  },
  '/api/jobs/{id}/models/{model}': {
    POST: { says: 'Compares a newer model again, with decisions', gives: 'Nothing.', body: decisionsRequest },
    PUT: { says: 'Takes a newer model over', gives: 'The version that it made.', body: takeRequest },
    DELETE: { says: 'Leaves a newer model', gives: 'Nothing.', status: 204 },
  },
  '/api/jobs/{id}/issues': {
    GET: { says: 'What was issued', gives: 'Issues with their files and hashes, the latest first.' },
    POST: { says: 'Issues the drawing', gives: 'The issue.', body: issueRequest, streamed: true },
  },
  '/api/jobs/{id}/issuing': {
    GET: { says: 'The issue that is being made, or how the last one ended', gives: 'State, revision and how far it is; null where none was asked for.' },
    POST: { says: 'Queues the making of an issue: it goes on whoever leaves', gives: 'The same as GET.', body: issueRequest, status: 201 },
    DELETE: { says: 'Stops it; nothing of it is kept', gives: 'Nothing.', status: 204 },
  },
  '/api/jobs/{id}/issues/{issue}/{name}': {
    GET: { says: 'A file of an issue, `package` for all of them, or `verify`', gives: 'The file, exactly as it was issued.', type: 'application/octet-stream' },
    POST: {
      says: '`back`: takes the drawing of an issue back as a start; `branch`: begins a job of its own with it',
      gives: 'The version that it made, or the id of the job.',
      body: versionRequest,
    },
  },
  '/api/jobs/{id}/compare': {
    GET: { says: 'What two moments of a drawing differ in', gives: 'Sheet by sheet, and the parts list row by row.', query: compareRequest },
  },
  '/api/jobs/{id}/guide': { GET: { says: 'The steps of the build guide', gives: 'Steps with their words and pieces.' } },
  '/api/jobs/{id}/remarks': { GET: { says: 'Remarks from the bench', gives: 'Remarks, and how far each unit is.' } },
  '/api/jobs/{id}/remarks/{remark}': {
    GET: { says: 'The photo of a remark', gives: 'A JPEG.', type: 'image/jpeg' },
    POST: { says: 'Answers a remark', gives: 'Nothing.', body: remarkAnswer, status: 204 },
  },
  '/api/issues/{id}/answers': {
    POST: { says: 'Ticks, checks and remarks from a bench', gives: 'Nothing; the same id counts once.', body: answerRequest, status: 204 },
  },
  '/api/jobs/{id}/events': { GET: { says: 'Changes of a job as they happen', gives: 'Server-sent events.', type: EVENTS } },
  '/api/events': { GET: { says: 'What happens to all jobs', gives: 'Server-sent events.', type: EVENTS } },
  '/api/parts': { GET: { says: 'Meshes of parts', gives: 'Packed, by key.', query: z.object({ keys: keyList }), type: 'application/octet-stream' } },
  '/api/parts/{key}': { GET: { says: 'A small picture of a part', gives: 'SVG.', type: 'image/svg+xml' } },
  '/api/parts/{key}/mesh': { GET: { says: 'The mesh of a part', gives: 'Packed.', type: 'application/octet-stream' } },
  '/api/health': { GET: { says: 'Is the server up?', gives: '{"ok"}' } },
  '/api/openapi.json': { GET: { says: 'This description', gives: 'OpenAPI 3.1.' } },
};

const failure = z
  .object({
    error: z.object({
      code: z.string().describe('For programs.'),
      message: z.string().describe('A sentence for people that says what to do.'),
      details: z.record(z.string(), z.unknown()).optional(),
    }),
  })
  .meta({ id: 'Failure' });

let description: unknown;

/** The server's interface as OpenAPI 3.1, from the schemas that requests are checked by. */
export function apiDescription(): unknown {
  return (description ??= createDocument({
    openapi: '3.1.0',
    info: {
      title: 'Nimble Quarry',
      version: '1',
      description:
        'Assemblies in, drawings out. Requests that change a drawing carry its version: when someone else was quicker the answer is 409 and nothing is changed. Errors have a code and a sentence.',
    },
    paths: Object.fromEntries(
      Object.entries(OPERATIONS).map(([path, methods]) => [
        path,
        Object.fromEntries(Object.entries(methods).map(([m, o]) => [m.toLowerCase(), operation(path, o)])),
      ]),
    ) as ZodOpenApiPathsObject,
  }));
}

function operation(path: string, { says, gives, query, body, form, streamed, type, status = undefined }: Operation): ZodOpenApiOperationObject {
  const names = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!);
  const given = streamed ? NDJSON : (type ?? 'application/json');
  const answer = { description: gives, ...(status === 204 ? {} : { content: { [given]: { schema: z.unknown() } } }) };
  return {
    summary: says,
    ...(names.length || query
      ? { requestParams: { ...(names.length ? { path: z.object(Object.fromEntries(names.map((n) => [n, z.string()]))) } : {}), ...(query ? { query } : {}) } }
      : {}),
    ...(body ? { requestBody: { content: { 'application/json': { schema: body } } } } : {}),
    ...(form ? { requestBody: { content: { 'multipart/form-data': { schema: form } } } } : {}),
    responses: { [String(status ?? 200)]: answer, default: { description: 'It could not be done.', content: { 'application/json': { schema: failure } } } },
  };
}
