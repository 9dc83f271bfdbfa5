<script lang="ts">
  import type { Editor } from '../piece/editor.svelte';
  import HelpLine from '../parts/HelpLine.svelte';
  import BlankParticulars from './blank/BlankParticulars.svelte';
  import GuideParticulars from './guide/GuideParticulars.svelte';
  import LetteringParticulars from './lettering/LetteringParticulars.svelte';

  interface Props {
    editor: Editor;
    onsave: () => void;
    onblankfile: () => void;
  }

  let { editor, onsave, onblankfile }: Props = $props();
</script>

<aside aria-label="Particulars">
  {#if editor.lettering}
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

  aside > p {
    color: var(--ink-soft);
    line-height: 20px;
  }
</style>
