<script lang="ts">
  import { applyToPoint } from '$core/base/placement';
  import { dot, type Vec3 } from '$core/base/vector';
  import { trimetric, type ViewFrame } from '$core/outline/directions';
  import type { Drawing } from '$lib/shared/drawing.svelte';

  interface Props {
    drawing: Drawing;
    frame: ViewFrame;
    onchange: (frame: ViewFrame) => void;
  }
  const { drawing, frame, onchange }: Props = $props();

  /** The largest components say which way it looks. */
  const MOST = 150;
  const SIZE = 200;

  /** Corners of the boxes of components: the model itself is not needed to see which way it is turned. */
  const boxes = $derived.by(() => {
    const { components, assembly } = drawing;
    return components
      .map((c) => {
        const b = assembly.parts[c.part]!.box;
        const corners = Array.from({ length: 8 }, (_, k): Vec3 => applyToPoint(c.placement, [b[k & 1 ? 3 : 0]!, b[k & 2 ? 4 : 1]!, b[k & 4 ? 5 : 2]!]));
        return { corners, size: Math.hypot(b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!) };
      })
      .sort((a, b) => b.size - a.size)
      .slice(0, MOST);
  });
  const centre = $derived.by((): Vec3 => {
    const all = boxes.flatMap((b) => b.corners);
    const middle = (k: 0 | 1 | 2) => (Math.min(...all.map((p) => p[k])) + Math.max(...all.map((p) => p[k]))) / 2;
    return [middle(0), middle(1), middle(2)];
  });
  const radius = $derived(Math.max(1e-6, ...boxes.flatMap((b) => b.corners.map((p) => Math.hypot(p[0] - centre[0], p[1] - centre[1], p[2] - centre[2])))));
  const EDGES = [0, 1, 2, 3, 4, 5, 6].flatMap((a) => [1, 2, 4].filter((bit) => !(a & bit)).map((bit) => [a, a | bit] as const));
  const path = $derived.by(() => {
    const k = SIZE / 2.1 / radius;
    const at = (p: Vec3) => {
      const d: Vec3 = [p[0] - centre[0], p[1] - centre[1], p[2] - centre[2]];
      return `${(SIZE / 2 + dot(d, frame.right) * k).toFixed(1)} ${(SIZE / 2 - dot(d, frame.up) * k).toFixed(1)}`;
    };
    return boxes.map(({ corners }) => EDGES.map(([a, b]) => `M${at(corners[a]!)}L${at(corners[b]!)}`).join('')).join('');
  });

  /** How far it is turned about the upright axis, and tipped, rad. */
  const angles = $derived([Math.atan2(frame.toward[0], -frame.toward[1]), Math.asin(Math.max(-1, Math.min(1, frame.toward[2])))] as const);
  let last: readonly [number, number] | undefined;
  const turn = (dx: number, dy: number) => onchange(trimetric(angles[0] - dx * 0.012, Math.max(-Math.PI / 2, Math.min(Math.PI / 2, angles[1] + dy * 0.012))));

  function down(e: PointerEvent) {
    (e.currentTarget as Element).setPointerCapture(e.pointerId);
    last = [e.clientX, e.clientY];
  }
  function move(e: PointerEvent) {
    if (!last) return;
    turn(e.clientX - last[0], e.clientY - last[1]);
    last = [e.clientX, e.clientY];
  }
  const KEYS: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-7, 0], ArrowRight: [7, 0], ArrowUp: [0, -7], ArrowDown: [0, 7] };
  function key(e: KeyboardEvent) {
    const d = KEYS[e.key];
    if (!d) return;
    e.preventDefault();
    turn(...d);
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions, a11y_no_noninteractive_tabindex -->
<svg
  viewBox="0 0 {SIZE} {SIZE}"
  role="application"
  aria-label="The model: pull it, or use the arrow keys, to turn it until it is seen as wanted"
  tabindex="0"
  onpointerdown={down}
  onpointermove={move}
  onpointerup={() => (last = undefined)}
  onpointercancel={() => (last = undefined)}
  onkeydown={key}
>
  <path d={path} fill="none" stroke="currentColor" stroke-width="0.7" />
</svg>

<style>
  svg {
    width: 100%;
    height: 170px;
    touch-action: none;
    cursor: grab;
    border: 1px solid var(--line);
    border-radius: 6px;
    margin-bottom: 0.5rem;
  }
</style>
