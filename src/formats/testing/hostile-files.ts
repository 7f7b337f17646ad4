import { strToU8, zipSync } from 'fflate';

/** A file that tries something, and how it must end: an error of one of these codes, or read (with a notice, if named). */
export interface HostileFile {
  readonly what: string;
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly ends: string;
}

const text = (s: string) => strToU8(s);

/** Repeatable noise. */
function noise(n: number, seed = 7): Uint8Array {
  const out = new Uint8Array(n);
  let s = seed;
  for (let i = 0; i < n; i++) {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    out[i] = s >>> 24;
  }
  return out;
}

const CENTRAL_HEADER = 0x02014b50;

/** A zip whose directory promises that every entry unpacks to so many bytes. */
export function claimingSize(zip: Uint8Array, bytes: number): Uint8Array {
  const out = zip.slice();
  const view = new DataView(out.buffer);
  for (let i = 0; i + 46 <= out.length; i++) if (view.getUint32(i, true) === CENTRAL_HEADER) view.setUint32(i + 24, bytes, true);
  return out;
}

// STL

export function binaryStl(triangles: readonly (readonly number[])[], promised = triangles.length): Uint8Array {
  const bytes = new Uint8Array(84 + triangles.length * 50);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, promised, true);
  triangles.forEach((t, i) => t.forEach((v, k) => view.setFloat32(84 + i * 50 + 12 + k * 4, v, true)));
  return bytes;
}
const TETRA = [
  [0, 0, 0, 0, 10, 0, 10, 0, 0],
  [0, 0, 0, 10, 0, 0, 0, 0, 10],
  [0, 0, 0, 0, 0, 10, 0, 10, 0],
  [10, 0, 0, 0, 10, 0, 0, 0, 10],
];
export const tetraStl = () => binaryStl(TETRA);

const stl: HostileFile[] = [
  { what: 'empty', name: 'empty.stl', bytes: new Uint8Array(0), ends: 'FILE_EMPTY' },
  { what: 'ten bytes', name: 'short.stl', bytes: noise(10), ends: 'FILE_DAMAGED' },
  { what: 'a header alone', name: 'header.stl', bytes: new Uint8Array(84), ends: 'FILE_DAMAGED' },
  { what: 'more triangles promised than there are', name: 'promise.stl', bytes: binaryStl(TETRA, 4_000_000), ends: 'FILE_DAMAGED' },
  { what: 'four billion triangles promised', name: 'billions.stl', bytes: binaryStl(TETRA, 0xffffffff), ends: 'FILE_TOO_MANY' },
  { what: 'NaN among the points', name: 'nan.stl', bytes: binaryStl([...TETRA, [NaN, 0, 0, 1, 0, 0, 0, 1, 0]]), ends: 'read' },
  { what: 'nothing but NaN', name: 'allnan.stl', bytes: binaryStl([new Array<number>(9).fill(NaN)]), ends: 'FILE_NO_SOLIDS' },
  { what: 'infinite points', name: 'infinite.stl', bytes: binaryStl([...TETRA, [Infinity, 0, 0, 1, 0, 0, 0, 1, 0]]), ends: 'read' },
  { what: 'huge coordinates', name: 'huge.stl', bytes: binaryStl(TETRA.map((t) => t.map((v) => v * 1e30))), ends: 'read' },
  { what: 'triangles without area', name: 'flat.stl', bytes: binaryStl([[0, 0, 0, 1, 1, 1, 2, 2, 2]]), ends: 'FILE_NO_SOLIDS' },
  {
    what: 'text cut off in a facet',
    name: 'cut.stl',
    bytes: text('solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0'),
    ends: 'FILE_DAMAGED',
  },
  {
    what: 'binary that begins with “solid”',
    name: 'solid.stl',
    bytes: Uint8Array.from([...text('solid not text'), ...binaryStl(TETRA).subarray(14)]),
    ends: 'read',
  },
  { what: 'noise', name: 'noise.stl', bytes: noise(3000), ends: 'FILE_TOO_MANY' },
];

// OBJ

