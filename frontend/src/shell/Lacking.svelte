<script lang="ts">
  /** What a file would lack: asked once before it is taken away. */
  import { Modal } from 'carbon-components-svelte';
  import type { Takeaway } from '../api/client';
  import { sentence } from '../words/words';

  interface Props {
    lacking: Takeaway;
    ontake: () => void;
    onclose: () => void;
  }

  let { lacking, ontake, onclose }: Props = $props();
</script>

<Modal
  open
  danger
  size="sm"
  modalHeading={lacking.left_out ? `${lacking.left_out}.` : 'Something is wrong with this piece.'}
  primaryButtonText="Save the file anyway"
  secondaryButtonText="Back to the piece"
  on:click:button--secondary={onclose}
  on:close={onclose}
  on:submit={ontake}
>
  <ul>
    {#each lacking.faults as fault, index (index)}
      <li>{sentence(fault)}.</li>
    {/each}
  </ul>
</Modal>

<style>
  ul {
    display: grid;
    gap: 8px;
  }
</style>
