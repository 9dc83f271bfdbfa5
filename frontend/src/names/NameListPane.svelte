<script lang="ts">
  /** The list: pasted or read, which column fills which field, and what it comes to. */
  import { Button, Checkbox, Search, Select, SelectItem } from 'carbon-components-svelte';
  import { onDestroy, untrack } from 'svelte';
  import { api, saying } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { settled } from '../piece/settled';
  import { figure } from '../words/words';
  import { Batches } from '../batches/batches.svelte';
  import BatchList from '../batches/BatchList.svelte';
  import ListPane from '../shell/ListPane.svelte';
  import { matched, sorted } from './arranging';
  import type { Names } from '../piece/list.svelte';
  import type { Made } from './made.svelte';
  import WhatIsWanted, { type Wanted } from './WhatIsWanted.svelte';

  interface Props {
    editor: Editor;
    made: Made;
    names: Names;
    /** What rows must say to be shown. */
    sought: string;
    onchange: (names: Names) => void;
  }

  let { editor, made, names, sought = $bindable(), onchange }: Props = $props();

  const HOOP = { width: 130, height: 180, turned: false };
  let pasted = $state('');
  let said = $state('');
  let wanted = $state.raw<Wanted>({ format: 'svg', name: '{number}-{words}', anyway: false, sheet: null });
  const batches = untrack(() => new Batches(editor.id));
  onDestroy(() => batches.close());

  const hoop = $derived.by(() => {
    const { width, height, turned } = editor.piece.sewing?.hoop ?? HOOP;
    return turned ? { width: height, height: width } : { width, height };
  });
  const scene = $derived(made.scene);
  const kept = $derived(names.rows.filter((row) => !row.left_out).length - (scene?.empty.length ?? 0));
  const unfit = $derived([...made.rows.values()].filter((one) => !one.fits && !names.rows[one.row]?.left_out).length);

  async function read(body: Blob | string): Promise<void> {
    const answer = await api
      .POST('/api/names/read', {
        params: { query: { field: scene?.fields ?? [] } },
        body: body as unknown as string,
        bodySerializer: (it) => it,
        headers: { 'Content-Type': 'application/octet-stream' },
      })
      .catch(() => undefined);
    if (!answer?.data) {
      editor.saying = saying(answer?.error);
      return;
    }
    said = answer.data.said;
    pasted = '';
    const head = names.rows.length ? names.head : answer.data.head;
    onchange({ ...names, head, rows: [...names.rows, ...answer.data.rows.map((cells) => ({ cells, left_out: false, heights: {}, times: 1 }))] });
  }

  async function make(): Promise<void> {
    if (await settled(editor)) await batches.begin(editor.id, wanted);
  }

  function chosen(event: Event): void {
    const input = event.target as HTMLInputElement;
    if (input.files?.[0]) void read(input.files[0]);
    input.value = '';
  }
</script>

<ListPane label="List"><div class="pane">
  <h2>Names</h2>
  {#if scene}
    <p class="soft" aria-live="polite">
      {#if !names.rows.length}
        Each row of a list fills {scene.fields.map((one) => `{${one}}`).join(', ')}.
      {:else}
        {kept} {kept === 1 ? 'row' : 'rows'} · {typeof scene.measured === 'number' ? `one height: ${scene.measured} measured` : made.busy ? `${made.done} made` : unfit ? `${unfit} do not fit` : made.done < kept ? `the ${made.done} looked at fit` : 'all fit'}{#if scene.twice.length}&nbsp;· {scene.twice.length} twice{/if}{#if scene.empty.length}&nbsp;· {scene.empty.length} empty{/if}
      {/if}
    </p>
    {#if scene.columns.length > 1}
      {#each scene.columns as column, at (at)}
        <Select size="sm" inline labelText={`Column ${at + 1}`} selected={column} on:update={(event) => event.detail !== column && onchange(matched(names, scene.columns, at, String(event.detail)))}>
          {#each scene.fields as field (field)}<SelectItem value={field} text={`{${field}}`} />{/each}
          <SelectItem value="" text="not used" />
        </Select>
      {/each}
    {/if}
    {#if scene.later}<p class="soft">One height for so many rows is found when they are made; here each has its own.</p>{/if}
    {#if Object.keys(scene.heights).length}
      <p class="soft">One height: {Object.entries(scene.heights).map(([id, height]) => `${scene.letterings[id]} ${figure(Number(height.toFixed(2)))} mm`).join(', ')}.</p>
    {/if}
  {/if}
  {#if names.rows.length}
    <Search size="sm" labelText="Find rows" placeholder="Find rows" bind:value={sought} />
    {#if names.rows.length > 1}
      <div class="row">
        {#each scene?.columns ?? [] as column, at (at)}
          {#if column}<button class="quiet" onclick={() => onchange(sorted(names, at))}>sort by {`{${column}}`}</button>{/if}
        {/each}
      </div>
    {/if}
  {/if}
  <label class="soft" for="pasted">Rows, typed or pasted from a sheet</label>
  <textarea id="pasted" rows="3" bind:value={pasted} placeholder={'name\nHollow Kernel\nHarrow Seedling'}></textarea>
  <div class="row">
    <button class="quiet" disabled={!scene || !pasted.trim()} onclick={() => void read(pasted)}>add these rows</button>
    <label class="quiet file">from a file…<input type="file" accept=".csv,.tsv,.txt" disabled={!scene} onchange={chosen} /></label>
    {#if names.rows.length}<button class="quiet" onclick={() => onchange({ ...names, rows: [], head: [] })}>empty the list</button>{/if}
  </div>
  {#if said}<p class="soft" role="status">{said}</p>{/if}
  <Checkbox labelText="One height for all rows" checked={names.one_height} on:check={(event) => event.detail !== names.one_height && onchange({ ...names, one_height: event.detail })} />
  {#if names.rows.length}
    <h3>Make them all</h3>
    <WhatIsWanted {wanted} {hoop} onchange={(changed) => (wanted = changed)} />
    <Button size="small" disabled={!kept} on:click={() => void make()}>Make {kept} {kept === 1 ? 'row' : 'rows'}</Button>
    {#if unfit && !wanted.anyway}<p class="soft">{unfit === 1 ? 'One that does not fit is' : `${unfit} that do not fit are`} left out.</p>{/if}
    {#if !batches.all.length}<p class="soft">It goes on while this page is closed. Rows that were made before are only read.</p>{/if}
  {/if}
  {#if batches.all.length || batches.wrong}<BatchList {batches} shown={batches.all} />{/if}
</div></ListPane>

<style>
  textarea {
    border: 0;
    border-bottom: 1px solid var(--line-strong);
    padding: 8px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
    font-size: 13px;
    resize: vertical;
  }

  .pane {
    display: flex;
    flex-direction: column;
    gap: 6px;
  }

  .pane > :global(.bx--form-item) {
    flex: none;
  }

  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 8px;
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
