<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import type { CircleGuide, Guide } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import { figure, guideName } from '../editor/words';
  import Choice from '../parts/Choice.svelte';
  import LengthField from '../parts/LengthField.svelte';

  let { editor, guide }: { editor: Editor; guide: Guide } = $props();

  const scene = $derived(editor.scene?.guides.find((one) => one.id === guide.id));
  const used = $derived(editor.piece.letterings.some((one) => one.guide === guide.id));

  function set(changed: Partial<CircleGuide>): void {
    editor.changeGuide(guide.id, changed);
    void editor.finish();
  }

  const TURNS = [
    { value: 'clockwise', label: 'clockwise' },
    { value: 'counterclockwise', label: 'anticlockwise' },
  ] as const;
</script>

<h2>{guideName(guide)}</h2>
<div class="fields">
  {#if guide.kind === 'circle'}
    <LengthField
      label="Diameter"
      value={guide.diameter}
      problem={editor.problem('guides', guide.id, 'diameter')}
      onset={(diameter) => set({ diameter })}
    />
    <div class="pair">
      <LengthField
        label="Centre across"
        value={guide.centre[0]}
        onset={(x) => set({ centre: [x, guide.centre[1]] })}
      />
      <LengthField
        label="Centre up"
        value={guide.centre[1]}
        onset={(y) => set({ centre: [guide.centre[0], y] })}
      />
    </div>
    <LengthField
      label="Starts at (the seam)"
      unit="°"
      value={guide.start}
      onset={(start) => set({ start })}
    />
    <Choice
      label="Runs"
      options={TURNS}
      value={guide.turn}
      onset={(turn) => set({ turn })}
    />
  {:else}
    <p>This guide came with its piece file, as a path. It is followed exactly.</p>
  {/if}
  {#if scene}
    <p>Length <span class="figure">{figure(scene.length)}</span> mm, {scene.closed ? 'closed' : 'open'}.</p>
  {/if}
  <div>
    <Button
      size="small"
      kind="danger-ghost"
      disabled={used}
      on:click={() => editor.remove({ kind: 'guide', id: guide.id })}
    >
      Remove this guide
    </Button>
    {#if used}<p class="note">Lettering stands on it: remove that first.</p>{/if}
  </div>
</div>

<style>
  h2 {
    margin: 0 0 12px;
    font-size: 14px;
    font-weight: 600;
  }

  .fields {
    display: grid;
    gap: 14px;
  }

  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
  }

  p {
    margin: 0;
    color: var(--ink-soft);
    font-size: 13px;
    line-height: 18px;
  }

  .note {
    margin-top: 4px;
  }
</style>
