<script lang="ts">
  /** What is said over the strip: whose it is, how its gaps are made, and how even they are. */
  import { choices } from '../api/catalogue';
  import type { Guide, Lettering, StripLine } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { guideName } from '../words/words';
  import { length, units } from '../words/units.svelte';

  interface Props {
    editor: Editor;
    guide: Guide | undefined;
    gaps: StripLine['gaps'] | undefined;
    /** Whether a line reads the other way. */
    turned: boolean;
  }

  let { editor, guide, gaps, turned }: Props = $props();

  type Spacing = NonNullable<Lettering['spacing']>;

  const SPACING = choices<Spacing>('spacing');
  const spacing = $derived(editor.selection.before ? 'font' : (editor.lettering?.spacing ?? 'font'));

  function setSpacing(spacing: Spacing): void {
    if (!editor.lettering) return;
    editor.changeLettering(editor.lettering.id, { spacing });
    void editor.finish();
  }
</script>

<header>
  <strong>{guide ? `${guideName(guide)}, pulled straight` : 'Strip'}</strong>
  {#if editor.lettering && !editor.lettering.dial}
    <span class="spacing" role="group" aria-label="Gaps between letters">
      gaps
      {#each SPACING as one (one.value)}
        <button
          aria-pressed={editor.lettering.spacing === one.value}
          title={one.value === 'even' ? 'Key E; hold B to compare' : undefined}
          onclick={() => setSpacing(one.value)}
        >
          {one.label}
        </button>
      {/each}
    </span>
  {/if}
  {#if spacing === 'overlap'}
    <span>each word is one piece; its letters overlap by {length(editor.lettering?.overlap ?? 0.5)} {units.sign}</span>
  {:else if gaps?.x.length}
    <span>
      {#if editor.selection.before}
        as the face spaces it:
      {/if}
      {Math.round(gaps.usual * 100)} % of
      {spacing === 'font' ? 'what the face has on the straight' : 'what they should be'},
      {gaps.spread < 0.001 ? 'even to 0.1 %' : `uneven by ${Math.round(gaps.spread * 100)} %`}{#if gaps.worst.length}; {gaps.worst.length} stand{gaps.worst.length === 1 ? 's' : ''} out{/if}{#if gaps.held_apart}; {gaps.held_apart} held apart so as not to touch{/if}
    </span>
  {/if}
  {#if turned}<span>below: what reads the other way</span>{/if}
  <span class="keys">
    {editor.selection.letters.length ? 'pull, or arrows: this letter alone' : '← → 0.1 mm · click a letter to move it'}
  </span>
</header>

<style>
  header {
    display: flex;
    gap: 20px;
    padding: 6px 16px 0;
    color: var(--ink-soft);
    font-size: 13px;
    white-space: nowrap;
  }

  header strong {
    color: var(--ink);
    font-weight: 600;
  }

  .spacing button {
    border: 0;
    border-bottom: 2px solid transparent;
    padding: 0 3px;
    background: none;
    color: var(--verdigris);
    font: inherit;
    cursor: pointer;
  }

  .spacing button[aria-pressed='true'] {
    border-bottom-color: var(--verdigris);
    color: var(--ink);
    font-weight: 600;
  }

  header > * {
    flex: none;
  }

  /* Help gives way to what is measured. */
  header .keys {
    flex: 0 1 auto;
    min-width: 0;
    margin-left: auto;
    overflow: hidden;
    text-overflow: ellipsis;
  }
</style>
