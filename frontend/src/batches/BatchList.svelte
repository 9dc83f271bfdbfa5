<script lang="ts">
  /** Batches, the newest first: how far they have come, and what can be done with them. */
  import { InlineNotification, ProgressBar } from 'carbon-components-svelte';
  import type { BatchSummary } from '../api/client';
  import { clock } from '../words/words';
  import type { Batches } from './batches.svelte';
  import { progressWords, share, takeable } from './said';

  interface Props {
    batches: Batches;
    shown: readonly BatchSummary[];
    /** Whether each says which piece it is of, with a way to it. */
    titled?: boolean;
  }

  let { batches, shown, titled = false }: Props = $props();
</script>

{#if batches.wrong}
  <InlineNotification lowContrast hideCloseButton kind="error" title="That did not work." subtitle={batches.wrong} />
{/if}
<ul aria-label="Batches">
  {#each shown as batch (batch.id)}
    <li>
      <p class="what">
        {#if titled}<a href={`/pieces/${batch.piece_id}${batch.alone ? '' : '/names'}`}>{batch.title || 'Untitled'}</a>{/if}
        <span>{batch.what}</span>
        <time datetime={batch.made_at}>{clock(new Date(batch.made_at))}</time>
      </p>
      {#if batch.state === 'running'}
        <ProgressBar size="sm" hideLabel labelText="Rows made" max={1} value={share(batch)} />
      {/if}
      <p class:wrong={batch.state === 'failed'} aria-live="polite">{progressWords(batch)}</p>
      <p class="ways">
        {#if takeable(batch)}
          <a href={`/api/batches/${batch.id}/files`} download>{batch.alone ? 'take the file' : batch.state === 'running' ? 'take what is made' : 'take the ZIP'}</a>
        {/if}
        {#if batch.state === 'running'}
          <button class="quiet" onclick={() => void batches.cancel(batch)}>stop</button>
        {:else}
          <button class="quiet" onclick={() => void batches.forget(batch)}>clear away</button>
        {/if}
      </p>
    </li>
  {/each}
</ul>

<style>
  ul {
    margin: 0;
    padding: 0;
    list-style: none;
    font-size: 13px;
  }

  li {
    border-top: 1px solid var(--line);
    padding: 8px 0;
  }

  p {
    margin: 0 0 4px;
    font-size: 13px;
  }

  a {
    color: var(--verdigris);
  }

  .what {
    display: flex;
    gap: 12px;
  }

  time {
    margin-left: auto;
    color: var(--ink-soft);
  }

  .ways {
    display: flex;
    gap: 12px;
    margin: 0;
  }

  .wrong {
    color: var(--brick);
  }
</style>