const obj: HostileFile[] = [
  { what: 'noise', name: 'noise.obj', bytes: noise(3000), ends: 'FILE_DAMAGED' },
  { what: 'points without faces', name: 'points.obj', bytes: text('v 0 0 0\nv 1 0 0\nv 0 1 0\n'), ends: 'FILE_DAMAGED' },
  {
    what: 'faces of points that are not there',
    name: 'range.obj',
    bytes: text('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 99\nf -7 1 2\n'),
    ends: 'FILE_NO_SOLIDS',
  },
  { what: 'letters for numbers', name: 'words.obj', bytes: text('v a b c\nv d e f\nv g h i\nf 1 2 3\n'), ends: 'FILE_NO_SOLIDS' },
  {
    what: 'markup and paths for names',
    name: 'names.obj',
    bytes: text('o <img src=x onerror=alert(1)>\nv 0 0 0\nv 9 0 0\nv 0 9 0\nf 1 2 3\no ../../etc/passwd\nv 0 0 5\nv 9 0 5\nv 0 9 5\nf 4 5 6\n'),
    ends: 'read',
  },
  { what: 'a name of 100,000 characters', name: 'long.obj', bytes: text(`o ${'x'.repeat(100_000)}\nv 0 0 0\nv 9 0 0\nv 0 9 0\nf 1 2 3\n`), ends: 'read' },
];

// glTF

const gltfOf = (json: unknown) => text(JSON.stringify(json));
const b64 = (bytes: Uint8Array) => `data:application/octet-stream;base64,${Buffer.from(bytes).toString('base64')}`;
const POINTS = Float32Array.from(TETRA.flat());
const asset = { version: '2.0' };
/** One tetrahedron, with changes. */
const scene = (changes: Record<string, unknown>) => ({
  asset,
  scene: 0,
  scenes: [{ nodes: [0] }],
  nodes: [{ mesh: 0 }],
  meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
  accessors: [{ bufferView: 0, componentType: 5126, count: 12, type: 'VEC3', min: [0, 0, 0], max: [10, 10, 10] }],
  bufferViews: [{ buffer: 0, byteLength: POINTS.byteLength }],
  buffers: [{ byteLength: POINTS.byteLength, uri: b64(new Uint8Array(POINTS.buffer)) }],
  ...changes,
});
const glb = (json: Uint8Array, total = 20 + json.length) => {
  const out = new Uint8Array(20 + json.length);
  const view = new DataView(out.buffer);
  [0x46546c67, 2, total, json.length, 0x4e4f534a].forEach((v, i) => view.setUint32(i * 4, v, true));
  out.set(json, 20);
  return out;
};
const chain = (n: number) => Array.from({ length: n }, (_, i) => (i + 1 < n ? { children: [i + 1] } : { mesh: 0 }));

const gltf: HostileFile[] = [
  { what: 'not JSON', name: 'junk.gltf', bytes: text('{"asset":'), ends: 'FILE_DAMAGED' },
  { what: 'a list for a structure', name: 'list.gltf', bytes: text('[1,2,3]'), ends: 'FILE_DAMAGED' },
  { what: 'version 1', name: 'old.gltf', bytes: gltfOf({ asset: { version: '1.0' } }), ends: 'FILE_DAMAGED' },
  { what: 'a node that contains itself', name: 'self.gltf', bytes: gltfOf(scene({ nodes: [{ children: [0], mesh: 0 }] })), ends: 'FILE_CYCLE' },
  {
    what: 'two nodes that contain each other',
    name: 'pair.gltf',
    bytes: gltfOf(scene({ nodes: [{ children: [1] }, { children: [0] }] })),
    ends: 'FILE_CYCLE',
  },
  {
    what: 'a node in two places',
    name: 'shared.gltf',
    bytes: gltfOf(scene({ scenes: [{ nodes: [0, 1] }], nodes: [{ children: [2] }, { children: [2] }, { mesh: 0 }] })),
    ends: 'FILE_DAMAGED',
  },
  { what: 'a child that is not there', name: 'orphan.gltf', bytes: gltfOf(scene({ nodes: [{ children: [7] }] })), ends: 'FILE_DAMAGED' },
  { what: '2,000 levels', name: 'deep.gltf', bytes: gltfOf(scene({ nodes: chain(2000) })), ends: 'FILE_TOO_DEEP' },
  {
    what: 'a buffer that is not given',
    name: 'missing.gltf',
    bytes: gltfOf(scene({ buffers: [{ byteLength: 144, uri: 'far/away.bin' }] })),
    ends: 'FILES_MISSING',
  },
  {
    what: 'an accessor beyond its buffer',
    name: 'beyond.gltf',
    bytes: gltfOf(scene({ accessors: [{ bufferView: 0, componentType: 5126, count: 1e6, type: 'VEC3' }] })),
    ends: 'FILE_DAMAGED',
  },
  {
    what: 'indices beyond the points',
    name: 'indices.gltf',
    bytes: gltfOf(
      scene({
        meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }],
        accessors: [
          { bufferView: 0, componentType: 5126, count: 12, type: 'VEC3' },
          { bufferView: 1, componentType: 5125, count: 3, type: 'SCALAR' },
        ],
        bufferViews: [
          { buffer: 0, byteLength: 144 },
          { buffer: 1, byteLength: 12 },
        ],
        buffers: [
          { byteLength: 144, uri: b64(new Uint8Array(POINTS.buffer.slice(0, 144))) },
          { byteLength: 12, uri: b64(new Uint8Array(Uint32Array.from([0, 1, 4_000_000]).buffer)) },
        ],
      }),
    ),
    ends: 'FILE_DAMAGED',
  },
  {
    what: 'an extension nobody knows',
    name: 'extension.gltf',
    bytes: gltfOf(scene({ extensionsRequired: ['ACME_secret'], extensionsUsed: ['ACME_secret'] })),
    ends: 'FILE_FEATURE',
  },
  {
    what: 'wrong types everywhere',
    name: 'types.gltf',
    bytes: gltfOf(scene({ nodes: 'all', meshes: 3, accessors: {} })),
    ends: 'FILE_DAMAGED',
  },
  { what: 'no scene', name: 'none.gltf', bytes: gltfOf({ asset }), ends: 'FILE_NO_SOLIDS' },
  { what: 'GLB cut short', name: 'cut.glb', bytes: glb(gltfOf(scene({})), 5_000_000), ends: 'FILE_DAMAGED' },
  { what: 'GLB of noise', name: 'noise.glb', bytes: Uint8Array.from([...text('glTF'), ...noise(400)]), ends: 'FILE_DAMAGED' },
];

