<script lang="ts">
  import { Button, InlineLoading } from 'carbon-components-svelte';
  import { onMount } from 'svelte';
  import { loadCatalogue } from './api/catalogue';
  import Brand from './shell/Brand.svelte';
  import PieceView from './shell/PieceView.svelte';
  import { router } from './shell/router.svelte';
  import type { View } from './shell/views';
  import Shelf from './shelf/Shelf.svelte';
  import { holdClick } from './words/figures.svelte';

  // Every folder with a `view.ts` is a view of an open piece.
  const found = import.meta.glob<{ VIEW: View }>('./*/view.ts', { eager: true });
  const VIEWS = Object.values(found)
    .map((one) => one.VIEW)
    .sort((one, other) => one.rank - other.rank);

  let ready = $state(false);
  let wrong = $state('');

  onMount(ask);

  async function ask(): Promise<void> {
    wrong = '';
    wrong = await loadCatalogue();
    ready = !wrong;
  }
</script>

<svelte:document onclickcapture={holdClick} />

{#if !ready}
  <div class="waiting">
    <Brand />
    {#if wrong}
      <p role="alert">{wrong}</p>
      <p><Button size="small" on:click={ask}>Try again</Button></p>
    {:else}
      <InlineLoading description="Laying out the tools" />
    {/if}
  </div>
{:else if router.pieceId}
  {#key router.pieceId}
    <PieceView id={router.pieceId} views={VIEWS} />
  {/key}
{:else}
  <Shelf />
{/if}

<style>
  .waiting {
    display: flex;
    flex-direction: column;
    gap: 24px;
    padding: 32px;
  }
</style>
