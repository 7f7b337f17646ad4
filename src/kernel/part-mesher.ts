import { createHash } from 'node:crypto';
import type { MessagePort, Worker } from 'node:worker_threads';
import { unpackGeometry } from '../core/assembly/geometry-codec.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { extractPart } from './extract-part.ts';
import type { Kernel } from './load.ts';
import { withScope } from './scope.ts';

/* eslint-disable @typescript-eslint/no-explicit-any -- shapes of the kernel */

export interface MeshedPart {
  readonly key: string;
  readonly geometry: PartGeometry;
}

/**
 * Meshes the shapes of an import; undefined for one without a face.
 * @param shapes TopoDS_Shape in the part's own frame
 */
export type PartMesher = (shapes: readonly any[], onProgress: (done: number) => void) => Promise<(MeshedPart | undefined)[]>;

/** Counts up when the same shape is meshed another way: what was kept of before is of no use then. */
const MESHING = 1;

/** The geometry of shapes that were meshed at another time, by the hash of their packed form. */
export type FindShapes = (hashes: readonly string[]) => Promise<readonly (readonly [hash: string, key: string, packed: Uint8Array])[]>;

/**
 * Meshes only what was not meshed before: packing a shape takes a fiftieth of meshing it.
 * @param keep is told the packed geometry that was found
 * @param made is told the hash of what was meshed now, and its key
 */
export function meshNew(
  k: Kernel,
  inner: PartMesher,
  find: FindShapes,
  keep: (key: string, packed: Uint8Array) => void,
  made: (hash: string, key: string) => void,
): PartMesher {
  return async (shapes, onProgress) => {
    const hashes = shapes.map((s) => createHash('sha256').update(`${MESHING} `).update(packShape(k, s)).digest('hex').slice(0, 40));
    const found = new Map((await find([...new Set(hashes)])).map(([hash, key, packed]) => [hash, { key, packed }] as const));
    const out = hashes.map((hash): MeshedPart | undefined => {
      const known = found.get(hash);
      const geometry = known && unpackGeometry(known.packed);
      if (!known || !geometry) return undefined;
      keep(known.key, known.packed);
      return { key: known.key, geometry };
    });
    const left = shapes.map((_, i) => i).filter((i) => !out[i]);
    const before = shapes.length - left.length;
    onProgress(before);
    const meshed = await inner(
      left.map((i) => shapes[i]),
      (done) => onProgress(before + done),
    );
    for (const [n, i] of left.entries()) {
      out[i] = meshed[n];
      if (meshed[n]) made(hashes[i]!, meshed[n].key);
    }
    return out;
  };
}

/** One after the other, in this thread. */
export function meshHere(k: Kernel, keyOf: (g: PartGeometry) => string): PartMesher {
  return async (shapes, onProgress) =>
    shapes.map((shape, i) => {
      onProgress(i);
      const geometry = meshPacked(k, packShape(k, shape));
      return geometry && { key: keyOf(geometry), geometry };
    });
}

/**
 * Every shape is meshed as it comes out of its packed form, wherever that is done: directions are made unit vectors anew on the way, and
 * the last digit of a number would tell who did it.
 */
function meshPacked(k: Kernel, packed: Uint8Array): PartGeometry | undefined {
  const shape = unpackShape(k, packed);
  try {
    return extractPart(k, shape);
  } finally {
    shape.delete();
  }
}

/** What a helping thread is sent and what it answers; it asks for more by answering. */
export interface MeshWish {
  readonly mesh: number;
  readonly shape: Uint8Array;
}
export type MeshAnswer = { readonly meshed: number; readonly key: string; readonly packed: Uint8Array } | { readonly meshed: number; readonly empty: true };

/** Parts that a helper is given in advance, so that it never waits for this thread. */
const AHEAD = 2;

/**
 * Shares the parts with helping threads that each have a kernel of their own; every part goes to whoever is free. A
 * helper that breaks gives its parts back.
 * @param keep is told the packed geometry that helpers bring
 */
