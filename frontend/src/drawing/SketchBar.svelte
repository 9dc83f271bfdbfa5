<script lang="ts">
  import type { Editor } from '../piece/editor.svelte';
  import type { Sketch } from './sketch.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import ToolBar from './ToolBar.svelte';

  let { editor, sketch }: { editor: Editor; sketch: Sketch } = $props();
</script>

<ToolBar>
  {#if editor.selection.tool === 'points'}
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
  <button onclick={() => (sketch.active ? sketch.cancel() : editor.selection.take('choose'))}>
    leave it (Escape)
  </button>
</ToolBar>
