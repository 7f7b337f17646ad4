import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { expect, test } from 'vitest';
import { QuarryError } from '../core/base/errors.ts';
import { verifyPackage, writePackage } from './package.ts';

const about = { title: 'Winch', number: 'SW-40', revision: 'B', date: '2026-01-01' };
const files = [
  { name: 'drawing.pdf', bytes: strToU8('%PDF-1.7 not really') },
  { name: 'list.csv', bytes: strToU8('Item,Qty\r\n1,2\r\n'.repeat(40)) },
];
const made = writePackage(files, about);
const refused = (bytes: Uint8Array): string | undefined => {
  try {
    verifyPackage(bytes, 'p.zip');
    return undefined;
  } catch (e) {
    return e instanceof QuarryError ? e.code : String(e);
  }
};

test('the same files give the same bytes, and any zip program opens them', () => {
  expect(writePackage(files, about)).toEqual(made);
  expect(Object.keys(unzipSync(made)).sort()).toEqual(['drawing.pdf', 'list.csv', 'manifest.json']);
});
test('it is verified, with what it says of itself', () => {
  expect(verifyPackage(made, 'p.zip')).toMatchObject({ ok: true, ...about, files: [{ name: 'drawing.pdf', bytes: 19 }, { name: 'list.csv' }] });
});
test('no byte can be another, none can be missing', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: made.length - 1 }), fc.integer({ min: 1, max: 255 }), (at, by) => {
      const bad = made.slice();
      bad[at] = bad[at]! ^ by;
      expect(['PACKAGE_CHANGED', 'ZIP_BROKEN']).toContain(refused(bad));
    }),
    { numRuns: 500, seed: 11 },
  );
  for (const n of [1, 20, 80, made.length - 3]) expect(refused(made.slice(0, made.length - n))).toBeDefined();
});
test('a file put in afterwards, and a zip that is none of ours, are told apart', () => {
  const entries = unzipSync(made);
  expect(refused(zipSync({ ...entries, 'more.txt': strToU8('x') }))).toBeDefined();
  expect(refused(zipSync({ 'a.txt': strToU8('x'.repeat(100)) }))).toBe('ZIP_BROKEN');
  expect(refused(strToU8('no zip at all'))).toBe('ZIP_BROKEN');
});
