import { threadIn } from '../thread/designation.ts';

/** Widths across flats of hexagons for coarse threads, mm, by nominal diameter (ISO 272, the product series of ISO 4014, ISO 4017 and ISO 4032; from memory). */
const FLATS: Readonly<Record<number, number>> = {
  1.6: 3.2,
  2: 4,
  2.5: 5,
  3: 5.5,
  4: 7,
  5: 8,
  6: 10,
  8: 13,
  10: 16,
  12: 18,
  14: 21,
  16: 24,
  20: 30,
  24: 36,
  30: 46,
  36: 55,
  42: 65,
  48: 75,
  56: 85,
  64: 95,
};

/** Hexagon sockets of cap screws, mm (ISO 4762; from memory). */
const SOCKETS: Readonly<Record<number, number>> = {
  1.6: 1.5,
  2: 1.5,
  2.5: 2,
  3: 2.5,
  4: 3,
  5: 4,
  6: 5,
  8: 6,
  10: 8,
  12: 10,
  14: 12,
  16: 14,
  20: 17,
  24: 19,
  30: 22,
  36: 27,
};

/** Countersunk screws with a hexagon socket have smaller ones, mm (ISO 10642; from memory). */
const COUNTERSUNK: Readonly<Record<number, number>> = { 3: 2, 4: 2.5, 5: 3, 6: 4, 8: 5, 10: 6, 12: 8, 16: 10, 20: 12 };

export interface Tool {
  readonly kind: 'wrench' | 'hex key' | 'circlip pliers';
  readonly sizeMm?: number;
}

const SOCKET = /socket|\bISO\s*(4762|7380|10642)\b|\bDIN\s*(912|7984|7991)\b/i;
const SUNK = /countersunk|\bISO\s*10642\b|\bDIN\s*7991\b/i;
const HEX = /\bhex|\bnut\b|\bISO\s*(4014|4016|4017|4018|4032|4034|4035|7040|8673|8675|8765)\b|\bDIN\s*(931|933|934|936|939|985|6923)\b/i;
const CIRCLIP = /circlip|retaining ring|\bDIN\s*47[12]\b/i;

/** The tool that a fastener takes, by its standard designation. @returns undefined where the designation does not say */
export function toolFor(designation: string): Tool | undefined {
  if (CIRCLIP.test(designation)) return { kind: 'circlip pliers' };
  const size = threadIn(designation)?.majorMm;
  if (size === undefined) return undefined;
  const flats = SUNK.test(designation) && SOCKET.test(designation) ? COUNTERSUNK[size] : SOCKET.test(designation) ? SOCKETS[size] : undefined;
  if (flats !== undefined) return { kind: 'hex key', sizeMm: flats };
  const across = !SOCKET.test(designation) && HEX.test(designation) ? FLATS[size] : undefined;
  return across === undefined ? undefined : { kind: 'wrench', sizeMm: across };
}

/** Heavier than this two lift, or a hoist (common practice), kg. */
export const HEAVY_KG = 20;
