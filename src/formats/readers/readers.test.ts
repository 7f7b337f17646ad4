import { Document, NodeIO } from '@gltf-transform/core';
import { EXTMeshGPUInstancing, EXTMeshoptCompression, KHRDracoMeshCompression, KHRMeshQuantization } from '@gltf-transform/extensions';
import draco3d from 'draco3dgltf';
import { MeshoptEncoder } from 'meshoptimizer/encoder';
import { strToU8, zipSync } from 'fflate';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { BoxGeometry, Mesh, MeshBasicMaterial, Scene } from 'three';
import { OBJExporter } from 'three/examples/jsm/exporters/OBJExporter.js';
import { STLExporter } from 'three/examples/jsm/exporters/STLExporter.js';
import { describe, expect, test } from 'vitest';
import { componentsOf } from '../../core/assembly/components.ts';
import type { ImportResult } from '../../core/assembly/importing.ts';
import { assemblyFromMeshes, sizeOfTrees, type MeshChoices } from '../../core/assembly/mesh-tree.ts';
import { guessUnitMm } from '../../core/assembly/units.ts';
import { determinant } from '../../core/base/placement.ts';
import { namedFrame } from '../../core/outline/directions.ts';
import { sceneOf } from '../../core/outline/scene-of.ts';
import { viewBox } from '../../core/shade/raster.ts';
import { HOSTILE_MESHES, tetraStl } from '../testing/hostile-files.ts';
import { readMeshFile } from './index.ts';
import { readObj } from './obj.ts';

const MODELS = join(process.cwd(), 'node_modules/stl-models');
async function load(
  name: string,
  bytes: Uint8Array,
  choices: Partial<MeshChoices> = {},
  beside: { name: string; bytes: Uint8Array }[] = [],
): Promise<ImportResult> {
  const tree = await readMeshFile({ name, bytes }, beside);
  const all: string[] = [];
  return assemblyFromMeshes(tree, { unitMm: tree.unitMm ?? 1, up: tree.up, ...choices }, (g) => {
    const text = g.positions.join();
    if (!all.includes(text)) all.push(text);
    return `g${all.indexOf(text)}`;
  });
}
function sizeOf({ assembly, geometries }: ImportResult): number[] {
  const bodies = sceneOf(assembly, geometries);
  const [top, front] = [viewBox(bodies, namedFrame('top')), viewBox(bodies, namedFrame('front'))];
  return [top[2] - top[0], top[3] - top[1], front[3] - front[1]];
}
const close = (a: readonly number[], b: readonly number[], digits = 4) =>
  // Whole lists: one that is too short is not near.
  expect(Array.from(a)).toEqual(Array.from(b, (v) => expect.closeTo(v, digits)));

/** Two named boxes, made and written by another library. */
function twoBoxes(): Scene {
  const scene = new Scene();
  [
    ['Base', 40, 30, 10, 0],
    ['Post', 10, 10, 60, 35],
  ].forEach(([name, x, y, z, at]) => {
    const mesh = new Mesh(new BoxGeometry(x as number, y as number, z as number), new MeshBasicMaterial());
    mesh.name = name as string;
    mesh.position.z = at as number;
    scene.add(mesh);
  });
  scene.updateMatrixWorld(true);
  return scene;
}

