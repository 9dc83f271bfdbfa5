<script lang="ts">
  /** What is said over the strip: whose it is, how its gaps are made, and how even they are. */
  import { choices } from '../api/catalogue';
  import type { Guide, Lettering, StripLine } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { guideName } from '../words/words';
  import { length, stepFor, units } from '../words/units.svelte';

  interface Props {
    editor: Editor;
    guide: Guide | undefined;
    gaps: StripLine['gaps'] | undefined;
    /** Whether a line reads the other way. */
    turned: boolean;
    /** Whether the lines are shown that fill the guide's inside. */
    filled: boolean;
    /** How much closer than the whole guide it is looked at. */
    zoom: number;
    /** Look closer by a factor, or, for 0, at the whole guide. */
    onzoom: (by: number) => void;
  }

  let { editor, guide, gaps, turned, filled, zoom, onzoom }: Props = $props();

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
  <strong>{guide ? `${guideName(guide)}, ${filled ? 'filled line by line' : 'pulled straight'}` : 'Strip'}</strong>
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
    <span class="judged">
      {#if editor.selection.before}
        as the face spaces it:
      {/if}
      {Math.round(gaps.usual * 100)} % as wide as
      {spacing === 'font' ? 'the face makes them on a straight line' : 'wanted'},
      {gaps.spread < 0.001 ? 'all even to 0.1 %' : `the worst ${Math.round(gaps.spread * 100)} % off`}{#if gaps.worst.length}: {gaps.worst.length === 1 ? 'it is' : `${gaps.worst.length} are`} marked{/if}{#if gaps.held_apart}; {gaps.held_apart} kept wider so that letters do not touch{/if}
    </span>
  {/if}
  {#if turned}<span>below: what reads the other way</span>{/if}
  <span class="zoom" role="group" aria-label="Zoom of the strip">
    <button aria-label="Strip closer" onclick={() => onzoom(1.5)}>+</button>
    <button aria-label="Strip farther" disabled={zoom <= 1} onclick={() => onzoom(1 / 1.5)}>−</button>
    <button disabled={zoom <= 1} onclick={() => onzoom(0)}>whole guide</button>
  </span>
  <span class="keys">
    {editor.selection.letters.length ? 'pull, or arrows: this letter alone' : `← → ${stepFor(editor.lettering?.height)} mm · click a letter to move it`}
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

  .zoom button,
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

  .zoom button:disabled {
    color: var(--line-strong);
    cursor: default;
  }

  header > * {
    flex: none;
  }

  header .zoom {
    margin-left: auto;
  }

  /* What is said gives way to what is pressed, help first. */
  header .judged,
  header .keys {
    flex: 0 1 auto;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
  }

  header .keys {
    flex-shrink: 100;
  }
</style>
