<script lang="ts">
  /** Whose words are shown where a piece has fields and a list: the fields, or a row. */
  import type { Editor } from '../piece/editor.svelte';
  import { titleOf } from '../piece/list.svelte';

  let { editor }: { editor: Editor } = $props();

  const rows = $derived(editor.list.names?.rows ?? []);
  const shown = $derived(editor.selection.sample);
  const words = $derived(shown === null ? '' : titleOf(rows[shown]));

  $effect(() => {
    if (shown !== null && shown >= editor.list.count) editor.selection.sample = null;
  });

  function step(by: 1 | -1): void {
    const next = (shown ?? (by === 1 ? -1 : rows.length)) + by;
    editor.selection.sample = next < 0 || next >= rows.length ? null : next;
  }
</script>

{#if rows.length}
  <button aria-label="With the row before" onclick={() => step(-1)}>‹</button>
  <button
    title="Show the words of a row, or the fields"
    onclick={() => (editor.selection.sample = shown === null ? 0 : null)}
  >
    {shown === null ? 'fields' : `row ${shown + 1}: ${words}`}
  </button>
  <button aria-label="With the next row" onclick={() => step(1)}>›</button>
{/if}
