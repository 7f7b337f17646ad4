import earcut from 'earcut';
import { boxOf, CurveKind, EDGE_STRIDE, EdgeClass, FACE_STRIDE, SurfaceKind, type PartGeometry } from '../assembly/part-geometry.ts';
import { applyToDirection, applyToPoint, IDENTITY, translation, type Placement } from '../base/placement.ts';
import { vectorAt, type Vec3 } from '../base/vector.ts';
import type { Assembly } from '../assembly/assembly.ts';
import type { Body } from '../outline/scene.ts';

/** Geometry made by hand, as the kernel would give it, for tests of the core alone. */
interface Mesh {
  positions: number[];
  triangles: number[];
  faces: number[];
  normals: number[];
  faceKind: number[];
  faceParams: number[][];
  edges: { vertices: number[]; class: number; faces: [number, number]; curve: number; params: number[] }[];
}

function geometry(m: Mesh, volume: number, area: number, deflection: number): PartGeometry {
  const positions = Float64Array.from(m.positions);
  const start = [0];
  for (const e of m.edges) start.push(start[start.length - 1]! + e.vertices.length);
  return {
    positions,
    triangles: Uint32Array.from(m.triangles),
    triangleFace: Uint32Array.from(m.faces),
    cornerNormals: Float32Array.from(m.normals),
    faceKind: Uint8Array.from(m.faceKind),
    faceParams: Float64Array.from(m.faceParams.flatMap((p) => [...p, ...new Array<number>(FACE_STRIDE - p.length).fill(0)])),
    edgeStart: Uint32Array.from(start),
    edgeVertices: Uint32Array.from(m.edges.flatMap((e) => e.vertices)),
    edgeClass: Uint8Array.from(m.edges.map((e) => e.class)),
    edgeFaces: Int32Array.from(m.edges.flatMap((e) => e.faces)),
    edgeCurve: Uint8Array.from(m.edges.map((e) => e.curve)),
    edgeParams: Float64Array.from(m.edges.flatMap((e) => e.params)),
    closed: true,
    deflectionMm: deflection,
    volumeMm3: volume,
    areaMm2: area,
    centroid: [0, 0, 0],
    box: boxOf(positions),
  };
}

const NO_CIRCLE = [0, 0, 0, 0, 0, 0, 0];

/** An axis-parallel box. */
export function box(min: readonly [number, number, number], max: readonly [number, number, number]): PartGeometry {
  const v = (i: number) => [i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]];
  const m: Mesh = { positions: [0, 1, 2, 3, 4, 5, 6, 7].flatMap(v), triangles: [], faces: [], normals: [], faceKind: [], faceParams: [], edges: [] };
  const quads: [number[], number[]][] = [
    [
      [0, 4, 6, 2],
      [-1, 0, 0],
    ],
    [
      [1, 3, 7, 5],
      [1, 0, 0],
    ],
    [
      [0, 1, 5, 4],
      [0, -1, 0],
    ],
    [
      [2, 6, 7, 3],
      [0, 1, 0],
    ],
    [
      [0, 2, 3, 1],
      [0, 0, -1],
    ],
    [
      [4, 5, 7, 6],
      [0, 0, 1],
    ],
  ];
  const sides = new Map<string, number[]>();
  quads.forEach(([q, n], f) => {
    m.triangles.push(q[0]!, q[1]!, q[2]!, q[0]!, q[2]!, q[3]!);
    m.faces.push(f, f);
    for (let k = 0; k < 6; k++) m.normals.push(...n);
    m.faceKind.push(SurfaceKind.plane);
    m.faceParams.push([...v(q[0]!), ...n]);
    q.forEach((a, k) => {
      const b = q[(k + 1) % 4]!;
      const key = `${Math.min(a, b)},${Math.max(a, b)}`;
      sides.set(key, [...(sides.get(key) ?? []), f]);
    });
  });
  for (const [key, faces] of sides)
    m.edges.push({ vertices: key.split(',').map(Number), class: EdgeClass.sharp, faces: [faces[0]!, faces[1]!], curve: CurveKind.line, params: NO_CIRCLE });
  const [a, b, c] = [max[0] - min[0], max[1] - min[1], max[2] - min[2]];
  return geometry(m, a * b * c, 2 * (a * b + b * c + c * a), 0);
}

