<script lang="ts">
  import type { Editor } from '../editor/editor.svelte';
  import type { Sketch } from '../editor/sketch.svelte';
  import LengthField from '../parts/LengthField.svelte';

  let { editor, sketch }: { editor: Editor; sketch: Sketch } = $props();
</script>

<div class="bar" role="status">
  {#if editor.tool === 'points'}
    <span>
      {sketch.points.length
        ? `${sketch.points.length} placed. Click on the first to close the line.`
        : 'Click where the line shall pass.'}
    </span>
    <button disabled={sketch.points.length < 2} onclick={() => sketch.finish()}>end it (Enter)</button>
  {:else}
    <span>Draw the line in one stroke; it is followed within</span>
    <div class="field">
      <LengthField label="Tolerance" value={sketch.tolerance} onset={(value) => (sketch.tolerance = value)} />
    </div>
  {/if}
  <button onclick={() => (sketch.active ? sketch.cancel() : editor.take('choose'))}>
    leave it (Escape)
  </button>
</div>

<style>
  .bar {
    display: flex;
    position: absolute;
    top: 8px;
    left: 50%;
    gap: 14px;
    align-items: center;
    border: 1px solid var(--line-strong);
    padding: 5px 12px;
    transform: translateX(-50%);
    background: var(--sheet);
    font-size: 13px;
    white-space: nowrap;
  }

  .field {
    width: 96px;
  }

  .field :global(label) {
    position: absolute;
    clip-path: inset(50%);
  }

  button {
    border: 0;
    min-height: 24px;
    background: none;
    color: var(--verdigris);
    font: inherit;
    cursor: pointer;
  }

  button:disabled {
    color: var(--line-strong);
  }

  button:hover:not(:disabled) {
    text-decoration: underline;
  }
</style>
