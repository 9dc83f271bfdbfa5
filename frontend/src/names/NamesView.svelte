<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import type { Editor } from '../piece/editor.svelte';
  import { pressed, type Keys } from '../shell/keys';
  import Panes from '../shell/Panes.svelte';
  import { router } from '../shell/router.svelte';
  import type { Names } from '../piece/list.svelte';
  import { Made } from './made.svelte';
  import { smaller } from './mending';
  import NameGrid from './NameGrid.svelte';
  import NameListPane from './NameListPane.svelte';
  import OneRow from './OneRow.svelte';

  let { editor }: { editor: Editor } = $props();

  const NONE: Names = { head: [], rows: [], one_height: false };

  const made = new Made();
  onDestroy(() => made.close());
  let chosen = $state<number>();
  let sought = $state('');
  const listed = $derived(editor.list.names);
  const names = $derived(listed ?? NONE);

  $effect(() => {
    const { piece } = editor;
    if (listed !== undefined) untrack(() => made.begin(piece, names));
  });

  function change(changed: Names): void {
    editor.change({ names: changed.rows.length || changed.one_height ? editor.list.kept(changed) : null });
    editor.pauseThenFinish();
  }

  async function mend(rows: readonly number[]): Promise<void> {
    const found = await smaller(made, names, rows);
    if (found.said) editor.saying = found.said;
    if (found.names !== names) change(found.names);
  }

  /** The drawing with the words of the chosen row: what is done to their letters is that row's. */
  function layOut(): void {
    editor.selection.sample = chosen ?? null;
    router.go(`/pieces/${editor.id}/layout`);
  }

  const step = (way: 1 | -1) => {
    const next = chosen === undefined ? 0 : chosen + way;
    if (next >= 0 && next < names.rows.length) chosen = next;
  };
  const keys: Keys = {
    Escape: () => (chosen = undefined),
    ArrowLeft: () => step(-1),
    ArrowRight: () => step(1),
  };
</script>

<svelte:window onkeydown={(event) => pressed(event, editor, keys)} />

<Panes
  label="Results"
  wrong={editor.list.wrong || made.wrong}
  wrongTitle={made.scene ? 'The results are the last ones that could be made.' : 'There are no results.'}
  waiting="Making the first rows"
  shown={made.scene !== undefined && listed !== undefined}
  saying={editor.saying}
  onsaid={() => (editor.saying = '')}
>
  {#snippet left()}
    <NameListPane {editor} {made} {names} bind:sought onchange={change} />
  {/snippet}
  {#if made.scene && names.rows.length}
    <NameGrid scene={made.scene} rows={made.rows} {names} {chosen} {sought} onsight={(rows) => made.want(rows)} onchoose={(row) => (chosen = row)} />
  {:else if made.scene}
    <p class="empty">No list yet. Write {made.scene.fields.map((one) => `{${one}}`).join(', ') || '{name}'} in the words of a lettering, and paste the names at the left.</p>
  {/if}
  {#snippet right()}
    <OneRow scene={made.scene} {names} rows={made.rows} row={chosen} onmend={(rows) => void mend(rows)} onchange={change} onlayout={layOut} />
  {/snippet}
</Panes>

<style>
  .empty {
    margin: 24px;
    color: var(--ink-soft);
  }
</style>