describe('STL', () => {
  // npm stl-models 0.12.0: counts and sizes measured once with another reader.
  test('the gear wheel: 41.72 × 41.72 × 8, 8,922.637 mm³, the same from text and from bytes', async () => {
    const [binary, plain] = await Promise.all(
      ['bin', 'ascii'].map((k) => load(`gearwheel.${k}.stl`, new Uint8Array(readFileSync(join(MODELS, `objects/gearwheel.${k}.stl`))))),
    );
    close(sizeOf(binary!), [41.72, 41.72, 8], 2);
    expect(binary!.assembly.parts[0]!.volumeMm3).toBeCloseTo(8922.637, 1);
    close(sizeOf(plain!), sizeOf(binary!), 3);
  });
  test('written by another library and read in inches', async () => {
    const data = new STLExporter().parse(twoBoxes(), { binary: true });
    const read = await load('boxes.stl', new Uint8Array(data.buffer, data.byteOffset, data.byteLength), { unitMm: 25.4 });
    close(
      sizeOf(read),
      [40, 30, 70].map((v) => v * 25.4),
      2,
    );
    expect(read.assembly.unit).toBe('inch');
  });
  test('each solid of a text file is a component', async () => {
    const facet = (z: number) => `facet normal 0 0 1\nouter loop\nvertex 0 0 ${z}\nvertex 9 0 ${z}\nvertex 0 9 ${z}\nendloop\nendfacet\n`;
    const { assembly } = await load('pair.stl', strToU8(`solid Lower\n${facet(0)}endsolid Lower\nsolid Upper\n${facet(5)}endsolid Upper\n`));
    expect(assembly.nodes.map((n) => n.name)).toEqual(['pair', 'Lower', 'Upper']);
    expect(assembly.notices.map((n) => n.code)).toEqual(['OPEN_SURFACE', 'OPEN_SURFACE']);
  });
  test('every deliberately broken file of the collection ends in a reading or a sentence', async () => {
    for (const f of readdirSync(join(MODELS, 'broken'))) {
      const outcome = await load(f, new Uint8Array(readFileSync(join(MODELS, 'broken', f)))).then(
        () => 'read',
        (e: { code?: string }) => e.code,
      );
      expect([f, outcome]).toEqual([f, expect.stringMatching(/^(read|FILE_\w+)$/)]);
    }
  });
});

