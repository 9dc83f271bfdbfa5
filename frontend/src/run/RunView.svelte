<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { api, asDocument, saying, type RunScene, type RunSheet } from '../api/client';
  import type { Place } from '../drawing/gestures.svelte';
  import { Viewport } from '../drawing/viewport.svelte';
  import { Asking } from '../piece/asking.svelte';
  import type { Editor } from '../piece/editor.svelte';
  import { pressed, type Keys } from '../shell/keys';
  import Panes from '../shell/Panes.svelte';
  import { Clock } from '../rehearsal/clock.svelte';
  import type { Does, Hand } from './hand';
  import PassParticulars from './PassParticulars.svelte';
  import Rehearsal from './Rehearsal.svelte';
  import RunSheetList from './RunSheetList.svelte';
  import { Sending } from './sending.svelte';
  import SendingPane from './SendingPane.svelte';
  import TimeBar from '../rehearsal/TimeBar.svelte';
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

  const sent = new Sending(untrack(() => editor.id));
  onDestroy(() => sent.close());
  let sending = $state(false);
  /** The pass whose particulars are seen, by its id. */
  let chosen = $state('');
  const scene = $derived(running.scene);
  /** With the sheet as the piece holds it, also where no run can be made of it. */
  const stated = $derived(scene && { ...scene, sheet: editor.piece.run ?? scene.sheet });
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

  /** What a press on the drawing does for the chosen pass. */
  let hand = $state<Hand>('');

  async function byHand(does: Does, at: Place | null, was: Place | null = null): Promise<void> {
    const body = { piece: asDocument(editor.piece), pass_id: chosen, does, at, was };
    const answer = await api.POST('/api/run/by-hand', { body }).catch(() => undefined);
    if (answer?.data) change(answer.data as RunSheet);
    else editor.saying = saying(answer?.error);
  }

  function change(sheet: RunSheet): void {
    editor.change({ run: sheet });
    void editor.finish();
  }

  const moment = $derived(timeline?.at(clock.at));

  const passes = $derived((scene?.passes ?? []).filter((one) => one.runs && one.seconds > 0));
  const spans = $derived(passes.map(({ id, letter, number, title, seconds }) => ({ key: id, label: `${letter}${number}`, title, seconds })));
  const now = $derived(passes.filter((one) => one.begins <= clock.at).at(-1));
  const said = $derived(`${now ? `${now.letter}${now.number} ${now.title}: ` : ''}${moment?.done ?? 0} of ${timeline?.tracks.length ?? 0} lines done`);

  /** While it is sent, the rehearsal shows how far the machine has come. */
  $effect(() => {
    const done = sent.job?.active ? sent.job.done : 0;
    const up = timeline?.tracks[done - 1]?.up;
    if (up !== undefined) untrack(() => clock.go(up));
  });

  const step = (way: 1 | -1) => timeline && clock.go(timeline.beside(clock.at, way));
  const keys: Keys = {
    Escape: () => (hand ? (hand = '') : (chosen = '')),
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

<Panes
  label="Rehearsal"
  wrong={running.wrong}
  wrongTitle={scene ? 'The run is the last one that could be made.' : 'There is no run of this piece.'}
  waiting="Putting the lines in order"
  shown={scene !== undefined}
  saying={editor.saying}
  onsaid={() => (editor.saying = '')}
>
  {#snippet left()}
    <RunSheetList {editor} scene={stated} {clock} bind:chosen bind:sending onchange={change} />
  {/snippet}
  {#if scene && timeline}
    <Rehearsal {view} {scene} {timeline} {clock} {chosen} {hand} onhand={byHand} onshowall={showAll} />
    <TimeBar {clock} of="run" unit="line" {spans} {said} busy={running.busy} onstep={step} />
  {/if}
  {#snippet right()}
    {#if sending}
      <SendingPane {editor} {sent} {scene} {moment} />
    {:else}
      <PassParticulars scene={stated} {chosen} bind:hand onchange={change} onhand={byHand} />
    {/if}
  {/snippet}
</Panes>
