<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import { untrack } from 'svelte';
  import type { Lettering } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import Choice from '../../parts/Choice.svelte';
  import Arrangement from './Arrangement.svelte';
  import FitParticulars from '../fit/FitParticulars.svelte';
  import HandParticulars from './HandParticulars.svelte';
  import LabelParticulars from './LabelParticulars.svelte';
  import LetterForm from './LetterForm.svelte';
  import WordsAndPlace from './WordsAndPlace.svelte';

  let { editor, lettering }: { editor: Editor; lettering: Lettering } = $props();

  const PAGES = [
    { value: 'words', label: 'Words' },
    { value: 'letters', label: 'Letters' },
    { value: 'spread', label: 'Spread' },
    { value: 'fit', label: 'Fit' },
  ] as const;

  // A figure may come back when another lettering has been chosen: it is for this one.
  const id = untrack(() => lettering.id);

  function set(changed: Partial<Lettering>): void {
    editor.changeLettering(id, changed);
    void editor.finish();
  }
</script>

<div class="fields">
  {#if editor.selection.label !== undefined && lettering.dial}
    <LabelParticulars {editor} {lettering} dial={lettering.dial} label={editor.selection.label} {set} />
  {:else if editor.selection.letters.length}
    <HandParticulars {editor} {lettering} />
  {:else}
    <Choice
      label="Shown here"
      tabs
      options={PAGES}
      value={editor.selection.page}
      onset={(page) => (editor.selection.page = page)}
    />
    {#if editor.selection.page === 'words'}
      <WordsAndPlace {editor} {lettering} {set} />
    {:else if editor.selection.page === 'letters'}
      <LetterForm {editor} {lettering} {set} />
    {:else if editor.selection.page === 'spread'}
      <Arrangement {editor} {lettering} {set} />
    {:else}
      <FitParticulars {editor} {lettering} {set} />
    {/if}
    {#if editor.selection.page === 'words'}
      <div class="remove">
        <Button
          size="small"
          kind="ghost"
          on:click={() => editor.duplicate()}
        >
          Duplicate
        </Button>
        <Button
          size="small"
          kind="danger-ghost"
          on:click={() => editor.removeChosen()}
        >
          Remove this lettering
        </Button>
      </div>
    {/if}
  {/if}
</div>

<style>
  .remove {
    display: flex;
    justify-content: space-between;
    margin: -6px 0 0 -12px;
  }

  .remove :global(.bx--btn) {
    min-height: 28px;
    padding: 2px 12px;
  }

  .fields {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
  }
</style>
