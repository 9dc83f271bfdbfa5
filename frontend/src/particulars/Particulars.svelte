<script lang="ts">
  import { tick, untrack } from 'svelte';
  import type { Editor } from '../piece/editor.svelte';
  import HelpLine from '../parts/HelpLine.svelte';
  import BlankParticulars from './blank/BlankParticulars.svelte';
  import GuideParticulars from './guide/GuideParticulars.svelte';
  import LetteringParticulars from './lettering/LetteringParticulars.svelte';
  import SeveralParticulars from './SeveralParticulars.svelte';

  interface Props {
    editor: Editor;
    onsave: () => void;
    onblankfile: () => void;
  }

  let { editor, onsave, onblankfile }: Props = $props();

  let aside = $state<HTMLElement>();
  let before = untrack(() => editor.selection.chosen);

  // What had the focus may go with what was chosen: it stays near.
  $effect(() => {
    if (editor.selection.chosen === before) return;
    before = editor.selection.chosen;
    void tick().then(() => document.activeElement === document.body && aside?.focus());
  });
</script>

<aside aria-label="Particulars" tabindex="-1" bind:this={aside}>
  {#if editor.entries.length > 1}
    <SeveralParticulars {editor} />
  {:else if editor.lettering}
    {#key editor.lettering.id}
      <LetteringParticulars {editor} lettering={editor.lettering} />
    {/key}
  {:else if editor.selection.chosen?.kind === 'guide' && editor.guide}
    {#key editor.guide.id}
      <GuideParticulars {editor} guide={editor.guide} {onsave} />
    {/key}
  {:else if editor.selection.chosen?.kind === 'blank'}
    <BlankParticulars {editor} onfile={onblankfile} />
  {:else}
    <p>Choose a lettering, a guide or the blank, here or on the drawing.</p>
  {/if}
  <HelpLine />
</aside>

<style>
  aside {
    overflow-y: auto;
    border-left: 1px solid var(--line);
    padding: 12px 16px;
  }

  aside:focus {
    outline: none;
  }

  aside > p {
    color: var(--ink-soft);
    line-height: 20px;
  }
</style>
