<script lang="ts">
  import { emFor } from '$core/picture/lettering';
  import { isElement, kindOf } from '$elements/kinds';
  import type { Drawing } from '../shared/drawing.svelte';
  import { letters } from '../shared/letters';
  import { notify } from '../shared/notices.svelte';
  import type { Tools } from './tools.svelte';

  interface Props {
    drawing: Drawing;
    tools: Tools;
    /** Pixels per paper mm, and where the sheet's corner lies. */
    zoom: number;
    x: number;
    y: number;
    onclosed: () => void;
  }
  const { drawing, tools, zoom, x, y, onclosed }: Props = $props();

  const record = $derived(tools.editing ? drawing.document[tools.editing.record] : undefined);
  const texts = $derived(record && isElement(record) ? (kindOf(record).texts?.(record, drawing.scene) ?? []) : []);
  const text = $derived(texts.find((t) => t.name === tools.editing?.name));
  const LEAST_PX = 13;

  /** Keeps what was typed and goes on to another text of the same element, or ends. */
  function keep(typed: string, next: -1 | 0 | 1 = 0) {
    if (!text || !tools.editing) return;
    const at = texts.indexOf(text);
    const to = next ? texts[at + next] : undefined;
    const record = tools.editing.record;
    if (typed !== text.value) {
      const steps = text.write(typed, new Date().toISOString());
      if (steps.length) drawing.edit(text.label, steps);
      else notify('trouble', `“${typed}” cannot be the text of ${text.label}.`);
    }
    tools.editing = to && { record, name: to.name };
    if (!to) onclosed();
  }
  function key(e: KeyboardEvent & { currentTarget: HTMLInputElement | HTMLTextAreaElement }) {
    e.stopPropagation();
    const typed = e.currentTarget.value;
    const newLine = text?.lines === 'note' ? !e.ctrlKey && !e.metaKey : text?.lines === 'cell' ? e.shiftKey || e.altKey : false;
    if (e.key === 'Enter' && newLine) {
      if (e.altKey) e.currentTarget.setRangeText('\n', e.currentTarget.selectionStart ?? 0, e.currentTarget.selectionEnd ?? 0, 'end');
    } else if (e.key === 'Enter') {
      e.preventDefault();
      // Shift with Enter begins no new line here, and ends nothing: what follows would be commands.
      if (!e.shiftKey) keep(typed);
    } else if (e.key === 'Tab') {
      e.preventDefault();
      keep(typed, e.shiftKey ? -1 : 1);
      if (!tools.editing) letters.hush();
    } else if (e.key === 'Escape') {
      tools.editing = undefined;
      onclosed();
    }
  }
  const style = $derived(
    text &&
      `left: ${x + text.box.x * zoom}px; top: ${y + text.box.y * zoom}px; min-width: ${text.box.width * zoom}px; height: ${Math.max(
        24,
        text.box.height * zoom,
      )}px; font-size: ${Math.max(LEAST_PX, emFor(text.height) * zoom)}px`,
  );
  const took = (input: HTMLInputElement | HTMLTextAreaElement) => {
    input.focus();
    input.select();
  };
  const left = (e: FocusEvent & { currentTarget: HTMLInputElement | HTMLTextAreaElement }) => {
    if (e.currentTarget.dataset['name'] === tools.editing?.name) keep(e.currentTarget.value);
  };
</script>

{#if text}
  {#key text.name}
    {#if text.lines}
      <textarea
        class="in-place"
        aria-label={text.label}
        title={text.lines === 'note' ? 'Enter: a new line. Ctrl Enter: done.' : 'Shift Enter: a new line. Enter: done.'}
        value={text.value}
        {style}
        onkeydown={key}
        data-name={text.name}
        onblur={left}
        {@attach took}></textarea>
    {:else}
      <input class="in-place" aria-label={text.label} value={text.value} {style} onkeydown={key} data-name={text.name} onblur={left} {@attach took} />
    {/if}
  {/key}
{/if}

<style>
  .in-place {
    position: absolute;
    z-index: 5;
    padding: 0 4px;
    border: 2px solid var(--teal);
    border-radius: 3px;
    background: #fffefb;
    color: #1c1b19;
    line-height: 1.25;
    field-sizing: content;
    resize: none;
    overflow: hidden;
    font-family: osifont, 'Source Sans 3', sans-serif;
  }
</style>
