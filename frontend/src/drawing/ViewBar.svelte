<script lang="ts">
  /** The buttons that say what of the piece is seen, and how large. */
  import type { Snippet } from 'svelte';
  import type { Viewport } from './viewport.svelte';
  import { figure } from '../words/words';

  interface Props {
    view: Viewport;
    onshowall: () => void;
    /** More buttons, after the one for the whole piece. */
    children?: Snippet;
  }

  let { view, onshowall, children }: Props = $props();
</script>

<div>
  <button onclick={onshowall} title="Key 0">whole piece</button>
  {@render children?.()}
  <button aria-label="Closer" title="Key +" onclick={() => view.zoomIn()}>+</button>
  <button aria-label="Farther" title="Key −" onclick={() => view.zoomOut()}>−</button>
  <span class="figure" aria-label="Scale of the view">{figure(Number(view.scale.toPrecision(3)))} px/mm</span>
</div>

<style>
  div {
    display: flex;
    position: absolute;
    bottom: 8px;
    left: 8px;
    align-items: center;
    gap: 2px;
    color: var(--ink-soft);
    font-size: 12px;
  }

  div :global(button) {
    border: 0;
    min-width: 24px;
    min-height: 24px;
    padding: 2px 6px;
    background: none;
    color: inherit;
    font: inherit;
    cursor: pointer;
  }

  div :global(button:hover:not(:disabled)) {
    color: var(--verdigris);
    text-decoration: underline;
  }

  div :global(button:disabled) {
    color: var(--line-strong);
  }

  span {
    margin-left: 8px;
  }
</style>
