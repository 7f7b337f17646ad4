<script lang="ts">
  import type { Vec3 } from '$core/base/vector';
  import { T, useTask, useThrelte } from '@threlte/core';
  import { Box3, OrthographicCamera, Raycaster, Vector2, Vector3 } from 'three';
  import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
  import type { ModelScene, Picked } from './model-scene';

  interface Props {
    scene: ModelScene;
    onpick: (hit: Picked | undefined) => void;
    /** Is told how to look at things. */
    onready: (look: {
      fit: (box: Box3) => void;
      turn: (dx: number, dy: number) => void;
      zoom: (factor: number) => void;
      redraw: () => void;
      direction: () => Vec3;
    }) => void;
  }
  const { scene, onpick, onready }: Props = $props();

  const { renderer, size, invalidate, canvas } = useThrelte();
  renderer.localClippingEnabled = true;
  const camera = new OrthographicCamera(-100, 100, 100, -100, -1e5, 1e5);
  camera.up.set(0, 0, 1);
  const controls = new OrbitControls(camera, canvas);
  controls.zoomToCursor = true;
  controls.addEventListener('change', () => invalidate());
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
  }
  /** The box stays fitted while the window is sized, until someone turns or moves the model. */
  let fitted: Box3 | undefined;
  controls.addEventListener('start', () => (fitted = undefined));
  $effect(() => {
    void $size;
    if (fitted) fit(fitted);
    else frame();
  });
  /** Pixels at the foot that the tools cover. */
  const FOOT = 60;
  const MARGIN = 1.06;
  function fit(box: Box3) {
    fitted = box;
    const centre = box.getCenter(new Vector3());
    const size3 = box.getSize(new Vector3());
    const reach = Math.max(1e-3, size3.length());
    const way = camera.position.clone().sub(controls.target);
    if (way.lengthSq() < 1e-9) way.set(1, -1, 1);
    way.normalize();
    const right = camera.up.clone().cross(way).normalize();
    const up = way.clone().cross(right);
    // What a box measures along a direction.
    const along = (d: Vector3) => Math.abs(d.x) * size3.x + Math.abs(d.y) * size3.y + Math.abs(d.z) * size3.z || 1e-3;
    const { width, height } = size.current;
    const pixelsPerMm = Math.max(1e-9, Math.min(width / along(right), Math.max(1, height - FOOT) / along(up)) / MARGIN);
    controls.target.copy(centre).addScaledVector(up, -FOOT / 2 / pixelsPerMm);
    camera.position.copy(controls.target).addScaledVector(way, reach * 2 + 100);
    camera.zoom = 1;
    span = Math.max(1e-6, Math.min(width, height)) / pixelsPerMm;
    controls.update();
    frame();
  }
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
      },
      zoom: (factor) => {
        camera.zoom = Math.min(400, Math.max(0.05, camera.zoom * factor));
        camera.updateProjectionMatrix();
        invalidate();
      },
      redraw: () => invalidate(),
      direction: () => camera.position.clone().sub(controls.target).normalize().toArray(),
    });
    return () => controls.dispose();
  });

  const ray = new Raycaster();
  let from = new Vector2();
  function down(e: PointerEvent) {
    from = new Vector2(e.clientX, e.clientY);
  }
  function up(e: PointerEvent) {
    if (from.distanceTo(new Vector2(e.clientX, e.clientY)) > 4) return;
    const r = canvas.getBoundingClientRect();
    ray.setFromCamera(new Vector2(((e.clientX - r.left) / r.width) * 2 - 1, 1 - ((e.clientY - r.top) / r.height) * 2), camera);
    onpick(scene.pick(ray));
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
