<script lang="ts">
  import { Button, InlineNotification, Modal, Search, TextInput } from 'carbon-components-svelte';
  import { onMount } from 'svelte';
  import { api, asDocument, saying, type DrawerEntry, type Guide } from '../api/client';
  import { newest } from '../api/newest';
  import type { Editor } from '../piece/editor.svelte';
  import { guideName } from '../words/words';

  interface Props {
    editor: Editor;
    /** Whether the chosen guide is to be saved, or one to be taken. */
    saving: boolean;
    onclose: () => void;
  }

  let { editor, saving, onclose }: Props = $props();

  let entries = $state.raw<DrawerEntry[]>();
  let words = $state('');
  let name = $state('');
  let chosen = $state<string>();
  let renaming = $state<string>();
  let deleted = $state.raw<DrawerEntry>();
  let wrong = $state('');
  /** Changes with every save, so that a replaced guide's picture is fetched anew. */
  let version = $state(0);

  const guide = $derived(editor.guide);

  onMount(() => {
    if (saving && guide) name = guideName(guide);
    void find();
  });

  const take = newest<{ data?: typeof entries; error?: unknown } | undefined>((answer) => {
    if (answer?.data) entries = answer.data;
    else wrong = saying(answer?.error);
  });

  function find(): Promise<void> {
    return take(api.GET('/api/drawer', { params: { query: { words } } }).catch(() => undefined));
  }

  async function done(answer: { error?: unknown } | undefined): Promise<boolean> {
    wrong = answer && !answer.error ? '' : saying(answer?.error);
    version += 1;
    await find();
    return !wrong;
  }

  async function save(): Promise<void> {
    if (!guide) return;
    const body = { name, piece: asDocument(editor.piece), guide: guide.id };
    if (await done(await api.POST('/api/drawer', { body }).catch(() => undefined))) onclose();
  }

  async function replace(entry: DrawerEntry): Promise<void> {
    if (!guide) return;
    const params = { path: { guide_id: entry.id } };
    const body = { piece: asDocument(editor.piece), guide: guide.id };
    const answer = await api.PUT('/api/drawer/{guide_id}', { params, body }).catch(() => undefined);
    if (await done(answer)) onclose();
  }

  async function rename(entry: DrawerEntry, to: string): Promise<void> {
    renaming = undefined;
    const params = { path: { guide_id: entry.id } };
    await done(
      await api.PUT('/api/drawer/{guide_id}', { params, body: { name: to } }).catch(() => undefined),
    );
  }

  async function remove(entry: DrawerEntry): Promise<void> {
    const params = { path: { guide_id: entry.id } };
    const answer = await api.DELETE('/api/drawer/{guide_id}', { params }).catch(() => undefined);
    if (await done(answer)) deleted = entry;
    if (chosen === entry.id) chosen = undefined;
  }

  async function restore(): Promise<void> {
    if (!deleted) return;
    const params = { path: { guide_id: deleted.id } };
    await done(await api.POST('/api/drawer/{guide_id}/restore', { params }).catch(() => undefined));
    deleted = undefined;
  }

  async function put(fit: 'true' | 'blank'): Promise<void> {
    if (!chosen) return;
    const entry = entries?.find((one) => one.id === chosen);
    const stem = (entry?.name ?? 'guide').replace(/[^A-Za-z].*$/, '').toLowerCase() || 'guide';
    const body = { piece: asDocument(editor.piece), id: stem, fit };
    const params = { path: { guide_id: chosen } };
    const answer = await api
      .POST('/api/drawer/{guide_id}/copy', { params, body })
      .catch(() => undefined);
    if (!answer?.data) return void (wrong = saying(answer?.error));
    editor.make({ act: 'add-guide', recipe: answer.data.guide as Guide });
    onclose();
  }

  async function open(event: Event): Promise<void> {
    const file = (event.target as HTMLInputElement).files?.[0];
    if (!file) return;
    const answer = await fetch('/api/drawer/file', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: file,
    }).catch(() => undefined);
    await done(answer && (answer.ok ? {} : { error: await answer.json() }));
  }

  const pictureOf = (entry: DrawerEntry) => `/api/drawer/${entry.id}/picture?v=${version}`;
</script>

<Modal
  open
  passiveModal
  size="lg"
  modalHeading={saving ? 'Save this guide in the drawer' : 'The drawer of guides'}
  on:close={onclose}
