/** Raised when records of before would be read wrongly: a step in `file.ts` then carries them over. */
export const DOCUMENT_FORMAT = 3;
