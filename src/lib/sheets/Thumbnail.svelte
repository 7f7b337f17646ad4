<script lang="ts">
  import { untrack } from 'svelte';
  import type { SheetRecord } from '$core/document/records';
  import type { DisplayList } from '$core/picture/display-list';
  import { composeSheet, inputsOf } from '$elements/compose';
  import type { Scene } from '$elements/scene';
  import { markText } from '../proof/marks';
  import type { Drawing } from '../shared/drawing.svelte';
  import { shadingUrl } from './images.svelte';
  import { paint } from './paint';

  interface Props {
    drawing: Drawing;
    sheet: SheetRecord;
    number: number;
    /** What is dragged would be moved to this sheet. */
    drop: boolean;
    onmenu: (e: MouseEvent) => void;
  }
  const { drawing, sheet, number, drop, onmenu }: Props = $props();

  const mark = $derived(drawing.proof.marks.sheets.get(sheet.id));
  let last: { readonly inputs: readonly unknown[]; readonly picture: DisplayList } | undefined;
  const picture = $derived(drawing.openReady && drawing.calm.one('sheet', sheet.id) ? pictureOf(drawing.calm) : last?.picture);

  /** The same picture as long as nothing in it changed. */
  function pictureOf(scene: Scene): DisplayList {
    const inputs = inputsOf(scene, sheet.id);
    if (!last || inputs.length !== last.inputs.length || inputs.some((v, i) => v !== last!.inputs[i]))
      last = { inputs, picture: composeSheet(scene, sheet.id) };
    return last.picture;
  }
  let canvas = $state.raw<HTMLCanvasElement>();
  // Drawn when nothing else is to do; a sheet of thousands of lines is one element here.
  $effect(() => {
    const [list, target] = [picture, canvas];
    if (!list || !target) return;
    const shown = list.groups.flatMap((g) => g.items);
    const soon = setTimeout(() => paint(target, list, shown, (id) => shadingUrl(drawing.results.get(id))), 30);
    return () => clearTimeout(soon);
  });

  // The open sheet comes first.
  $effect(() => {
    if (drawing.openReady) untrack(() => drawing.fetchSheet(sheet.id));
  });
</script>

<button
  class:on={sheet.id === drawing.sheetId}
  aria-current={sheet.id === drawing.sheetId ? 'page' : undefined}
  class:drop
  data-sheet={sheet.id}
  onclick={() => (drawing.sheetId = sheet.id)}
  oncontextmenu={onmenu}
  aria-label="Sheet {number}: {sheet.name}{mark ? `. ${markText(mark)}` : ''}"
  title={sheet.name}
>
  <canvas bind:this={canvas} aria-hidden="true"></canvas>
  <span>{number}</span>
  {#if mark}<i class="mark" class:must={mark.must > 0} title={markText(mark)}>{mark.must + mark.should}</i>{/if}
</button>

<style>
  .mark {
    position: absolute;
    top: 3px;
    right: 3px;
    min-width: 18px;
    padding: 0 4px;
    border-radius: 9px;
    background: #9c590a;
    color: #fff;
    font: 600 11px/18px system-ui;
    text-align: center;
  }
  .mark.must {
    border-radius: 4px;
    background: #a3271f;
  }
  button {
    position: relative;
    height: 100%;
    width: 100%;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: #fffefb;
    overflow: hidden;
    cursor: pointer;
  }
  button.on {
    box-shadow: 0 0 0 2px var(--teal);
  }
  button.drop {
    box-shadow: 0 0 0 3px var(--ochre);
  }
  canvas {
    height: 100%;
    width: 100%;
    display: block;
  }
  span {
    position: absolute;
    left: 4px;
    top: 1px;
    padding: 0 4px;
    border-radius: 4px;
    font-size: 0.78rem;
    font-weight: 600;
    background: #fffefbd0;
    color: #2a2926;
  }
</style>
