<script lang="ts">
  import type { SceneMeasure } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import ToolBar from './ToolBar.svelte';
  import { exactLength, said } from '../words/units.svelte';

  let { editor, found }: { editor: Editor; found: SceneMeasure | null | undefined } = $props();

  let copied = $state(false);

  export async function copy(): Promise<void> {
    if (!found) return;
    try {
      await navigator.clipboard.writeText(said(found.text));
      copied = true;
      setTimeout(() => (copied = false), 1500);
    } catch {
      editor.saying = `The browser did not let it be copied: ${said(found.text)}`;
    }
  }
</script>

<ToolBar>
  {#if found}
    {#if found.stations.length > 1}
      <span>from <b class="figure">{exactLength(found.stations[0] ?? 0, 3)}</b></span>
    {/if}
    <span>{found.stations.length > 1 ? 'to' : 'station'}</span>
    <div class="field">
      <LengthField
        label="Station"
        value={found.stations.at(-1) ?? 0}
        onset={(value) => editor.selection.mark(value)}
      />
    </div>
    {#if found.chord !== null && found.chord !== undefined}
      <span>length <b class="figure">{exactLength(found.length, 3)}</b></span>
      <span>chord <b class="figure">{exactLength(found.chord, 3)}</b></span>
    {/if}
    <span>
      {#if found.radius}radius <b class="figure">{exactLength(found.radius, 3)}</b>{:else}straight here{/if}
    </span>
    <button onclick={() => void copy()}>{copied ? 'copied' : 'copy (C)'}</button>
  {:else}
    <span>Measuring: click beside the guide, here or on the strip; click again for a second place.</span>
    <button onclick={() => editor.selection.mark(0)}>at its start</button>
  {/if}
  <button onclick={() => editor.selection.take('choose')}>done (Escape)</button>
</ToolBar>
