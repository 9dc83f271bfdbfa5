<script lang="ts">
  import { Modal } from 'carbon-components-svelte';
  import type { View } from './views';

  let { view, onclose }: { view: View; onclose: () => void } = $props();

  const ALL = [
    ['Ctrl Z', 'undo'],
    ['Ctrl Shift Z, Ctrl Y', 'redo'],
    ['?', 'this list'],
  ] as const;
</script>

<Modal hasScrollingContent open passiveModal size="sm" modalHeading="Shortcuts" on:close={onclose}>
  <dl>
    {#each [...view.keys, ...ALL] as [keys, what] (keys)}
      <dt class="figure">{keys}</dt>
      <dd>{what}</dd>
    {/each}
  </dl>
  {#if view.help}<p>{view.help}</p>{/if}
</Modal>

<style>
  dl {
    display: grid;
    grid-template-columns: max-content 1fr;
    gap: 6px 20px;
    margin: 0 0 16px;
  }

  dd {
    margin: 0;
  }
</style>
