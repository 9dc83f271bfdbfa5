<script lang="ts">
  import type { Guide, Way } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import LengthField from '../../parts/LengthField.svelte';

  interface Props {
    editor: Editor;
    guide: Guide;
    /** Figures of which `of` give the size. */
    way: Way;
    /** All such groups of this kind of guide. */
    groups: Way[];
    onset: (changed: Record<string, number>) => void;
  }

  let { editor, guide, way, groups, onset }: Props = $props();

  const values = $derived(guide as unknown as Record<string, number | null | undefined>);
  const given = (field: string) => values[field] !== null && values[field] !== undefined;

  /** Give the size by another figure instead: the core says what it then is. */
  function giveBy(field: string): void {
    const mine = way.figures.map((one) => one.field).filter(given);
    const kept = way.of === 1 ? [field] : [mine.at(-1) ?? field, field];
    const rest = groups
      .filter((group) => !group.figures.some((one) => one.field === field))
      .flatMap((group) => group.figures.map((one) => one.field).filter(given));
    editor.act({ act: 'give-as', guide: guide.id, figures: [...rest, ...kept] });
  }
</script>

<div class="pair">
  {#each way.figures.filter((one) => given(one.field)) as one (one.field)}
    <LengthField
      label={one.label}
      unit={one.unit ?? 'mm'}
      value={values[one.field] ?? 0}
      problem={editor.problem('guides', guide.id, one.field)}
      onset={(value) => onset({ [one.field]: value })}
    />
  {/each}
</div>
<p>
  or by
  {#each way.figures.filter((one) => !given(one.field)) as one, index (one.field)}
    {index ? ', ' : ''}<button onclick={() => giveBy(one.field)}>{one.label.toLowerCase()}</button>
  {/each}
</p>

<style>
  .pair {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 10px 12px;
  }

  p {
    margin: -6px 0 0;
    color: var(--ink-soft);
    font-size: 12px;
  }

  button {
    border: 0;
    padding: 2px 0;
    background: none;
    color: var(--verdigris);
    font: inherit;
    cursor: pointer;
  }

  button:hover {
    text-decoration: underline;
  }
</style>
