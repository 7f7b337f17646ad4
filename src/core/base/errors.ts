/** What each error tells a program besides its sentence. */
export interface ErrorDetails {
  FILE_EMPTY: { file: string };
  FILE_NOT_STEP: { file: string };
  FILE_TRUNCATED: { file: string };
  FILE_UNKNOWN: { file: string };
  FILE_DAMAGED: { file: string; format: string; why: string };
  FILE_FEATURE: { file: string; what: string };
  FILE_TOO_LARGE: { file: string; bytes: number; limitBytes: number };
  FILE_BROKEN_REFERENCE: { file: string; entity: number; missing: number };
  FILE_CYCLE: { file: string; product: string };
  FILE_NO_SOLIDS: { file: string };
  FILE_UNREADABLE: { file: string };
  FILES_MISSING: { files: readonly string[] };
  FILE_TOO_DEEP: { file: string; depth: number; limit: number };
  FILE_TOO_MANY: { file: string; count: number; limit: number; what?: string };
  ZIP_BROKEN: { file: string };
  PACKAGE_CHANGED: { file: string; names: readonly string[] };
  ISSUE_STOPPED: { count: number; first: string };
  STILL_DRAFTING: Record<string, never>;
  IMPORT_TIMEOUT: { seconds: number };
  KERNEL_STOPPED: { stage: string };
  CANCELLED: Record<string, never>;
  BAD_USAGE: { text: string };
  BAD_REQUEST: { text: string };
  NOT_FOUND: { what: string };
  STALE_VERSION: { have: number; now: number };
  STEP_DOES_NOT_FIT: { reason: string };
  NOTHING_TO_UNDO: Record<string, never>;
  NOTHING_TO_REDO: Record<string, never>;
  NOT_SAME_ORIGIN: Record<string, never>;
  DOC_TOO_NEW: { version: number; known: number };
  EMPTY_ASSEMBLY: Record<string, never>;
  INTERNAL: { id: string };
}

export type ErrorCode = keyof ErrorDetails;

const megabytes = (bytes: number) => `${Math.round(bytes / 1e5) / 10} MB`;
const list = (names: readonly string[]) => names.slice(0, 8).join(', ') + (names.length > 8 ? ` and ${names.length - 8} more` : '');

const sentences: { readonly [C in ErrorCode]: (d: ErrorDetails[C]) => string } = {
  FILE_EMPTY: (d) => `${d.file} is empty. Export it again and drop the new file.`,
  FILE_NOT_STEP: (d) => `${d.file} is not a STEP file: it does not begin with “ISO-10303-21;”. Export the assembly as STEP (AP203, AP214 or AP242).`,
  FILE_UNKNOWN: (d) => `${d.file} is none of the formats that can be brought in: STEP, glTF (GLB), STL, 3MF, OBJ, or a zip of them.`,
  FILE_DAMAGED: (d) => `${d.file} is damaged: ${d.why}. Export it again as ${d.format}.`,
  FILE_FEATURE: (d) => `${d.file} uses ${d.what}, which is not read here. Export it without.`,
  FILE_TRUNCATED: (d) => `${d.file} stops before its end (no “END-ISO-10303-21;”). The copy or export was cut short: export it again.`,
  FILE_TOO_LARGE: (d) =>
    `${d.file} has ${megabytes(d.bytes)}; the limit is ${megabytes(d.limitBytes)}. Leave out what the drawing does not need, or raise the limit.`,
  FILE_BROKEN_REFERENCE: (d) => `${d.file} is damaged: entity #${d.entity} refers to #${d.missing}, which is not in the file. Export it again.`,
  FILE_CYCLE: (d) => `${d.file} cannot be built: “${d.product}” contains itself. Correct the structure in the source and export it again.`,
  FILE_NO_SOLIDS: (d) => `${d.file} has no solid or surface that could be drawn. Export the assembly with its solids.`,
  FILE_UNREADABLE: (d) => `${d.file} could not be read as STEP. Export it again, as AP214 or AP242.`,
  FILES_MISSING: (d) => `The assembly refers to files that were not given: ${list(d.files)}. Drop them together with it, or as one zip.`,
  FILE_TOO_DEEP: (d) => `${d.file} nests its sub-assemblies ${d.depth} levels deep; the limit is ${d.limit}.`,
  FILE_TOO_MANY: (d) => `${d.file} has ${d.count} ${d.what ?? 'components'}; the limit is ${d.limit}.`,
  ZIP_BROKEN: (d) => `${d.file} is not a zip that can be opened. Pack it again, or drop its files one by one.`,
  PACKAGE_CHANGED: (d) =>
    `${d.file} is not what it was when it was made${d.names.length ? `: ${list(d.names)}` : ''}. Take the package from where it was issued.`,
  ISSUE_STOPPED: (d) => `${d.count === 1 ? 'One finding' : `${d.count} findings`} must be put right first, or accepted with a reason in Proof: ${d.first}`,
  STILL_DRAFTING: () => 'Sheets of the first drawing are still being drawn. Wait until they stand, or stop them below the sheets; then issue.',
  IMPORT_TIMEOUT: (d) =>
    `Reading took longer than ${d.seconds} ${d.seconds === 1 ? 'second' : 'seconds'} and was stopped. The file may be damaged; try to export it again or in parts.`,
  KERNEL_STOPPED: (d) => `The geometry kernel stopped while ${d.stage}. The file is damaged or beyond what it can read; export it again.`,
  CANCELLED: () => 'Cancelled.',
  BAD_USAGE: (d) => d.text,
  BAD_REQUEST: (d) => d.text,
  NOT_FOUND: (d) => `${d.what} was not found. It may have been deleted.`,
  STALE_VERSION: (d) =>
    `Someone else changed this drawing meanwhile (yours is version ${d.have}, it is now at ${d.now}). The newer state has been fetched; make the change again.`,
  STEP_DOES_NOT_FIT: (d) => `This change does not fit the drawing: ${d.reason}.`,
  NOTHING_TO_UNDO: () => 'There is nothing to undo.',
  NOTHING_TO_REDO: () => 'There is nothing to redo.',
  NOT_SAME_ORIGIN: () => 'The request came from another site and was refused.',
  DOC_TOO_NEW: (d) => `This drawing was made by a newer version of the program (${d.version}, this one knows ${d.known}). Update the program.`,
  EMPTY_ASSEMBLY: () => 'There is nothing to draw: the assembly has no visible component.',
  INTERNAL: (d) => `Something went wrong that should not have. Nothing was lost. Reference ${d.id}.`,
};

/** An expected failure of a whole operation: a code for programs, a sentence for the user. */
export class QuarryError<C extends ErrorCode = ErrorCode> extends Error {
  readonly code: C;
  readonly details: ErrorDetails[C];
  constructor(code: C, details: ErrorDetails[C], options?: ErrorOptions) {
    super(sentences[code](details), options);
    this.name = 'QuarryError';
    this.code = code;
    this.details = details;
  }
}

/** "Went on, but": part of a result, never thrown. */
export interface Notice {
  readonly code: string;
  readonly about: string;
  readonly text: string;
}

/** Anything with an `aborted` flag, such as an AbortSignal. */
export interface Cancel {
  readonly aborted: boolean;
}

/** @throws QuarryError CANCELLED when the flag is up. */
export function checkCancel(cancel: Cancel | undefined): void {
  if (cancel?.aborted) throw new QuarryError('CANCELLED', {});
}
