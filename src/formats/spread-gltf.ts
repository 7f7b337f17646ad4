import { Document, NodeIO, type Accessor, type Node } from '@gltf-transform/core';
import { Matrix4, Quaternion, Vector3 } from 'three';
import type { Assembly } from '../core/assembly/assembly.ts';
import { componentsOf } from '../core/assembly/components.ts';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { combine, type Placement } from '../core/base/placement.ts';
import { motionsOf, type Pull } from '../core/explode/spread.ts';
import { colorBytes } from '../core/shade/colors.ts';

/** Seconds that a pull takes, and how many positions of a turn are kept. */
const SECONDS = 0.8;
const TURN_KEYS = 6;

/**
 * An exploded assembly as glTF 2.0 (GLB): a node per component, named and coloured, together at the start, and an
 * animation “Take apart” that makes one pull after the other. Metres, Y up, as the format says.
 */
export async function spreadAsGltf(assembly: Assembly, geometries: ReadonlyMap<string, PartGeometry>, pulls: readonly Pull[]): Promise<Uint8Array> {
  const doc = new Document();
  const buffer = doc.createBuffer();
  const scene = doc.createScene(assembly.name);
  const root = doc.createNode(assembly.name).setRotation([-Math.SQRT1_2, 0, 0, Math.SQRT1_2]).setScale([0.001, 0.001, 0.001]);
  scene.addChild(root);
  const array = (type: 'SCALAR' | 'VEC3' | 'VEC4', values: Float32Array<ArrayBuffer>): Accessor =>
    doc.createAccessor().setType(type).setArray(values).setBuffer(buffer);
  const materials = new Map<string, ReturnType<Document['createMaterial']>>();
  const materialOf = (hex: string | undefined) => {
    const key = hex ?? '';
    let m = materials.get(key);
    if (!m) {
      // Colours of the format are linear light.
      const linear = colorBytes(hex).map((b) => (b / 255 <= 0.04045 ? b / 255 / 12.92 : ((b / 255 + 0.055) / 1.055) ** 2.4));
      m = doc
        .createMaterial(key || 'plain')
        .setBaseColorFactor([linear[0]!, linear[1]!, linear[2]!, 1])
        .setMetallicFactor(0.1)
        .setRoughnessFactor(0.7);
      materials.set(key, m);
    }
    return m;
  };
  const surfaces = new Map<PartGeometry, { position: Accessor; normal: Accessor }>();
  const surfaceOf = (g: PartGeometry) => {
    let s = surfaces.get(g);
    if (!s) {
      const xyz = new Float32Array(g.triangles.length * 3);
      g.triangles.forEach((v, i) => xyz.set(g.positions.subarray(v * 3, v * 3 + 3), i * 3));
      s = { position: array('VEC3', xyz), normal: array('VEC3', new Float32Array(g.cornerNormals)) };
      surfaces.set(g, s);
    }
    return s;
  };
  const components = componentsOf(assembly);
  const nodes = components.map((c): Node | undefined => {
    const part = assembly.parts[c.part]!;
    const g = geometries.get(part.geometryKey);
    if (!g) return undefined;
    const { position, normal } = surfaceOf(g);
    const primitive = doc.createPrimitive().setAttribute('POSITION', position).setAttribute('NORMAL', normal);
    primitive.setMaterial(materialOf(assembly.nodes[c.node]!.color ?? part.color));
    const { translation, rotation, scale } = parts(c.placement);
    const node = doc
      .createNode(c.name)
      .setMesh(doc.createMesh(c.name).addPrimitive(primitive))
      .setTranslation(translation)
      .setRotation(rotation)
      .setScale(scale);
    root.addChild(node);
    return node;
  });

  const animation = doc.createAnimation('Take apart');
  const times = pulls.flatMap((p, i) => (p.turn ? Array.from({ length: TURN_KEYS }, (_, k) => i + (k + 1) / TURN_KEYS) : [i + 1]));
  const keys = [0, ...times];
  const motions = keys.map((t) => motionsOf(pulls, components.length, t));
  components.forEach((c, i) => {
    const node = nodes[i];
    if (!node || !pulls.some((p) => p.components.includes(i))) return;
    // Only where something changes, and the moments before and after.
    const wanted = keys.flatMap((_, k) => (k === 0 || k === keys.length - 1 || changes(motions, i, k) || changes(motions, i, k + 1) ? [k] : []));
    const poses = wanted.map((k) => parts(combine(motions[k]![i]!, c.placement)));
    const input = array(
      'SCALAR',
      Float32Array.from(wanted, (k) => keys[k]! * SECONDS),
    );
    const add = (path: 'translation' | 'rotation', type: 'VEC3' | 'VEC4') => {
      const output = array(type, Float32Array.from(poses.flatMap((p) => p[path] as readonly number[])));
      const sampler = doc.createAnimationSampler().setInput(input).setOutput(output).setInterpolation('LINEAR');
      animation.addSampler(sampler).addChannel(doc.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
    };
    add('translation', 'VEC3');
    if (pulls.some((p) => p.turn && p.components.includes(i))) add('rotation', 'VEC4');
  });
  return new NodeIO().writeBinary(doc);
}

const changes = (motions: readonly (readonly Placement[])[], component: number, k: number): boolean =>
  k > 0 && k < motions.length && motions[k]![component]!.some((v, i) => v !== motions[k - 1]![component]![i]);

function parts(m: Placement): { translation: [number, number, number]; rotation: [number, number, number, number]; scale: [number, number, number] } {
  const matrix = new Matrix4().set(m[0]!, m[1]!, m[2]!, m[3]!, m[4]!, m[5]!, m[6]!, m[7]!, m[8]!, m[9]!, m[10]!, m[11]!, 0, 0, 0, 1);
  const [t, r, s] = [new Vector3(), new Quaternion(), new Vector3()];
  matrix.decompose(t, r, s);
  return { translation: t.toArray(), rotation: r.toArray() as [number, number, number, number], scale: s.toArray() };
}
