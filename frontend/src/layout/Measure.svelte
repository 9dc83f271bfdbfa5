<script lang="ts">
  import type { SceneMeasure } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';

  let { editor, found }: { editor: Editor; found: SceneMeasure | null | undefined } = $props();

  let copied = $state(false);

  export async function copy(): Promise<void> {
    if (!found) return;
    try {
      await navigator.clipboard.writeText(found.text);
      copied = true;
      setTimeout(() => (copied = false), 1500);
    } catch {
      editor.saying = `The browser did not let it be copied: ${found.text}`;
    }
  }
</script>

<div class="measure" role="status">
  {#if found}
    <span>station <b class="figure">{found.stations.map((one) => one.toFixed(3)).join(' – ')}</b></span>
    {#if found.chord !== null && found.chord !== undefined}
      <span>length <b class="figure">{found.length.toFixed(3)}</b></span>
      <span>chord <b class="figure">{found.chord.toFixed(3)}</b></span>
    {/if}
    <span>
      {#if found.radius}radius <b class="figure">{found.radius.toFixed(3)}</b>{:else}straight here{/if}
    </span>
    <button onclick={() => void copy()}>{copied ? 'copied' : 'copy (C)'}</button>
  {:else}
    <span>Measuring: click beside the guide, here or on the strip; click again for a second place.</span>
  {/if}
  <button onclick={() => editor.take('choose')}>done (Escape)</button>
</div>

<style>
  .measure {
    display: flex;
    position: absolute;
    top: 8px;
    left: 50%;
    gap: 16px;
    align-items: center;
    border: 1px solid var(--line-strong);
    padding: 5px 12px;
    transform: translateX(-50%);
    background: var(--sheet);
    font-size: 13px;
    white-space: nowrap;
  }

  button {
    border: 0;
    min-height: 24px;
    background: none;
    color: var(--verdigris);
    font: inherit;
    cursor: pointer;
  }

  button:hover {
    text-decoration: underline;
  }
</style>
