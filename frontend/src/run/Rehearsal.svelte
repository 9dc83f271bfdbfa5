<script lang="ts">
  import type { RunScene } from '../api/client';
  import { Gestures } from '../drawing/gestures.svelte';
  import type { Viewport } from '../drawing/viewport.svelte';
  import ViewBar from '../drawing/ViewBar.svelte';
  import type { Clock } from './clock.svelte';
  import { Painting } from './painting';
  import type { Timeline } from './timeline';

  interface Props {
    view: Viewport;
    scene: RunScene;
    timeline: Timeline;
    clock: Clock;
    onshowall: () => void;
  }

  let { view, scene, timeline, clock, onshowall }: Props = $props();

  let canvas = $state<HTMLCanvasElement>();
  const gestures = $derived(new Gestures(view, { take: () => undefined }));
  const moment = $derived(timeline.at(clock.at));
  const painting = $derived(
    new Painting(scene, timeline, {
      scale: view.scale, x: view.x, y: view.y, width: view.width, height: view.height,
    }),
  );
  const [x, y] = $derived([view.x + view.scale * moment.x, view.y + view.scale * moment.y]);
  const down = $derived(moment.track !== undefined);
  const zero = $derived([view.x, view.y] as const);

  $effect(() => {
    if (canvas) painting.paint(canvas, moment);
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
    {@attach gestures.on}
  >
    <g class="zero">
      <path d={`M${zero[0] - 9} ${zero[1]}H${zero[0] + 16}M${zero[0]} ${zero[1] + 9}V${zero[1] - 16}`} />
      <text x={zero[0] - 8} y={zero[1] + 20}>zero</text>
    </g>
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
