<script lang="ts">
  import { SIGN_NAMES, massIn, type Sign, type SignRecord } from '$elements/sign/draw';
  import Chips from '$lib/shared/Chips.svelte';
  import LeaderEnds from '../../note/face/LeaderEnds.svelte';
  import LostLeaders from '../../note/face/LostLeaders.svelte';
  import SlipHead from '$lib/shared/SlipHead.svelte';
  import TextField from '$lib/shared/TextField.svelte';
  import Toggle from '$lib/shared/Toggle.svelte';
  import type { Drawing } from '$lib/shared/drawing.svelte';
  import { notify } from '$lib/shared/notices.svelte';
  import type { Tools } from '$lib/sheets/tools.svelte';
  import { without } from '$core/base/without';
  import FrameFields from './FrameFields.svelte';
  import SurfaceFields from './SurfaceFields.svelte';
  import WeldFields from './WeldFields.svelte';

  const { drawing, tools, record }: { drawing: Drawing; tools: Tools; record: SignRecord } = $props();
  const is = $derived(record.is);
  const view = $derived(drawing.scene.one('view', record.view));
  const put = (label: string, next: SignRecord) => drawing.edit(label, [{ op: 'put', record: next }]);
  const change = (next: Sign) => put(SIGN_NAMES[next.sign], { ...record, is: next });
  const letters = (typed: string, then: (t: string) => void) => {
    const t = typed.trim();
    if (t.length >= 1 && t.length <= 4) then(t);
    else notify('trouble', 'Write one to four letters or figures.');
  };
</script>

<SlipHead title={SIGN_NAMES[is.sign]} subtitle={view ? `beside ${view.name}` : 'on the sheet'} />
<LostLeaders {drawing} {record} />
{#if is.sign === 'weld'}<WeldFields sign={is} onchange={change} />
{:else if is.sign === 'surface'}<SurfaceFields sign={is} onchange={change} />
{:else if is.sign === 'frame'}<FrameFields sign={is} onchange={change} />
{:else if is.sign === 'datum'}
  <TextField label="Letter" value={is.letter} onchange={(v) => letters(v, (letter) => change({ ...is, letter }))} />
{:else if is.sign === 'flag'}
  <Chips
    label="Shape"
    options={[
      ['triangle', 'triangle'],
      ['square', 'square'],
      ['hexagon', 'hexagon'],
      ['circle', 'circle'],
    ]}
    value={is.shape}
    onchange={(shape) => change({ ...is, shape: shape as 'square' })}
  />
  <TextField label="Says" value={is.text} onchange={(v) => letters(v, (text) => change({ ...is, text }))} />
{:else if is.sign === 'lifting'}
  <TextField label="Says" value={is.text} onchange={(v) => change({ ...is, text: v.trim().slice(0, 60) })} />
{:else if is.sign === 'mass-centre'}
  {@const mass = view && massIn(view, drawing.scene)}
  {#if mass}
    <p>{mass.missing ? `Of ${mass.missing} components the mass is not known: they are left out.` : 'Of all components the mass is known.'}</p>
  {:else}
    <p class="trouble">No mass is known here: give the parts materials. An exploded view has no centre of mass.</p>
  {/if}
  <Toggle label="Mass" checked={is.mass ?? false} onchange={(on) => change(on ? { ...is, mass: true } : without(is, 'mass'))} />
{/if}
<LeaderEnds {drawing} {record} />
<p class="q-row">
  {#if record.view && is.sign !== 'mass-centre'}<button class="q-button" onclick={() => tools.take('note-leader')}>One more leader</button>{/if}
  <button class="q-button" onclick={() => tools.remove()}>Remove</button>
</p>

<style>
  .trouble {
    color: var(--trouble);
  }
</style>
