<script lang="ts">
  import { InlineNotification } from 'carbon-components-svelte';
  import { untrack } from 'svelte';
  import type { Editor } from '../piece/editor.svelte';
  import { wrongWords } from '../words/words';
  import { Remedies } from '../piece/remedies.svelte';
  import { said } from '../words/units.svelte';

  let { editor }: { editor: Editor } = $props();

  const remedies = new Remedies();
  const findings = $derived(editor.findings);

  $effect(() => {
    if (!editor.holding) return remedies.tryAll(findings, untrack(() => editor.piece));
  });

  const wordsOf = (id: string) =>
    editor.piece.letterings.find((one) => one.id === id)?.text.slice(0, 40) ?? id;
</script>

<div class="notices">
  {#if !editor.live.connected}
    <InlineNotification
      lowContrast
      hideCloseButton
      kind="warning"
      title="Ulvent does not answer."
      subtitle="What you change here stays in this window and is kept when it answers again."
    />
  {/if}
  {#if editor.live.problems.length}
    <InlineNotification
      lowContrast
      hideCloseButton
      kind="error"
      title={editor.live.scene
        ? 'The drawing shows the last state that could be laid out.'
        : 'This piece could not be laid out.'}
      subtitle={editor.live.problems.map((one) => wrongWords(one, editor.piece)).join('; ')}
    />
  {/if}
  {#if editor.saying}
    <InlineNotification
      lowContrast
      kind="error"
      title={editor.saying}
      on:close={() => (editor.saying = '')}
    />
  {/if}
  {#if editor.told}
    <p class="fault warning" role="status">{said(editor.told)}.</p>
  {/if}
  {#each findings as finding, index (index)}
    {@const mends = remedies.of(finding)}
    <div class="fault" class:warning={finding.severity !== 'fault'} role="status">
      <button class="quiet" onclick={() => editor.selection.choose({ kind: 'lettering', id: finding.lettering })}>
        {wordsOf(finding.lettering)}
      </button>
      {said(finding.message)}.
      {#if mends.length}
        {#each mends as remedy (remedy.label)}
          <button class="remedy" onclick={() => editor.mend(remedy)}>{said(remedy.label)}</button>
        {/each}
      {:else}
        {finding.remedy}
      {/if}
    </div>
  {/each}
</div>

<style>
  .notices {
    /* Over the drawing: a message comes and goes without moving it. */
    position: absolute;
    z-index: 2;
    top: 0;
    right: 0;
    left: 0;
    display: flex;
    flex-direction: column;
    gap: 4px;
    max-height: 40%;
    overflow-y: auto;
    padding: 0 8px;
    pointer-events: none;
  }

  .notices > :global(*) {
    flex: none;
    pointer-events: auto;
    margin: 0;
    max-width: none;
  }

  .notices > :global(:first-child) {
    margin-top: 8px;
  }

  .fault {
    border-left: 3px solid var(--brick);
    padding: 6px 12px;
    background: var(--sheet);
    font-size: 13px;
    line-height: 18px;
  }

  .remedy {
    margin: 2px 4px 0 0;
  }

  .fault.warning {
    border-left-color: var(--ochre);
    color: var(--ink-soft);
  }
</style>
