import type { Part } from '../assembly/assembly.ts';

type Shaped = Pick<Part, 'looksLike'>;

const HOLDING = /\b(bolt|screw|nut|washer|pin|key|rivet|circlip|stud|ring|clip|split|cotter|schraube|mutter|scheibe|stift)\b/i;
const SCREWED = /\b(bolt|screw|nut|stud|rod|thread|threaded|schraube|mutter|bolzen)\b/i;

/** Holds other parts together, by its name or its shape: it comes off first. */
export const isFastener = (name: string, part: Shaped): boolean => HOLDING.test(name) || /nut|bolt|washer|circlip/.test(part.looksLike ?? '');

/** May have a thread, modelled at its full diameter or with flanks. */
export const isThreaded = (name: string, part: Shaped): boolean => SCREWED.test(name) || /nut|bolt/.test(part.looksLike ?? '');
