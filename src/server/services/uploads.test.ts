import { zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { fileGroups } from '../../formats/readers/file-groups.ts';
import { claimingSize } from '../../formats/testing/hostile-files.ts';
import { orderUpload } from './uploads.ts';
import { check, editRequest } from '../validation.ts';

const file = (name: string, text: string) => ({ name, bytes: new TextEncoder().encode(text) });
const code = (work: () => unknown) => {
  try {
    work();
    return 'fine';
  } catch (e) {
    return (e as { code: string }).code;
  }
};

describe('what is dropped', () => {
  const top = file('top.stp', "DOCUMENT_FILE('part.stp')");
  const part = file('part.stp', 'nothing');

  test('the file that no other names is the top, in whatever order they come', () => {
    expect(orderUpload([part, top]).map((f) => f.name)).toEqual(['top.stp', 'part.stp']);
  });
  test('a zip is the same as its files; other files in it and its folders do not matter', () => {
    const zip = { name: 'all.zip', bytes: zipSync({ 'x/part.stp': part.bytes, 'x/top.stp': top.bytes, 'x/readme.txt': part.bytes }) };
    expect(orderUpload([zip]).map((f) => f.name)).toEqual(['top.stp', 'part.stp']);
  });
  test('files that do not name each other are assemblies of their own, whatever their format', () => {
    const files = [file('a.stl', 'solid'), file('scene.gltf', '{}'), file('scene.bin', 'x'), file('b.stp', 'alone'), top, part];
    expect(fileGroups(files).map((g) => [g.top.name, g.beside.map((f) => f.name)])).toEqual([
      ['b.stp', []],
      ['top.stp', ['part.stp']],
      ['a.stl', ['scene.bin']],
      ['scene.gltf', ['scene.bin']],
    ]);
  });
  test.each([
    ['nothing', () => orderUpload([]), 'BAD_REQUEST'],
    ['an empty file', () => orderUpload([file('a.stp', '')]), 'FILE_EMPTY'],
    ['a picture', () => orderUpload([file('a.png', 'x')]), 'FILE_UNKNOWN'],
    ['a zip that is none', () => orderUpload([file('a.zip', 'PK nonsense')]), 'ZIP_BROKEN'],
    ['a zip without an assembly', () => orderUpload([{ name: 'a.zip', bytes: zipSync({ 'a.txt': part.bytes }) }]), 'FILE_UNKNOWN'],
    ['a zip bomb', () => orderUpload([{ name: 'a.zip', bytes: claimingSize(zipSync({ 'a.stp': part.bytes }), 250_000_000) }]), 'FILE_TOO_LARGE'],
  ])('%s', (_, work, expected) => {
    expect(code(work)).toBe(expected);
  });
});

describe('requests', () => {
  test('name what is wrong with them', () => {
    expect(() =>
      check(editRequest, {
        version: 1,
        label: 'x',
        steps: [{ op: 'put', record: { type: 'sheet', id: 's', order: 1, name: '', size: 'A9', landscape: true } }],
      }),
    ).toThrow(/steps\.0\.record\.size.*no such sheet size/);
    expect(code(() => check(editRequest, { version: -1 }))).toBe('BAD_REQUEST');
  });
});
