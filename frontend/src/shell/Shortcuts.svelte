<script lang="ts">
  import { Button, Modal } from 'carbon-components-svelte';
  import HowTo from '../parts/HowTo.svelte';
  import type { View } from './views';

  interface Props {
    view: View;
    onclose: () => void;
    /** Begin a first piece step by step. */
    onsteps: () => void;
  }

  let { view, onclose, onsteps }: Props = $props();

  const ALL = [
    ['Ctrl Z', 'undo'],
    ['Tab, then Enter', 'top right: export a file'],
    ['Ctrl Shift Z, Ctrl Y', 'redo'],
    ['?', 'this list'],
  ] as const;
</script>

<Modal hasScrollingContent open passiveModal size="sm" modalHeading="Help" on:close={onclose}>
  <p>
    <Button size="small" kind="tertiary" on:click={onsteps}>A first piece in five steps</Button>
  </p>
  {#if view.help}<p>{view.help}</p>{/if}
  <p>
    <HowTo job="first-piece" label="a first piece, and every other job" /><br />
    <HowTo job="two-lines-on-a-ring" label="two lines on one ring" /><br />
    <HowTo job="stencil" label="a stencil that holds together" />
  </p>
  <h4>Keys</h4>
  <dl>
    {#each [...view.keys, ...ALL] as [keys, what] (keys)}
      <dt class="figure">{keys}</dt>
      <dd>{what}</dd>
    {/each}
  </dl>
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

  p {
    margin-bottom: 12px;
  }

  h4 {
    margin-bottom: 8px;
    font-size: 14px;
    font-weight: 600;
  }
</style>