>
  {#if saving}
    <div class="row">
      <TextInput size="sm" labelText="Its name" maxlength={120} bind:value={name} />
      <Button size="small" disabled={!name.trim()} on:click={() => void save()}>Save</Button>
    </div>
    <p>Or put it in the place of one that is there:</p>
  {/if}
  <Search
    size="sm"
    labelText="Find a guide by its name"
    placeholder="Find by name"
    bind:value={words}
    on:input={() => void find()}
    on:clear={() => void find()}
  />
  {#if wrong}
    <InlineNotification lowContrast hideCloseButton kind="error" title={wrong} />
  {/if}
  {#if deleted}
    <p class="deleted" role="status">
      “{deleted.name}” was deleted.
      <button onclick={() => void restore()}>Bring it back</button>
    </p>
  {/if}
  <div class="all">
    {#each entries ?? [] as entry (entry.id)}
      <div class="card" class:on={chosen === entry.id}>
        <button
          class="face"
          aria-pressed={chosen === entry.id}
          onclick={() => (chosen = entry.id)}
          ondblclick={() => !saving && void put('true')}
        >
          <img src={pictureOf(entry)} alt="" />
          {#if renaming !== entry.id}<strong>{entry.name}</strong>{/if}
          <span>{entry.size}</span>
        </button>
        {#if renaming === entry.id}
          <!-- svelte-ignore a11y_autofocus -->
          <input
            aria-label="New name"
            value={entry.name}
            autofocus
            maxlength="120"
            onkeydown={(event) => {
              event.stopPropagation();
              if (event.key === 'Enter') void rename(entry, event.currentTarget.value);
              if (event.key === 'Escape') renaming = undefined;
            }}
          />
        {/if}
        <div class="actions">
          {#if saving}
            <button onclick={() => void replace(entry)}>replace</button>
          {:else}
            <button onclick={() => (renaming = entry.id)}>rename</button>
            <a href={`/api/drawer/${entry.id}/file`} download>file</a>
            <button onclick={() => void remove(entry)}>delete</button>
          {/if}
        </div>
      </div>
    {:else}
      <p>{entries ? 'No guide has such a name.' : 'Opening the drawer …'}</p>
    {/each}
  </div>
  {#if !saving}
    <div class="row foot">
      <label class="file">
        Put in a guide file
        <input type="file" accept=".json" onchange={open} />
      </label>
      <Button size="small" kind="secondary" disabled={!chosen || !editor.piece.blank} on:click={() => void put('blank')}>
        Use it, fitted to the blank
      </Button>
      <Button size="small" disabled={!chosen} on:click={() => void put('true')}>
        Use it at true size
      </Button>
    </div>
  {/if}
</Modal>

<style>
  .row {
    display: flex;
    gap: 12px;
    align-items: end;
    margin-bottom: 12px;
  }

  .foot {
    justify-content: flex-end;
    margin: 12px 0 0;
  }

  .all {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(148px, 1fr));
    gap: 8px;
    overflow-y: auto;
    margin-top: 12px;
    max-height: 380px;
  }

  .card {
    border: 1px solid var(--line);
    background: var(--sheet);
  }

  .card.on {
    border-color: var(--verdigris);
    background: var(--verdigris-soft);
  }

  .face {
    display: block;
    width: 100%;
    border: 0;
    padding: 8px;
    background: none;
    color: inherit;
    font: inherit;
    text-align: left;
    cursor: pointer;
  }

  img {
    display: block;
    width: 100%;
    height: 84px;
    object-fit: contain;
  }

  strong {
    display: block;
    font-size: 13px;
    line-height: 17px;
  }

  .face span {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .card input {
    margin: 0 8px;
    width: calc(100% - 16px);
    font: inherit;
  }

  .actions {
    display: flex;
    gap: 10px;
    padding: 0 8px 6px;
  }

  .actions button,
  .actions a,
  .deleted button,
  .file {
    border: 0;
    padding: 2px 0;
    background: none;
    color: var(--verdigris);
    font: inherit;
    font-size: 12px;
    text-decoration: none;
    cursor: pointer;
  }

  .file {
    margin-right: auto;
    font-size: 13px;
  }

  .file input {
    position: absolute;
    width: 1px;
    height: 1px;
    opacity: 0;
  }

  .file:focus-within {
    outline: 2px solid var(--verdigris);
  }
</style>
