import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, test } from 'vitest';
import { Solids } from '../../demo/solids.ts';
import { componentsOf } from '../core/assembly/components.ts';
import { packGeometry } from '../core/assembly/geometry-codec.ts';
import type { ImportResult } from '../core/assembly/importing.ts';
import { EdgeClass } from '../core/assembly/part-geometry.ts';
import { itemsOf } from '../core/ledger/items.ts';
import { IDENTITY, translation } from '../core/base/placement.ts';
import { loadKernel, type Kernel } from './load.ts';
import { extractPart } from './extract-part.ts';
import { readStep } from './read-step.ts';
import { writeStep, type StepNode } from './testing/write-step.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- shapes of the kernel */

let k: Kernel;
let s: Solids;
beforeAll(async () => {
  // A kernel of its own: one that has written files names what it reads by other texts of theirs. The application never writes any.
  k = await loadKernel();
  s = new Solids(k);
});
const FILES = join(process.cwd(), 'node_modules/occt-import-js/test/testfiles');
const read = (bytes: Uint8Array, name = 'model.step', more: readonly { name: string; bytes: Uint8Array }[] = []): Promise<ImportResult> =>
  readStep(k, [{ name, bytes }, ...more], { keyOf: (g) => createHash('sha256').update(packGeometry(g)).digest('hex') });
const fixture = (name: string) => new Uint8Array(readFileSync(join(FILES, name)));
const names = (r: ImportResult) => r.assembly.parts.map((p) => [p.name, p.nameFrom]);

// Public files of the interoperability rounds (npm occt-import-js 0.0.23): what a reader of the text finds as names.
describe('names in public files', () => {
  test.each([
    ['cax-if/as1-oc-214.stp', 'as1', ['nut', 'rod', 'bolt', 'l-bracket', 'plate'], 'product'],
    ['cax-if/as1-tu-203.stp', 'as1', ['nut', 'rod', 'bolt', 'l-bracket', 'plate'], 'product'],
    // Products that hold a solid and wires: the kernel calls their parts SOLID and COMPOUND.
    ['cax-if/as1_pe_203.stp', 'AS1_PE_ASM', ['PLATE', 'L-BRACKET', 'BOLT', 'NUT', 'ROD'], 'product'],
    ['cax-if/dm1-oc-214.stp', 'l-bracket assembly', ['nut', 'bolt', 'l-bracket'], 'product'],
    ['cax-if/dm1-id-214.stp', 'dm1', ['l-bracket', 'bolt', 'nut'], 'product'],
    ['cax-if/dm1-pe-214.stp', 'DM1_PE_ASM', ['L-BRACKET', 'BOLT', 'NUT'], 'product'],
    ['cax-if/io1-cm-214.stp', 'io1', ['io1'], 'product'],
    ['cax-if/sg1-c5-214.stp', 'SG1', ['SG1'], 'product'],
    ['cube-units/cube-mm.step', 'cube-mm', ['Cube'], 'product'],
    // Its product is called “Open CASCADE STEP translator …”.
    ['rounded-cube/rounded-cube.step', 'rounded-cube', ['rounded-cube'], 'file'],
    // “(Unsaved)” says nothing, the identifier beside it does.
    ['conical-surface/conical-surface.step', '1000644mill', ['1000644mill'], 'product id'],
  ])('%s', async (file, whole, parts, from) => {
    const r = await read(fixture(file), file.split('/').pop()!);
    expect(r.assembly.name).toBe(whole);
    expect(names(r)).toEqual(parts.map((p) => [p, from]));
  });
  test('as1 by the third system has its 18 components on three levels, none of them a shape without a name', async () => {
    const r = await read(fixture('cax-if/as1_pe_203.stp'));
    expect(
      componentsOf(r.assembly)
        .map((c) => c.name)
        .sort(),
    ).toEqual([...Array<string>(6).fill('BOLT'), ...Array<string>(2).fill('L-BRACKET'), ...Array<string>(8).fill('NUT'), 'PLATE', 'ROD']);
    expect(r.assembly.nodes.map((n) => n.name).filter((n) => /solid|compound/i.test(n))).toEqual([]);
    expect(r.assembly.unit).toBe('inch');
  });
});

