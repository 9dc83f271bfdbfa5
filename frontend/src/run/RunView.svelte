<script lang="ts">
  import { InlineLoading, InlineNotification } from 'carbon-components-svelte';
  import { onDestroy, untrack } from 'svelte';
  import { api, asDocument, type RunScene, type RunSheet } from '../api/client';
  import { Viewport } from '../drawing/viewport.svelte';
  import { Asking } from '../piece/asking.svelte';
  import type { Editor } from '../piece/editor.svelte';
  import { pressed, type Keys } from '../shell/keys';
  import { Clock } from './clock.svelte';
  import PassParticulars from './PassParticulars.svelte';
  import Rehearsal from './Rehearsal.svelte';
  import RunSheetList from './RunSheetList.svelte';
  import TimeBar from './TimeBar.svelte';
  import { Timeline } from './timeline';

  let { editor }: { editor: Editor } = $props();

  const MARGIN = 58;
  const running = new Asking<RunScene>((piece, signal) =>
    api.POST('/api/run', { body: { piece: asDocument(piece) }, signal }),
  );
  const view = new Viewport();
  const clock = new Clock();
  onDestroy(() => {
    running.close();
    clock.hold();
  });

  /** The pass whose particulars are seen, by its id. */
  let chosen = $state('');
  const scene = $derived(running.scene);
  const timeline = $derived(scene && new Timeline(scene));

  $effect(() => {
    const { piece } = editor;
    untrack(() => running.ask(piece));
  });

  $effect(() => {
    if (!scene) return;
    untrack(() => {
      clock.end = scene.seconds;
      clock.go(clock.at && clock.at < scene.seconds ? clock.at : scene.seconds);
    });
  });

  function showAll(): void {
    if (!scene) return;
    view.show(scene.bounds, MARGIN);
    view.moved = false;
  }

  $effect(() => {
    if (scene && view.width && !untrack(() => view.moved)) untrack(showAll);
  });

  function change(sheet: RunSheet): void {
    editor.change({ run: sheet });
    void editor.finish();
  }

  const step = (way: 1 | -1) => timeline && clock.go(timeline.beside(clock.at, way));
  const keys: Keys = {
    Escape: () => (chosen = ''),
    ' ': () => clock.toggle(),
    ArrowLeft: () => step(-1),
    ArrowRight: () => step(1),
    Home: () => clock.go(0),
    End: () => clock.go(clock.end),
    '0': showAll,
    '+': () => view.zoomIn(),
    '=': () => view.zoomIn(),
    '-': () => view.zoomOut(),
  };
</script>

<svelte:window onkeydown={(event) => pressed(event, editor, keys)} />

<div class="run">
  <RunSheetList {editor} {scene} {clock} bind:chosen onchange={change} />
  <main aria-label="Rehearsal">
    {#if running.wrong}
      <InlineNotification
        lowContrast
        hideCloseButton
        kind="error"
        title={scene ? 'The run is the last one that could be made.' : 'There is no run of this piece.'}
        subtitle={running.wrong}
      />
    {/if}
    {#if scene && timeline}
      <Rehearsal {view} {scene} {timeline} {clock} onshowall={showAll} />
      <TimeBar {clock} {scene} {timeline} busy={running.busy} onstep={step} />
    {:else if !running.wrong}
      <div class="waiting"><InlineLoading description="Putting the lines in order" /></div>
    {/if}
  </main>
  <PassParticulars {scene} {chosen} onchange={change} />
</div>

<style>
  .run {
    display: grid;
    grid-template: minmax(0, 1fr) / 304px minmax(0, 1fr) 300px;
    overflow: hidden;
  }

  @media (max-width: 1100px) {
    .run {
      grid-template-columns: 240px minmax(0, 1fr) 264px;
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
