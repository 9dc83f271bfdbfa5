<script lang="ts">
  import {
    Button,
    InlineLoading,
    InlineNotification,
    ToastNotification,
  } from 'carbon-components-svelte';
  import Add from 'carbon-icons-svelte/lib/Add.svelte';
  import FolderOpen from 'carbon-icons-svelte/lib/FolderOpen.svelte';
  import { onDestroy, onMount } from 'svelte';
  import { api, asDocument, saying, type OpenPiece, type PieceSummary } from '../api/client';
  import { newest } from '../api/newest';
  import { Batches } from '../batches/batches.svelte';
  import BatchList from '../batches/BatchList.svelte';
  import Brand from '../shell/Brand.svelte';
  import { router } from '../shell/router.svelte';
  import NewPiece from './NewPiece.svelte';
  import PieceCard from './PieceCard.svelte';
  import RenamePiece from './RenamePiece.svelte';

  let pieces = $state.raw<PieceSummary[]>();
  let deleted = $state.raw<PieceSummary[]>([]);
  let showDeleted = $state(false);
  let wrong = $state('');
  let making = $state(false);
  let renaming = $state.raw<PieceSummary>();
  let justDeleted = $state.raw<PieceSummary>();
  let dragging = $state(false);
  let picker: HTMLInputElement;

  const batches = new Batches();
  onDestroy(() => batches.close());
  let showBatches = $state(false);
  const running = $derived(batches.all.filter((one) => one.state === 'running'));

  onMount(load);

  const take = newest<(PieceSummary[] | undefined)[]>(([there, gone]) => {
    if (there) pieces = there;
    if (gone) deleted = gone;
  });

  function load(): Promise<void> {
    return take(Promise.all([list(false), list(true)]));
  }

  function again(): void {
    wrong = '';
    void load();
  }

  async function list(gone: boolean): Promise<PieceSummary[] | undefined> {
    const answer = await api
      .GET('/api/pieces', { params: { query: { deleted: gone } } })
      .catch(() => undefined);
    if (!answer?.data) wrong = saying(answer?.error);
    return answer?.data;
  }

  async function done(
    work: Promise<{ error?: unknown; response?: Response }>,
  ): Promise<boolean> {
    const answer = await work.catch(() => ({ error: undefined, response: undefined }));
    const well = Boolean(answer.response?.ok);
    if (!well) wrong = saying(answer.error);
    await load();
    return well;
  }

  const at = (piece: PieceSummary) => ({ params: { path: { piece_id: piece.id } } });

  async function remove(piece: PieceSummary): Promise<void> {
    if (await done(api.DELETE('/api/pieces/{piece_id}', at(piece)))) justDeleted = piece;
  }

  async function restore(piece: PieceSummary): Promise<void> {
    justDeleted = undefined;
    await done(api.POST('/api/pieces/{piece_id}/restore', at(piece)));
  }

  async function duplicate(piece: PieceSummary): Promise<void> {
    await done(api.POST('/api/pieces/{piece_id}/duplicate', at(piece)));
  }

  async function rename(piece: PieceSummary, title: string): Promise<void> {
    renaming = undefined;
    const opened = await api.GET('/api/pieces/{piece_id}', at(piece)).catch(() => undefined);
    if (!opened?.data) {
      wrong = saying(opened?.error);
      return;
    }
    const { piece: document, revision } = opened.data as OpenPiece;
    await done(
      api.PUT('/api/pieces/{piece_id}', {
        ...at(piece),
        body: { base: revision, piece: asDocument({ ...document, title }) },
      }),
    );
  }

  async function openFile(file: File | undefined): Promise<void> {
    if (!file) return;
    const response = await fetch('/api/pieces/file', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: file,
    }).catch(() => undefined);
    const answer: unknown = await response?.json().catch(() => undefined);
    if (response?.ok) router.go(`/pieces/${(answer as { id: string }).id}`);
    else wrong = `${file.name} was not opened. ${saying(answer)}`;
  }

  function drop(event: DragEvent): void {
    event.preventDefault();
    dragging = false;
    void openFile(event.dataTransfer?.files[0]);
  }
</script>

<svelte:head><title>Shelf · Ulvent</title></svelte:head>

