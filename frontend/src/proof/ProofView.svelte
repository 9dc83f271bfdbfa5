<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import type { Finding } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { Viewport } from '../drawing/viewport.svelte';
  import { pressed, type Keys } from '../shell/keys';
  import Panes from '../shell/Panes.svelte';
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

<Panes
  label="Material"
  wrong={proofing.wrong}
  wrongTitle={proofing.scene
    ? 'The proof shows the last state that could be prepared.'
    : 'This piece could not be proofed.'}
  waiting="Proofing the piece"
  shown={proofing.scene !== undefined}
  saying={editor.saying}
  onsaid={() => (editor.saying = '')}
>
  {#snippet left()}
    <Findings {editor} scene={proofing.scene} {looked} onlook={look} onpart={showAt} />
  {/snippet}
  {#if proofing.scene}
    <MaterialDrawing {editor} {view} scene={proofing.scene} {looked} onshowall={showAll} />
    <PartsBar {proofing} scene={proofing.scene} busy={proofing.busy} />
  {/if}
  {#snippet right()}
    <Preparing {editor} scene={proofing.scene} />
  {/snippet}
</Panes>
