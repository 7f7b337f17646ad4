<script lang="ts">
  import { aimAt } from '$elements/balloon/place/aim';
  import { moveView, shiftsOf } from '$core/document/moves';
  import type { BalloonRecord, ViewRecord } from '$core/document/records';
  import type { DisplayGroup } from '$core/picture/display-list';
  import { balloonPlace } from '$elements/balloon/draw';
  import { paperMapOf } from '$elements/view/draw';
  import { componentAt } from '$core/views/compute-view';
  import { LoaderCircle } from '@lucide/svelte';
  import { notify } from '../shared/notices.svelte';
  import type { Drawing } from '../shared/drawing.svelte';
  import GripBar from './GripBar.svelte';
  import GroupPicture from './GroupPicture.svelte';
  import SectionOverlay from './SectionOverlay.svelte';
  import { shadingUrl } from './images.svelte';
  import type { Tools } from './tools.svelte';

  const { drawing, tools }: { drawing: Drawing; tools: Tools } = $props();

  let frame: HTMLDivElement;
  let width = $state(800);
  let height = $state(600);

  const list = $derived(drawing.composed.get(drawing.sheetId));
  const item = $derived(drawing.items.find((i) => i.part === drawing.selectedPart));
  const highlight = $derived(new Set(item?.components ?? []));
  const selectedRecord = $derived(drawing.selection.kind === 'record' ? drawing.document[drawing.selection.id] : undefined);
  const activeView = $derived.by((): ViewRecord | undefined => {
    const s = drawing.selection;
    const id = s.kind === 'item' ? s.view : s.kind === 'record' ? s.id : undefined;
    const r = id ? drawing.document[id] : undefined;
    return r?.type === 'view' && r.sheet === drawing.sheetId ? r : undefined;
  });

  // Pixels per paper mm, and where the sheet's corner lies in the frame.
  let zoom = $state(1);
  let panX = $state(0);
  let panY = $state(0);
  let fitted = '';

  function fit() {
    if (!list) return;
    const room = 26;
    zoom = Math.min((width - 2 * room) / list.width, (height - 2 * room - 70) / list.height);
    panX = (width - list.width * zoom) / 2;
    panY = Math.max(room, (height - 70 - list.height * zoom) / 2);
  }
  $effect(() => {
    const wanted = `${drawing.sheetId}/${list?.width}/${width}x${height}`;
    if (list && wanted !== fitted) {
      fitted = wanted;
      fit();
    }
  });
  $effect(() => {
    tools.fit = fit;
    tools.zoomBy = (k) => zoomAt(width / 2, height / 2, k);
  });

  function zoomAt(x: number, y: number, k: number) {
    const next = Math.min(40, Math.max(0.3, zoom * k));
    panX = x - ((x - panX) * next) / zoom;
    panY = y - ((y - panY) * next) / zoom;
    zoom = next;
  }

  function wheel(e: WheelEvent) {
    e.preventDefault();
    const r = frame.getBoundingClientRect();
    // A pinch arrives as a wheel with Ctrl held.
    zoomAt(e.clientX - r.left, e.clientY - r.top, Math.exp(-e.deltaY * (e.ctrlKey ? 0.01 : 0.0015)));
  }

  const paper = (e: PointerEvent): [number, number] => {
    const r = frame.getBoundingClientRect();
    return [(e.clientX - r.left - panX) / zoom, (e.clientY - r.top - panY) / zoom];
  };

  /** A drag in progress is this session's own affair; one edit is made when it ends. */
  type Drag =
    | { kind: 'pan'; x: number; y: number; moved: boolean }
    | { kind: 'view'; id: string; x: number; y: number; dx: number; dy: number }
    | { kind: 'balloon'; record: BalloonRecord; dx: number; dy: number; x: number; y: number }
    | { kind: 'tip'; record: BalloonRecord; x: number; y: number }
    | { kind: 'outline'; view: ViewRecord };
  let drag = $state.raw<Drag | undefined>(undefined);
  const shifts = $derived(drag?.kind === 'view' ? shiftsOf(drawing.document, drag.id, drag.dx, drag.dy) : undefined);

  function shiftOf(g: DisplayGroup): string | undefined {
    if (drag?.kind === 'view' && shifts) {
      const r = drawing.document[g.id];
      const view = r?.type === 'balloon' ? r.view : g.id;
      const s = shifts.get(view);
      return s ? `translate(${s[0]} ${s[1]})` : undefined;
    }
    return undefined;
  }

  function viewAt(x: number, y: number): ViewRecord | undefined {
    const hits = (list?.groups ?? []).filter(
      (g) => g.role === 'view' && x >= g.box[0] - 2 && y >= g.box[1] - 2 && x <= g.box[0] + g.box[2] + 2 && y <= g.box[1] + g.box[3] + 12,
    );
    const r = hits.at(-1) ? drawing.document[hits.at(-1)!.id] : undefined;
    return r?.type === 'view' ? r : undefined;
  }

  /** The component that a view shows at a place on the sheet; a few pixels of grace for thin edges. */
  function componentIn(view: ViewRecord, x: number, y: number): number {
    const result = drawing.results.get(view.id);
    if (!result) return -1;
    const m = paperMapOf(view);
    const vx = view.pivot[0] + (x - m.x(view.pivot[0])) / view.scale;
    const vy = view.pivot[1] - (y - m.y(view.pivot[1])) / view.scale;
    const hit = componentAt(result, vx, vy);
    if (hit >= 0) return hit;
    const near = aimAt(result, vx, vy);
    return near && near.distance * view.scale * zoom < 5 ? near.component : -1;
  }

  function balloonAt(x: number, y: number): BalloonRecord | undefined {
    for (const g of list?.groups ?? [])
      if (g.role === 'balloon' && Math.hypot(x - g.box[0] - g.box[2] / 2, y - g.box[1] - g.box[3] / 2) <= g.box[2] / 2 + 1) {
        const r = drawing.document[g.id];
        if (r?.type === 'balloon') return r;
      }
    return undefined;
  }

  /** Fingers on the sheet; two of them pinch. */
  const fingers = new Map<number, readonly [number, number]>();
  function pinch(e: PointerEvent): boolean {
    if (e.pointerType !== 'touch' || !fingers.has(e.pointerId)) return false;
    const before = [...fingers.values()];
    fingers.set(e.pointerId, [e.clientX, e.clientY]);
    const now = [...fingers.values()];
    const [a, b, c, d] = [before[0], before[1], now[0], now[1]];
    if (!a || !b || !c || !d) return false;
    const r = frame.getBoundingClientRect();
    const spread = (p: readonly [number, number], q: readonly [number, number]) => Math.hypot(p[0] - q[0], p[1] - q[1]) || 1;
    zoomAt((c[0] + d[0]) / 2 - r.left, (c[1] + d[1]) / 2 - r.top, spread(c, d) / spread(a, b));
    panX += (c[0] + d[0] - a[0] - b[0]) / 2;
    panY += (c[1] + d[1] - a[1] - b[1]) / 2;
    return true;
  }

  function down(e: PointerEvent) {
    if (e.button > 1) return;
    if (e.pointerType === 'touch') {
      fingers.set(e.pointerId, [e.clientX, e.clientY]);
      if (fingers.size > 1) {
        drag = undefined;
        return;
      }
    }
    (e.currentTarget as Element).setPointerCapture(e.pointerId);
    frame.focus({ preventScroll: true });
    const [x, y] = paper(e);
    if (e.button === 1 || e.altKey) {
      drag = { kind: 'pan', x: e.clientX, y: e.clientY, moved: true };
      return;
    }
    if (tools.tool === 'section' || tools.tool === 'break') {
      drawOn(x, y);
      return;
    }
    if (selectedRecord?.type === 'balloon') {
      const view = drawing.document[selectedRecord.view];
      if (view?.type === 'view') {
        const p = balloonPlace(selectedRecord, view);
        if (Math.hypot(p.tipX - x, p.tipY - y) * zoom < 12) {
          drag = { kind: 'tip', record: selectedRecord, x: p.tipX, y: p.tipY };
          return;
        }
      }
    }
    const balloon = balloonAt(x, y);
    if (balloon) {
      drawing.select({ kind: 'record', id: balloon.id });
      drag = { kind: 'balloon', record: balloon, dx: 0, dy: 0, x, y };
      return;
    }
    const row = textAt(x, y);
    if (row) {
      drawing.select(row);
      return;
    }
    const view = viewAt(x, y);
    if (view && tools.tool === 'balloon') {
      const c = componentIn(view, x, y);
      if (c >= 0) tools.addBalloon(view, c, x, y);
      return;
    }
    if (view) {
      const c = componentIn(view, x, y);
      const found = c >= 0 ? drawing.itemOfComponent.get(c) : undefined;
      drawing.select(found ? { kind: 'item', part: found.part, component: c, view: view.id } : { kind: 'record', id: view.id });
      drag = { kind: 'view', id: view.id, x, y, dx: 0, dy: 0 };
      return;
    }
    drag = { kind: 'pan', x: e.clientX, y: e.clientY, moved: false };
  }

  /** The view that a cutting line or a break is drawn on: it may begin beside the view. */
  function canvasView(x: number, y: number): ViewRecord | undefined {
    const begun = tools.sections.view;
    if (begun) return begun;
    let best: { view: ViewRecord; d: number } | undefined;
    for (const g of list?.groups ?? []) {
      const r = g.role === 'view' ? drawing.document[g.id] : undefined;
      if (r?.type !== 'view') continue;
      const d = Math.hypot(Math.max(0, g.box[0] - x, x - g.box[0] - g.box[2]), Math.max(0, g.box[1] - y, y - g.box[1] - g.box[3]));
      if (d < 20 && (!best || d < best.d)) best = { view: r, d };
    }
    return best?.view;
  }
  const inView = (view: ViewRecord, x: number, y: number): [number, number] => [
    view.pivot[0] + (x - view.at[0]) / view.scale,
    view.pivot[1] - (y - view.at[1]) / view.scale,
  ];

  function drawOn(x: number, y: number) {
    const view = canvasView(x, y);
    if (!view) {
      notify('trouble', 'Begin at a view: near it or on it.');
      return;
    }
    if (tools.tool === 'section') tools.sections.press(view, inView(view, x, y), 8 / zoom / view.scale);
    else if (view.cut && view.cut.shape?.kind !== 'local') notify('trouble', 'This view is a section already. Break out of a view that is not cut.');
    else {
      tools.sections.clear();
      tools.sections.trace(view, inView(view, x, y));
      drag = { kind: 'outline', view };
    }
  }

  /** Rows of the list select their item, fields of the title block themselves. */
  function textAt(x: number, y: number) {
    for (const g of list?.groups ?? []) {
      if (g.role !== 'list' && g.role !== 'title') continue;
      const [gx, gy, w, h] = g.box;
      if (x < gx || y < gy || x > gx + w || y > gy + h) continue;
      let best: { d: number; source: { item?: number; field?: string } } | undefined;
      for (const i of g.items) {
        if (i.kind !== 'text' || !i.source) continue;
        const d = Math.abs(y - i.y + i.height / 2) * 3 + Math.max(0, i.x - x - 2, g.role === 'list' ? 0 : x - i.x - 40);
        if (!best || d < best.d) best = { d, source: i.source };
      }
      if (g.role === 'list') {
        const part = drawing.items.find((i) => i.number === best?.source.item)?.part;
        return part && best!.d < 14 ? ({ kind: 'item', part } as const) : ({ kind: 'record', id: g.id.split('/')[0]! } as const);
      }
      return { kind: 'field', field: best?.source.field ?? 'title' } as const;
    }
    return undefined;
  }

  function move(e: PointerEvent) {
    if (pinch(e)) return;
    const [x, y] = paper(e);
    if (tools.tool === 'section' && !drag) {
      const view = canvasView(x, y);
      if (view) tools.sections.hover(view, inView(view, x, y), 8 / zoom / view.scale);
      return;
    }
    if (!drag) return;
    if (drag.kind === 'pan') {
      const [dx, dy] = [e.clientX - drag.x, e.clientY - drag.y];
      if (!drag.moved && Math.hypot(dx, dy) < 4) return;
      panX += dx;
      panY += dy;
      drag = { kind: 'pan', x: e.clientX, y: e.clientY, moved: true };
    } else if (drag.kind === 'outline') tools.sections.trace(drag.view, inView(drag.view, x, y));
    else if (drag.kind === 'tip') drag = { ...drag, x, y };
    else drag = { ...drag, dx: x - drag.x, dy: y - drag.y };
  }

  function up(e: PointerEvent) {
    fingers.delete(e.pointerId);
    const d = drag;
    drag = undefined;
    if (!d) return;
    if (d.kind === 'pan' && !d.moved) drawing.select({ kind: 'none' });
    // A press without a move of a few pixels is a click.
    if (d.kind === 'view' && Math.hypot(d.dx, d.dy) * zoom > 3) drawing.edit('Move view', moveView(drawing.document, d.id, d.dx, d.dy));
    if (d.kind === 'balloon' && Math.hypot(d.dx, d.dy) * zoom > 3) moveBalloon(d.record, d.dx, d.dy);
    if (d.kind === 'tip') reaim(d.record, d.x, d.y);
    if (d.kind === 'outline') void tools.sections.breakOut();
  }

  function moveBalloon(b: BalloonRecord, dx: number, dy: number) {
    drawing.edit('Move balloon', [{ op: 'put', record: { ...b, offset: [b.offset[0] + dx, b.offset[1] + dy], byHand: true } }]);
  }

  function reaim(b: BalloonRecord, x: number, y: number) {
    const view = drawing.document[b.view];
    if (view?.type !== 'view') return;
    const result = drawing.results.get(view.id);
    const hit = componentIn(view, x, y);
    const vx = view.pivot[0] + (x - view.at[0]) / view.scale;
    const vy = view.pivot[1] - (y - view.at[1]) / view.scale;
    const aim = result && aimAt(result, vx, vy, hit >= 0 ? hit : undefined);
    if (!aim) return;
    drawing.edit('Re-aim balloon', [{ op: 'put', record: { ...b, component: drawing.components[aim.component]!.path, anchor: [aim.x, aim.y] } }]);
  }

  function preview(g: DisplayGroup): BalloonRecord | undefined {
    return (drag?.kind === 'balloon' || drag?.kind === 'tip') && drag.record.id === g.id ? drag.record : undefined;
  }

  function key(e: KeyboardEvent) {
    const step = e.shiftKey ? 10 : 1;
    const d = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[e.key];
    if (!d) return;
    const [dx, dy] = d as [number, number];
    e.preventDefault();
    if (selectedRecord?.type === 'balloon') moveBalloon(selectedRecord, dx, dy);
    else if (activeView) drawing.edit('Move view', moveView(drawing.document, activeView.id, dx, dy));
    else {
      panX -= dx * 20;
      panY -= dy * 20;
    }
  }

  function activate(g: DisplayGroup) {
    if (g.role === 'view' || g.role === 'balloon') drawing.select({ kind: 'record', id: g.id });
    else if (g.role === 'list') drawing.select({ kind: 'record', id: g.id.split('/')[0]! });
    else if (g.role === 'title') drawing.select({ kind: 'field', field: 'title' });
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions, a11y_no_noninteractive_tabindex -->
<div
  class="desk"
  bind:this={frame}
  bind:clientWidth={width}
  bind:clientHeight={height}
  onwheel={wheel}
  onkeydown={key}
  tabindex="0"
  role="application"
  aria-label="Sheet. Arrow keys move what is selected, or the sheet."
>
  {#if list}
    <svg
      class="sheet"
      class:aiming={tools.tool !== 'pick'}
      style="transform: translate({panX}px, {panY}px)"
      width={list.width * zoom}
      height={list.height * zoom}
      viewBox="0 0 {list.width} {list.height}"
      onpointerdown={down}
      onpointermove={move}
      onpointerup={up}
      ondblclick={() => tools.tool === 'section' && void tools.sections.finish()}
      onpointercancel={(e) => (fingers.delete(e.pointerId), (drag = undefined))}
      role="group"
      aria-label="Sheet {drawing.sheets.findIndex((s) => s.id === drawing.sheetId) + 1} of {drawing.sheets.length}"
      data-testid="sheet"
    >
      <rect width={list.width} height={list.height} fill="#fffefb" />
      {#each list.groups as g (g.id)}
        {@const moving = preview(g)}
        <g
          data-role={g.role}
          data-id={g.id}
          role={g.role === 'frame' ? 'presentation' : 'button'}
          tabindex={g.role === 'frame' ? undefined : 0}
          aria-label={g.role === 'frame' ? undefined : g.label}
          transform={shiftOf(g)}
          opacity={moving ? 0.25 : 1}
          onkeydown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), activate(g))}
        >
          <GroupPicture group={g} {highlight} highlightItem={item?.number} images={(id) => shadingUrl(drawing.results.get(id))} />
        </g>
        {#if g.role === 'view' && drawing.computing.has(g.id)}
          <text x={g.box[0] + g.box[2] / 2} y={g.box[1] - 3} font-size="4" text-anchor="middle" fill="#9c590a"
            >{drawing.results.has(g.id) ? 'out of date, being drawn anew' : 'drawing this view'} … {drawing.progress.has(g.id)
              ? `${Math.round(100 * (drawing.progress.get(g.id) ?? 0))} %`
              : ''}</text
          >
        {:else if g.role === 'view' && drawing.broken.has(g.id)}
          <text x={g.box[0] + g.box[2] / 2} y={g.box[1] - 3} font-size="4" text-anchor="middle" fill="#a3271f">{drawing.broken.get(g.id)}</text>
        {/if}
      {/each}

      <SectionOverlay sections={tools.sections} tool={tools.tool} {zoom} />
      {#if selectedRecord?.type === 'balloon'}
        {@const view = drawing.document[selectedRecord.view]}
        {#if view?.type === 'view' && view.sheet === drawing.sheetId}
          {@const p = balloonPlace(selectedRecord, view)}
          {@const dx = drag?.kind === 'balloon' ? drag.dx : 0}
          {@const dy = drag?.kind === 'balloon' ? drag.dy : 0}
          {@const tx = drag?.kind === 'tip' ? drag.x : p.tipX}
          {@const ty = drag?.kind === 'tip' ? drag.y : p.tipY}
          <line x1={p.x + dx} y1={p.y + dy} x2={tx} y2={ty} stroke="#12707a" stroke-width={1 / zoom} stroke-dasharray="{4 / zoom} {3 / zoom}" />
          <circle cx={p.x + dx} cy={p.y + dy} r="6" fill="none" stroke="#12707a" stroke-width={2 / zoom} />
          <circle class="tip" cx={tx} cy={ty} r={6 / zoom} fill="#d9ebec" stroke="#12707a" stroke-width={1.5 / zoom} data-testid="leader-tip" />
        {/if}
      {/if}
      {#if activeView}
        {@const g = list.groups.find((x) => x.id === activeView.id)}
        {#if g}
          <rect
            x={g.box[0] - 3}
            y={g.box[1] - 3}
            width={g.box[2] + 6}
            height={g.box[3] + 6}
            transform={shiftOf(g)}
            fill="none"
            stroke="#12707a"
            stroke-width={1.5 / zoom}
            stroke-dasharray="{6 / zoom} {4 / zoom}"
            pointer-events="none"
          />
        {/if}
      {/if}
    </svg>
    {#if activeView && drag?.kind !== 'view'}
      {@const g = list.groups.find((x) => x.id === activeView.id)}
      {#if g}
        <GripBar {drawing} view={activeView} x={panX + (g.box[0] + g.box[2] / 2) * zoom} y={panY + (g.box[1] - 3) * zoom} {width} />
      {/if}
    {/if}
  {:else}
    <p class="wait"><LoaderCircle class="spin" /> Opening the drawing …</p>
  {/if}
</div>

<style>
  .desk {
    position: absolute;
    inset: 0;
    overflow: hidden;
    background: var(--desk) radial-gradient(circle, color-mix(in srgb, var(--line) 80%, transparent) 1px, transparent 1.2px) 0 0 / 22px 22px;
  }
  .sheet {
    position: absolute;
    left: 0;
    top: 0;
    touch-action: none;
    user-select: none;
    box-shadow: 0 2px 10px rgb(0 0 0 / 0.18);
    cursor: default;
  }
  .sheet.aiming {
    cursor: crosshair;
  }
  .sheet g[role='button']:focus-visible {
    outline: 0.6px solid #12707a;
  }
  .tip {
    cursor: move;
  }
  .wait {
    padding: 3rem;
    color: var(--mute);
  }
</style>
