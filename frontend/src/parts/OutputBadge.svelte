<script lang="ts">
  /** The letter of what becomes of something: c for cut. */
  import { catalogue } from '../api/catalogue';
  import type { Output } from '../api/client';

  let { output }: { output: Output | 'none' | null | undefined } = $props();

  const known = $derived(output && output !== 'none' ? catalogue().outputs[output] : undefined);
</script>

{#if known}
  <abbr title={`Is ${known.words}`}>{known.letter}</abbr>
{:else if output === 'none'}
  <abbr class="none" title="Is in no file">–</abbr>
{/if}

<style>
  abbr {
    display: inline-block;
    box-sizing: border-box;
    width: 15px;
    border: 1px solid var(--line-strong);
    color: var(--ink-soft);
    font: 600 10px/13px 'IBM Plex Mono', monospace;
    text-align: center;
    text-decoration: none;
  }

  .none {
    border-style: dashed;
  }
</style>