/** A cylinder along z from z = 0 up, or with `bore` a ring. `n` facets around. */
export function cylinder(radius: number, height: number, n = 32, bore = 0): PartGeometry {
  const m: Mesh = { positions: [], triangles: [], faces: [], normals: [], faceKind: [], faceParams: [], edges: [] };
  const ring = (r: number, z: number): number[] => {
    const first = m.positions.length / 3;
    for (let i = 0; i < n; i++) m.positions.push(r * Math.cos((i * 2 * Math.PI) / n), r * Math.sin((i * 2 * Math.PI) / n), z);
    return Array.from({ length: n }, (_, i) => first + i);
  };
  const wall = (low: number[], high: number[], r: number, out: 1 | -1, face: number) => {
    m.faceKind.push(SurfaceKind.cylinder);
    m.faceParams.push([0, 0, 0, 0, 0, 1, out * r]);
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      const quad = out > 0 ? [low[i]!, low[j]!, high[j]!, high[i]!] : [low[j]!, low[i]!, high[i]!, high[j]!];
      const at = out > 0 ? [i, j, j, i] : [j, i, i, j];
      for (const k of [0, 1, 2, 0, 2, 3]) {
        m.triangles.push(quad[k]!);
        const a = (at[k]! * 2 * Math.PI) / n;
        m.normals.push(out * Math.cos(a), out * Math.sin(a), 0);
      }
      m.faces.push(face, face);
    }
  };
  const circle = (r: number, ids: number[], z: number, faces: [number, number]) =>
    m.edges.push({ vertices: [...ids, ids[0]!], class: EdgeClass.sharp, faces, curve: CurveKind.circle, params: [0, 0, z, 0, 0, 1, r] });
  const low = ring(radius, 0);
  const high = ring(radius, height);
  wall(low, high, radius, 1, 0);
  m.faceKind.push(SurfaceKind.plane, SurfaceKind.plane);
  m.faceParams.push([0, 0, 0, 0, 0, -1], [0, 0, height, 0, 0, 1]);
  circle(radius, low, 0, [0, 1]);
  circle(radius, high, height, [0, 2]);
  const flat = (a: number, b: number, c: number, up: 1 | -1) => {
    m.triangles.push(...(up > 0 ? [a, b, c] : [a, c, b]));
    m.faces.push(up > 0 ? 2 : 1);
    for (let k = 0; k < 3; k++) m.normals.push(0, 0, up);
  };
  if (bore > 0) {
    const lowIn = ring(bore, 0);
    const highIn = ring(bore, height);
    wall(lowIn, highIn, bore, -1, 3);
    circle(bore, lowIn, 0, [3, 1]);
    circle(bore, highIn, height, [3, 2]);
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      flat(high[i]!, high[j]!, highIn[j]!, 1);
      flat(high[i]!, highIn[j]!, highIn[i]!, 1);
      flat(low[i]!, low[j]!, lowIn[j]!, -1);
      flat(low[i]!, lowIn[j]!, lowIn[i]!, -1);
    }
  } else
    for (let i = 1; i + 1 < n; i++) {
      flat(high[0]!, high[i]!, high[i + 1]!, 1);
      flat(low[0]!, low[i]!, low[i + 1]!, -1);
    }
  const area = Math.PI * (radius * radius - bore * bore);
  return geometry(m, area * height, 2 * area + 2 * Math.PI * (radius + bore) * height, radius * (1 - Math.cos(Math.PI / n)));
}

