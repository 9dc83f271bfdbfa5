<script lang="ts">
  import type { RunScene } from '../api/client';
  import { untrack } from 'svelte';
  import { Gestures, type Hold, type Place } from '../drawing/gestures.svelte';
  import type { Viewport } from '../drawing/viewport.svelte';
  import ViewBar from '../drawing/ViewBar.svelte';
  import type { Clock } from '../rehearsal/clock.svelte';
  import type { Hand, OnHand } from './hand';
  import { Painting } from './painting';
  import type { Timeline } from './timeline';

  interface Props {
    view: Viewport;
    scene: RunScene;
    timeline: Timeline;
    clock: Clock;
    /** The pass whose beginnings and tabs are seen. */
    chosen: string;
    hand: Hand;
    onhand: OnHand;
    onshowall: () => void;
  }

  let { view, scene, timeline, clock, chosen, hand, onhand, onshowall }: Props = $props();

  /** How near a press must be to take hold of something, px. */
  const GRASP = 9;
  const style = getComputedStyle(document.documentElement);
  const paper = { ground: style.getPropertyValue('--ground'), part: style.getPropertyValue('--verdigris-soft'), carved: style.getPropertyValue('--ink-soft') };
  let canvas = $state<HTMLCanvasElement>();
  const pass = $derived(scene.passes.find((one) => one.id === chosen));
  const handles = $derived([
    ...(pass?.starts ?? []).map((at) => ({ does: 'begin' as const, at })),
    ...(pass?.tabs ?? []).map((at) => ({ does: 'tab' as const, at })),
  ]);
  /** A beginning or tab that is being pulled: where it was, and where it is by now. */
  let pulled = $state.raw<{ does: 'begin' | 'tab'; was: Place; at: Place }>();
  const gestures = new Gestures(untrack(() => view), { take });

  const onSheet = ([px, py]: Place): Place => [(px - view.x) / view.scale, (py - view.y) / view.scale];
  const seen = (place: readonly number[]): Place => [
    view.x + view.scale * place[0]!,
    view.y + view.scale * place[1]!,
  ];
  const near = (one: Place, two: Place) => Math.max(Math.abs(one[0] - two[0]), Math.abs(one[1] - two[1])) <= GRASP;

  /** A press pulls a beginning or a tab, or does what the hand does where it is let go. */
  function take(_: PointerEvent, from: Place): Hold | undefined {
    const hit = handles.find((one) => near(seen(one.at), from));
    let to = from;
    if (hit) {
      const was: Place = [hit.at[0]!, hit.at[1]!];
      return {
        move: (at) => {
          to = at;
          pulled = { does: hit.does, was, at: onSheet(at) };
        },
        end: () => {
          pulled = undefined;
          // Pressed and let go where it is, it is taken away.
          void onhand(hit.does, near(to, from) ? null : onSheet(to), was);
        },
      };
    }
    if (!hand || !chosen) return undefined;
    const does = hand;
    return { move: (at) => (to = at), end: () => near(to, from) && void onhand(does, onSheet(to)) };
  }

  const moment = $derived(timeline.at(clock.at));
  const painting = $derived(
    new Painting(scene, timeline, {
      scale: view.scale, x: view.x, y: view.y, width: view.width, height: view.height,
    }, paper),
  );
  const [x, y] = $derived([view.x + view.scale * moment.x, view.y + view.scale * moment.y]);
  const down = $derived(moment.track !== undefined);
  const zero = $derived([view.x, view.y] as const);

  $effect(() => {
    if (canvas) painting.paint(canvas, moment, clock.at);
  });
</script>

<div class="drawing" bind:clientWidth={view.width} bind:clientHeight={view.height}>
  <svg class="below" aria-hidden="true">
    <g transform={view.sheetTransform}><path class="blank" d={scene.blank} fill-rule="evenodd" /></g>
  </svg>
  <canvas bind:this={canvas} aria-hidden="true"></canvas>
  <svg
    class="above"
    role="img"
    aria-label={`The run at ${clock.at.toFixed(1)} seconds: ${moment.done} of ${timeline.tracks.length} lines done`}
    class:panning={gestures.panning}
    class:working={hand !== ''}
    {@attach gestures.on}
  >
    <g class="zero">
      <path d={`M${zero[0] - 9} ${zero[1]}H${zero[0] + 16}M${zero[0]} ${zero[1] + 9}V${zero[1] - 16}`} />
      <text x={zero[0] - 8} y={zero[1] + 20}>zero</text>
    </g>
    {#each handles as one (`${one.does} ${one.at.join()}`)}
      {@const at = seen(pulled?.does === one.does && pulled.was.join() === one.at.join() ? pulled.at : one.at)}
      {#if one.does === 'begin'}
        <path class="handle" d={`M${at[0] - 6} ${at[1] - 6}L${at[0] + 6} ${at[1]}L${at[0] - 6} ${at[1] + 6}Z`}><title>Begins here: pull it, or press it to take it away</title></path>
      {:else}
        <rect class="handle" x={at[0] - 5} y={at[1] - 5} width="10" height="10"><title>A tab: pull it, or press it to take it away</title></rect>
      {/if}
    {/each}
    <circle class="tool" class:down cx={x} cy={y} r={down ? 4 : 6} />
  </svg>
  <ViewBar {view} {onshowall} />
</div>

<style>
  .drawing {
    position: relative;
    flex: 1;
    min-height: 0;
    overflow: hidden;
  }

  svg,
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }

  .above {
    cursor: grab;
    touch-action: none;
    user-select: none;
  }

  .above.panning {
    cursor: grabbing;
  }

  .blank {
    fill: var(--sheet);
    stroke: var(--line-strong);
    stroke-width: 1px;
    vector-effect: non-scaling-stroke;
  }

  .above.working {
    cursor: crosshair;
  }

  .handle {
    fill: var(--sheet);
    stroke: var(--verdigris);
    stroke-width: 2px;
    cursor: move;
  }

  .zero path {
    fill: none;
    stroke: var(--ink-soft);
    stroke-width: 1px;
  }

  .zero text {
    fill: var(--ink-soft);
    font-size: 11px;
  }

  .tool {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.5px;
    pointer-events: none;
  }

  .tool.down {
    fill: var(--ink);
  }
</style>
