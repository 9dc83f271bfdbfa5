<script lang="ts">
  /** Thread on the cloth, as far as it is sewn, with the hoop and the needle. */
  import { untrack } from 'svelte';
  import type { StitchScene } from '../api/client';
  import { Gestures, type Hold, type Place } from '../drawing/gestures.svelte';
  import { pull } from '../drawing/holds';
  import Letters from '../drawing/Letters.svelte';
  import ViewBar from '../drawing/ViewBar.svelte';
  import type { Viewport } from '../drawing/viewport.svelte';
  import type { Editor } from '../piece/editor.svelte';
  import type { Beside, Line } from './beside.svelte';
  import type { Columns, Which } from './columns.svelte';
  import type { Needle, SewingTime } from './sewing';
  import { ThreadPainting } from './threadPainting';

  interface Props {
    editor: Editor;
    view: Viewport;
    scene: StitchScene;
    time: SewingTime;
    needle: Needle;
    needles: boolean;
    chosen: string;
    onshowall: () => void;
    /** A press on thread chooses its lettering; beside it, none. */
    onchoose: (lettering: string) => void;
    beside: Beside;
    columns: Columns;
    /** Whether thread is being made. */
    busy: boolean;
  }

  let { editor, view, scene, time, needle, needles, chosen, onshowall, onchoose, beside, columns, busy }: Props = $props();

  /** How near a press must be to a needle point, px. */
  const NEAR = 8;
  let canvas = $state<HTMLCanvasElement>();
  const gestures = new Gestures(untrack(() => view), {
    /** Thread is taken hold of; beside it a press moves the view, let go where it was it chooses none. */
    take: (_, from) => {
      const end = handles.find((one) => Math.hypot(one.x - from[0], one.y - from[1]) <= NEAR);
      if (end) return pulling(end, from);
      const under = lettering(from);
      if (under) return sliding(under, from);
      let last = from;
      let moved = false;
      return {
        move: (at) => {
          moved ||= Math.hypot(at[0] - from[0], at[1] - from[1]) > NEAR;
          if (!moved) return;
          view.pan(at[0] - last[0], at[1] - last[1]);
          last = at;
        },
        end: () => !moved && onchoose(''),
      };
    },
  });

  /** The lettering that is slid: its letters are shown until its thread has come. */
  let slid = $state('');
  const letters = $derived((editor.live.scene?.letterings ?? []).filter(({ id }) => id === slid));

  /** Slide a lettering along its guide; pressed and let go, it is chosen. */
  function sliding(id: string, from: Place): Hold {
    const slide = pull(
      editor, view, from, (start, end) => ({ act: 'slide-after', lettering: id, start, end }), () => onchoose(id),
    );
    let moved = false;
    return {
      move: (to) => {
        moved ||= Math.hypot(to[0] - from[0], to[1] - from[1]) > NEAR;
        if (!moved) return;
        slid = id;
        slide.move(to);
      },
      end: slide.end,
    };
  }

  // The thread of the piece as it is now: what was slid is sewn.
  $effect(() => {
    if (!busy && !editor.holding) slid = '';
  });

  function lettering([px, py]: Place): string {
    const [x, y, reach] = [(px - view.x) / view.scale, (py - view.y) / view.scale, NEAR / view.scale];
    const hit = scene.threads.find(({ points }) =>
      points.some((_, at) => at % 2 === 0 && Math.abs(points[at]! - x) < reach && Math.abs(points[at + 1]! - y) < reach),
    );
    return hit?.lettering ?? '';
  }

  const seen = (place: readonly number[]): Place => [view.x + view.scale * place[0]!, view.y + view.scale * place[1]!];
  const lines = $derived(columns.seen?.columns ?? []);
  /** The ends of the lines across the letter's columns. */
  const handles = $derived(
    lines.flatMap((some, column) =>
      some.flatMap((ends, line) =>
        ends.map((at, side) => {
          const [x, y] = seen(at);
          return { column, line, side: side as 0 | 1, x, y };
        }),
      ),
    ),
  );
  let pulled = $state.raw<{ which: Which; to: Place }>();

  /** Pull an end of a line; pressed and let go, the line is taken away. */
  function pulling({ column, line, side }: Which, from: Place) {
    const which = { column, line, side };
    let to = from;
    return {
      move: (at: Place) => {
        to = at;
        pulled = { which, to };
      },
      end: () => {
        pulled = undefined;
        const moved = Math.hypot(to[0] - from[0], to[1] - from[1]) > 3;
        if (moved) void columns.pull(which, [(to[0] - view.x) / view.scale, (to[1] - view.y) / view.scale]);
        else void columns.removeLine(which);
      },
    };
  }

  const isPulled = (column: number, line: number, side: number) =>
    pulled?.which.column === column && pulled.which.line === line && pulled.which.side === side;
  const endOf = (column: number, line: number, side: 0 | 1): Place =>
    isPulled(column, line, side) ? pulled!.to : seen(lines[column]![line]![side]);

  const path = ({ points }: Line, move = [0, 0]) =>
    `M${points.map((one, at) => (one + move[at % 2]!).toFixed(2)).join(' ')}`;
  /** A file that is looked at lies at the right of the piece. */
  const fileAt = $derived.by(() => {
    const all = (beside.file?.lines ?? []).flatMap((one) => one.points);
    const [xs, ys] = [all.filter((_, at) => at % 2 === 0), all.filter((_, at) => at % 2 === 1)];
    const least = (some: number[]) => some.reduce((one, two) => Math.min(one, two), Infinity);
    return [scene.bounds[2] + 10 - least(xs), scene.bounds[1] - least(ys)];
  });

  const painting = $derived(
    new ThreadPainting(scene, time, { scale: view.scale, x: view.x, y: view.y, width: view.width, height: view.height }, needles),
  );
  const [x, y] = $derived([view.x + view.scale * needle.x, view.y + view.scale * needle.y]);
  const sewn = $derived(needle.done < time.total);

  $effect(() => {
    if (canvas) painting.paint(canvas, needle.done);
  });
