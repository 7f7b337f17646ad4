import type { Assembly, Component } from '$core/assembly/assembly';
import type { Placement } from '$core/base/placement';
import type { Vec3 } from '$core/base/vector';
import { edgeNear, probeOf, type Probe, type StraightEdge } from '$core/assembly/measure';
import type { PartGeometry } from '$core/assembly/part-geometry';
import { EdgeClass } from '$core/assembly/part-geometry';
import type { Body } from '$core/outline/scene';
import { colorBytes, itemColor } from '$core/shade/colors';
import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  Group,
  InstancedMesh,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  MeshLambertMaterial,
  Plane,
  type Raycaster,
  Vector3,
} from 'three';

/** What a press on the model found. */
export interface Picked {
  readonly component: number;
  readonly normal: Vec3;
  readonly probe: Probe;
  /** A straight edge of it close by. */
  readonly edge: StraightEdge | undefined;
}

export type ColorMode = 'model' | 'item' | 'material' | 'source';

/** Edges are drawn up to so many components: each has lines of its own. */
const MOST_EDGED = 400;
/** Edges against a light and a dark background. */
const INK = { light: '#2a2926', dark: '#d8d2c6' } as const;
/** Parts darker than this need light edges on a dark background; relative luminance (WCAG 2.2). */
const DARK_PART = 0.09;
/** Of a linear colour. */
const luminance = (c: Color) => 0.2126 * c.r + 0.7152 * c.g + 0.0722 * c.b;
const SELECTED = new Color('#1b9aa6');
const SOURCES: Readonly<Record<string, string>> = { made: '#8fa7b8', bought: '#d0a56a', standard: '#a9b894' };

interface Placed {
  readonly mesh: InstancedMesh;
  readonly instance: number;
  /** In the assembly, and where it is now. */
  readonly home: Matrix4;
  readonly matrix: Matrix4;
  readonly edges: LineSegments | undefined;
}

/** The assembly as three.js shows it: one instanced mesh per part, edges as lines. Z is up. */
export class ModelScene {
  readonly root = new Group();
  readonly box = new Box3();
  private readonly placed: Placed[] = [];
  private readonly componentsOf = new Map<InstancedMesh, number[]>();
  private readonly clip = new Plane(new Vector3(0, 1, 0), Infinity);
  private readonly materials: MeshLambertMaterial[] = [];
  private hidden: ReadonlySet<number> = new Set();
  private dark = false;
  private readonly assembly: Assembly;
  private readonly components: readonly Component[];
  private readonly geometries: ReadonlyMap<string, PartGeometry>;

  constructor(assembly: Assembly, components: readonly Component[], geometries: ReadonlyMap<string, PartGeometry>) {
    this.assembly = assembly;
    this.components = components;
    this.geometries = geometries;
    const byPart = new Map<number, Component[]>();
    for (const c of components) byPart.set(c.part, [...(byPart.get(c.part) ?? []), c]);
    const edged = components.length <= MOST_EDGED;
    for (const [part, list] of byPart) {
      const g = geometries.get(assembly.parts[part]!.geometryKey);
      if (!g) continue;
      const material = new MeshLambertMaterial({
        side: DoubleSide,
        clippingPlanes: [this.clip],
        polygonOffset: true,
        polygonOffsetFactor: 1,
        polygonOffsetUnits: 1,
      });
      this.materials.push(material);
      const mesh = new InstancedMesh(surfaceOf(g), material, list.length);
      const lines = edged ? edgesOf(g) : undefined;
      this.componentsOf.set(
        mesh,
        list.map((c) => c.index),
      );
      list.forEach((c, i) => {
        const m = c.placement;
        const matrix = new Matrix4().set(m[0]!, m[1]!, m[2]!, m[3]!, m[4]!, m[5]!, m[6]!, m[7]!, m[8]!, m[9]!, m[10]!, m[11]!, 0, 0, 0, 1);
        mesh.setMatrixAt(i, matrix);
        let edges: LineSegments | undefined;
        if (lines) {
          edges = new LineSegments(lines, new LineBasicMaterial({ color: INK.light, clippingPlanes: [this.clip] }));
          edges.applyMatrix4(matrix);
          this.root.add(edges);
        }
        this.placed[c.index] = { mesh, instance: i, home: matrix.clone(), matrix, edges };
      });
      mesh.computeBoundingBox();
      mesh.computeBoundingSphere();
      if (mesh.boundingBox) this.box.union(mesh.boundingBox);
      this.root.add(mesh);
    }
  }

