<script lang="ts">
  import type { Snippet } from 'svelte';

  /** What stands over the drawing while a tool is taken up: words, figures, ways on. */
  let { children }: { children: Snippet } = $props();
</script>

<div class="bar" role="status">{@render children()}</div>

<style>
  .bar {
    display: flex;
    position: absolute;
    top: 8px;
    left: 50%;
    gap: 2px 11px;
    flex-wrap: wrap;
    align-items: center;
    border: 1px solid var(--line-strong);
    padding: 5px 12px;
    transform: translateX(-50%);
    background: var(--sheet);
    font-size: 13px;
    box-sizing: border-box;
    width: max-content;
    max-width: calc(100% - 24px);
    white-space: nowrap;
  }

  .bar :global(.field) {
    width: 104px;
  }

  .bar :global(.field label) {
    position: absolute;
    clip-path: inset(50%);
  }

  .bar :global(button) {
    border: 0;
    min-height: 24px;
    background: none;
    color: var(--verdigris);
    font: inherit;
    cursor: pointer;
  }

  .bar :global(button:disabled) {
    color: var(--line-strong);
  }

  .bar :global(button:hover:not(:disabled)) {
    text-decoration: underline;
  }
</style>