describe('OBJ', () => {
  test('written by another library: objects are components with their names and places', async () => {
    const read = await load('boxes.obj', strToU8(new OBJExporter().parse(twoBoxes())));
    expect(componentsOf(read.assembly).map((c) => c.name)).toEqual(['Base', 'Post']);
    close(sizeOf(read), [40, 30, 70]);
    expect(read.assembly.parts.map((p) => Math.round(p.volumeMm3))).toEqual([12000, 6000]);
  });
  test('colours come from the material library given with it, whatever else lies beside', () => {
    const file = (name: string, text: string) => ({ name, bytes: strToU8(text) });
    const obj = file('a.obj', 'mtllib a.mtl\no Post\nusemtl Oak\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n');
    const beside = [file('notes.txt', 'newmtl Oak\nKd 0 0 0\n'), file('a.mtl', 'newmtl Oak\nNs 10\nKd 0.8 0.4 0\n')];
    expect(readObj(obj, beside).meshes[0]).toMatchObject({ name: 'Post', material: 'Oak', color: '#cc6600' });
    expect(readObj(obj).meshes[0]!.color).toBeUndefined();
  });
  test('a colour of too few figures, or of none, is no colour', () => {
    const file = (name: string, text: string) => ({ name, bytes: strToU8(text) });
    const obj = file('a.obj', 'o Post\nusemtl Oak\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n');
    const color = (kd: string) => readObj(obj, [file('a.mtl', `newmtl Oak\n${kd}\n`)]).meshes[0]!.color;
    expect([color('Kd 1 0 0'), color('Kd 0.8'), color('Kd a b c'), color('Kd 1 0 x'), color('Ns 3')]).toEqual([
      '#ff0000',
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });
  test('with Y up it is turned upright', async () => {
    close(sizeOf(await load('boxes.obj', strToU8(new OBJExporter().parse(twoBoxes())), { up: 'y' })), [40, 70, 30]);
  });
});

describe('glTF', () => {
  /** A shelf of one bracket used three times: plain, stretched, mirrored. Metres, Y up. */
  function shelf(): Document {
    const doc = new Document();
    const buffer = doc.createBuffer();
    const box = new BoxGeometry(0.04, 0.03, 0.02);
    box.translate(0.02, 0, 0);
    const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint16Array) =>
      doc
        .createAccessor()
        .setType(type)
        .setArray(array as never)
        .setBuffer(buffer);
    const steel = doc.createMaterial('Steel').setBaseColorFactor([1, 0, 0, 1]);
    const primitive = doc
      .createPrimitive()
      .setAttribute('POSITION', accessor('VEC3', Float32Array.from(box.getAttribute('position').array)))
      .setIndices(accessor('SCALAR', Uint16Array.from(box.getIndex()!.array)))
      .setMaterial(steel);
    const mesh = doc.createMesh('Bracket').addPrimitive(primitive).setExtras({ Supplier: 'Tidewater' });
    const root = doc.createNode('Shelf');
    const group = doc.createNode('Row').setTranslation([0, 0.1, 0]);
    root.addChild(group);
    group.addChild(doc.createNode('Plain').setMesh(mesh));
    group.addChild(doc.createNode('Long').setMesh(mesh).setTranslation([0, 0.1, 0]).setScale([2, 1, 1]));
    group.addChild(doc.createNode('Mirrored').setMesh(mesh).setTranslation([0, 0.2, 0]).setScale([-1, 1, 1]));
    doc.createScene('Scene').addChild(root);
    return doc;
  }
  test('tree, names, colour, material, properties; what is stretched is a part of its own, what is mirrored is not', async () => {
    const read = await load('shelf.glb', await new NodeIO().writeBinary(shelf()));
    const { assembly, geometries } = read;
    expect(assembly.nodes.map((n) => n.name)).toEqual(['Shelf', 'Row', 'Plain', 'Long', 'Mirrored']);
    expect(assembly.parts.map((p) => [p.name, p.material, p.color, Math.round(p.volumeMm3)])).toEqual([
      ['Bracket', 'Steel', '#ff0000', 24000],
      ['Bracket', 'Steel', '#ff0000', 48000],
    ]);
    expect(assembly.parts[0]!.properties).toEqual({ Supplier: 'Tidewater' });
    const mirrored = componentsOf(assembly).find((c) => c.path.endsWith('Mirrored'))!;
    expect(mirrored.part).toBe(0);
    expect(determinant(mirrored.placement)).toBeCloseTo(-1, 6);
    // Upright: what was up in Y is up in Z; 80 mm to the right, 40 mm to the left.
    close(sizeOf(read), [120, 20, 230], 3);
    expect([...geometries.values()].every((g) => g.closed)).toBe(true);
  });
  test.each([
    ['Draco', KHRDracoMeshCompression],
    ['meshopt', EXTMeshoptCompression],
  ] as const)('packed with %s it is the same shelf', async (_, Packing) => {
    await MeshoptEncoder.ready;
    const io = new NodeIO()
      .registerExtensions([KHRDracoMeshCompression, EXTMeshoptCompression, KHRMeshQuantization])
      .registerDependencies({ 'draco3d.encoder': await draco3d.createEncoderModule(), 'meshopt.encoder': MeshoptEncoder });
    const doc = shelf();
    doc.createExtension<KHRDracoMeshCompression | EXTMeshoptCompression>(Packing).setRequired(true);
    const bytes = await io.writeBinary(doc);
    expect(new TextDecoder('latin1').decode(bytes)).toContain(Packing.EXTENSION_NAME);
    const read = await load('shelf.glb', bytes);
    expect(read.assembly.parts.map((p) => [p.name, Math.round(p.volumeMm3 / 10)])).toEqual([
      ['Bracket', 2400],
      ['Bracket', 4800],
    ]);
    expect([...read.geometries.values()].every((g) => g.closed)).toBe(true);
    close(sizeOf(read), [120, 20, 230], 1);
  });
  test('data of any depth are properties: of the mesh, of what all its nodes say alike, of the whole', async () => {
    const doc = shelf();
    doc
      .getRoot()
      .listMeshes()[0]!
      .setExtras({ supplier: { name: 'Tidewater', numbers: [7, 8] }, tested: true, nothing: null });
    for (const node of doc.getRoot().listNodes()) node.setExtras({ batch: { year: 2026 }, place: node.getName() });
    doc.getRoot().listScenes()[0]!.setExtras({ project: 'Harbour' });
    const { assembly } = await load('shelf.glb', await new NodeIO().writeBinary(doc));
    expect(assembly.parts[0]!.properties).toEqual({ 'batch.year': '2026', 'supplier.name': 'Tidewater', 'supplier.numbers': '7, 8', tested: 'true' });
    expect(assembly.properties).toMatchObject({ project: 'Harbour', place: 'Shelf' });
  });
  test('what one node shows many times is so many components, where the file says', async () => {
    const doc = shelf();
    const buffer = doc.getRoot().listBuffers()[0]!;
    const float = (type: 'VEC3' | 'VEC4', array: number[]) => doc.createAccessor().setType(type).setArray(new Float32Array(array)).setBuffer(buffer);
    const half = Math.SQRT1_2;
    const instancing = doc.createExtension(EXTMeshGPUInstancing).setRequired(true);
    const instances = instancing
      .createInstancedMesh()
      .setAttribute('TRANSLATION', float('VEC3', [0, 0, 0, 1, 0, 0]))
      .setAttribute('ROTATION', float('VEC4', [0, 0, 0, 1, 0, 0, half, half]));
    const [plain, ...others] = doc
      .getRoot()
      .listNodes()
      .filter((n) => n.getMesh());
    plain!.setExtension('EXT_mesh_gpu_instancing', instances);
    for (const o of others) o.dispose();
    const read = await load('shelf.glb', await new NodeIO().registerExtensions([EXTMeshGPUInstancing]).writeBinary(doc));
    expect(componentsOf(read.assembly)).toHaveLength(2);
    // The second stands 1 m to the right, turned a quarter about the file's Z: 30 mm wide instead of 40 to the right of 0.
    close(sizeOf(read), [1015, 20, 55], 3);
  });
  test('strips and fans are the triangles they say, wound the same way; lines are left out and told', async () => {
    const doc = new Document();
    const buffer = doc.createBuffer();
    const square = Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0]);
    const ring = Float32Array.from([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]);
    const mesh = (name: string, mode: number, points: Float32Array<ArrayBuffer>) =>
      doc.createMesh(name).addPrimitive(
        doc
          .createPrimitive()
          .setMode(mode as never)
          .setAttribute('POSITION', doc.createAccessor().setType('VEC3').setArray(points).setBuffer(buffer)),
      );
    const scene = doc.createScene('Modes');
    for (const [name, mode, points] of [
      ['Strip', 5, square],
      ['Fan', 6, ring],
      ['Triangles', 4, ring.slice(0, 9)],
      ['Lines', 1, ring],
    ] as const)
      scene.addChild(doc.createNode(name).setMesh(mesh(name, mode, points)));
    const tree = await readMeshFile({ name: 'modes.glb', bytes: await new NodeIO().writeBinary(doc) }, []);
    const corners = (i: number) =>
      Array.from({ length: tree.meshes[i]!.positions.length / 3 }, (_, k) =>
        Array.from(tree.meshes[i]!.positions)
          .slice(3 * k, 3 * k + 2)
          .join(''),
      );
    // glTF 2.0, 3.7.2.1: strip (0 1 2)(1 3 2), fan (0 1 2)(0 2 3).
    expect(corners(0)).toEqual(['00', '10', '01', '10', '11', '01']);
    expect(corners(1)).toEqual(['00', '10', '11', '00', '11', '01']);
    expect(corners(2)).toEqual(['00', '10', '11']);
    expect(corners(3)).toEqual([]);
    expect(tree.notices).toEqual([{ code: 'LEFT_OUT', about: 'Lines', text: '“Lines” has lines or points that are left out.' }]);
    // Without a top of its own the file's scene is the top.
    expect(tree.nodes.map((n) => [n.name, n.parent])).toEqual([
      ['Modes', -1],
      ['Strip', 0],
      ['Fan', 0],
      ['Triangles', 0],
      ['Lines', 0],
    ]);
  });
  test('buffers in the text, in a folder, in another case; pictures are not asked for, buffers are', async () => {
    const { json, resources } = await new NodeIO().writeJSON(shelf());
    const [[, bytes]] = Object.entries(resources) as [[string, Uint8Array]];
    const buffers = json.buffers as { uri?: string }[];
    const withUri = (uri: string) =>
      strToU8(JSON.stringify({ ...json, buffers: [{ ...buffers[0], uri }], images: [{ uri: 'wood.png' }, { uri: 'data:image/png;base64,AA==' }] }));
    const size = async (uri: string, beside: { name: string; bytes: Uint8Array }[]) => sizeOf(await load('shelf.gltf', withUri(uri), {}, beside));
    close(await size(`data:application/octet-stream;base64,${Buffer.from(bytes).toString('base64')}`, []), [120, 20, 230], 3);
    close(await size('parts/My%20Shelf.bin', [{ name: 'my shelf.BIN', bytes }]), [120, 20, 230], 3);
    await expect(size('parts/My%20Shelf.bin', [{ name: 'other.bin', bytes }])).rejects.toMatchObject({
      code: 'FILES_MISSING',
      message: expect.stringContaining('My Shelf.bin'),
    });
  });
  test('text with its buffer beside it is the same', async () => {
    const { json, resources } = await new NodeIO().writeJSON(shelf());
    const beside = Object.entries(resources).map(([name, bytes]) => ({ name, bytes }));
    close(sizeOf(await load('shelf.gltf', strToU8(JSON.stringify(json)), {}, beside)), [120, 20, 230], 3);
  });
});

