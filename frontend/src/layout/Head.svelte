<script lang="ts">
  import { Button, OverflowMenu, OverflowMenuItem } from 'carbon-components-svelte';
  import Export from 'carbon-icons-svelte/lib/Export.svelte';
  import Help from 'carbon-icons-svelte/lib/Help.svelte';
  import Redo from 'carbon-icons-svelte/lib/Redo.svelte';
  import Undo from 'carbon-icons-svelte/lib/Undo.svelte';
  import { figuresSettled } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import { clock } from '../editor/words';
  import Brand from '../parts/Brand.svelte';
  import { follow, router } from '../router.svelte';

  let { editor, onhelp }: { editor: Editor; onhelp?: () => void } = $props();

  const VIEWS = [
    { view: 'layout', label: 'Layout', path: '' },
    { view: 'proof', label: 'Proof', path: '/proof' },
  ] as const;

  const state = $derived(
    {
      kept: `kept · ${clock(editor.keptAt)}`,
      keeping: 'keeping …',
      changed: 'changed',
      wrong: 'not kept: something is wrong',
      offline: 'not kept: Ulvent does not answer',
      conflict: 'not kept: changed elsewhere',
    }[editor.kept],
  );
  const troubled = $derived(['wrong', 'offline', 'conflict'].includes(editor.kept));

  function rename(event: Event): void {
    editor.change({ title: (event.target as HTMLInputElement).value.trim() });
    void editor.finish();
  }

  /** Everything is kept first, so that the file holds what the screen shows. */
  async function take(format: 'svg' | 'dxf', guides: boolean): Promise<void> {
    await figuresSettled();
    await editor.finish();
    if (editor.kept !== 'kept') {
      editor.saying = 'The file was not written, because the last change could not be kept.';
      return;
    }
    location.assign(`/api/pieces/${editor.id}/export/${format}?guides=${guides}`);
  }
</script>

<header>
  <div class="name">
    <Brand />
    <span aria-hidden="true">/</span>
    <input
      value={editor.piece.title}
      maxlength="200"
      aria-label="Name of the piece"
      placeholder="Untitled"
      onchange={rename}
      onkeydown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  </div>
  <nav aria-label="Views">
    {#each VIEWS as { view, label, path } (view)}
      <a
        href={`/pieces/${editor.id}${path}`}
        aria-current={router.view === view ? 'page' : undefined}
        onclick={follow}>{label}</a
      >
    {/each}
  </nav>
  <div class="state">
    <span class="kept" class:troubled role="status">{state}</span>
    <Button
      size="small"
      kind="ghost"
      icon={Undo}
      iconDescription="Undo"
      disabled={!editor.canUndo && editor.kept === 'kept'}
      on:click={editor.undo}
    />
    <Button
      size="small"
      kind="ghost"
      icon={Redo}
      iconDescription="Redo"
      disabled={!editor.canRedo}
      on:click={editor.redo}
    />
    {#if onhelp}
      <Button
        size="small"
        kind="ghost"
        icon={Help}
        iconDescription="Shortcuts"
        tooltipAlignment="end"
        on:click={onhelp}
      />
    {/if}
    <OverflowMenu flipped size="sm" icon={Export} aria-label="Take away a file" iconDescription="Take away a file">
      <OverflowMenuItem text="SVG, lettering only" on:click={() => void take('svg', false)} />
      <OverflowMenuItem text="SVG with guides" on:click={() => void take('svg', true)} />
      <OverflowMenuItem text="DXF, lettering only" on:click={() => void take('dxf', false)} />
      <OverflowMenuItem text="DXF with guides" on:click={() => void take('dxf', true)} />
      <OverflowMenuItem text="Piece file" href={`/api/pieces/${editor.id}/file`} hasDivider />
    </OverflowMenu>
  </div>
</header>

<style>
  header {
    display: flex;
    grid-column: 1 / -1;
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
