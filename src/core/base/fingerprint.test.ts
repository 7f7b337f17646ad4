import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fingerprint } from './fingerprint.ts';

test('the first half is cyrb53: values of its author (github.com/bryc/code, cyrb53.js)', () => {
  // cyrb53('a') and cyrb53('b') as published beside the function, seed 0 (from memory).
  expect(['a', 'b'].map((t) => parseInt(fingerprint(t).split('-')[0]!, 36))).toEqual([7929297801672961, 8684336938537663]);
});

test('texts that differ in one place have other fingerprints, the same text the same', () => {
  const seen = new Map<string, string>();
  fc.assert(
    fc.property(fc.string({ maxLength: 200 }), fc.nat(199), (text, at) => {
      const other = text.slice(0, at) + '#' + text.slice(at + 1);
      for (const t of [text, other]) {
        const known = seen.get(fingerprint(t));
        expect(known === undefined || known === t).toBe(true);
        seen.set(fingerprint(t), t);
      }
    }),
    { numRuns: 2000, seed: 5 },
  );
});