<div class="page">
  <header>
    <Brand />
    <div class="actions">
      <Button size="small" kind="ghost" icon={FolderOpen} on:click={() => picker.click()}>
        Open a piece file
      </Button>
      <Button size="small" icon={Add} on:click={() => (making = true)}>New piece</Button>
    </div>
    <input
      bind:this={picker}
      class="visually-hidden"
      type="file"
      accept=".json,application/json"
      aria-label="Piece file"
      tabindex="-1"
      onchange={() => {
        void openFile(picker.files?.[0]);
        picker.value = '';
      }}
    />
  </header>

  <main
    class:dragging
    ondragover={(event) => {
      event.preventDefault();
      dragging = true;
    }}
    ondragleave={() => (dragging = false)}
    ondrop={drop}
  >
    <h1>Shelf</h1>
    {#if wrong}
      <InlineNotification
        lowContrast
        kind="error"
        title="That did not work."
        subtitle={wrong}
        on:close={() => (wrong = '')}
      />
    {/if}

    {#if batches.all.length}
      <section class="batches" aria-label="Made by workers">
        <BatchList {batches} titled shown={showBatches ? batches.all : running} />
        {#if batches.all.length > running.length}
          <button class="quiet" aria-expanded={showBatches} onclick={() => (showBatches = !showBatches)}>
            {showBatches ? 'Hide' : 'Show'} what was made ({batches.all.length - running.length})
          </button>
        {/if}
      </section>
    {/if}

    {#if pieces === undefined}
      {#if wrong}
        <p><button class="quiet" onclick={again}>Try again</button></p>
      {:else}
        <InlineLoading description="Taking the pieces off the shelf" />
      {/if}
    {:else if pieces.length === 0}
      <div class="empty">
        <p>Nothing on the shelf yet.</p>
        <p>Start with the words and the thing they go on, or drop a piece file here.</p>
        <Button size="small" icon={Add} on:click={() => (making = true)}>New piece</Button>
      </div>
    {:else}
      <ul class="grid">
        {#each pieces as piece (piece.id)}
          <PieceCard
            {piece}
            onrename={() => (renaming = piece)}
            onduplicate={() => void duplicate(piece)}
            ondelete={() => void remove(piece)}
          />
        {/each}
      </ul>
    {/if}

    {#if deleted.length}
      <section class="deleted">
        <button
          class="quiet"
          aria-expanded={showDeleted}
          onclick={() => (showDeleted = !showDeleted)}
        >
          {showDeleted ? 'Hide' : 'Show'} deleted pieces ({deleted.length})
        </button>
        {#if showDeleted}
          <ul>
            {#each deleted as piece (piece.id)}
              <li>
                {piece.title || 'Untitled'} <span>{piece.blank}</span>
                <button class="quiet" onclick={() => void restore(piece)}>Bring back</button>
              </li>
            {/each}
          </ul>
        {/if}
      </section>
    {/if}
  </main>
</div>

{#if making}
  <NewPiece onclose={() => (making = false)} />
{/if}
{#if renaming}
  {@const piece = renaming}
  <RenamePiece
    title={piece.title}
    onclose={() => (renaming = undefined)}
    onrename={(title) => void rename(piece, title)}
  />
{/if}
{#if justDeleted}
  {@const piece = justDeleted}
  <div class="toast">
    <ToastNotification
      lowContrast
      kind="info"
      title={`“${piece.title || 'Untitled'}” was deleted.`}
      on:close={() => (justDeleted = undefined)}
    >
      {#snippet captionChildren()}
        <button class="quiet" onclick={() => void restore(piece)}>Undo</button>
      {/snippet}
    </ToastNotification>
  </div>
{/if}

<style>
  .page {
    display: flex;
    flex-direction: column;
    min-height: 100%;
  }

  header {
    display: flex;
    align-items: center;
    justify-content: space-between;
    height: 44px;
    border-bottom: 1px solid var(--line);
    padding: 0 16px;
  }

  .actions {
    display: flex;
    gap: 8px;
  }

  main {
    flex: 1;
    padding: 24px 32px 48px;
  }

  main.dragging {
    outline: 2px dashed var(--verdigris);
    outline-offset: -8px;
  }

  h1 {
    margin: 0 0 16px;
    font-size: 20px;
    font-weight: 600;
  }

  .grid {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(264px, 1fr));
    gap: 24px;
    margin: 0;
    padding: 0;
    list-style: none;
  }

  .empty {
    padding: 64px 0;
    text-align: center;
  }

  .empty p {
    margin-bottom: 12px;
  }

  .batches {
    max-width: 720px;
    margin-bottom: 24px;
  }

  .deleted {
    margin-top: 40px;
  }

  .deleted ul {
    margin-top: 8px;
    padding: 0;
    list-style: none;
  }

  .deleted li {
    padding: 4px;
  }

  .deleted span {
    margin: 0 12px;
    color: var(--ink-soft);
  }

  .toast {
    position: fixed;
    right: 16px;
    bottom: 16px;
  }
</style>
