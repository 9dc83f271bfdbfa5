<script lang="ts">
  import { Select, SelectItem } from 'carbon-components-svelte';
  import { untrack } from 'svelte';
  import type { Prepare, ProofScene } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import HowTo from '../parts/HowTo.svelte';
  import Choice from '../parts/Choice.svelte';
  import PrepareSteps from './PrepareSteps.svelte';
  import ToolSheets from './ToolSheets.svelte';

  let { editor, scene }: { editor: Editor; scene: ProofScene | undefined } = $props();

  let page = $state<'prepare' | 'sheets'>('prepare');
  /** Whose recipe is shown: a lettering's, or, empty, the whole piece's. */
  let owner = $state(
    untrack(() => (editor.piece.prepare ? '' : (editor.piece.letterings.find((one) => one.prepare)?.id ?? ''))),
  );
  $effect(() => {
    if (owner && !editor.piece.letterings.some((one) => one.id === owner)) owner = '';
  });
  const lettering = $derived(editor.piece.letterings.find((one) => one.id === owner));
  const recipe = $derived(lettering ? lettering.prepare : editor.piece.prepare);
  const mine = $derived(
    scene?.layers.filter((layer) => (owner ? layer.owner === owner : true)) ?? [],
  );
  const notes = $derived(mine.flatMap((layer) => layer.notes));
  const cutouts = $derived(mine.reduce((sum, layer) => sum + layer.cutouts, 0));
  const nodes = $derived(mine.reduce((sum, layer) => sum + layer.nodes, 0));

  function change(prepare: Prepare | null): void {
    if (lettering) editor.changeLettering(lettering.id, { prepare });
    else editor.change({ prepare });
    void editor.finish();
  }
</script>

<aside aria-label="Prepare">
  <Choice
    label="Page"
    tabs
    options={[
      { value: 'prepare', label: 'Prepare' },
      { value: 'sheets', label: 'Tool sheets' },
    ]}
    value={page}
    onset={(value) => (page = value)}
  />
  {#if page === 'prepare'}
    <Select size="sm" labelText="Done to" selected={owner} on:update={(event) => (owner = String(event.detail))}>
      <SelectItem value="" text="the whole piece" />
      {#each editor.piece.letterings as one (one.id)}
        <SelectItem value={one.id} text={one.text.replace(/\n/g, ' ').slice(0, 40) || one.id} />
      {/each}
    </Select>
    {#key owner}
      <PrepareSteps {editor} recipe={recipe ?? undefined} where={owner} onchange={change} />
    {/key}
    {#each notes as note, index (index)}
      <p class="note">{note}.</p>
    {/each}
    <HowTo job="stencil" label="a stencil that holds together" />
    {#if scene}<p class="soft">As written to a file: {cutouts} {cutouts === 1 ? 'cutout' : 'cutouts'}, {nodes} nodes.</p>{/if}
  {:else}
    <ToolSheets {editor} />
  {/if}
</aside>

<style>
  aside {
    display: flex;
    flex-direction: column;
    gap: 12px;
    overflow-y: auto;
    border-left: 1px solid var(--line);
    padding: 8px 16px 16px;
  }

  aside > :global(*) {
    flex: none;
  }

  .note {
    margin: 0;
    border-left: 2px solid var(--ochre);
    padding-left: 8px;
    font-size: 12px;
  }

  .soft {
    margin: 0;
    color: var(--ink-soft);
    font-size: 12px;
  }
</style>
