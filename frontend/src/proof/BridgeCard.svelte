<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import type { Prepare, ProofBridge, ProofLayer } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import LengthField from '../parts/LengthField.svelte';

  interface Props {
    editor: Editor;
    bridge: ProofBridge;
    layer: ProofLayer | undefined;
    onclose: () => void;
  }

  let { editor, bridge, layer, onclose }: Props = $props();

  const own = $derived(bridge.letter >= 0);
  const bridges = $derived(recipe()?.bridges);

  /** The recipe that the bridge comes from: its lettering's own, or the whole piece's. */
  function recipe(): Prepare | null | undefined {
    const lettering = editor.piece.letterings.find((one) => one.id === bridge.lettering);
    return lettering?.prepare?.bridges ? lettering.prepare : editor.piece.prepare;
  }

  function change(changed: { removed?: boolean; angle?: number }): void {
    const lettering = editor.piece.letterings.find((one) => one.id === bridge.lettering);
    const whole = !lettering?.prepare?.bridges;
    const prepare = recipe();
    if (!prepare?.bridges) return;
    const name = whole ? bridge.lettering : '';
    const changes = prepare.bridges.changes ?? [];
    const mine = (one: (typeof changes)[number]) =>
      one.lettering === name && one.letter === bridge.letter && one.bridge === bridge.number;
    const before = changes.find(mine);
    const now = {
      removed: false,
      ...before,
      lettering: name,
      letter: bridge.letter,
      bridge: bridge.number,
      ...changed,
    };
    const next = {
      ...prepare,
      bridges: { ...prepare.bridges, changes: [...changes.filter((one) => !mine(one)), now] },
    };
    if (whole) editor.change({ prepare: next });
    else editor.changeLettering(bridge.lettering, { prepare: next });
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