  /** The background is dark or light: the edges of dark parts would vanish against a dark one, and get the light ink there. */
  theme(dark: boolean): void {
    this.dark = dark;
    this.inkEdges();
  }

  private inkEdges(): void {
    const shown = new Color();
    for (const c of this.components) {
      const p = this.placed[c.index];
      if (!p?.edges) continue;
      p.mesh.getColorAt(p.instance, shown);
      (p.edges.material as LineBasicMaterial).color.set(this.dark && luminance(shown) < DARK_PART ? INK.dark : INK.light);
    }
  }

  /** Colours of all components; those of the chosen ones stand out. @param materialOf name of a component's material @param sourceOf its source */
  paint(mode: ColorMode, chosen: ReadonlySet<number>, materialOf: (component: number) => string, sourceOf: (component: number) => string): void {
    const names = new Map<string, number>();
    for (const c of this.components) {
      const p = this.placed[c.index];
      if (!p) continue;
      p.mesh.setColorAt(p.instance, chosen.has(c.index) ? SELECTED : this.colorOf(c, mode, names, materialOf, sourceOf));
      if (p.mesh.instanceColor) p.mesh.instanceColor.needsUpdate = true;
    }
    for (const m of this.materials) m.needsUpdate = true;
    this.inkEdges();
  }

  private colorOf(
    c: Component,
    mode: ColorMode,
    names: Map<string, number>,
    materialOf: (component: number) => string,
    sourceOf: (component: number) => string,
  ): Color {
    const bytes = ([r, g, b]: readonly [number, number, number]) => new Color().setRGB(r / 255, g / 255, b / 255, 'srgb');
    switch (mode) {
      case 'model':
        return bytes(colorBytes(this.assembly.nodes[c.node]!.color ?? this.assembly.parts[c.part]!.color));
      case 'item':
        return bytes(itemColor(c.part));
      case 'material': {
        const name = materialOf(c.index);
        if (name === '') return new Color('#c9c4ba');
        if (!names.has(name)) names.set(name, names.size);
        return bytes(itemColor(names.get(name)!));
      }
      case 'source':
        return new Color(SOURCES[sourceOf(c.index)] ?? '#c9c4ba');
    }
  }

  /** Moves components: by index, relative to their assembled places. */
  move(motions: readonly Placement[]): void {
    const step = new Matrix4();
    const touched = new Set<InstancedMesh>();
    for (const c of this.components) {
      const p = this.placed[c.index];
      const m = motions[c.index];
      if (!p || !m) continue;
      step.set(m[0]!, m[1]!, m[2]!, m[3]!, m[4]!, m[5]!, m[6]!, m[7]!, m[8]!, m[9]!, m[10]!, m[11]!, 0, 0, 0, 1);
      p.matrix.multiplyMatrices(step, p.home);
      touched.add(p.mesh);
      if (!this.hidden.has(c.index)) p.mesh.setMatrixAt(p.instance, p.matrix);
      if (!p.edges) continue;
      p.edges.matrixAutoUpdate = false;
      p.edges.matrix.copy(p.matrix);
      p.edges.matrixWorldNeedsUpdate = true;
    }
    for (const mesh of touched) {
      mesh.instanceMatrix.needsUpdate = true;
      // What is picked is looked for where it is now.
      mesh.boundingSphere = null;
      mesh.boundingBox = null;
    }
  }

  /** Hides components; the others show. */
  hide(hidden: ReadonlySet<number>): void {
    this.hidden = hidden;
    const nothing = new Matrix4().makeScale(0, 0, 0);
    for (const c of this.components) {
      const p = this.placed[c.index];
      if (!p) continue;
      const off = hidden.has(c.index);
      p.mesh.setMatrixAt(p.instance, off ? nothing : p.matrix);
      p.mesh.instanceMatrix.needsUpdate = true;
      if (p.edges) p.edges.visible = !off;
    }
  }

