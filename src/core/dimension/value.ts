import type { z } from 'zod';
import type { Standard } from '../sheet/paper.ts';
import { fitDeviations } from './fits.ts';
import type { valueStyle, valueText } from './record.ts';

export type ValueStyle = z.infer<typeof valueStyle>;
export type ValueText = z.infer<typeof valueText>;

/** A style in which nothing is left open. */
export type WholeStyle = Required<Omit<ValueStyle, 'heightMm'>> & { readonly heightMm?: number | undefined; readonly standard: Standard };

export const MM_PER_INCH = 25.4;

/** What the standards say: ISO 129-1 millimetres, no zeros at the end; ASME Y14.5 inches, as many decimals for all (both from memory). */
const OF_STANDARD: Readonly<Record<Standard, WholeStyle>> = {
  iso: { standard: 'iso', unit: 'mm', decimals: 2, zeros: false, sign: 'point', fraction: 1, stack: 'level', stackShare: 1, arrows: 'arrow' },
  asme: { standard: 'asme', unit: 'inch', decimals: 2, zeros: true, sign: 'point', fraction: 1, stack: 'level', stackShare: 1, arrows: 'arrow' },
};

/** The style of a value: its own, else the job's, else the standard's. */
export function wholeStyle(standard: Standard, ...styles: readonly (ValueStyle | undefined)[]): WholeStyle {
  const own = Object.assign({}, ...[...styles].reverse()) as ValueStyle;
  const base = OF_STANDARD[standard];
  // Zeros at the end belong to inches in decimals; millimetres have none in either standard.
  const zeros = own.zeros ?? (standard === 'asme' && (own.unit ?? base.unit) !== 'mm');
  return { ...base, ...own, zeros };
}

/** A whole number of inches and a fraction in lowest terms. */
export interface Fraction {
  readonly whole: number;
  readonly over: number;
  readonly under: number;
}

/** Inches to the nearest part, halves up. @param part 2, 4, … 64 */
export function fractionOf(inches: number, part: number): Fraction {
  let over = Math.round(Math.abs(inches) * part + 1e-9);
  const whole = Math.floor(over / part);
  over -= whole * part;
  let under = part;
  while (over > 0 && over % 2 === 0) {
    over /= 2;
    under /= 2;
  }
  return over === 0 ? { whole, over: 0, under: 1 } : { whole, over, under };
}

/** A number with so many decimals, halves away from nought. */
export function decimalText(value: number, { decimals, zeros, sign }: Pick<WholeStyle, 'decimals' | 'zeros' | 'sign'>, leadingZero = true): string {
  const k = 10 ** decimals;
  const rounded = (Math.sign(value) * Math.round(Math.abs(value) * k * (1 + 1e-12) + 1e-9)) / k;
  let out = Math.abs(rounded).toFixed(decimals);
  if (!zeros && out.includes('.')) out = out.replace(/\.?0+$/, '');
  if (!leadingZero) out = out.replace(/^0\./, '.');
  if (rounded < 0) out = `-${out}`;
  return sign === 'comma' ? out.replace('.', ',') : out;
}

/** A value in one line of figures: with a fraction, if it has one, apart. */
export interface Figure {
  readonly text: string;
  readonly fraction?: Fraction;
}

/** A length in one unit. Inches under one have no nought before the point in ASME Y14.5. */
function lengthFigure(mm: number, unit: 'mm' | 'inch', style: WholeStyle): Figure {
  if (unit === 'mm') return { text: decimalText(mm, style) };
  const inches = mm / MM_PER_INCH;
  if (style.fraction > 1) {
    const f = fractionOf(inches, style.fraction);
    const sign = inches < 0 && (f.whole || f.over) ? '-' : '';
    if (!f.over) return { text: `${sign}${f.whole}` };
    return { text: `${sign}${f.whole || ''}`, fraction: f };
  }
  return { text: decimalText(inches, style, style.standard !== 'asme') };
}

/** Degrees of an angle with the decimals of a style; a degree's sign follows. */
function angleFigure(rad: number, style: WholeStyle): Figure {
  return { text: `${decimalText((rad * 180) / Math.PI, { ...style, zeros: false })}°` };
}

export interface ValueParts {
  /** Before the figures, such as `Ø`. */
  readonly lead: string;
  readonly main: Figure;
  /** In the other unit, in brackets. */
  readonly second?: Figure;
  /** Written small, over one another. */
  readonly upper?: string;
  readonly lower?: string;
  /** After the figures, such as `±0.2`, `H7`, `C-C`. */
  readonly trail: string;
  readonly above: string;
  readonly below: string;
  readonly brackets: boolean;
  readonly frame: boolean;
  readonly underline: boolean;
}

