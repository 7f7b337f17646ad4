import Module from 'manifold-3d';
import type { SolidDifference, SolidPort, TriangleSolid } from '../core/cut/solid-port.ts';

/** Loads the boolean package (WebAssembly, a tenth of a second). */
export async function loadSolidPort(): Promise<SolidPort> {
  const wasm = await Module();
  wasm.setup();
  const { Manifold, Mesh } = wasm;
  const solid = (s: TriangleSolid) => {
    const id = Manifold.reserveIDs(1);
    const triangles = s.triangles.length / 3;
    const mesh = new Mesh({
      numProp: 3,
      vertProperties: Float32Array.from(s.positions),
      triVerts: s.triangles,
      runIndex: Uint32Array.from([0, s.triangles.length]),
      runOriginalID: Uint32Array.from([id]),
      // Each triangle is a face of its own: the result tells which one it came from.
      faceID: Uint32Array.from({ length: triangles }, (_, i) => i),
    });
    return { id, body: Manifold.ofMesh(mesh) };
  };
  return {
    subtract(part, tool): SolidDifference | undefined {
      const a = solid(part);
      const b = solid(tool);
      try {
        if (a.body.status() !== 'NoError' || b.body.status() !== 'NoError') return undefined;
        const rest = a.body.subtract(b.body);
        try {
          const mesh = rest.getMesh();
          const source = new Int32Array(mesh.numTri);
          for (let r = 0; r < mesh.runOriginalID.length; r++) {
            const own = mesh.runOriginalID[r] === a.id;
            for (let t = mesh.runIndex[r]! / 3; t < mesh.runIndex[r + 1]! / 3; t++) source[t] = own ? mesh.faceID[t]! : -1 - mesh.faceID[t]!;
          }
          return { positions: exactPositions(mesh.vertProperties, part, tool), triangles: Uint32Array.from(mesh.triVerts), source };
        } finally {
          rest.delete();
        }
      } finally {
        a.body.delete();
        b.body.delete();
      }
    },
  };
}

/** The package works in single precision; corners of the two solids get their exact places back. */
function exactPositions(found: Float32Array, ...solids: readonly TriangleSolid[]): Float64Array {
  const key = (x: number, y: number, z: number) => `${Math.fround(x)},${Math.fround(y)},${Math.fround(z)}`;
  const known = new Map<string, number>();
  const all = solids.map((s) => s.positions);
  all.forEach((p, s) => {
    for (let i = 0; i < p.length; i += 3) known.set(key(p[i]!, p[i + 1]!, p[i + 2]!), i * 2 + s);
  });
  const out = Float64Array.from(found);
  for (let i = 0; i < out.length; i += 3) {
    const at = known.get(key(out[i]!, out[i + 1]!, out[i + 2]!));
    if (at === undefined) continue;
    const p = all[at % 2]!;
    const j = (at - (at % 2)) / 2;
    for (let k = 0; k < 3; k++) out[i + k] = p[j + k]!;
  }
  return out;
}