  /** Takes away what lies in front of a plane across the depth (y); share 0 takes nothing, 1 everything. */
  section(share: number): void {
    const { min, max } = this.box;
    this.clip.constant = share <= 0 ? Infinity : -(min.y + (max.y - min.y) * share);
  }

  seeThrough(on: boolean): void {
    for (const m of this.materials) {
      m.transparent = on;
      m.opacity = on ? 0.35 : 1;
      m.depthWrite = !on;
      m.needsUpdate = true;
    }
  }

  /**
   * The component under a ray and the normal of its surface there, in the model. What is probed is given in the assembled place.
   * @param nearMm how far from what was met an edge counts
   */
  pick(ray: Raycaster, nearMm: number): Picked | undefined {
    for (const hit of ray.intersectObjects([...this.componentsOf.keys()], false)) {
      const c = this.componentsOf.get(hit.object as InstancedMesh)?.[hit.instanceId ?? -1];
      // What the section took away is not there.
      if (c !== undefined && !this.hidden.has(c) && this.clip.distanceToPoint(hit.point) >= 0) {
        const n = hit.face ? hit.face.normal.clone().transformDirection(this.placed[c]!.matrix) : new Vector3(0, -1, 0);
        const g = this.geometries.get(this.assembly.parts[this.components[c]!.part]!.geometryKey)!;
        const face = g.triangleFace[hit.faceIndex ?? 0] ?? 0;
        const { placement } = this.components[c]!;
        const p = this.placed[c]!;
        const home = hit.point.clone().applyMatrix4(p.matrix.clone().invert()).applyMatrix4(p.home).toArray();
        return { component: c, normal: [n.x, n.y, n.z], probe: probeOf(g, face, placement, home), edge: edgeNear(g, placement, home, nearMm) };
      }
    }
    return undefined;
  }

  /** The parts in their assembled places, as the core takes them. */
  bodies(): Body[] {
    return this.components.flatMap((c) => {
      const geometry = this.geometries.get(this.assembly.parts[c.part]!.geometryKey);
      return geometry ? [{ component: c.index, geometry, placement: c.placement }] : [];
    });
  }

  /** Boxes of components where they are now. */
  boxesOf(components: ReadonlySet<number>): Box3[] {
    return [...components].flatMap((i) => {
      const p = this.placed[i];
      const own = p?.mesh.geometry.boundingBox;
      return p && own ? [own.clone().applyMatrix4(p.matrix)] : [];
    });
  }

  /** Box around components; of everything when there are none. */
  boxOf(components: ReadonlySet<number>): Box3 {
    const out = this.boxesOf(components).reduce((all, b) => all.union(b), new Box3());
    return out.isEmpty() ? this.box : out;
  }

  dispose(): void {
    for (const [mesh] of this.componentsOf) mesh.geometry.dispose();
    for (const m of this.materials) m.dispose();
    for (const p of this.placed) p?.edges?.geometry.dispose();
  }
}

function surfaceOf(g: PartGeometry): BufferGeometry {
  const positions = new Float32Array(g.triangles.length * 3);
  g.triangles.forEach((v, i) => {
    for (let k = 0; k < 3; k++) positions[i * 3 + k] = g.positions[v * 3 + k]!;
  });
  const out = new BufferGeometry();
  out.setAttribute('position', new BufferAttribute(positions, 3));
  out.setAttribute('normal', new BufferAttribute(g.cornerNormals, 3));
  out.computeBoundingBox();
  return out;
}

function edgesOf(g: PartGeometry): BufferGeometry {
  const points: number[] = [];
  for (let e = 0; e < g.edgeClass.length; e++) {
    if (g.edgeClass[e] === EdgeClass.seam || g.edgeClass[e] === EdgeClass.tangent) continue;
    for (let p = g.edgeStart[e]!; p < g.edgeStart[e + 1]! - 1; p++)
      for (const v of [g.edgeVertices[p]!, g.edgeVertices[p + 1]!]) points.push(g.positions[v * 3]!, g.positions[v * 3 + 1]!, g.positions[v * 3 + 2]!);
  }
  return new BufferGeometry().setAttribute('position', new BufferAttribute(Float32Array.from(points), 3));
}
