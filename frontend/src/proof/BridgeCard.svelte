<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import type { ProofBridge, ProofLayer } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import { changeBridge, recipeOf } from './bridges';

  interface Props {
    editor: Editor;
    bridge: ProofBridge;
    layer: ProofLayer | undefined;
    onclose: () => void;
  }

  let { editor, bridge, layer, onclose }: Props = $props();

  const own = $derived(bridge.letter >= 0);
  const bridges = $derived(recipeOf(editor, bridge)?.bridges);

  function change(changed: { removed?: boolean; angle?: number }): void {
    changeBridge(editor, bridge, changed);
    void editor.finish();
  }
</script>

<div class="card" role="dialog" aria-label="Bridge">
  {#if own && bridges && layer}
    <LengthField
      label="Stands at, seen from the counter"
      unit="°"
      value={bridge.angle}
      onset={(angle) => change({ angle })}
    />
    <div class="row">
      <Button size="small" kind="danger-ghost" on:click={() => { change({ removed: true }); onclose(); }}>
        Take it away
      </Button>
      <Button size="small" kind="ghost" on:click={onclose}>Done</Button>
    </div>
  {:else}
    <p>This bridge ties several letters; it follows from where they stand.</p>
    <Button size="small" kind="ghost" on:click={onclose}>Done</Button>
  {/if}
</div>

<style>
  .card {
    position: absolute;
    top: 12px;
    left: 12px;
    width: 240px;
    border: 1px solid var(--line-strong);
    padding: 12px;
    background: var(--sheet);
  }

  .row {
    display: flex;
    justify-content: space-between;
    margin-top: 8px;
  }

  p {
    margin: 0 0 8px;
    font-size: 13px;
  }
</style>