/** What a value is of: its sign stands before it. */
export type ValueKind = 'length' | 'diameter' | 'radius' | 'angle' | 'arc' | 'slope' | 'chamfer';

const LEADS: Readonly<Record<ValueKind, string>> = { length: '', diameter: 'Ø', radius: 'R', angle: '', arc: '⌒', slope: '', chamfer: '' };

const isAngle = (kind: ValueKind) => kind === 'angle';

/**
 * What is written of a value.
 * @param value mm; rad for angles; a ratio for slopes
 */
export function valueParts(value: number, kind: ValueKind, style: WholeStyle, text: ValueText = {}): ValueParts {
  const figure = (v: number, unit: 'mm' | 'inch'): Figure =>
    kind === 'slope' ? slopeFigure(v, style) : isAngle(kind) ? angleFigure(v, style) : lengthFigure(v, unit, style);
  const unit = style.unit === 'both' ? (style.standard === 'asme' ? 'inch' : 'mm') : style.unit;
  const other = unit === 'mm' ? 'inch' : 'mm';
  const t = text.tolerance;
  // Tolerances of angles are degrees, whatever lengths are written in.
  const [of, sign] = isAngle(kind) ? (['mm', '°'] as const) : ([unit, ''] as const);
  const nominal = isAngle(kind) ? (value * 180) / Math.PI : value;
  const deviation = (v: number) => `${signed(v, of, style)}${sign}`;
  let [trail, upper, lower] = ['', undefined as string | undefined, undefined as string | undefined];
  let main = text.typed === undefined ? figure(value, unit) : { text: text.typed };
  if (t?.kind === 'equal') trail = ` ±${lengthText(t.mm, of, style)}${sign}`;
  if (t?.kind === 'limits') {
    if (t.asSizes)
      [main, upper, lower] = [{ text: '' }, `${lengthText(nominal + t.upper, of, style)}${sign}`, `${lengthText(nominal + t.lower, of, style)}${sign}`];
    else [upper, lower] = [deviation(t.upper), deviation(t.lower)];
  }
  if (t?.kind === 'fit') {
    const d = fitDeviations(value, t.fit);
    if (t.shows !== 'deviations' || !d) trail = ` ${t.fit}`;
    if (t.shows !== 'class' && d) [upper, lower] = [deviation(d.upper), deviation(d.lower)];
  }
  return {
    lead: `${text.before ? `${text.before} ` : ''}${text.typed === undefined ? LEADS[kind] : ''}`,
    main,
    ...(style.unit === 'both' && !isAngle(kind) && kind !== 'slope' && text.typed === undefined ? { second: figure(value, other) } : {}),
    ...(upper !== undefined && lower !== undefined ? { upper, lower } : {}),
    trail: `${trail}${text.after ? ` ${text.after}` : ''}`,
    above: text.above ?? '',
    below: text.below ?? '',
    brackets: text.form === 'reference',
    frame: text.form === 'basic',
    underline: text.form === 'notToScale',
  };
}

const DEVIATION_DECIMALS = 3;

/** A deviation with its sign; nought has none (ISO 129-1). */
function signed(mm: number, unit: 'mm' | 'inch', style: WholeStyle): string {
  if (Math.abs(mm) < 1e-9) return '0';
  return `${mm > 0 ? '+' : '-'}${lengthText(Math.abs(mm), unit, style)}`;
}

/** Small lengths of tolerances: always decimals, as many as they need. */
function lengthText(mm: number, unit: 'mm' | 'inch', style: WholeStyle): string {
  const decimals = unit === 'mm' ? Math.max(DEVIATION_DECIMALS, style.decimals) : Math.max(4, style.decimals);
  return decimalText(unit === 'mm' ? mm : mm / MM_PER_INCH, { ...style, decimals, zeros: false }, !(unit === 'inch' && style.standard === 'asme'));
}

/** A slope as 1:n. @param ratio rise over run */
function slopeFigure(ratio: number, style: WholeStyle): Figure {
  return { text: ratio > 1e-9 ? `1:${decimalText(1 / ratio, style)}` : '0' };
}

/** All of it in one line, for lists, findings and assistive technology: `Ø25 H7 (+0.021/0) C-C`. */
export function plainText(p: ValueParts): string {
  const figure = (f: Figure) => `${f.text}${f.fraction ? `${f.text ? ' ' : ''}${f.fraction.over}/${f.fraction.under}` : ''}`;
  const limits = p.upper === undefined ? '' : p.main.text === '' && !p.main.fraction ? `${p.upper}/${p.lower}` : ` (${p.upper}/${p.lower})`;
  const value = `${p.lead}${figure(p.main)}${p.second ? ` [${figure(p.second)}]` : ''}${limits}${p.trail}`;
  return [p.above, p.brackets ? `(${value})` : value, p.below].filter(Boolean).join(' ');
}
