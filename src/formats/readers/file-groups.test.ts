import { strToU8 } from 'fflate';
import { describe, expect, test } from 'vitest';
import { fileGroups, isMeshFile, isStep, lacksUnit } from './file-groups.ts';

const step = (name: string, ...refers: string[]) => ({ name, bytes: strToU8(refers.map((r) => `#1=DOCUMENT_FILE('${r}','','');`).join('\n')) });
const groups = (...files: { name: string; bytes: Uint8Array }[]) => fileGroups(files).map((g) => [g.top.name, ...g.beside.map((f) => f.name).sort()]);

describe('which files are assemblies of their own', () => {
  test('by their endings, whatever the case', () => {
    const names = ['a.STP', 'b.step', 'c.p21', 'd.stl', 'e.OBJ', 'f.gltf', 'g.glb', 'h.3mf', 'i.mtl', 'step', 'a.stp.txt', 'a.stl.bak'];
    expect(names.filter(isStep)).toEqual(['a.STP', 'b.step', 'c.p21']);
    expect(names.filter(isMeshFile)).toEqual(['d.stl', 'e.OBJ', 'f.gltf', 'g.glb', 'h.3mf']);
    expect(names.filter(lacksUnit)).toEqual(['d.stl', 'e.OBJ']);
  });
  test('none, one, and one with the files it names, and theirs', () => {
    expect(groups()).toEqual([]);
    expect(groups(step('a.stp'))).toEqual([['a.stp']]);
    expect(groups(step('bolt.stp'), step('top.stp', 'frame.stp'), step('frame.stp', 'bolt.stp'))).toEqual([['top.stp', 'bolt.stp', 'frame.stp']]);
  });
  test('two assemblies that share a part each take it along', () => {
    expect(groups(step('one.stp', 'bolt.stp'), step('two.stp', 'bolt.stp'), step('bolt.stp'))).toEqual([
      ['one.stp', 'bolt.stp'],
      ['two.stp', 'bolt.stp'],
    ]);
  });
  test('a name after a folder counts, one that is only part of another does not, nor its own', () => {
    expect(groups(step('top.stp', 'parts/bolt.stp'), step('bolt.stp'))).toEqual([['top.stp', 'bolt.stp']]);
    expect(groups(step('top.stp', 'parts\\bolt.stp'), step('bolt.stp'))).toEqual([['top.stp', 'bolt.stp']]);
    expect(groups(step('top.stp', 'longbolt.stp'), step('bolt.stp'))).toEqual([['top.stp'], ['bolt.stp']]);
    expect(groups(step('top.stp', 'top.stp'), step('bolt.stp', 'BOLT.STP'))).toEqual([['top.stp'], ['bolt.stp']]);
  });
  test('those that name each other: the first is the top', () => {
    expect(groups(step('b.stp', 'a.stp'), step('a.stp', 'b.stp'))).toEqual([['b.stp', 'a.stp']]);
  });
  test('every mesh is one, with what else lies there', () => {
    const file = (name: string) => ({ name, bytes: new Uint8Array(1) });
    expect(groups(file('a.obj'), file('a.mtl'), file('b.stl'), step('c.stp'))).toEqual([['c.stp'], ['a.obj', 'a.mtl'], ['b.stl', 'a.mtl']]);
  });
});