/** A closed outline, counter-clockwise, with inner ones, clockwise, from z = 0 up: every side is a flat face of its own. */
export function prism(outlines: readonly (readonly (readonly [number, number])[])[], height: number): PartGeometry {
  const m: Mesh = { positions: [], triangles: [], faces: [], normals: [], faceKind: [], faceParams: [], edges: [] };
  const points = outlines.flat();
  const n = points.length;
  for (const z of [0, height]) for (const [x, y] of points) m.positions.push(x, y, z);
  const holes = outlines.slice(0, -1).map((_, i) => outlines.slice(0, i + 1).reduce((s, o) => s + o.length, 0));
  const ends = earcut(points.flat(), holes);
  m.faceKind.push(SurfaceKind.plane, SurfaceKind.plane);
  m.faceParams.push([0, 0, 0, 0, 0, -1], [0, 0, height, 0, 0, 1]);
  let area = 0;
  for (let t = 0; t < ends.length; t += 3) {
    const a = ends[t]!;
    let [b, c] = [ends[t + 1]!, ends[t + 2]!];
    const twice = (points[b]![0] - points[a]![0]) * (points[c]![1] - points[a]![1]) - (points[b]![1] - points[a]![1]) * (points[c]![0] - points[a]![0]);
    if (twice < 0) [b, c] = [c, b];
    area += Math.abs(twice) / 2;
    m.triangles.push(a, c, b, a + n, b + n, c + n);
    m.faces.push(0, 1);
    m.normals.push(...[0, 0, -1, 0, 0, -1, 0, 0, -1], ...[0, 0, 1, 0, 0, 1, 0, 0, 1]);
  }
  let first = 0;
  let around = 0;
  for (const o of outlines) {
    const [face, count] = [m.faceKind.length, o.length];
    o.forEach(([x, y], i) => {
      const j = (i + 1) % count;
      const [a, b] = [first + i, first + j];
      const [dx, dy] = [o[j]![0] - x, o[j]![1] - y];
      const l = Math.hypot(dx, dy);
      around += l;
      const normal = [dy / l, -dx / l, 0];
      m.triangles.push(a, b, b + n, a, b + n, a + n);
      m.faces.push(face + i, face + i);
      for (let k = 0; k < 6; k++) m.normals.push(...normal);
      m.faceKind.push(SurfaceKind.plane);
      m.faceParams.push([x, y, 0, ...normal]);
      const edge = (vertices: number[], faces: [number, number]) =>
        m.edges.push({ vertices, class: EdgeClass.sharp, faces, curve: CurveKind.line, params: NO_CIRCLE });
      edge([a, b], [0, face + i]);
      edge([a + n, b + n], [1, face + i]);
      edge([a, a + n], [face + i, face + ((i + count - 1) % count)]);
    });
    first += count;
  }
  return geometry(m, area * height, 2 * area + around * height, 0);
}

/** The same geometry in another place and position of its own frame. */
export function moved(g: PartGeometry, to: Placement): PartGeometry {
  const each = (a: ArrayLike<number>, stride: number, at: number, f: (p: Placement, v: Vec3) => Vec3, out: { [i: number]: number }) => {
    for (let i = at; i + 2 < a.length; i += stride) f(to, vectorAt(a, i)).forEach((c, k) => (out[i + k] = c));
  };
  const [positions, cornerNormals, faceParams, edgeParams] = [g.positions.slice(), g.cornerNormals.slice(), g.faceParams.slice(), g.edgeParams.slice()];
  each(g.positions, 3, 0, applyToPoint, positions);
  each(g.cornerNormals, 3, 0, applyToDirection, cornerNormals);
  each(g.faceParams, FACE_STRIDE, 0, applyToPoint, faceParams);
  each(g.faceParams, FACE_STRIDE, 3, applyToDirection, faceParams);
  each(g.edgeParams, EDGE_STRIDE, 0, applyToPoint, edgeParams);
  each(g.edgeParams, EDGE_STRIDE, 3, applyToDirection, edgeParams);
  return { ...g, positions, cornerNormals, faceParams, edgeParams, box: boxOf(positions), centroid: applyToPoint(to, g.centroid) };
}

/** A sphere about the origin: one face, exact normals. */
export function sphere(radius: number, rows = 16, columns = 32): PartGeometry {
  const m: Mesh = { positions: [], triangles: [], faces: [], normals: [], faceKind: [SurfaceKind.sphere], faceParams: [[0, 0, 0, 0, 0, 1, radius]], edges: [] };
  const id = (i: number, j: number) => (i === 0 ? 0 : i === rows ? 1 : 2 + (i - 1) * columns + (j % columns));
  m.positions.push(0, 0, radius, 0, 0, -radius);
  for (let i = 1; i < rows; i++)
    for (let j = 0; j < columns; j++) {
      const [t, p] = [(i * Math.PI) / rows, (j * 2 * Math.PI) / columns];
      m.positions.push(radius * Math.sin(t) * Math.cos(p), radius * Math.sin(t) * Math.sin(p), radius * Math.cos(t));
    }
  const tri = (...v: number[]) => {
    if (new Set(v).size < 3) return;
    m.triangles.push(...v);
    m.faces.push(0);
    for (const x of v) for (let k = 0; k < 3; k++) m.normals.push(m.positions[x * 3 + k]! / radius);
  };
  for (let i = 0; i < rows; i++)
    for (let j = 0; j < columns; j++) {
      tri(id(i, j), id(i + 1, j), id(i + 1, j + 1));
      tri(id(i, j), id(i + 1, j + 1), id(i, j + 1));
    }
  return geometry(m, (4 / 3) * Math.PI * radius ** 3, 4 * Math.PI * radius ** 2, radius * (1 - Math.cos(Math.hypot(Math.PI / columns, Math.PI / rows / 2))));
}

