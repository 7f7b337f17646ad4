import type { Notice } from '../base/errors.ts';
import { applyToPoint } from '../base/placement.ts';
import type { Assembly } from './assembly.ts';
import { componentsOf } from './components.ts';

/** Units that a file may mean, in mm. */
const UNITS: readonly (readonly [name: string, mm: number, plural: string])[] = [
  ['mm', 1, 'millimetres'],
  ['cm', 10, 'centimetres'],
  ['m', 1000, 'metres'],
  ['inch', 25.4, 'inches'],
  ['foot', 304.8, 'feet'],
];
/** Stated by some files, never asked. */
const RARE: readonly (readonly [string, number])[] = [
  ['micrometre', 1e-3],
  ['µm', 1e-3],
  ['km', 1e6],
];

export const UNIT_NAMES: readonly string[] = UNITS.map(([n]) => n);
export const mmPerUnit = (name: string): number | undefined => [...UNITS, ...RARE].find(([n]) => n === name)?.[1];
export const unitName = (mm: number): string => [...UNITS, ...RARE].find(([, v]) => Math.abs(v / mm - 1) < 1e-9)?.[0] ?? `${mm} mm`;

/** Machines are larger than this and smaller than that; what lies outside is asked. mm, largest side */
const SMALLEST_MM = 1;
const LARGEST_MM = 100_000;
/** The size around which most machines lie, mm: between a few centimetres and a few metres. */
const USUAL_MM = 500;

export const isLikelySize = (sizeMm: readonly number[]): boolean => {
  const largest = Math.max(...sizeMm);
  return largest >= SMALLEST_MM && largest <= LARGEST_MM;
};

/** Such as `743 × 310 × 402 mm`, in metres from two metres on, three figures. */
export function sizeText(sizeMm: readonly number[]): string {
  const metres = Math.max(...sizeMm) >= 2000;
  return `${sizeMm.map((v) => Number((metres ? v / 1000 : v).toPrecision(3))).join(' × ')} ${metres ? 'm' : 'mm'}`;
}

export interface UnitChoice {
  readonly unit: string;
  readonly plural: string;
  readonly unitMm: number;
  readonly sizeMm: readonly number[];
}

/** What each unit would give, the likeliest first. @param size in the unit of the file */
export function unitChoices(size: readonly number[]): UnitChoice[] {
  const far = (c: UnitChoice) => Math.abs(Math.log(Math.max(...c.sizeMm, 1e-12) / USUAL_MM));
  return UNITS.map(([unit, unitMm, plural]) => ({ unit, plural, unitMm, sizeMm: size.map((v) => v * unitMm) })).sort((a, b) => far(a) - far(b));
}

/** Width, depth and height of everything, mm. */
export function sizeOf(assembly: Assembly): [number, number, number] {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const c of componentsOf(assembly)) {
    const b = assembly.parts[c.part]!.box;
    for (let k = 0; k < 8; k++)
      applyToPoint(c.placement, [b[k & 1 ? 3 : 0]!, b[k & 2 ? 4 : 1]!, b[k & 4 ? 5 : 2]!]).forEach((v, i) => {
        low[i] = Math.min(low[i]!, v);
        high[i] = Math.max(high[i]!, v);
      });
  }
  return low.map((v, i) => Math.max(0, high[i]! - v)) as [number, number, number];
}

/** Says so when the whole is larger or smaller than a machine can be, with what the likeliest unit would give. */
export function unlikelySize(assembly: Assembly): Notice | undefined {
  const sizeMm = sizeOf(assembly);
  if (isLikelySize(sizeMm)) return undefined;
  const stated = mmPerUnit(assembly.unit) ?? 1;
  const best = unitChoices(sizeMm.map((v) => v / stated)).find((c) => c.unitMm !== stated)!;
  return {
    code: 'SIZE_UNLIKELY',
    about: assembly.name,
    text: `The whole would be ${sizeText(sizeMm)}: is ${assembly.unit} its unit? In ${best.plural} it would be ${sizeText(best.sizeMm)}.`,
  };
}

/** A sensible unit for a format without one: millimetres, metres where the numbers are small. @param size in the unit of the file */
export function guessUnitMm(size: readonly number[]): number {
  const largest = Math.max(...size);
  return largest > 0 && largest < 8 ? 1000 : 1;
}
