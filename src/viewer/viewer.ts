import {
  AmbientLight,
  Box3,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  DoubleSide,
  Group,
  Matrix4,
  Mesh,
  MeshLambertMaterial,
  OrthographicCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { combine, IDENTITY, type Placement } from '../core/base/placement.ts';
import { motionsOf, type Pull } from '../core/explode/spread.ts';
import { CORNER_BYTES, type ViewerModel, type ViewerPart } from '../core/guide/viewer-model.ts';

/** What is shown: which components, which of them stand out, and the pulls that take them off. */
export interface Shown {
  readonly there: readonly number[];
  readonly fresh: readonly number[];
  readonly pulls: readonly Pull[];
  /** The model's colours for everything instead of the item's for what is fresh. */
  readonly colored?: boolean;
  /** From where it is seen: from the model to the eye, and what is up. */
  readonly toward?: readonly [number, number, number];
}

interface Half {
  readonly x: number;
  readonly y: number;
}
const ONE: Half = { x: 1, y: 1 };
const STANDING = '#d9d5cc';
/** What a pull takes when it is played, ms. */
const PULL_MS = 900;

/** The bytes of a page's model: deflated, as base64 in the page. */
export async function unpacked(base64: string): Promise<ArrayBuffer> {
  const packed = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
  return new Response(new Blob([packed]).stream().pipeThrough(new DecompressionStream('deflate'))).arrayBuffer();
}

function geometryOf(p: ViewerPart, bytes: ArrayBuffer): BufferGeometry {
  const view = new DataView(bytes, p.at);
  const position = new Float32Array(3 * p.corners);
  const normal = new Float32Array(3 * p.corners);
  for (let c = 0; c < p.corners; c++)
    for (let k = 0; k < 3; k++) {
      position[3 * c + k] = p.origin[k]! + p.step * view.getUint16(c * CORNER_BYTES + 2 * k, true);
      normal[3 * c + k] = view.getInt8(c * CORNER_BYTES + 6 + k) / 127;
    }
  const head = Math.ceil((p.corners * CORNER_BYTES) / 4) * 4;
  const index = new Uint32Array(3 * p.triangles);
  for (let i = 0; i < index.length; i++) index[i] = view.getUint32(head + 4 * i, true);
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(position, 3));
  g.setAttribute('normal', new BufferAttribute(normal, 3));
  g.setIndex(new BufferAttribute(index, 1));
  return g;
}

const matrixOf = (p: Placement) => new Matrix4().set(p[0]!, p[1]!, p[2]!, p[3]!, p[4]!, p[5]!, p[6]!, p[7]!, p[8]!, p[9]!, p[10]!, p[11]!, 0, 0, 0, 1);

/** A model that can be turned, and whose pulls can be played. */
export class Viewer {
  /** How many pulls are made, with fractions. */
  time = 0;
  /** Told whenever that changes. */
  ontime: ((time: number) => void) | undefined;
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new OrthographicCamera();
  private readonly controls: OrbitControls;
  private readonly meshes: (Mesh<BufferGeometry, MeshLambertMaterial> | undefined)[];
  private readonly model: ViewerModel;
  private readonly host: HTMLElement;
  private shown: Shown = { there: [], fresh: [], pulls: [] };
  /** Half of what is seen upwards and across, together and apart, mm. */
  private reach: readonly [Half, Half] = [ONE, ONE];
  private frame = 0;
  private playing = 0;

  /** @throws where the browser has no WebGL */
  constructor(host: HTMLElement, model: ViewerModel, bytes: ArrayBuffer) {
    [this.model, this.host] = [model, host];
    this.renderer = new WebGLRenderer({ antialias: true, alpha: true });
    this.renderer.setPixelRatio(Math.min(2, devicePixelRatio));
    host.append(this.renderer.domElement);
    this.camera.up.set(0, 0, 1);
    const light = new DirectionalLight('#ffffff', 2);
    light.position.set(0.4, -0.6, 1);
    this.camera.add(light);
    this.scene.add(this.camera, new AmbientLight('#ffffff', 1));
    const geometries = model.parts.map((p) => geometryOf(p, bytes));
    const all = new Group();
    this.meshes = model.components.map((c) => {
      if (c.part === undefined) return undefined;
      const mesh = new Mesh(geometries[c.part], new MeshLambertMaterial({ side: DoubleSide }));
      mesh.matrixAutoUpdate = false;
      mesh.name = c.name;
      all.add(mesh);
      return mesh;
    });
    this.scene.add(all);
    this.controls = new OrbitControls(this.camera, this.renderer.domElement);
    this.controls.addEventListener('change', () => this.draw());
    new ResizeObserver(() => this.resize()).observe(host);
  }