export function body(component: number, g: PartGeometry, at: readonly [number, number, number] = [0, 0, 0]): Body {
  return { component, geometry: g, placement: at.some(Boolean) ? translation(at) : IDENTITY };
}

/** A flat assembly of named parts, each used once, in the order given. */
export function assemblyOf(
  parts: readonly {
    name: string;
    geometry: PartGeometry;
    at?: readonly [number, number, number];
    placement?: Placement;
    properties?: Record<string, string>;
    material?: string;
  }[],
): {
  assembly: Assembly;
  geometries: Map<string, PartGeometry>;
} {
  const geometries = new Map(parts.map((p, i) => [`g${i}`, p.geometry]));
  return {
    geometries,
    assembly: {
      name: 'Test assembly',
      schema: '',
      unit: 'mm',
      notices: [],
      properties: {},
      parts: parts.map((p, i) => ({
        id: p.name,
        name: p.name,
        geometryKey: `g${i}`,
        volumeMm3: p.geometry.volumeMm3,
        areaMm2: p.geometry.areaMm2,
        centroid: p.geometry.centroid,
        box: p.geometry.box,
        properties: p.properties ?? {},
        ...(p.material ? { material: p.material } : {}),
      })),
      nodes: [
        { parent: -1, name: 'Test assembly', product: 'Test assembly', placement: IDENTITY, part: -1 },
        ...parts.map((p, i) => ({ parent: 0, name: p.name, product: p.name, placement: p.placement ?? translation(p.at ?? [0, 0, 0]), part: i })),
      ],
    },
  };
}

/** One part of several closed bodies that stand against each other, such as a stepped shaft or a frame of bars. */
export function joined(...pieces: readonly (readonly [PartGeometry, (readonly [number, number, number])?])[]): PartGeometry {
  const all = pieces.map(([g, at]) => ({ g, at: at ?? ([0, 0, 0] as const) }));
  const positions = Float64Array.from(all.flatMap(({ g, at }) => [...g.positions].map((v, i) => v + at[i % 3]!)));
  let [vertex, face] = [0, 0];
  const triangles: number[] = [];
  const faces: number[] = [];
  for (const { g } of all) {
    for (const t of g.triangles) triangles.push(t + vertex);
    for (const f of g.triangleFace) faces.push(f + face);
    vertex += g.positions.length / 3;
    face += g.faceKind.length;
  }
  const moved = ({ g, at }: (typeof all)[number]) => [...g.faceParams].map((v, i) => (i % FACE_STRIDE < 3 ? v + at[i % FACE_STRIDE]! : v));
  return {
    ...all[0]!.g,
    positions,
    triangles: Uint32Array.from(triangles),
    triangleFace: Uint32Array.from(faces),
    cornerNormals: Float32Array.from(all.flatMap(({ g }) => [...g.cornerNormals])),
    faceKind: Uint8Array.from(all.flatMap(({ g }) => [...g.faceKind])),
    faceParams: Float64Array.from(all.flatMap(moved)),
    ...joinedEdges(all),
    deflectionMm: Math.max(...all.map(({ g }) => g.deflectionMm)),
    volumeMm3: all.reduce((s, { g }) => s + g.volumeMm3, 0),
    areaMm2: all.reduce((s, { g }) => s + g.areaMm2, 0),
    box: boxOf(positions),
  };
}

/** The edges of all pieces; circles know where they are. */
function joinedEdges(all: readonly { readonly g: PartGeometry; readonly at: readonly [number, number, number] }[]) {
  let [vertex, face] = [0, 0];
  const start = [0];
  const [vertices, faces, params]: [number[], number[], number[]] = [[], [], []];
  for (const { g, at } of all) {
    for (let e = 0; e < g.edgeClass.length; e++) start.push(vertices.length + g.edgeStart[e + 1]!);
    vertices.push(...[...g.edgeVertices].map((v) => v + vertex));
    faces.push(...[...g.edgeFaces].map((f) => (f < 0 ? f : f + face)));
    params.push(...[...g.edgeParams].map((v, i) => (i % EDGE_STRIDE < 3 ? v + at[i % EDGE_STRIDE]! : v)));
    vertex += g.positions.length / 3;
    face += g.faceKind.length;
  }
  return {
    edgeStart: Uint32Array.from(start),
    edgeVertices: Uint32Array.from(vertices),
    edgeClass: Uint8Array.from(all.flatMap(({ g }) => [...g.edgeClass])),
    edgeFaces: Int32Array.from(faces),
    edgeCurve: Uint8Array.from(all.flatMap(({ g }) => [...g.edgeCurve])),
    edgeParams: Float64Array.from(params),
  };
}