</script>

<div class="drawing" bind:clientWidth={view.width} bind:clientHeight={view.height}>
  <svg class="below" aria-hidden="true">
    <g transform={view.sheetTransform}>
      <path class="blank" d={scene.blank} fill-rule="evenodd" />
      {#each scene.hoopings as one, index (index)}
        <rect class="hoop" x={one.box[0]} y={one.box[1]} width={one.box[2] - one.box[0]} height={one.box[3] - one.box[1]} rx="4" />
      {/each}
    </g>
  </svg>
  <canvas bind:this={canvas} class:behind={slid} aria-hidden="true"></canvas>
  {#if slid}
    <svg class="below" aria-hidden="true">
      <g data-slid={slid} transform={view.transform}>
        {#each letters as one (one.line)}
          <Letters
            shapes={editor.live.shapes}
            names={one.shapes}
            matrices={one.matrices}
            drawn={one.drawn}
            strokes={one.strokes}
            outlines={one.outlines}
            chosen={one.drawn}
          />
        {/each}
      </g>
    </svg>
  {/if}
  <svg class="below" aria-hidden="true">
    <g transform={view.sheetTransform}>
      {#each beside.lines as one, index (index)}<path class="came" d={path(one)} />{/each}
      {#each beside.file?.lines ?? [] as one, index (index)}<path class="file" d={path(one, fileAt)} stroke={one.colour} stroke-width={scene.thread} />{/each}
    </g>
  </svg>
  <svg
    class="above"
    role="img"
    aria-label={`${needle.done} of ${time.total} stitches sewn`}
    class:panning={gestures.panning}
    {@attach gestures.on}
  >
    {#each scene.hoopings as { centre, box, marks }, index (index)}
      {@const at = [view.x + view.scale * centre[0], view.y + view.scale * centre[1]]}
      <path class="cross" d={`M${at[0]! - 7} ${at[1]}h14M${at[0]} ${at[1]! - 7}v14`}><title>The hoop’s centre</title></path>
      <text class="name" x={view.x + view.scale * box[0] + 6} y={view.y + view.scale * box[1] - 5}>{scene.hoopings.length > 1 ? `Hoop ${index + 1}` : 'Hoop'}</text>
      {#each marks as mark (mark.join())}
        <circle class="mark" cx={view.x + view.scale * mark[0]} cy={view.y + view.scale * mark[1]} r="5"><title>A mark that is sewn in both hoopings</title></circle>
      {/each}
    {/each}
    {#each lines as some, column (column)}
      {#each some as _, line (line)}
        {@const [one, two] = [endOf(column, line, 0), endOf(column, line, 1)]}
        <path class="across" class:end={line === 0 || line === some.length - 1} d={`M${one.join(' ')}L${two.join(' ')}`} />
        {#each [one, two] as at, side (side)}
          <circle class="handle" cx={at[0]} cy={at[1]} r="5"><title>Pull it to turn the thread or to move the column’s end; press it to take the line away</title></circle>
        {/each}
      {/each}
    {/each}
    {#if sewn}<path class="needle" d={`M${x} ${y}l-5 -16h10z`} />{/if}
    {#if chosen}<title>{scene.letterings.find((one) => one.wish.of === chosen)?.name}</title>{/if}
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

  .behind {
    opacity: 0.35;
  }

  .blank {
    fill: var(--sheet);
    stroke: var(--line-strong);
    stroke-width: 1px;
    vector-effect: non-scaling-stroke;
  }

  .hoop {
    fill: none;
    stroke: var(--verdigris);
    stroke-width: 1.5px;
    stroke-dasharray: 6 3;
    vector-effect: non-scaling-stroke;
  }

  .cross,
  .mark {
    fill: none;
    stroke: var(--verdigris);
    stroke-width: 1px;
  }

  .name {
    fill: var(--ink-soft);
    font-size: 11px;
  }

  .came,
  .file {
    fill: none;
    stroke-linejoin: round;
  }

  .came {
    stroke: var(--ink);
    stroke-width: 1px;
    vector-effect: non-scaling-stroke;
  }

  .across {
    stroke: var(--ink);
    stroke-width: 1.5px;
    stroke-dasharray: 4 3;
  }

  .across.end {
    stroke-dasharray: none;
    stroke-width: 2px;
  }

  .handle {
    fill: var(--sheet);
    stroke: var(--verdigris);
    stroke-width: 2px;
    cursor: move;
  }

  .needle {
    fill: var(--sheet);
    stroke: var(--ink);
    stroke-width: 1.5px;
    pointer-events: none;
  }
</style>
