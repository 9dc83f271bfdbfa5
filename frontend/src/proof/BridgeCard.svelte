<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import type { ProofBridge } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import LengthField from '../parts/LengthField.svelte';

  interface Props {
    editor: Editor;
    bridge: ProofBridge;
    onclose: () => void;
  }

  let { editor, bridge, onclose }: Props = $props();

  const own = $derived(bridge.letter >= 0);

  function change(changed: { removed?: boolean; angle?: number }): void {
    const { lettering, letter, number } = bridge;
    editor.act({ act: 'change-bridge', lettering, letter, bridge: number, removed: false, ...changed });
  }
</script>

<div class="card" role="dialog" aria-label="Bridge">
  {#if own}
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