export function meshWith(
  k: Kernel,
  keyOf: (g: PartGeometry) => string,
  keep: (key: string, packed: Uint8Array) => void,
  helpers: readonly Worker[],
): PartMesher {
  return async (shapes, onProgress) => {
    const out: (MeshedPart | undefined)[] = new Array<MeshedPart | undefined>(shapes.length).fill(undefined);
    // The heavy ones first: nobody is left with one at the end.
    const order = shapes.map((s, i) => [i, facesOf(k, s)] as const).sort((a, b) => a[1] - b[1]);
    const open = order.map(([i]) => i);
    let done = 0;
    const finished = (i: number, part: MeshedPart | undefined) => {
      out[i] = part;
      onProgress(++done);
    };
    const away = new Map<Worker, Set<number>>();
    let wake = () => {};
    const give = (w: Worker) => {
      const mine = away.get(w);
      while (mine && mine.size < AHEAD && open.length) {
        const i = open.pop()!;
        mine.add(i);
        w.postMessage({ mesh: i, shape: packShape(k, shapes[i]) } satisfies MeshWish);
      }
    };
    const lose = (w: Worker) => {
      open.push(...(away.get(w) ?? []));
      away.delete(w);
      wake();
    };
    const stops = helpers.map((w) => {
      const hear = (a: MeshAnswer) => {
        if (!('meshed' in a) || !away.get(w)?.delete(a.meshed)) return;
        if ('empty' in a) finished(a.meshed, undefined);
        else {
          keep(a.key, a.packed);
          finished(a.meshed, { key: a.key, geometry: unpackGeometry(a.packed)! });
        }
        give(w);
        wake();
      };
      const broken = () => lose(w);
      away.set(w, new Set());
      w.on('message', hear).on('error', broken).on('exit', broken);
      return () => w.off('message', hear).off('error', broken).off('exit', broken);
    });
    try {
      for (const w of helpers) give(w);
      while (open.length || [...away.values()].some((s) => s.size)) {
        const i = open.pop();
        if (i === undefined) {
          await new Promise<void>((r) => (wake = r));
          continue;
        }
        const geometry = meshPacked(k, packShape(k, shapes[i]));
        finished(i, geometry && { key: keyOf(geometry), geometry });
        // Answers of the helpers are heard between parts.
        await new Promise((r) => setImmediate(r));
      }
      return out;
    } finally {
      for (const stop of stops) stop();
    }
  };
}

/** The other side: meshes what comes through the port, one after the other. */
export function helpMeshing(
  port: MessagePort,
  kernel: Promise<Kernel>,
  keyed: (g: PartGeometry) => { key: string; packed: Uint8Array },
): (wish: MeshWish) => void {
  let tail: Promise<unknown> = kernel;
  return (wish) => {
    tail = tail.then(async () => {
      const k = await kernel;
      const geometry = meshPacked(k, wish.shape);
      if (!geometry) port.postMessage({ meshed: wish.mesh, empty: true } satisfies MeshAnswer);
      else {
        const { key, packed } = keyed(geometry);
        port.postMessage({ meshed: wish.mesh, key, packed } satisfies MeshAnswer, [packed.buffer as ArrayBuffer]);
      }
    });
    // A kernel that trapped is of no more use: the thread ends, and its parts go back.
    tail.catch(() => process.exit(1));
  };
}

function facesOf(k: Kernel, shape: any): number {
  return withScope((s) => {
    const oc = k as any;
    const faces = s.own(new oc.TopTools_IndexedMapOfShape_1());
    oc.TopExp.MapShapes_1(shape, oc.TopAbs_ShapeEnum.TopAbs_FACE, faces);
    return faces.Extent() as number;
  });
}

const SHAPE_FILE = '/part.bin';

function packShape(k: Kernel, shape: any): Uint8Array {
  return withScope((s) => {
    const oc = k as any;
    oc.BinTools.Write_3(shape, SHAPE_FILE, s.own(new oc.Message_ProgressRange_1()));
    const bytes = k.FS.readFile(SHAPE_FILE);
    k.FS.unlink(SHAPE_FILE);
    return bytes;
  });
}

/** A shape from the kernel's own binary format: its numbers are kept whole. @returns a TopoDS_Shape, to be deleted */
function unpackShape(k: Kernel, bytes: Uint8Array): any {
  return withScope((s) => {
    const oc = k as any;
    k.FS.writeFile(SHAPE_FILE, bytes);
    const shape = new oc.TopoDS_Shape();
    oc.BinTools.Read_2(shape, SHAPE_FILE, s.own(new oc.Message_ProgressRange_1()));
    k.FS.unlink(SHAPE_FILE);
    return shape;
  });
}
