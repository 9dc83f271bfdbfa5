<script lang="ts">
  /** A view in three panes: what there is, what it looks like, and what is said of what is chosen. */
  import type { Snippet } from 'svelte';
  import { InlineLoading, InlineNotification } from 'carbon-components-svelte';

  interface Props {
    /** What the middle shows. */
    label: string;
    left: Snippet;
    right: Snippet;
    children: Snippet;
    /** What went wrong, with its title; and what is waited for where there is nothing to show yet. */
    wrong: string;
    wrongTitle: string;
    waiting: string;
    shown: boolean;
    /** Said once, and put away by hand. */
    saying: string;
    onsaid: () => void;
  }

  let { label, left, right, children, wrong, wrongTitle, waiting, shown, saying, onsaid }: Props = $props();
</script>

<div class="panes">
  {@render left()}
  <main aria-label={label}>
    {#if wrong}
      <InlineNotification lowContrast hideCloseButton kind="error" title={wrongTitle} subtitle={wrong} />
    {/if}
    {#if saying}
      <InlineNotification lowContrast kind="error" title={saying} on:close={onsaid} />
    {/if}
    {#if shown}
      {@render children()}
    {:else if !wrong}
      <div class="waiting"><InlineLoading description={waiting} /></div>
    {/if}
  </main>
  {@render right()}
</div>

<style>
  .panes {
    display: grid;
    grid-template: minmax(0, 1fr) / 304px minmax(0, 1fr) 300px;
    overflow: hidden;
  }

  @media (max-width: 1100px) {
    .panes {
      grid-template-columns: 232px minmax(0, 1fr) 264px;
    }
  }

  @media (min-width: 1700px) {
    .panes {
      grid-template-columns: 360px minmax(0, 1fr) 340px;
    }
  }

  main {
    display: flex;
    flex-direction: column;
    min-width: 0;
    min-height: 0;
    background: var(--ground);
  }

  main > :global(.bx--inline-notification) {
    flex: none;
    margin: 8px;
    width: auto;
    max-width: none;
  }

  .waiting {
    padding: 24px;
  }
</style>
