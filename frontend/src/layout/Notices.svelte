<script lang="ts">
  import { InlineNotification } from 'carbon-components-svelte';
  import { untrack } from 'svelte';
  import { api, asDocument, type Finding, type Remedy } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';

  let { editor }: { editor: Editor } = $props();

  const PAUSE_MS = 250;
  const faults = $derived(editor.around?.findings ?? []);

  /** What mends an overflow, by what is said of it: tried out by the core while nothing moves. */
  let mending = $state.raw<Record<string, Remedy[]>>({});
  const keyOf = (fault: Finding) => `${fault.lettering} ${fault.message}`;
  const remediesOf = (fault: Finding) =>
    fault.kind === 'overflow' ? (mending[keyOf(fault)] ?? []) : fault.remedies;

  $effect(() => {
    if (editor.holding) return;
    const wanted = faults.filter((one) => one.kind === 'overflow' && !untrack(() => mending[keyOf(one)]));
    const timer = setTimeout(() => wanted.forEach((one) => void tryOut(one)), PAUSE_MS);
    return () => clearTimeout(timer);
  });

  async function tryOut(fault: Finding): Promise<void> {
    const body = { piece: asDocument(editor.piece), lettering: fault.lettering };
    const answer = await api.POST('/api/remedies', { body }).catch(() => undefined);
    if (answer?.data) mending = { [keyOf(fault)]: answer.data, ...mending };
  }

  const wordsOf = (id: string) =>
    editor.piece.letterings.find((one) => one.id === id)?.text.slice(0, 40) ?? id;
</script>

<div class="notices">
  {#if !editor.connected}
    <InlineNotification
      lowContrast
      hideCloseButton
      kind="warning"
      title="Ulvent does not answer."
      subtitle="What you change here stays in this window and is kept when it answers again."
    />
  {/if}
  {#if editor.problems.length}
    <InlineNotification
      lowContrast
      hideCloseButton
      kind="error"
      title="The drawing shows the last state that could be laid out."
      subtitle={editor.problems.map((one) => (one.field ? `${one.field}: ${one.reason}` : one.reason)).join('; ')}
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
  {#each faults as fault (fault.kind + fault.lettering)}
    <div class="fault" class:warning={fault.severity !== 'fault'} role="status">
      <button class="quiet" onclick={() => editor.choose({ kind: 'lettering', id: fault.lettering })}>
        {wordsOf(fault.lettering)}
      </button>
      {fault.message}.
      {#if remediesOf(fault)?.length}
        {#each remediesOf(fault) ?? [] as remedy (remedy.label)}
          <button class="remedy" onclick={() => editor.mend(remedy)}>{remedy.label}</button>
        {/each}
      {:else}
        {fault.remedy}
      {/if}
    </div>
  {/each}
</div>

<style>
  .notices {
    display: flex;
    flex-direction: column;
    gap: 6px;
    max-height: 40%;
    overflow-y: auto;
    padding: 0 8px;
  }

  .notices > :global(*) {
    flex: none;
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
