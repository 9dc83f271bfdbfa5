<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { api, asDocument, type Sewing, type StitchScene } from '../api/client';
  import { Viewport } from '../drawing/viewport.svelte';
  import { Asking } from '../piece/asking.svelte';
  import type { Editor } from '../piece/editor.svelte';
  import { Clock } from '../rehearsal/clock.svelte';
  import TimeBar from '../rehearsal/TimeBar.svelte';
  import { pressed, type Keys } from '../shell/keys';
  import Panes from '../shell/Panes.svelte';
  import { Beside } from './beside.svelte';
  import { Columns } from './columns.svelte';
  import HowSewn from './HowSewn.svelte';
  import { SewingTime } from './sewing';
  import SewnList from './SewnList.svelte';
  import ThreadDrawing from './ThreadDrawing.svelte';

  let { editor }: { editor: Editor } = $props();

  const MARGIN = 40;
  const sewing = new Asking<StitchScene>((piece, signal) =>
    api.POST('/api/stitches', { body: { piece: asDocument(piece) }, signal }),
  );
  const view = new Viewport();
  const clock = new Clock();
  onDestroy(() => {
    sewing.close();
    clock.hold();
  });

  /** The lettering whose stitches are seen in the particulars; empty: of the whole piece. */
  let chosen = $state('');
  let needles = $state(false);
  const beside = new Beside(untrack(() => editor));
  const columns = new Columns(untrack(() => editor), change);
  const scene = $derived(sewing.scene);
  /** With the figures that the piece holds, also those that cannot be sewn. */
  const stated = $derived(scene && { ...scene, recipe: editor.piece.sewing ?? scene.recipe });
  const time = $derived(scene && new SewingTime(scene));
  const needle = $derived(time?.at(clock.at));

  $effect(() => {
    const { piece } = editor;
    untrack(() => {
      sewing.ask(piece);
      // What was sewn was sewn of another piece.
      beside.sewn = undefined;
      void columns.ask();
    });
  });

  $effect(() => {
    if (!scene) return;
    untrack(() => {
      const whole = clock.at >= clock.end;
      clock.end = scene.seconds;
      clock.go(whole ? scene.seconds : Math.min(clock.at, scene.seconds));
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

  function change(recipe: Sewing): void {
    editor.change({ sewing: recipe });
    void editor.finish();
  }

  const spans = $derived(
    (scene?.colours ?? []).map(({ colour, asks, seconds }, index) => ({
      key: String(index), label: String(index + 1), title: asks || colour, seconds,
    })),
  );
  const said = $derived.by(() => {
    const thread = scene?.threads[needle?.thread ?? 0];
    if (!scene || !thread || !needle) return 'Nothing is sewn.';
    const what = thread.letter ? `“${thread.letter}” of ${thread.name}` : thread.name;
    return `${what}: ${needle.done + needle.thread + 1} of ${scene.stitches} stitches`;
  });

  const step = (way: 1 | -1) => time && clock.go(time.beside(clock.at, way));
  const stitch = (way: 1 | -1) => scene && clock.go(clock.at + way * scene.seconds_a_stitch);
  const keys: Keys = {
    Escape: () => (columns.of ? void columns.show(undefined) : (chosen = '')),
    ' ': () => clock.toggle(),
    ArrowLeft: (event) => (event.shiftKey ? stitch(-1) : step(-1)),
    ArrowRight: (event) => (event.shiftKey ? stitch(1) : step(1)),
    Home: () => clock.go(0),
    End: () => clock.go(clock.end),
    n: () => (needles = !needles),
    '0': showAll,
    '+': () => view.zoomIn(),
    '=': () => view.zoomIn(),
    '-': () => view.zoomOut(),
  };
</script>

<svelte:window onkeydown={(event) => pressed(event, editor, keys)} />

<Panes
  label="Thread"
  wrong={sewing.wrong}
  wrongTitle={scene ? 'The thread is the last one that could be made.' : 'There is no thread of this piece.'}
  waiting="Making the stitches"
  shown={scene !== undefined}
  saying={editor.saying}
  onsaid={() => (editor.saying = '')}
>
  {#snippet left()}
    <SewnList {scene} {clock} bind:chosen bind:needles busy={sewing.busy} {editor} {beside} />
  {/snippet}
  {#if scene && time && needle}
    <ThreadDrawing {editor} busy={sewing.busy} {view} {scene} {time} {needle} {needles} {chosen} onshowall={showAll} onchoose={(id) => (chosen = id)} {beside} {columns} />
    <TimeBar {clock} of="sewing" unit="letter" {spans} {said} busy={sewing.busy} onstep={step} />
  {/if}
  {#snippet right()}
    <HowSewn {editor} scene={stated} {chosen} {columns} onchange={change} />
  {/snippet}
</Panes>
