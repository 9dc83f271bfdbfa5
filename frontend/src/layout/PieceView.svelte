<script lang="ts">
  import { Button, InlineLoading } from 'carbon-components-svelte';
  import { onDestroy, onMount } from 'svelte';
  import { api, saying, type OpenPiece } from '../api/client';
  import { Editor } from '../editor/editor.svelte';
  import Brand from '../parts/Brand.svelte';
  import { follow, router } from '../router.svelte';
  import ProofView from '../proof/ProofView.svelte';
  import LayoutView from './LayoutView.svelte';

  let { id }: { id: string } = $props();

  let editor = $state.raw<Editor>();
  let wrong = $state('');

  onMount(open);
  onDestroy(() => editor?.close());

  async function open(): Promise<void> {
    wrong = '';
    const answer = await api
      .GET('/api/pieces/{piece_id}', { params: { path: { piece_id: id } } })
      .catch(() => undefined);
    if (answer?.data) editor = new Editor(answer.data as OpenPiece);
    else wrong = saying(answer?.error);
  }
</script>

{#if editor}
  {#if router.view === 'proof'}
    <ProofView {editor} />
  {:else}
    <LayoutView {editor} />
  {/if}
{:else}
  <div class="waiting">
    <Brand />
    {#if wrong}
      <p role="alert">This piece was not opened: {wrong}</p>
      <p>
        <Button size="small" on:click={open}>Try again</Button>
        <a href="/" onclick={follow}>To the shelf</a>
      </p>
    {:else}
      <InlineLoading description="Opening the piece" />
    {/if}
  </div>
{/if}

<style>
  .waiting {
    display: flex;
    flex-direction: column;
    gap: 24px;
    padding: 32px;
  }

  a {
    margin-left: 16px;
    color: var(--verdigris);
  }
</style>
