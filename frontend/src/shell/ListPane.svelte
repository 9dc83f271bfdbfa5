<script lang="ts">
  /** The pane at the left of a view: what there is, in words, lists and figures. */
  import type { Snippet } from 'svelte';

  let { label, children }: { label: string; children: Snippet } = $props();
</script>

<aside aria-label={label}>{@render children()}</aside>

<style>
  aside {
    border-right: 1px solid var(--line);
    padding: 16px;
    background: var(--paper);
    overflow: auto;
  }

  aside :global(h2),
  aside :global(h3) {
    margin: 0 0 4px;
    font-size: 14px;
    font-weight: 600;
  }

  aside :global(h3) {
    margin-top: 14px;
    font-size: 13px;
  }

  aside :global(p) {
    margin: 0 0 8px;
    font-size: 13px;
  }

  aside :global(.soft) {
    color: var(--ink-soft);
    font-size: 12px;
  }

  aside :global(ul),
  aside :global(ol) {
    margin: 0;
    padding: 0;
    list-style: none;
    font-size: 13px;
  }

  aside :global(.entry) {
    color: var(--ink);
    text-align: left;
  }

  aside :global(.entry:hover),
  aside :global(.entry.chosen) {
    background: var(--verdigris-soft);
  }
</style>
