<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    label: string;
    hint: string;
    on: boolean;
    onset: (on: boolean) => void;
    children?: Snippet;
  }

  let { label, hint, on, onset, children }: Props = $props();
</script>

<section class:on>
  <label>
    <input type="checkbox" checked={on} onchange={(event) => onset(event.currentTarget.checked)} />
    <span><b>{label}</b> {#if !on}<small>{hint}</small>{/if}</span>
  </label>
  {#if on && children}
    <div class="figures">{@render children()}</div>
  {/if}
</section>

<style>
  section {
    border-bottom: 1px solid var(--line);
    padding: 6px 0;
  }

  label {
    display: flex;
    align-items: baseline;
    gap: 8px;
    cursor: pointer;
  }

  input {
    margin: 0;
    accent-color: var(--verdigris);
  }

  b {
    font-weight: 600;
  }

  small {
    display: block;
    color: var(--ink-soft);
    font-size: 12px;
    line-height: 16px;
  }

  .figures :global(.bx--checkbox-wrapper) {
    grid-column: 1 / -1;
    margin: 0;
  }

  .figures {
    display: grid;
    grid-template-columns: 1fr 1fr;
    align-items: end;
    gap: 8px 12px;
    padding: 6px 0 8px 22px;
  }
</style>