describe('3MF', () => {
  const cube = (id: number, s: number, extra = '') => {
    const v = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => `<vertex x="${i & 1 ? s : 0}" y="${i & 2 ? s : 0}" z="${i & 4 ? s : 0}"/>`).join('');
    const t = ['0 2 1', '1 2 3', '4 5 6', '5 7 6', '0 1 4', '1 5 4', '2 6 3', '3 6 7', '0 4 2', '2 4 6', '1 3 5', '3 7 5']
      .map((f) => f.split(' '))
      .map(([a, b, c]) => `<triangle v1="${a}" v2="${b}" v3="${c}"/>`)
      .join('');
    return `<object id="${id}" ${extra}><mesh><vertices>${v}</vertices><triangles>${t}</triangles></mesh></object>`;
  };
  // Row vectors, translation last (3MF core specification 1.3, chapter 3.3).
  const file = (unit: string) =>
    zipSync({
      '3D/3dmodel.model': strToU8(
        `<?xml version="1.0"?><model unit="${unit}" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources>` +
          '<basematerials id="9"><base name="PA 12" displaycolor="#3366CCFF"/></basematerials>' +
          cube(1, 2, 'name="Cube &amp; Co" pid="9" pindex="0"') +
          '<object id="2" name="Pair"><components><component objectid="1"/><component objectid="1" transform="0 1 0 -1 0 0 0 0 1 10 0 0"/></components></object>' +
          '</resources><build><item objectid="2" transform="1 0 0 0 1 0 0 0 1 0 0 5"/></build></model>',
      ),
    });
  test('unit, names, colours, materials, components in their places', async () => {
    const read = await load('pair.3mf', file('inch'));
    expect(read.assembly.nodes.map((n) => n.name)).toEqual(['pair', 'Pair', 'Cube & Co', 'Cube & Co']);
    expect(read.assembly.parts).toMatchObject([{ name: 'Cube & Co', color: '#3366cc', material: 'PA 12' }]);
    // The second cube is turned by 90° about its corner and stands at x = 8…10.
    close(
      sizeOf(read),
      [10, 2, 2].map((v) => v * 25.4),
    );
    expect(read.assembly.parts[0]!.volumeMm3).toBeCloseTo(8 * 25.4 ** 3, 3);
  });
});

describe('what is asked', () => {
  test('the size of a file without a unit, and a sensible guess', async () => {
    const tree = await readMeshFile({ name: 't.stl', bytes: tetraStl() }, []);
    expect(sizeOfTrees([tree], 'z')).toEqual([10, 10, 10]);
    expect([guessUnitMm([10, 10, 10]), guessUnitMm([1.2, 0.4, 0.9])]).toEqual([1, 1000]);
  });
});

describe('hostile files', () => {
  test('there are forty or more', () => expect(HOSTILE_MESHES.length).toBeGreaterThanOrEqual(40));
  test.each(HOSTILE_MESHES.map((f) => [`${f.name}: ${f.what}`, f] as const))('%s', async (_, f) => {
    const began = performance.now();
    const outcome = await load(f.name, f.bytes).then(
      ({ assembly }) => {
        // Names are text of one line.
        for (const n of assembly.nodes) expect(n.name).toMatch(/^.{1,200}$/);
        return 'read';
      },
      (e: { code?: string; message: string }) => {
        expect(e.message).toMatch(/^[^\n]{10,300}$/);
        return e.code;
      },
    );
    expect(outcome).toBe(f.ends);
    expect(performance.now() - began).toBeLessThan(5000);
  });
});
