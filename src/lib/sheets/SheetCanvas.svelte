<script lang="ts">
  import { untrack } from 'svelte';
  import type { Vec2 } from '$core/base/vector';
  import type { DisplayGroup } from '$core/picture/display-list';
  import { faceOf } from '$elements/faces';
  import { LoaderCircle } from '@lucide/svelte';
  import { balloonForDropped } from '$elements/balloon/face/dropped';
  import type { Drawing } from '../shared/drawing.svelte';
  import { ITEM_DRAGGED } from '../shared/item-dragged';
  import { letters } from '../shared/letters';
  import { markText } from '../proof/marks';
  import GroupPicture from './GroupPicture.svelte';
  import { menuAt } from './menu';
  import { placeOfSelection } from './place-of-selection';
  import PressMenu from './PressMenu.svelte';
  import Sketches from './Sketches.svelte';
  import { shadingUrl } from './images.svelte';
  import TextInPlace from './TextInPlace.svelte';
  import type { Press } from './tool';
  import type { Tools } from './tools.svelte';

  const { drawing, tools }: { drawing: Drawing; tools: Tools } = $props();

  let frame: HTMLDivElement;
  // Nothing is measured yet.
  let width = $state(0);
  let height = $state(0);

  const list = $derived(drawing.picture);
  const item = $derived(drawing.items.find((i) => i.part === drawing.selectedPart));
  const highlight = $derived(new Set(item?.components ?? []));
  const selected = $derived(tools.pick.selected);
  const outlined = $derived(selected?.type === 'view' ? list?.groups.find((g) => g.id === selected.id) : undefined);
  /** Frames around what is selected: a view alone, or each of several. */
  const framed = $derived.by(() => {
    const several = drawing.selection.kind === 'records' ? new Set(drawing.chosen) : undefined;
    return several ? (list?.groups.filter((g) => several.has(g.id.split('/')[0]!)) ?? []) : outlined ? [outlined] : [];
  });
  const Grip = $derived(selected && faceOf(selected).grip);

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
  let measured: Vec2 = [0, 0];
  $effect(() => {
    const wanted = `${drawing.sheetId}/${list?.width}x${list?.height}`;
    const size: Vec2 = [width, height];
    if (!list || !width || !height) return;
    untrack(() => {
      if (wanted !== fitted) fit();
      else {
        // Another size of the window keeps the zoom, and the middle where it was.
        panX += (size[0] - measured[0]) / 2;
        panY += (size[1] - measured[1]) / 2;
      }
    });
    fitted = wanted;
    measured = size;
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
    if (!e.ctrlKey && tools.current.wheel?.(e.deltaY < 0)) return;
    // A pinch arrives as a wheel with Ctrl held.
    zoomAt(e.clientX - r.left, e.clientY - r.top, Math.exp(-e.deltaY * (e.ctrlKey ? 0.01 : 0.0015)));
  }

  /** A press may be this far off, px. */
  const GRACE_PX = 6;
  const pressOf = (e: MouseEvent | PointerEvent): Press => {
    const r = frame.getBoundingClientRect();
    return {
      at: [(e.clientX - r.left - panX) / zoom, (e.clientY - r.top - panY) / zoom],
      grace: GRACE_PX / zoom,
      add: e.shiftKey,
      free: e.altKey,
      finger: 'pointerType' in e && e.pointerType === 'touch',
    };
  };

  /** The sheet under the pointer is panned, or a tool has the pointer. */
  let gesture: { readonly kind: 'pan'; readonly from: Vec2; readonly moved: boolean } | { readonly kind: 'tool' } | undefined;

  /** Fingers on the sheet; two of them pinch. */
  const fingers = new Map<number, Vec2>();
  function pinch(e: PointerEvent): boolean {
    if (e.pointerType !== 'touch' || !fingers.has(e.pointerId)) return false;
    const before = [...fingers.values()];
    fingers.set(e.pointerId, [e.clientX, e.clientY]);
    const now = [...fingers.values()];
    const [a, b, c, d] = [before[0], before[1], now[0], now[1]];
    if (!a || !b || !c || !d) return false;
    const r = frame.getBoundingClientRect();
    const spread = (p: Vec2, q: Vec2) => Math.hypot(p[0] - q[0], p[1] - q[1]) || 1;
    zoomAt((c[0] + d[0]) / 2 - r.left, (c[1] + d[1]) / 2 - r.top, spread(c, d) / spread(a, b));
    panX += (c[0] + d[0] - a[0] - b[0]) / 2;
    panY += (c[1] + d[1] - a[1] - b[1]) / 2;
    return true;
  }

  /** The space bar is held: a drag moves the sheet. */
  let space = $state(false);

  function down(e: PointerEvent) {
    if (e.button > 1) return;
    tools.menu = undefined;
    if (e.pointerType === 'touch') {
      fingers.set(e.pointerId, [e.clientX, e.clientY]);
      if (fingers.size > 1) {
        cancel();
        return;
      }
    }
    (e.currentTarget as Element).setPointerCapture(e.pointerId);
    frame.focus({ preventScroll: true });
    const pans = e.button === 1 || space;
    gesture = !pans && tools.current.down(pressOf(e)) ? { kind: 'tool' } : { kind: 'pan', from: [e.clientX, e.clientY], moved: pans };
  }

  function move(e: PointerEvent) {
    if (pinch(e)) return;
    if (gesture?.kind !== 'pan') {
      tools.current.move(pressOf(e));
      tools.dropOn = tools.pick.dragged.length ? sheetUnder(e) : undefined;
      return;
    }
    const [dx, dy] = [e.clientX - gesture.from[0], e.clientY - gesture.from[1]];
    if (!gesture.moved && Math.hypot(dx, dy) < 4) return;
    panX += dx;
    panY += dy;
    gesture = { kind: 'pan', from: [e.clientX, e.clientY], moved: true };
  }

  function up(e: PointerEvent) {
    fingers.delete(e.pointerId);
    const g = gesture;
    gesture = undefined;
    const drop = tools.dropOn;
    tools.dropOn = undefined;
    if (drop && tools.pick.dragged.length) {
      const ids = tools.pick.dragged;
      tools.pick.cancel();
      tools.clipboard.moveTo(drop, ids);
    } else if (g?.kind === 'tool') tools.current.up(pressOf(e));
    else if (g && !g.moved) drawing.select({ kind: 'none' });
  }

  /** The sheet whose thumbnail is under the pointer. */
  function sheetUnder(e: PointerEvent): string | undefined {
    if (e.clientY < frame.getBoundingClientRect().bottom) return undefined;
    const id = document.elementFromPoint(e.clientX, e.clientY)?.closest<HTMLElement>('[data-sheet]')?.dataset['sheet'];
    return id === drawing.sheetId ? undefined : id;
  }

  /** The desk beside the sheet: a drag moves the sheet. */
  function deskDown(e: PointerEvent) {
    if (e.target === frame && e.button <= 1) {
      frame.setPointerCapture(e.pointerId);
      tools.menu = undefined;
      gesture = { kind: 'pan', from: [e.clientX, e.clientY], moved: false };
    }
  }

  function double(e: MouseEvent) {
    if (tools.current.finish) tools.current.finish();
    // What is typed after a double press that met no text was meant for one.
    else if (tools.current === tools.pick && !tools.editAt(pressOf(e))) letters.hush();
  }

  function pressMenu(e: MouseEvent) {
    e.preventDefault();
    // A key has no place: it means what is selected.
    if (e.button !== 2) return keyMenu();
    if (tools.current !== tools.pick) tools.take('pick');
    tools.menu = { x: e.clientX, y: e.clientY, of: menuAt(drawing, tools, pressOf(e)) };
  }

  /** The menu of what is selected; of the sheet when nothing is. */
  function keyMenu() {
    const r = frame.getBoundingClientRect();
    const at = placeOfSelection(drawing, tools) ?? [-1, -1];
    const of = menuAt(drawing, tools, { at, grace: GRACE_PX / zoom });
    const [x, y] = at[0] < 0 ? [width / 2, 40] : [panX + at[0] * zoom, panY + at[1] * zoom];
    tools.menu = { x: r.left + Math.min(width - 20, Math.max(0, x)), y: r.top + Math.min(height - 20, Math.max(0, y)), of };
  }

  /** A row of the ledger dropped on a view: its balloon there. */
  function dropped(e: DragEvent) {
    const part = e.dataTransfer?.getData(ITEM_DRAGGED);
    if (!part) return;
    e.preventDefault();
    balloonForDropped(drawing, part, pressOf(e));
  }

  function cancel() {
    gesture = undefined;
    tools.dropOn = undefined;
    tools.current.cancel();
  }

  const ARROWS: Readonly<Record<string, Vec2>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
  function key(e: KeyboardEvent) {
    if (e.key === ' ' && e.target === frame) {
      e.preventDefault();
      space = true;
    }
    if (e.key === 'ContextMenu' || (e.key === 'F10' && e.shiftKey)) {
      e.preventDefault();
      keyMenu();
      return;
    }
    if (e.altKey) return;
    const d = ARROWS[e.key];
    if (!d) return;
    const step = e.shiftKey ? 10 : 1;
    e.preventDefault();
    if (tools.current === tools.pick && tools.pick.nudge([d[0] * step, d[1] * step])) return;
    panX -= d[0] * step * 20;
    panY -= d[1] * step * 20;
  }
  /** A held key is one edit: it is made when the key is let go. */
  function keyUp(e: KeyboardEvent) {
    if (e.key === ' ') space = false;
    if (ARROWS[e.key] && gesture === undefined) tools.pick.up();
  }

  function activate(g: DisplayGroup) {
    const id = g.id.split('/')[0]!;
    if (drawing.document[id]) drawing.select({ kind: 'record', id });
    else if (g.role === 'title') drawing.select({ kind: 'field', field: 'title' });
  }

  /** Room that a grip bar takes: half its width, its height and its distance from the frame, px. */
  const GRIP = { half: 225, high: 30, off: 54 } as const;
  /** Where the grip bar belongs: above the frame, or below it where rings to be dragged would be under it. */
  function gripY(g: DisplayGroup): number {
    const [x, top, foot] = [panX + (g.box[0] + g.box[2] / 2) * zoom, panY + (g.box[1] - 3) * zoom, panY + (g.box[1] + g.box[3] + 14) * zoom];
    const covered = (from: number) =>
      tools.pick.sketches().some((s) => {
        if (s.kind !== 'ring') return false;
        const [px, py] = [panX + s.at[0] * zoom, panY + s.at[1] * zoom];
        return Math.abs(px - x) < GRIP.half && py > from - 8 && py < from + GRIP.high + 8;
      });
    return covered(top - GRIP.off) && !covered(foot) ? foot + GRIP.off : top;
  }

  /** Height of what is said of a view that is being drawn, px. */
  const NEWS_PX = 14;
  function computingText(id: string): string {
    const share = drawing.progress.get(id);
    const what = drawing.results.has(id) ? 'out of date, being drawn anew' : 'drawing this view';
    return `${what} …${share === undefined ? '' : ` ${Math.round(100 * share)} %${drawing.canUndo ? ' Ctrl Z takes the change back.' : ''}`}`;
  }

  const shifted = (id: string) => {
    const p = tools.pick.preview.get(id);
    return p && 'shift' in p ? `translate(${p.shift[0]} ${p.shift[1]})` : undefined;
  };
  /** A block of many texts is no button whose name is all of them. */
  const ROLES: Readonly<Record<string, 'presentation' | 'group'>> = { frame: 'presentation', title: 'group', list: 'group' };
  /** The group, or what it would be after the drag in hand. */
  const shown = (g: DisplayGroup): readonly DisplayGroup[] => {
    const p = tools.pick.preview.get(g.id);
    return p && 'drawn' in p ? p.drawn : [g];
  };
</script>

<!-- svelte-ignore a11y_no_noninteractive_element_interactions, a11y_no_noninteractive_tabindex -->
<div
  class="desk"
  bind:this={frame}
  bind:clientWidth={width}
  bind:clientHeight={height}
  onwheel={wheel}
  onkeydown={key}
  onkeyup={keyUp}
  onpointerdown={deskDown}
  onpointermove={(e) => e.target === frame && gesture?.kind === 'pan' && move(e)}
  onpointerup={(e) => e.target === frame && gesture?.kind === 'pan' && up(e)}
  onblur={() => {
    space = false;
    if (gesture === undefined) tools.pick.up();
  }}
  tabindex="0"
  role="application"
  aria-label="Sheet. Arrow keys move what is selected, or the sheet. The menu key offers what can be done."
>
  {#if list}
    <svg
      class="sheet"
      class:aiming={tools.current.aims}
      class:panning={space}
      style="transform: translate({panX}px, {panY}px)"
      width={list.width * zoom}
      height={list.height * zoom}
      viewBox="0 0 {list.width} {list.height}"
      onpointerdown={down}
      onpointermove={move}
      onpointerup={up}
      ondblclick={double}
      ondragover={(e) => e.dataTransfer?.types.includes(ITEM_DRAGGED) && e.preventDefault()}
      ondrop={dropped}
      oncontextmenu={pressMenu}
      onpointercancel={(e) => (fingers.delete(e.pointerId), cancel())}
      role="group"
      aria-label={drawing.openFormat
        ? `Sheet format ${drawing.openFormat.name}`
        : `Sheet ${drawing.sheets.findIndex((s) => s.id === drawing.sheetId) + 1} of ${drawing.sheets.length}`}
      data-testid="sheet"
    >
      <rect width={list.width} height={list.height} fill="#fffefb" />
      {#each list.groups as g (g.id)}
        <g
          data-role={g.role}
          data-id={g.id}
          role={ROLES[g.role] ?? 'button'}
          tabindex={g.role === 'frame' ? undefined : 0}
          aria-label={g.role === 'frame' ? undefined : g.label}
          transform={shifted(g.id)}
          onkeydown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), activate(g))}
        >
          {#if g.role !== 'frame'}
            <rect class="focus" x={g.box[0] - 2} y={g.box[1] - 2} width={g.box[2] + 4} height={g.box[3] + 4} stroke-width={1.5 / zoom} />
          {/if}
          {#each shown(g) as one (one.id)}
            <GroupPicture group={one} {highlight} highlightItem={item?.number} images={(id) => shadingUrl(drawing.results.get(id))} />
          {/each}
        </g>
      {/each}
      {#each list.groups as g (g.id)}
        {@const mark = drawing.proof.marks.views.get(g.id)}
        {#if mark && g.role === 'view'}
          {@const r = 8 / zoom}
          <g class="mark" transform={shifted(g.id)} role="img" aria-label={markText(mark)}>
            <title>{markText(mark)}</title>
            <circle cx={Math.max(2 * r, g.box[0] - r)} cy={Math.max(2 * r, g.box[1] - r)} {r} fill={mark.must ? '#a3271f' : '#9c590a'} />
            <text x={Math.max(2 * r, g.box[0] - r)} y={Math.max(2 * r, g.box[1] - r) + 4 / zoom} font-size={11 / zoom} text-anchor="middle"
              >{mark.must + mark.should}</text
            >
          </g>
        {/if}
      {/each}
      {#each list.groups as g (g.id)}
        {@const words = drawing.computing.has(g.id) ? computingText(g.id) : drawing.broken.get(g.id)}
        {#if words}
          <!-- In the middle of the view, where no balloon stands, and as large as it is read at this zoom. -->
          {@const [mx, my, size] = [g.box[0] + g.box[2] / 2, g.box[1] + g.box[3] / 2, NEWS_PX / zoom]}
          {@const wide = words.length * size * 0.52 + size}
          <g class="news" transform={shifted(g.id)} data-view={g.id}>
            <rect x={mx - wide / 2} y={my - size} width={wide} height={size * 1.6} rx={size * 0.3} />
            <text x={mx} y={my + size * 0.15} font-size={size} text-anchor="middle" class:broken={drawing.broken.has(g.id)}>{words}</text>
          </g>
        {/if}
      {/each}
      {#each framed as g (g.id)}
        <rect
          x={g.box[0] - 3}
          y={g.box[1] - 3}
          width={g.box[2] + 6}
          height={g.box[3] + 6}
          transform={shifted(g.id)}
          fill="none"
          stroke="#12707a"
          stroke-width={1.5 / zoom}
          stroke-dasharray="{6 / zoom} {4 / zoom}"
          pointer-events="none"
        />
      {/each}
      <Sketches sketches={tools.current.sketches()} {zoom} />
    </svg>
    {#if Grip && selected && outlined && !tools.pick.dragging}
      <Grip {drawing} {tools} record={selected} x={panX + (outlined.box[0] + outlined.box[2] / 2) * zoom} y={gripY(outlined)} {width} />
    {/if}
    <TextInPlace {drawing} {tools} {zoom} x={panX} y={panY} onclosed={() => frame.focus({ preventScroll: true })} />
    {#key tools.menu}
      {#if tools.menu}<PressMenu
          menu={tools.menu}
          onclosed={() => {
            tools.menu = undefined;
            frame.focus({ preventScroll: true });
          }}
        />{/if}
    {/key}
  {:else}
    <p class="wait"><LoaderCircle class="spin" /> Opening the drawing …</p>
  {/if}
</div>

<style>
  .news {
    pointer-events: none;
  }
  .news rect {
    fill: #fffefb;
    opacity: 0.92;
  }
  .news text {
    fill: #9c590a;
    font-family: system-ui;
  }
  .news text.broken {
    fill: #a3271f;
  }
  .mark text {
    fill: #fff;
    font-weight: 600;
    font-family: system-ui;
  }
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
  .sheet.panning {
    cursor: grab;
  }
  .sheet.aiming {
    cursor: crosshair;
  }
  /* Outlines cannot be thinner than a millimetre of the sheet: the ring is a shape of its own. */
  .sheet g[tabindex] {
    outline: none;
  }
  .focus {
    display: none;
    fill: none;
    stroke: #12707a;
    pointer-events: none;
  }
  .sheet g[tabindex]:focus-visible > .focus {
    display: block;
  }
  .wait {
    padding: 3rem;
    color: var(--mute);
  }
</style>