describe('names by trust', () => {
  const box = () => s.box([0, 0, 0], [10, 20, 30]);
  /** A file of one part whose product, occurrence and solid are called as told. */
  async function named(what: { product: string; id?: string; description?: string; occurrence?: string; solid?: string }, file = 'pump-7.step') {
    const node: StepNode = { name: 'XPRODUCTX', occurrence: what.occurrence ?? '', shape: box(), placement: IDENTITY };
    const other: StepNode = { name: 'Other', shape: s.box([0, 0, 0], [5, 5, 5]), placement: translation([50, 0, 0]) };
    const text = Buffer.from(writeStep(k, 'Machine', [node, other]))
      .toString('latin1')
      .replace(/PRODUCT\('XPRODUCTX','XPRODUCTX','[^']*'/, `PRODUCT('${what.id ?? what.product}','${what.product}','${what.description ?? ''}'`)
      .replaceAll('XPRODUCTX', '')
      .replace(/MANIFOLD_SOLID_BREP\('[^']*'/, `MANIFOLD_SOLID_BREP('${what.solid ?? ''}'`);
    return (await read(new Uint8Array(Buffer.from(text, 'latin1')), file)).assembly;
  }
  test.each([
    [{ product: 'Bracket', occurrence: 'left', solid: 'Body1' }, 'Bracket', 'product'],
    [{ product: 'SOLID', id: 'SW-40-07', occurrence: 'left' }, 'SW-40-07', 'product id'],
    [{ product: 'Part1', description: 'Bearing cap', occurrence: 'left' }, 'Bearing cap', 'description'],
    [{ product: 'COMPOUND', occurrence: 'Lever:2', solid: 'Body' }, 'Lever', 'occurrence'],
    [{ product: 'Body1', solid: 'Pawl' }, 'Pawl', 'body'],
    [{ product: '7f2c0a4e-9d51-4d5b-8f0e-3b7a1c2d4e5f', solid: 'Wheel' }, 'Wheel', 'body'],
    [{ product: 'Open CASCADE STEP translator 7.5 1', occurrence: 'NAUO3', solid: 'Spring' }, 'Spring', 'body'],
    [{ product: 'Part 1', occurrence: '=>[0:1:1:2]', solid: 'SOLID' }, 'Part 1', 'none'],
  ])('%j is called %s', async (what, name, from) => {
    const assembly = await named(what);
    expect(assembly.parts[0]).toMatchObject({ name, nameFrom: from });
    // Where it came from can be read beside the item.
    const origin = itemsOf(assembly, {})[0]!.values.description.origin;
    expect(origin).toMatch(
      { product: /product name/, 'product id': /identifier/, description: /description/, occurrence: /occurrence/, body: /solid/, none: /default/ }[from]!,
    );
  });
  test('the only part of a file without names has the file’s', async () => {
    const text = Buffer.from(writeStep(k, 'X', [{ name: 'SOLID', shape: box(), placement: IDENTITY }])).toString('latin1');
    const one = text.replace(/MANIFOLD_SOLID_BREP\('[^']*'/, "MANIFOLD_SOLID_BREP(''");
    const { assembly } = await read(new Uint8Array(Buffer.from(one, 'latin1')), 'folder/pump-7.step');
    // Two products: the assembly “X” and its part.
    expect(assembly.parts[0]!.nameFrom).toBe('none');
    expect((await read(fixture('rounded-cube/rounded-cube.step'), 'pump-7.step')).assembly.parts[0]).toMatchObject({ name: 'pump-7', nameFrom: 'file' });
  });
});

describe('what a file says of its occurrences', () => {
  const bar = () => s.box([0, 0, 0], [10, 20, 30]);
  test('an occurrence’s own colour wins over its part’s', async () => {
    const shape = bar();
    const { assembly } = await read(
      writeStep(k, 'Machine', [
        { name: 'Bar', shape, color: '#112233', placement: IDENTITY },
        { name: 'Bar', shape, color: '#112233', ownColor: '#aabbcc', placement: translation([50, 0, 0]) },
      ]),
    );
    expect(assembly.parts.map((p) => p.color)).toEqual(['#112233']);
    expect(componentsOf(assembly).map((c) => assembly.nodes[c.node]!.color ?? assembly.parts[c.part]!.color)).toEqual(['#112233', '#aabbcc']);
  });
  test('names with a stroke are one name: paths stay unique and say where a component is', async () => {
    const shape = bar();
    const { assembly } = await read(
      writeStep(k, 'Machine', [
        { name: 'Gear 1/2', placement: IDENTITY, children: [{ name: 'Wheel', shape, placement: IDENTITY }] },
        { name: 'Gear 1', placement: IDENTITY, children: [{ name: '2/Wheel', shape: s.box([0, 0, 0], [9, 9, 9]), placement: IDENTITY }] },
      ]),
    );
    const paths = componentsOf(assembly).map((c) => c.path);
    expect(new Set(paths).size).toBe(2);
    for (const p of paths) expect(p.split('/')).toHaveLength(2);
    expect(componentsOf(assembly).map((c) => c.name)).toEqual(['Wheel', '2/Wheel']);
  });
  test('files that a file refers to are found whatever the case of their names', async () => {
    const folder = join(FILES, 'cax-if/s1-tu-203');
    const all = readdirSync(folder)
      .filter((f) => f.endsWith('.stp'))
      .map((name) => ({ name: name === 's1-tu-203.stp' ? name : name.toUpperCase(), bytes: new Uint8Array(readFileSync(join(folder, name))) }));
    const top = all.find((f) => f.name === 's1-tu-203.stp')!;
    const { assembly } = await read(
      top.bytes,
      top.name,
      all.filter((f) => f !== top),
    );
    expect([componentsOf(assembly).length, assembly.parts.length]).toEqual([11, 8]);
  });
});

describe('edges', () => {
  test('one that is tangent at one end only is a sharp edge', () => {
    const oc = k as any;
    const point = (x: number, y: number, z: number) => new oc.gp_Pnt_3(x, y, z);
    const edge = (a: any, b: any) => new oc.BRepBuilderAPI_MakeEdge_3(a, b).Edge();
    const sheet = (rise: number) => {
      const flat = new oc.BRepBuilderAPI_MakePolygon_1();
      for (const p of [point(0, 0, 0), point(10, 0, 0), point(10, -10, 0), point(0, -10, 0)]) flat.Add_1(p);
      flat.Close();
      const plane = new oc.BRepBuilderAPI_MakeFace_15(flat.Wire(), true).Face();
      // A ruled face from the same edge: level where x = 0, rising by `rise` where x = 10.
      const ruled = oc.BRepFill.Face(edge(point(0, 0, 0), point(10, 0, 0)), edge(point(0, 10, 0), point(10, 10, rise)));
      const sewing = new oc.BRepBuilderAPI_Sewing(1e-6, true, true, true, false);
      sewing.Add(plane);
      sewing.Add(ruled);
      sewing.Perform(new oc.Message_ProgressRange_1());
      const g = extractPart(k, sewing.SewedShape())!;
      const shared = Array.from({ length: g.edgeClass.length }, (_, e) => e).filter((e) => g.edgeFaces[e * 2]! >= 0 && g.edgeFaces[e * 2 + 1]! >= 0);
      return shared.map((e) => g.edgeClass[e]);
    };
    expect(sheet(10)).toEqual([EdgeClass.sharp]);
    // Level all along, it is none or tangent.
    for (const c of sheet(0)) expect([EdgeClass.tangent, EdgeClass.seam]).toContain(c);
  });
});
