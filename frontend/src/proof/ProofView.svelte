<script lang="ts">
  import { InlineLoading, InlineNotification } from 'carbon-components-svelte';
  import { onDestroy, untrack } from 'svelte';
  import type { Finding } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { Viewport } from '../drawing/viewport.svelte';
  import { pressed, type Keys } from '../shell/keys';
  import Findings from './Findings.svelte';
  import MaterialDrawing from './MaterialDrawing.svelte';
  import PartsBar from './PartsBar.svelte';
  import Preparing from '../prepare/Preparing.svelte';
  import { Proofing } from './proofing.svelte';

  let { editor }: { editor: Editor } = $props();

  const proofing = new Proofing();
  const view = new Viewport();
  const MARGIN = 44;
  const CLOSE_BY = 12;
  onDestroy(() => proofing.close());

  let looked = $state.raw<Finding>();

  $effect(() => {
    void proofing.use;
    void proofing.layer;
    const { piece } = editor;
    untrack(() => proofing.ask(piece));
  });

  function showAll(): void {
    if (!proofing.scene) return;
    view.show(proofing.scene.bounds, MARGIN);
    view.moved = false;
  }

  $effect(() => {
    if (proofing.scene) view.lie = proofing.scene.lie;
    if (proofing.scene && view.width && !untrack(() => view.moved)) untrack(showAll);
  });

  function look(finding: Finding, place = 0): void {
    looked = finding;
    const at = finding.places?.[place];
    if (!at) return;
    showAt(at);
  }

  function showAt([x, y]: readonly [number, number]): void {
    view.show([x - CLOSE_BY, y - CLOSE_BY, x + CLOSE_BY, y + CLOSE_BY], MARGIN);
    view.moved = true;
  }

  const keys: Keys = {
    Escape: () => (looked = undefined),
    '0': showAll,
    '+': () => view.zoomIn(),
    '=': () => view.zoomIn(),
    '-': () => view.zoomOut(),
  };
</script>

<svelte:window onkeydown={(event) => pressed(event, editor, keys)} />

<div class="proof">
  <Findings {editor} scene={proofing.scene} {looked} onlook={look} onpart={showAt} />
  <main aria-label="Material">
    {#if proofing.wrong}
      <InlineNotification
        lowContrast
        hideCloseButton
        kind="error"
        title={proofing.scene
          ? 'The proof shows the last state that could be prepared.'
          : 'This piece could not be proofed.'}
        subtitle={proofing.wrong}
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
    {#if proofing.scene}
      <MaterialDrawing {editor} {view} scene={proofing.scene} {looked} onshowall={showAll} />
      <PartsBar {proofing} scene={proofing.scene} busy={proofing.busy} />
    {:else if !proofing.wrong}
      <div class="waiting"><InlineLoading description="Proofing the piece" /></div>
    {/if}
  </main>
  <Preparing {editor} scene={proofing.scene} />
</div>

<style>
  .proof {
    display: grid;
    grid-template: minmax(0, 1fr) / 304px minmax(0, 1fr) 300px;
    overflow: hidden;
  }

  @media (max-width: 1100px) {
    .proof {
      grid-template-columns: 232px minmax(0, 1fr) 264px;
    }
  }

  @media (min-width: 1700px) {
    .proof {
      grid-template-columns: 360px minmax(0, 1fr) 340px;
    }
  }

  main {
    display: flex;
    flex-direction: column;
    min-width: 0;
    min-height: 0;
    background: var(--ground);
  }

  main > :global(.bx--inline-notification) {
    flex: none;
    margin: 8px;
    width: auto;
    max-width: none;
  }

  .waiting {
    padding: 24px;
  }
</style>
