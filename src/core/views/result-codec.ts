import { pack, unpack } from '../base/pack.ts';
import type { ViewResult } from './compute-view.ts';

const KIND = 'NQvw';
const VERSION = 4;

export const packResult = (r: ViewResult): Uint8Array => pack(KIND, VERSION, r);
export const unpackResult = (bytes: Uint8Array): ViewResult | undefined => unpack<ViewResult>(KIND, VERSION, bytes);
