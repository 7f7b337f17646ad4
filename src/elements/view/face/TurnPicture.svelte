<script lang="ts">
  import { dot } from '$core/base/vector';
  import { frontOf } from '$core/document/front';
  import { inFrameOf, trimetric, type ViewFrame } from '$core/outline/directions';
  import { boxEdges } from '$elements/view/box-edges';
  import type { Drawing } from '$lib/shared/drawing.svelte';

  interface Props {
    drawing: Drawing;
    frame: ViewFrame;
    onchange: (frame: ViewFrame) => void;
  }
  const { drawing, frame, onchange }: Props = $props();

  const SIZE = 200;

  /** Boxes of components: the model itself is not needed to see which way it is turned. */
  const path = $derived.by(() => {
    const edges = boxEdges(drawing.assembly, drawing.components, frame);
    let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < edges.length; i += 2) {
      [x0, x1] = [Math.min(x0, edges[i]!), Math.max(x1, edges[i]!)];
      [y0, y1] = [Math.min(y0, edges[i + 1]!), Math.max(y1, edges[i + 1]!)];
    }
    const k = (0.92 * SIZE) / Math.max(x1 - x0, y1 - y0, 1e-9);
    const at = (i: number) => `${(SIZE / 2 + (edges[i]! - (x0 + x1) / 2) * k).toFixed(1)} ${(SIZE / 2 - (edges[i + 1]! - (y0 + y1) / 2) * k).toFixed(1)}`;
    let d = '';
    for (let i = 0; i < edges.length; i += 4) d += `M${at(i)}L${at(i + 2)}`;
    return d;
  });

  /** How far it is turned about the upright axis, and tipped, rad. */
  const front = $derived(frontOf(drawing.document));
  const angles = $derived([
    Math.atan2(dot(frame.toward, front.right), dot(frame.toward, front.toward)),
    Math.asin(Math.max(-1, Math.min(1, dot(frame.toward, front.up)))),
  ] as const);
  let last: readonly [number, number] | undefined;
  const turn = (dx: number, dy: number) =>
    onchange(inFrameOf(front, trimetric(angles[0] - dx * 0.012, Math.max(-Math.PI / 2, Math.min(Math.PI / 2, angles[1] + dy * 0.012)))));

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
