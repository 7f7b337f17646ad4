import { QuarryError, type ErrorCode } from '../core/base/errors.ts';

const STATUS: Partial<Record<ErrorCode, number>> = {
  NOT_FOUND: 404,
  STALE_VERSION: 409,
  STEP_DOES_NOT_FIT: 409,
  NOTHING_TO_UNDO: 409,
  NOTHING_TO_REDO: 409,
  STILL_DRAFTING: 409,
  NOT_SAME_ORIGIN: 403,
  FILE_TOO_LARGE: 413,
  INTERNAL: 500,
};

/** The one place where an error becomes an answer. */
export function errorResponse(e: QuarryError): Response {
  return Response.json({ error: { code: e.code, message: e.message, details: e.details } }, { status: STATUS[e.code] ?? 400 });
}