  show(shown: Shown): void {
    this.stop();
    this.shown = shown;
    const fresh = new Set(shown.fresh);
    const visible = new Set([...shown.there, ...shown.fresh]);
    this.meshes.forEach((m, i) => {
      if (!m) return;
      m.visible = visible.has(i);
      const { color, own } = this.model.components[i]!;
      m.material.color = new Color(shown.colored ? own : fresh.has(i) || !shown.there.length ? color : STANDING);
    });
    this.look();
    this.at(shown.pulls.length);
  }

  /** So many pulls are made. */
  at(time: number): void {
    const { pulls } = this.shown;
    this.time = Math.max(0, Math.min(pulls.length, time));
    const motions = motionsOf(pulls, this.model.components.length, this.time);
    this.meshes.forEach((m, i) => {
      if (!m?.visible) return;
      const motion = motions[i]!;
      const { placement } = this.model.components[i]!;
      m.matrix.copy(matrixOf(motion === IDENTITY ? placement : combine(motion, placement)));
      m.matrixWorldNeedsUpdate = true;
    });
    this.zoom();
    this.ontime?.(this.time);
    this.draw();
  }

  /** Plays the pulls until so many are made; from where it stands. */
  play(to: number): void {
    this.stop();
    let last: number | undefined;
    const step = (now: number) => {
      const by = ((now - (last ?? now)) / PULL_MS) * Math.sign(to - this.time);
      last = now;
      const next = this.time + by;
      const over = by !== 0 && (by > 0 ? next >= to : next <= to);
      this.at(over ? to : next);
      this.playing = over || this.time === to ? 0 : requestAnimationFrame(step);
    };
    if (this.time !== to) this.playing = requestAnimationFrame(step);
  }

  get isPlaying(): boolean {
    return this.playing !== 0;
  }

  stop(): void {
    if (this.playing) cancelAnimationFrame(this.playing);
    this.playing = 0;
  }

  /** Sees what is shown from its side, together in the middle; apart as much more as it takes. */
  private look(): void {
    const toward = new Vector3(...(this.shown.toward ?? [1, -1, 1])).normalize();
    const box = this.boxAt(0);
    const center = box.getCenter(new Vector3());
    const size = Math.max(1e-6, box.union(this.boxAt(this.shown.pulls.length)).getSize(new Vector3()).length());
    this.camera.position.copy(center).addScaledVector(toward, 2 * size);
    [this.camera.near, this.camera.far] = [0.001 * size, 6 * size];
    this.camera.zoom = 1;
    this.controls.target.copy(center);
    this.controls.update();
    this.camera.updateMatrixWorld(true);
    this.reach = [this.halfAt(0), this.halfAt(this.shown.pulls.length)];
    this.resize();
  }

  private boxAt(time: number): Box3 {
    this.at(time);
    this.scene.updateMatrixWorld(true);
    const box = new Box3();
    for (const m of this.meshes) if (m?.visible) box.expandByObject(m);
    return box;
  }

  /** How far what is shown reaches from the middle of the picture. */
  private halfAt(time: number): Half {
    this.at(time);
    this.scene.updateMatrixWorld(true);
    const [p, box] = [new Vector3(), new Box3()];
    let [x, y] = [1e-6, 1e-6];
    for (const m of this.meshes) {
      if (!m?.visible) continue;
      box.setFromObject(m);
      for (let k = 0; k < 8; k++) {
        p.set(k & 1 ? box.max.x : box.min.x, k & 2 ? box.max.y : box.min.y, k & 4 ? box.max.z : box.min.z).applyMatrix4(this.camera.matrixWorldInverse);
        x = Math.max(x, Math.abs(p.x));
        y = Math.max(y, Math.abs(p.y));
      }
    }
    return { x, y };
  }

  private resize(): void {
    const { clientWidth: w, clientHeight: h } = this.host;
    if (!w || !h) return;
    this.renderer.setSize(w, h);
    this.zoom();
    this.draw();
  }

  private zoom(): void {
    const { clientWidth: w, clientHeight: h } = this.host;
    if (!w || !h) return;
    const share = this.shown.pulls.length ? this.time / this.shown.pulls.length : 0;
    const [a, b] = this.reach.map((r) => Math.max(r.x / w, r.y / h));
    const k = 1.08 * (a! + (Math.max(a!, b!) - a!) * Math.min(1, 2 * share));
    [this.camera.left, this.camera.right, this.camera.top, this.camera.bottom] = [-w * k, w * k, h * k, -h * k];
    this.camera.updateProjectionMatrix();
  }

  private draw(): void {
    if (this.frame) return;
    this.frame = requestAnimationFrame(() => {
      this.frame = 0;
      this.renderer.render(this.scene, this.camera);
    });
  }
}
