import { boxOf, CurveKind, EDGE_STRIDE, EdgeClass, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';

/** A plate with round holes, as a drafter would change it: every edge has a name that stays with it through changes. */
export interface Plate {
  readonly length: number;
  readonly width: number;
  readonly height: number;
  /** Names stay when a hole is moved or made wider. */
  readonly holes: readonly { readonly name: string; readonly x: number; readonly y: number; readonly r: number }[];
  /** Radius of fillets along upright corners, by the corner's number 0…3 around from (0, 0). */
  readonly fillets?: Readonly<Record<number, number>>;
  /** The top is split in two faces along x = splitX, as a file of another program might have it. */
  readonly splitX?: number;
  /** Where the whole lies in its frame. */
  readonly at?: readonly [number, number, number];
}

type P2 = readonly [number, number];

/** Segments of an arc. */
const ARC = 16;

/**
 * Its faces and edges, without a mesh between them: what edges are told apart by. Holes are two half cylinders, as kernels
 * have it for some files, or one with a seam.
 * @returns also the name of each edge; a piece of a split edge has the name of the whole
 */
export function plate(p: Plate, halves = false): { readonly geometry: PartGeometry; readonly names: readonly string[] } {
  const [ox, oy, oz] = p.at ?? [0, 0, 0];
  const positions: number[] = [];
  const faceKind: number[] = [];
  const faceParams: number[] = [];
  const edges: { vertices: number[]; cls: number; faces: [number, number]; curve: number; params: number[]; name: string }[] = [];
  const face = (kind: number, params: readonly number[]) => {
    faceParams.push(...params, ...new Array<number>(FACE_STRIDE - params.length).fill(0));
    return faceKind.push(kind) - 1;
  };
  const vertices = (points: readonly (readonly [number, number, number])[]) => points.map(([x, y, z]) => positions.push(x + ox, y + oy, z + oz) / 3 - 1);
  const plane = (at: readonly [number, number, number], n: readonly [number, number, number]) =>
    face(SurfaceKind.plane, [at[0] + ox, at[1] + oy, at[2] + oz, ...n]);
  const line = (
    name: string,
    a: readonly [number, number, number],
    b: readonly [number, number, number],
    faces: [number, number],
    cls: number = EdgeClass.sharp,
  ) => edges.push({ vertices: vertices([a, b]), cls, faces, curve: CurveKind.line, params: new Array<number>(EDGE_STRIDE).fill(0), name });
  const arc = (name: string, c: P2, r: number, z: number, from: number, sweep: number, faces: [number, number]) => {
    const points = Array.from({ length: ARC + 1 }, (_, i): [number, number, number] => {
      const t = from + (sweep * i) / ARC;
      return [c[0] + r * Math.cos(t), c[1] + r * Math.sin(t), z];
    });
    const ids = vertices(points);
    edges.push({ vertices: ids, cls: EdgeClass.sharp, faces, curve: CurveKind.circle, params: [c[0] + ox, c[1] + oy, z + oz, 0, 0, 1, r], name });
  };

  const { length: l, width: w, height: h } = p;
  const bottom = plane([0, 0, 0], [0, 0, -1]);
  const top = plane([0, 0, h], [0, 0, 1]);
  const topRight = p.splitX === undefined ? top : plane([0, 0, h], [0, 0, 1]);
  const topAt = (x: number) => (p.splitX !== undefined && x > p.splitX ? topRight : top);
  const corners: readonly P2[] = [
    [0, 0],
    [l, 0],
    [l, w],
    [0, w],
  ];
  const normals: readonly P2[] = [
    [0, -1],
    [1, 0],
    [0, 1],
    [-1, 0],
  ];
  const sides = corners.map((c, i) => plane([...c, 0], [...normals[i]!, 0]));
  const radius = (i: number) => p.fillets?.[i] ?? 0;
  const toward = (a: P2, b: P2, d: number): P2 => {
    const k = d / Math.hypot(b[0] - a[0], b[1] - a[1]);
    return [a[0] + (b[0] - a[0]) * k, a[1] + (b[1] - a[1]) * k];
  };
  corners.forEach((c, i) => {
    const next = (i + 1) % 4;
    const [from, to] = [toward(c, corners[next]!, radius(i)), toward(corners[next]!, c, radius(next))];
    const side = sides[i]!;
    line(`bottom ${i}`, [...from, 0], [...to, 0], [side, bottom]);
    // A side that a split top crosses has two edges.
    const cut = p.splitX !== undefined && from[0] !== to[0] && (from[0] - p.splitX) * (to[0] - p.splitX) < 0 ? ([p.splitX, from[1]] as const) : undefined;
    for (const [a, b] of cut ? [[from, cut] as const, [cut, to] as const] : [[from, to] as const])
      line(`top ${i}`, [...a, h], [...b, h], [side, topAt((a[0] + b[0]) / 2)]);
    const before = sides[(i + 3) % 4]!;
    const r = radius(i);
    if (r === 0) {
      line(`upright ${i}`, [...c, 0], [...c, h], [before, side]);
      return;
    }
    const prev = corners[(i + 3) % 4]!;
    const [a, b] = [toward(c, prev, r), toward(c, corners[next]!, r)];
    const centre: P2 = [a[0] + b[0] - c[0], a[1] + b[1] - c[1]];
    const fillet = face(SurfaceKind.cylinder, [centre[0] + ox, centre[1] + oy, oz, 0, 0, 1, r]);
    line(`fillet ${i} in`, [...a, 0], [...a, h], [before, fillet], EdgeClass.tangent);
    line(`fillet ${i} out`, [...b, 0], [...b, h], [fillet, side], EdgeClass.tangent);
    const start = Math.atan2(a[1] - centre[1], a[0] - centre[0]);
    arc(`fillet ${i} bottom`, centre, r, 0, start, Math.PI / 2, [fillet, bottom]);
    arc(`fillet ${i} top`, centre, r, h, start, Math.PI / 2, [fillet, topAt(centre[0])]);
  });
  if (p.splitX !== undefined) line('split', [p.splitX, 0, h], [p.splitX, w, h], [top, topRight]);
  for (const o of p.holes) {
    const c: P2 = [o.x, o.y];
    const params = [o.x + ox, o.y + oy, oz, 0, 0, 1, -o.r];
    const walls = halves ? [face(SurfaceKind.cylinder, params), face(SurfaceKind.cylinder, params)] : [face(SurfaceKind.cylinder, params)];
    walls.forEach((wall, k) => {
      const [from, sweep] = halves ? [k * Math.PI, Math.PI] : [0, 2 * Math.PI];
      const part = halves ? ` ${k}` : '';
      arc(`${o.name} bottom${part}`, c, o.r, 0, from, sweep, [wall, bottom]);
      arc(`${o.name} top${part}`, c, o.r, h, from, sweep, [wall, topAt(o.x)]);
    });
  }
  const start = [0];
  for (const e of edges) start.push(start.at(-1)! + e.vertices.length);
  const at = Float64Array.from(positions);
  const holes = p.holes.reduce((s, o) => s + Math.PI * o.r * o.r, 0);
  const largest = Math.max(0, ...p.holes.map((o) => o.r), ...Object.values(p.fillets ?? {}));
  const geometry: PartGeometry = {
    positions: at,
    triangles: new Uint32Array(0),
    triangleFace: new Uint32Array(0),
    cornerNormals: new Float32Array(0),
    faceKind: Uint8Array.from(faceKind),
    faceParams: Float64Array.from(faceParams),
    edgeStart: Uint32Array.from(start),
    edgeVertices: Uint32Array.from(edges.flatMap((e) => e.vertices)),
    edgeClass: Uint8Array.from(edges, (e) => e.cls),
    edgeFaces: Int32Array.from(edges.flatMap((e) => e.faces)),
    edgeCurve: Uint8Array.from(edges, (e) => e.curve),
    edgeParams: Float64Array.from(edges.flatMap((e) => e.params)),
    closed: true,
    deflectionMm: largest * (1 - Math.cos(Math.PI / ARC)),
    volumeMm3: (l * w - holes) * h,
    areaMm2: 2 * (l * w - holes) + 2 * (l + w) * h + p.holes.reduce((s, o) => s + 2 * Math.PI * o.r * h, 0),
    centroid: [ox, oy, oz],
    box: boxOf(at),
  };
  return { geometry, names: edges.map((e) => e.name) };
}
