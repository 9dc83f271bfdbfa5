<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import { catalogue } from '../../api/catalogue';
  import type { Act, Lettering } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import LengthField from '../../parts/LengthField.svelte';

  let { editor, lettering }: { editor: Editor; lettering: Lettering } = $props();

  const letters = $derived(editor.selection.letters);
  const shown = $derived(letters.map((place) => lettering.text[place] ?? '').join(' '));
  /** What the core says was done to the first of them. */
  const nudge = $derived(
    editor.live.around?.letterings
      .filter((one) => one.id === lettering.id)
      .flatMap((one) => one.hand)
      .find((one) => one.letter === letters[0]),
  );
  const changed = $derived((lettering.hand ?? []).length);

  const FIGURES = catalogue().nudges;

  /** What was done to a letter; a size of 1 is none, as 0 is of all others. */
  const nudgedBy = (field: string) =>
    Number((nudge as Record<string, unknown> | undefined)?.[field] ?? (field === 'size' ? 1 : 0));
  const set = (field: string, value: number) =>
    editor.act({ act: 'set-nudge', lettering: lettering.id, letters, [field]: value } as Act);
</script>

<h2>
  {letters.length === 1 ? 'Letter' : `${letters.length} letters`} <strong>{shown}</strong>
  <span>by hand</span>
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
    disabled={!changed}
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