// 3MF

const model = (body: string, head = '') =>
  `<?xml version="1.0"?>${head}<model unit="millimeter" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">${body}</model>`;
const threeMf = (xml: string) => zipSync({ '3D/3dmodel.model': text(xml) });
const MESH =
  '<mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="9" y="0" z="0"/><vertex x="0" y="9" z="0"/><vertex x="0" y="0" z="9"/></vertices><triangles><triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/><triangle v1="0" v2="3" v3="2"/><triangle v1="1" v2="2" v3="3"/></triangles></mesh>';
const doubling = Array.from(
  { length: 30 },
  (_, i) => `<object id="${i + 2}"><components><component objectid="${i + 1}"/><component objectid="${i + 1}"/></components></object>`,
).join('');

const mf: HostileFile[] = [
  { what: 'not a package', name: 'junk.3mf', bytes: noise(500), ends: 'FILE_DAMAGED' },
  { what: 'a package without a model', name: 'none.3mf', bytes: zipSync({ 'a.txt': text('hello') }), ends: 'FILE_DAMAGED' },
  { what: 'XML that is not well-formed', name: 'xml.3mf', bytes: threeMf('<model><resources>'), ends: 'FILE_DAMAGED' },
  {
    what: 'an entity bomb',
    name: 'bomb.3mf',
    bytes: threeMf(
      model('<build/>', '<!DOCTYPE m [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;">]>'),
    ),
    ends: 'FILE_DAMAGED',
  },
  { what: 'a zip bomb', name: 'zip.3mf', bytes: claimingSize(threeMf('<model/>'), 700_000_000), ends: 'FILE_TOO_LARGE' },
  {
    what: 'components that contain themselves',
    name: 'cycle.3mf',
    bytes: threeMf(
      model('<resources><object id="1"><components><component objectid="1"/></components></object></resources><build><item objectid="1"/></build>'),
    ),
    ends: 'FILE_CYCLE',
  },
  {
    what: 'a billion by doubling',
    name: 'double.3mf',
    bytes: threeMf(model(`<resources><object id="1">${MESH}</object>${doubling}</resources><build><item objectid="31"/></build>`)),
    ends: 'FILE_TOO_MANY',
  },
  {
    what: 'points that are not there',
    name: 'range.3mf',
    bytes: threeMf(model(`<resources><object id="1">${MESH.replace('v3="1"', 'v3="77"')}</object></resources><build><item objectid="1"/></build>`)),
    ends: 'FILE_DAMAGED',
  },
  {
    what: 'a transform of words',
    name: 'transform.3mf',
    bytes: threeMf(model(`<resources><object id="1">${MESH}</object></resources><build><item objectid="1" transform="a b c"/></build>`)),
    ends: 'FILE_DAMAGED',
  },
  {
    what: 'an unknown unit',
    name: 'unit.3mf',
    bytes: threeMf(model(`<resources><object id="1">${MESH}</object></resources><build><item objectid="1"/></build>`).replace('millimeter', 'cubit')),
    ends: 'FILE_DAMAGED',
  },
  { what: 'nothing to build', name: 'build.3mf', bytes: threeMf(model(`<resources><object id="1">${MESH}</object></resources>`)), ends: 'FILE_DAMAGED' },
];

export const HOSTILE_MESHES: readonly HostileFile[] = [...stl, ...obj, ...gltf, ...mf];
