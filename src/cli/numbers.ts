import { QuarryError } from '../core/base/errors.ts';

/** Numbers with commas between them. @param count how many there must be; absent: one or more @throws QuarryError BAD_USAGE */
export function numbersOf(option: string, text: string, count?: number): number[] {
  const numbers = text.split(',').map((t) => (t.trim() === '' ? NaN : Number(t)));
  if (numbers.some((v) => !Number.isFinite(v)) || (count !== undefined && numbers.length !== count))
    throw new QuarryError('BAD_USAGE', { text: `--${option} takes ${count ?? 'one or more'} numbers with commas between them.` });
  return numbers;
}
