<svelte:options namespace="svg" />

<script lang="ts">
  /** What lies over the drawing in sizes of the screen: badges, endings, notices, measured and drawn points. */
  import { catalogue } from '../api/catalogue';
  import type { Editor } from '../piece/editor.svelte';
  import { exactLength, said } from '../words/units.svelte';
  import type { Figures } from './figures.svelte';
  import type { Sketch } from './sketch.svelte';
  import type { Viewport } from './viewport.svelte';

  interface Props {
    editor: Editor;
    view: Viewport;
    figures: Figures;
    sketch: Sketch;
  }

  let { editor, view, figures, sketch }: Props = $props();

  /** Where letters are concerned by what is said of them. */
  const noticed = $derived(
    editor.holding
      ? []
      : editor.findings.flatMap((one) =>
          (one.places ?? []).map((at) => ({
            severity: one.severity,
            message: one.message,
            at,
          })),
        ),
  );
</script>

{#each figures.badges as { guide, output, at } (guide)}
  {@const [x, y] = at}
  <g class="output">
    <title>This guide is {catalogue().outputs[output]?.words}</title>
    <rect x={x - 7} y={y - 7} width="14" height="14" />
    <text {x} y={y + 4}>{catalogue().outputs[output]?.letter}</text>
  </g>
{/each}
{#each figures.endings as { line, left, at } (line)}
  <text class="ending figure" class:over={left < 0} x={at[0]} y={at[1] + 4}>
    {exactLength(Math.abs(left), 1)} {left < 0 ? 'over' : 'left'}
  </text>
{/each}
{#each noticed as one, index (index)}
  {@const [x, y] = view.toScreen(one.at)}
  <g class={`notice ${one.severity}`} transform={`translate(${x} ${y})`}>
    <title>{said(one.message)}</title>
    <path d="M0 -7L7 6H-7Z" />
    <text y="4">!</text>
  </g>
{/each}
{#each editor.live.scene?.measure?.points ?? [] as point, index (index)}
  {@const [x, y] = view.toScreen(point)}
  <path class="mark" d={`M${x - 7} ${y}h14M${x} ${y - 7}v14`} />
{/each}
{#if editor.selection.tool === 'freehand' && sketch.active}
  <polyline class="way" points={sketch.points.map((one) => view.toScreen(one).join(',')).join(' ')} />
{/if}
{#if editor.selection.tool === 'points'}
  {#each sketch.points as point, index (index)}
    {@const [x, y] = view.toScreen(point)}
    <path class="mark" d={`M${x - 5} ${y}h10M${x} ${y - 5}v10`} />
  {/each}
{/if}

<style>
  .output rect {
    fill: var(--sheet);
    stroke: var(--ink-soft);
  }

  .output text {
    fill: var(--ink);
    font: 600 10px 'IBM Plex Mono', monospace;
    text-anchor: middle;
  }

  .ending {
    fill: var(--verdigris);
    stroke: var(--sheet);
    stroke-width: 3px;
    paint-order: stroke;
    font-size: 11px;
    text-anchor: middle;
    pointer-events: none;
  }

  .ending.over {
    fill: var(--brick);
  }

  .notice {
    pointer-events: none;
  }

  .notice path {
    fill: var(--ochre);
    stroke: var(--sheet);
    stroke-width: 1.5px;
  }

  .notice.fault path {
    fill: var(--brick);
  }

  .notice text {
    fill: var(--sheet);
    font: 700 9px 'IBM Plex Sans', sans-serif;
    text-anchor: middle;
  }

  .mark,
  .way {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.4px;
  }
</style>
