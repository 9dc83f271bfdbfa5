<script lang="ts">
  import { Button, OverflowMenu, OverflowMenuItem, ToastNotification } from 'carbon-components-svelte';
  import Export from 'carbon-icons-svelte/lib/Export.svelte';
  import Help from 'carbon-icons-svelte/lib/Help.svelte';
  import Redo from 'carbon-icons-svelte/lib/Redo.svelte';
  import Undo from 'carbon-icons-svelte/lib/Undo.svelte';
  import { catalogue } from '../api/catalogue';
  import { api, saying, type Takeaway } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { settled } from '../piece/settled';
  import { figures } from '../words/figures.svelte';
  import { clock } from '../words/words';
  import Brand from './Brand.svelte';
  import Lacking from './Lacking.svelte';
  import { follow } from './router.svelte';
  import { ending, take } from './taking';
  import type { View } from './views';

  interface Props {
    editor: Editor;
    views: readonly View[];
    view: View;
    onhelp: () => void;
  }

  let { editor, views, view, onhelp }: Props = $props();

  /** What is to be said before a file with faults is taken away. */
  let lacking = $state.raw<Takeaway & { file: string }>();

  const FORMATS = catalogue().formats;
  const RUN_FORMATS = catalogue().run_formats;
  const THREAD_FORMATS = catalogue().thread_formats;
  const SOLID_FORMATS = catalogue().solid_formats;
  const keeping = $derived(figures.wrong ? 'wrong' : editor.keeping.state);
  const standing = $derived(
    {
      kept: `kept · ${clock(editor.keeping.at)}`,
      keeping: 'keeping …',
      changed: 'changed',
      wrong: 'not kept: something is wrong',
      offline: 'not kept: Ulvent does not answer',
      conflict: 'not kept: changed elsewhere',
    }[figures.waiting && keeping === 'kept' ? 'changed' : keeping],
  );
  const troubled = $derived(['wrong', 'offline', 'conflict'].includes(keeping));

  function rename(event: Event): void {
    editor.change({ title: (event.target as HTMLInputElement).value.trim() });
    void editor.finish();
  }

  /** Everything is kept first, so that the file holds what the screen shows. */
  async function checkAndTake(what: string): Promise<void> {
    if (!(await settled(editor))) return;
    const params = { path: { piece_id: editor.id } };
    // However long its proof takes: nobody takes a file with faults without knowing.
    const answer = await api.GET('/api/pieces/{piece_id}/takeaway', { params }).catch(() => undefined);
    if (!answer?.data) editor.saying = saying(answer?.error);
    else if (answer.data.faults.length) lacking = { ...answer.data, file: what };
    else await take(editor, what);
  }
</script>

<header>
  <div class="name">
    <Brand />
    <span aria-hidden="true">/</span>
    <input
      value={editor.piece.title}
      maxlength={catalogue().bounds.title}
      aria-label="Name of the piece"
      placeholder="Untitled"
      onchange={rename}
      onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  </div>
  <h1 class="visually-hidden">{editor.piece.title || 'Untitled'}: {view.title}</h1>
  <nav aria-label="Views">
    {#each views as one (one.name)}
      <a
        href={`/pieces/${editor.id}${one.name && `/${one.name}`}`}
        aria-current={one === view ? 'page' : undefined}
        onclick={follow}>{one.title}</a
      >
    {/each}
  </nav>
  <div class="state">
    <span class="kept" class:troubled role="status">{standing}</span>
    <Button
      size="small"
      kind="ghost"
      icon={Undo}
      iconDescription="Undo"
      disabled={!editor.keeping.canUndo && editor.keeping.state === 'kept'}
      on:click={editor.undo}
    />
    <Button
      size="small"
      kind="ghost"
      icon={Redo}
      iconDescription="Redo"
      disabled={!editor.keeping.canRedo}
      on:click={editor.redo}
    />
    <Button
      size="small"
      kind="ghost"
      icon={Help}
      iconDescription="Help"
      tooltipAlignment="end"
      on:click={onhelp}
    />
    <OverflowMenu flipped size="sm" icon={Export} aria-label="Export a file" iconDescription="Export a file">
      {#each FORMATS as { name, title } (name)}
        <OverflowMenuItem text={`${title}, lettering only`} on:click={() => void checkAndTake(`export/${name}`)} />
        <OverflowMenuItem text={`${title} with guides`} on:click={() => void checkAndTake(`export/${name}?guides=true`)} />
      {/each}
      {#each RUN_FORMATS as { name, title }, index (name)}
        <OverflowMenuItem text={`${title}, the run`} hasDivider={index === 0} on:click={() => void checkAndTake(`run/${name}`)} />
      {/each}
      {#each THREAD_FORMATS as { name, title }, index (name)}
        <OverflowMenuItem text={title} hasDivider={index === 0} on:click={() => void checkAndTake(`thread/${name}`)} />
      {/each}
      {#each SOLID_FORMATS as { name, title }, index (name)}
        <OverflowMenuItem text={`${title}, the part`} hasDivider={index === 0} on:click={() => void checkAndTake(`solid/${name}`)} />
      {/each}
      <OverflowMenuItem text="Piece file" hasDivider on:click={() => void take(editor, 'file')} />
    </OverflowMenu>
  </div>
</header>

{#if editor.coming}
  <div class="coming">
    <ToastNotification
      lowContrast
      kind="info"
      title="Being made"
      subtitle={`The ${ending(editor.coming)} takes longer than a moment. It comes when it is made, and lies on the shelf.`}
      on:close={() => (editor.coming = '')}
    />
  </div>
{/if}
{#if lacking}
  <Lacking
    {lacking}
    ontake={() => {
      void take(editor, lacking!.file);
      lacking = undefined;
    }}
    onclose={() => (lacking = undefined)}
  />
{/if}

<style>
  .coming {
    position: fixed;
    z-index: 9;
    top: 48px;
    right: 0;
  }

  header {
    display: flex;
    align-items: center;
    justify-content: space-between;
    border-bottom: 1px solid var(--line);
    padding: 0 8px 0 16px;
  }

  .name {
    display: flex;
    flex: 1;
    align-items: center;
    gap: 10px;
    min-width: 0;
  }

  .name span {
    color: var(--line-strong);
  }

  input {
    flex: 0 1 320px;
    min-width: 80px;
    border: 1px solid transparent;
    padding: 4px 6px;
    background: none;
    color: var(--ink);
    font: inherit;
    text-overflow: ellipsis;
  }

  input:hover {
    border-color: var(--line);
  }

  nav {
    display: flex;
    align-self: stretch;
    margin-right: 24px;
  }

  nav a {
    display: flex;
    align-items: center;
    padding: 0 14px;
    color: var(--ink-soft);
    text-decoration: none;
  }

  nav a[aria-current] {
    box-shadow: inset 0 -2px var(--verdigris);
    color: var(--ink);
    font-weight: 600;
  }

  .state {
    display: flex;
    align-items: center;
  }

  .kept {
    margin-right: 12px;
    color: var(--ink-soft);
    font-size: 13px;
  }

  .kept.troubled {
    color: var(--brick);
    font-weight: 600;
  }
</style>
