import { describe, expect, test } from 'vitest';
import { checkCancel, QuarryError } from './errors.ts';

describe('errors for the user', () => {
  test('carry a code, what a program needs, and a sentence', () => {
    const e = new QuarryError('FILE_TOO_LARGE', { file: 'a.stp', bytes: 2_340_000, limitBytes: 1_000_000 }, { cause: 'why' });
    expect(e).toMatchObject({ code: 'FILE_TOO_LARGE', details: { bytes: 2_340_000 }, cause: 'why', name: 'QuarryError' });
    expect(e.message).toBe('a.stp has 2.3 MB; the limit is 1 MB. Leave out what the drawing does not need, or raise the limit.');
  });
  test('name eight files at most and count the rest', () => {
    const missing = (n: number) => new QuarryError('FILES_MISSING', { files: Array.from({ length: n }, (_, i) => `p${i + 1}`) }).message;
    expect(missing(2)).toContain('not given: p1, p2. Drop');
    expect(missing(8)).toContain('p7, p8. Drop');
    expect(missing(11)).toContain('p7, p8 and 3 more. Drop');
  });
  test('count in the right number', () => {
    const after = (seconds: number) => new QuarryError('IMPORT_TIMEOUT', { seconds }).message;
    expect([after(1), after(2)].map((m) => m.split(' and ')[0])).toEqual(['Reading took longer than 1 second', 'Reading took longer than 2 seconds']);
    const many = (what?: string) => new QuarryError('FILE_TOO_MANY', { file: 'a', count: 3, limit: 2, ...(what ? { what } : {}) }).message;
    expect([many(), many('rows')]).toEqual(['a has 3 components; the limit is 2.', 'a has 3 rows; the limit is 2.']);
  });
  test('work that is cancelled stops with its own code, other work goes on', () => {
    expect(() => checkCancel({ aborted: true })).toThrow(QuarryError);
    checkCancel({ aborted: false });
    checkCancel(undefined);
  });
});
