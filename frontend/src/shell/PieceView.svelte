<script lang="ts">
  import { Button, InlineLoading } from 'carbon-components-svelte';
  import { onDestroy, onMount } from 'svelte';
  import { api, saying, type OpenPiece } from '../api/client';
  import { Editor } from '../piece/editor.svelte';
  import Brand from './Brand.svelte';
  import Conflict from './Conflict.svelte';
  import Head from './Head.svelte';
  import { follow, router } from './router.svelte';
  import FirstSteps from './FirstSteps.svelte';
  import Shortcuts from './Shortcuts.svelte';
  import type { View } from './views';
  import { units } from '../words/units.svelte';

  let { id, views }: { id: string; views: readonly View[] } = $props();

  let editor = $state.raw<Editor>();
  let wrong = $state('');
  let helping = $state(false);
  /** Whether a first piece is made step by step. */
  let stepping = $state(false);
  const view = $derived(views.find((one) => one.name === router.view) ?? views[0]);

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

  $effect(() => {
    if (editor) units.shown = editor.piece.lengths;
  });

  function press(event: KeyboardEvent): void {
    const typing = (event.target as HTMLElement).closest('input, select, textarea, [role="dialog"]');
    if (event.key === '?' && !typing) helping = true;
  }
</script>

<svelte:window onkeydown={press} />
<svelte:head>
  <title>{editor ? `${editor.piece.title || 'Untitled'} · ${view?.title} · Ulvent` : 'Ulvent'}</title>
</svelte:head>
{#if editor && view}
  <div class="piece">
    <Head {editor} {views} {view} onhelp={() => (helping = true)} />
    <view.component {editor} />
  </div>
  {#if helping}
    <Shortcuts
      {view}
      onclose={() => (helping = false)}
      onsteps={() => {
        helping = false;
        if (editor) router.go(`/pieces/${editor.id}`);
        stepping = true;
      }}
    />
  {/if}
  {#if stepping}
    <FirstSteps {editor} onclose={() => (stepping = false)} />
  {/if}
  {#if editor.keeping.conflict}
    <Conflict {editor} onopen={(id) => router.go(`/pieces/${id}`)} />
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
  .piece {
    display: grid;
    grid-template: 44px minmax(0, 1fr) / minmax(0, 1fr);
    height: 100vh;
    overflow: hidden;
  }

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
