<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import { catalogue } from '../../api/catalogue';
  import type { Act, Lettering } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import LengthField from '../../parts/LengthField.svelte';

  let { editor, lettering }: { editor: Editor; lettering: Lettering } = $props();

  const letters = $derived(editor.selection.letters);
  /** Its first line as the core says it, which has the words and what was done to its letters. */
  const said = $derived(editor.live.around?.letterings.find((one) => one.id === lettering.id && one.line === 0));
  const text = $derived([...(said?.text ?? lettering.text)]);
  const shown = $derived(letters.map((place) => text[place] ?? '').join(' '));
  const nudge = $derived(said?.hand.find((one) => one.letter === letters[0]));
  /** The row of the list that brings these words, and keeps what is done to them. */
  const row = $derived(said && said.text !== lettering.text ? editor.selection.sample : null);

  const FIGURES = catalogue().nudges;

  /** What was done to a letter; a size of 1 is none, as 0 is of all others. */
  const nudgedBy = (field: string) =>
    Number((nudge as Record<string, unknown> | undefined)?.[field] ?? (field === 'size' ? 1 : 0));
  const set = (field: string, value: number) =>
    editor.act({ act: 'set-nudge', lettering: lettering.id, letters, [field]: value } as Act);
</script>

<h2>
  {letters.length === 1 ? 'Letter' : `${letters.length} letters`} <strong>{shown}</strong>
  <span>by hand{row === null ? '' : `, in row ${row + 1} alone`}</span>
</h2>
<div class="pair">
  {#each FIGURES as figure (figure.field)}
    <LengthField
      label={figure.label}
      unit={figure.unit}
      shownAs={figure.shown_as}
      value={nudgedBy(figure.field)}
      onset={(value) => set(figure.field, value)}
    />
  {/each}
</div>
<p>Arrows move by 0.1 mm, with Shift by 1 mm; [ and ] close and open the gap. Shift-click takes up more letters.</p>
<div class="actions">
  <Button
    size="small"
    kind="ghost"
    on:click={() => editor.act({ act: 'put-back', lettering: lettering.id, letters })}
  >
    Put back
  </Button>
  <Button
    size="small"
    kind="ghost"
    disabled={!said?.hand.length}
    on:click={() => editor.act({ act: 'put-back', lettering: lettering.id })}
  >
    Put back all letters
  </Button>
  <Button size="small" kind="ghost" on:click={() => (editor.selection.letters = [])}>Done</Button>
</div>

<style>
  h2 {
    margin: 0;
    font-size: 14px;
    font-weight: 400;
  }

  h2 span,
  p {
    color: var(--ink-soft);
  }

  p {
    margin: 0;
    font-size: 12px;
    line-height: 16px;
  }

  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
    align-items: end;
  }

  .actions {
    display: flex;
    margin-left: -12px;
  }

  .actions :global(.bx--btn) {
    padding: 4px 12px;
    white-space: nowrap;
  }
</style>
