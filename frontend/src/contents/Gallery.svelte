<script lang="ts">
  /** Adding a guide: the usual ones at once, all others, files and the drawer in a gallery. */
  import Add from 'carbon-icons-svelte/lib/Add.svelte';
  import { Modal, Select, SelectItem } from 'carbon-components-svelte';
  import { catalogue } from '../api/catalogue';
  import { guideName } from '../words/words';
  import type { Editor } from '../piece/editor.svelte';

  interface Props {
    editor: Editor;
    onfile: () => void;
    ondrawer: () => void;
  }

  let { editor, onfile, ondrawer }: Props = $props();

  type Start = ReturnType<typeof catalogue>['starts'][number];

  const STARTS = catalogue().starts;
  const USUAL = STARTS.filter((one) => one.usual);
  const EXACT = STARTS.filter((one) => !one.needs);
  const DERIVED = STARTS.filter((one) => one.needs);
  const DRAWN = [
    { tool: 'points', name: 'by points', picture: 'M6 22C12 4 20 8 24 16S34 26 39 9M4.5 22h3M22.5 16h3M37.5 9h3' },
    { tool: 'freehand', name: 'freehand', picture: 'M5 20c5-14 8-10 8-2s5 9 9-2s6-12 8-3s6 8 9-2' },
  ] as const;
  const FILE = 'M15 5H25L31 11V27H15ZM25 5V11H31M19 21c2-6 6 3 8-4';
  const DRAWER = 'M9 7H35V26H9ZM9 16H35M20 11.5h4M20 21h4';

  let choosing = $state(false);
  let opener = $state<HTMLButtonElement>();
  let gallery = $state<HTMLDivElement>();

  const present = $derived(editor.piece.guides.filter((one) => !one.removed));

  $effect(() => gallery?.focus());

  function close(): void {
    choosing = false;
    opener?.focus();
  }

  /** A guide that is made from others, while it is asked from which. */
  let asked = $state.raw<Start>();
  let on = $state<string[]>([]);

  /** A new guide; one that is made from others is made from the chosen one first. */
  function start(wanted: Start): void {
    const chosen = editor.guide;
    const first = chosen && !chosen.removed ? [chosen] : [];
    const others = present.filter((one) => one.id !== chosen?.id);
    on = [...first, ...others].slice(0, wanted.needs).map((one) => one.id);
    const plain = present.length === wanted.needs || (wanted.needs === 1 && first.length > 0);
    if (wanted.needs && !plain) asked = wanted;
    else make(wanted);
  }

  function make({ name }: Start): void {
    asked = undefined;
    editor.make({ act: 'start-guide', start: name, on });
  }
</script>

{#if asked}
  <Modal
    open
    size="xs"
    modalHeading={asked.needs > 1 ? 'Between which two edges?' : 'Made from which guide?'}
    primaryButtonText="Make it"
    secondaryButtonText="Cancel"
    primaryButtonDisabled={new Set(on).size < on.length}
    on:click:button--secondary={() => (asked = undefined)}
    on:close={() => (asked = undefined)}
    on:submit={() => asked && make(asked)}
  >
    {#each on as id, index (index)}
      <Select
        size="sm"
        labelText={asked.needs > 1 ? `Edge ${index + 1}` : 'Guide'}
        selected={id}
        on:change={(event) => (on[index] = (event.target as HTMLSelectElement).value)}
      >
        {#each present as one (one.id)}<SelectItem value={one.id} text={guideName(one)} />{/each}
      </Select>
    {/each}
    {#if new Set(on).size < on.length}<p class="soft">Choose two different ones.</p>{/if}
  </Modal>
{/if}

<h2>Add a guide</h2>
<div class="kinds">
  {#each USUAL as one (one.name)}
    {@render choice(one.name, one.picture, () => start(one))}
  {/each}
</div>
<button
  class="quiet more"
  aria-expanded={choosing}
  bind:this={opener}
  onclick={() => (choosing = !choosing)}
>
  <Add size={16} /> all guides, files, drawer
</button>

{#snippet choice(name: string, picture: string, onchoose: () => void, disabled = false)}
  <button
    {disabled}
    onclick={() => {
      choosing = false;
      onchoose();
    }}
  >
    <svg viewBox="0 0 44 32" aria-hidden="true"><path d={picture} /></svg>
    {name}
  </button>
{/snippet}

{#if choosing}
  <div
    class="gallery"
    role="dialog"
    aria-label="Add a guide"
    tabindex="-1"
    bind:this={gallery}
    onkeydown={(event) => event.key === 'Escape' && close()}
  >
    <h3>Exact</h3>
    <div class="kinds">
      {#each EXACT as one (one.name)}
        {@render choice(one.name, one.picture, () => start(one))}
      {/each}
    </div>
    <div class="groups">
      <section>
        <h3>Drawn</h3>
        <div class="kinds">
          {#each DRAWN as one (one.tool)}
            {@render choice(one.name, one.picture, () => editor.selection.take(one.tool))}
          {/each}
        </div>
      </section>
      <section>
        <h3>Made from guides that are there</h3>
        <div class="kinds">
          {#each DERIVED as one (one.name)}
            {@render choice(one.name, one.picture, () => start(one), present.length < one.needs)}
          {/each}
        </div>
      </section>
      <section>
        <h3>Kept or brought along</h3>
        <div class="kinds">
          {@render choice('from a file', FILE, onfile)}
          {@render choice('from the drawer', DRAWER, ondrawer)}
        </div>
      </section>
    </div>
    <button class="quiet" onclick={close}>close</button>
  </div>
{/if}

<style>
  h2 {
    margin: 12px 0 6px;
    color: var(--ink-soft);
    font-size: 13px;
    font-weight: 600;
  }

  h3 {
    margin: 10px 0 4px;
    color: var(--ink-soft);
    font-size: 12px;
    font-weight: 400;
  }

  button {
    color: inherit;
    font: inherit;
    text-align: left;
    cursor: pointer;
  }

  .kinds {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    gap: 4px;
  }

  .kinds button {
    border: 1px solid var(--line);
    padding: 2px 0 4px;
    background: var(--sheet);
    text-align: center;
    font-size: 11px;
    line-height: 13px;
  }

  .kinds button:disabled {
    opacity: 0.45;
    cursor: default;
  }

  .kinds button:hover:not(:disabled) {
    border-color: var(--verdigris);
  }

  .kinds svg {
    display: block;
    width: 100%;
    fill: none;
    stroke: var(--ink);
  }

  .more {
    display: flex;
    gap: 4px;
    align-items: center;
    margin-top: 6px;
    color: var(--verdigris);
  }

  .gallery {
    position: fixed;
    z-index: 20;
    top: 52px;
    left: 240px;
    border: 1px solid var(--line-strong);
    padding: 4px 16px 12px;
    width: 634px;
    background: var(--paper);
  }

  .gallery:focus-visible {
    outline: none;
  }

  .gallery .kinds {
    grid-template-columns: repeat(auto-fill, 74px);
  }

  .groups {
    display: flex;
    gap: 24px;
  }

  .groups .kinds {
    display: flex;
  }

  .groups .kinds button {
    width: 74px;
  }

  .gallery > button {
    margin-top: 10px;
    color: var(--verdigris);
  }
</style>
