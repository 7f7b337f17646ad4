<script module lang="ts">
  import type { Vec3 } from '$core/base/vector';
  import type { Box3 as Box } from 'three';

  /** How to look at the model. */
  export interface Look {
    readonly fit: (boxes: Box | readonly Box[]) => void;
    readonly turn: (dx: number, dy: number) => void;
    readonly zoom: (factor: number) => void;
    readonly redraw: () => void;
    /** Towards the reader. */
    readonly direction: () => Vec3;
    /** Upwards on the screen. */
    readonly up: () => Vec3;
    /** Where a point of the model is on the screen, pixels from the upper left corner of the view. */
    readonly project: (p: Vec3) => readonly [number, number];
    /** Looks from a direction, Z up. */
    readonly from: (toward: Vec3) => void;
  }
</script>

<script lang="ts">
  import { T, useTask, useThrelte } from '@threlte/core';
  import { Box3, OrthographicCamera, Raycaster, Vector2, Vector3 } from 'three';
  import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
  import type { ModelScene, Picked } from './model-scene';

  interface Props {
    scene: ModelScene;
    onpick: (hit: Picked | undefined, more: boolean) => void;
    /** Is told how to look at things. */
    onready: (look: Look) => void;
    /** The view was turned, moved or sized. */
    onview?: () => void;
    /** A rectangle was drawn with Shift held: left, top, right and bottom, pixels. */
    onbox?: (box: readonly [number, number, number, number]) => void;
  }
  const { scene, onpick, onready, onview, onbox }: Props = $props();

  const { renderer, size, invalidate, canvas } = useThrelte();
  renderer.localClippingEnabled = true;
  const camera = new OrthographicCamera(-100, 100, 100, -100, -1e5, 1e5);
  camera.up.set(0, 0, 1);
  const controls = new OrbitControls(camera, canvas);
  controls.zoomToCursor = true;
  controls.addEventListener('change', () => {
    invalidate();
    onview?.();
  });
  useTask(() => void controls.update(), { autoInvalidate: false });

  let span = 200;
  function frame() {
    const { width, height } = size.current;
    const k = Math.max(1e-6, Math.min(width, height));
    camera.left = (-span * width) / k / 2;
    camera.right = (span * width) / k / 2;
    camera.top = (span * height) / k / 2;
    camera.bottom = (-span * height) / k / 2;
    camera.updateProjectionMatrix();
    invalidate();
    onview?.();
  }
  /** The box stays fitted while the window is sized, until someone turns or moves the model. */
  let fitted: Box3 | readonly Box3[] | undefined;
  controls.addEventListener('start', () => (fitted = undefined));
  $effect(() => {
    void $size;
    if (fitted) fit(fitted);
    else frame();
  });
  /** Pixels at the foot that the tools cover. */
  const FOOT = 60;
  const MARGIN = 1.06;
  function fit(boxes: Box3 | readonly Box3[]) {
    fitted = boxes;
    const list = [boxes].flat() as readonly Box3[];
    const box = list.reduce((all, b) => all.union(b), new Box3());
    const centre = box.getCenter(new Vector3());
    const size3 = box.getSize(new Vector3());
    const reach = Math.max(1e-3, size3.length());
    const way = camera.position.clone().sub(controls.target);
    if (way.lengthSq() < 1e-9) way.set(1, -1, 1);
    way.normalize();
    const right = camera.up.clone().cross(way).normalize();
    const up = way.clone().cross(right);
    // From where to where the boxes reach along a direction, counted from the middle.
    const along = (d: Vector3) => {
      let [low, high] = [Infinity, -Infinity];
      for (const b of list) {
        const middle = b.getCenter(new Vector3()).sub(centre).dot(d);
        const half = (Math.abs(d.x) * (b.max.x - b.min.x) + Math.abs(d.y) * (b.max.y - b.min.y) + Math.abs(d.z) * (b.max.z - b.min.z)) / 2;
        low = Math.min(low, middle - half);
        high = Math.max(high, middle + half);
      }
      return { middle: (low + high) / 2, length: high - low || 1e-3 };
    };
    const [wide, tall] = [along(right), along(up)];
    const { width, height } = size.current;
    const pixelsPerMm = Math.max(1e-9, Math.min(width / wide.length, Math.max(1, height - FOOT) / tall.length) / MARGIN);
    controls.target
      .copy(centre)
      .addScaledVector(right, wide.middle)
      .addScaledVector(up, tall.middle - FOOT / 2 / pixelsPerMm);
    camera.position.copy(controls.target).addScaledVector(way, reach * 2 + 100);
    camera.zoom = 1;
    span = Math.max(1e-6, Math.min(width, height)) / pixelsPerMm;
    controls.update();
    frame();
  }
  // The theme is switched on the page's root.
  $effect(() => {
    const root = document.documentElement;
    const tell = () => {
      scene.theme(root.classList.contains('dark'));
      invalidate();
    };
    tell();
    const watch = new MutationObserver(tell);
    watch.observe(root, { attributes: true, attributeFilter: ['class'] });
    return () => watch.disconnect();
  });
  // From the right, from the front, from above: as the isometric view of the sheets.
  camera.position.set(1, -1, 1);
  $effect(() => {
    fit(scene.box);
    onready({
      fit,
      turn: (dx, dy) => {
        const way = camera.position.clone().sub(controls.target);
        way.applyAxisAngle(new Vector3(0, 0, 1), dx);
        const side = new Vector3(0, 0, 1).cross(way).normalize();
        const tilted = way.clone().applyAxisAngle(side, dy);
        // Not over the pole.
        if (Math.abs(tilted.clone().normalize().z) < 0.995) way.copy(tilted);
        camera.position.copy(controls.target).add(way);
        controls.update();
        invalidate();
        onview?.();
      },
      zoom: (factor) => {
        camera.zoom = Math.min(400, Math.max(0.05, camera.zoom * factor));
        camera.updateProjectionMatrix();
        invalidate();
        onview?.();
      },
      redraw: () => invalidate(),
      direction: () => camera.position.clone().sub(controls.target).normalize().toArray(),
      up: () => new Vector3(0, 1, 0).applyQuaternion(camera.quaternion).toArray(),
      project: (p) => {
        camera.updateMatrixWorld();
        const v = new Vector3(...p).project(camera);
        const { width, height } = size.current;
        return [((v.x + 1) / 2) * width, ((1 - v.y) / 2) * height];
      },
      from: (toward) => {
        camera.position.copy(controls.target).add(new Vector3(...toward));
        fit(fitted ?? scene.box);
      },
    });
    return () => controls.dispose();
  });

  const ray = new Raycaster();
  let from = new Vector2();
  const inView = (e: PointerEvent): [number, number] => {
    const r = canvas.getBoundingClientRect();
    return [e.clientX - r.left, e.clientY - r.top];
  };
  function down(e: PointerEvent) {
    from = new Vector2(...inView(e));
    // With Shift a box is drawn instead of moving the view.
    controls.enabled = !(e.shiftKey && onbox);
  }
  function up(e: PointerEvent) {
    controls.enabled = true;
    const [x, y] = inView(e);
    if (from.distanceTo(new Vector2(x, y)) > 4) {
      if (e.shiftKey) onbox?.([Math.min(from.x, x), Math.min(from.y, y), Math.max(from.x, x), Math.max(from.y, y)]);
      return;
    }
    const { width, height } = size.current;
    ray.setFromCamera(new Vector2((x / width) * 2 - 1, 1 - (y / height) * 2), camera);
    // An edge counts within a few pixels.
    onpick(scene.pick(ray, (8 * span) / Math.max(1, Math.min(width, height)) / camera.zoom), e.shiftKey || e.ctrlKey || e.metaKey);
  }
  $effect(() => {
    canvas.addEventListener('pointerdown', down);
    canvas.addEventListener('pointerup', up);
    return () => {
      canvas.removeEventListener('pointerdown', down);
      canvas.removeEventListener('pointerup', up);
    };
  });
</script>

<T is={camera} makeDefault />
<T.AmbientLight intensity={1.6} />
<T.DirectionalLight position={[1, -2, 3]} intensity={1.6} />
<T.DirectionalLight position={[-2, 1, 1]} intensity={0.6} />
<T is={scene.root} />
