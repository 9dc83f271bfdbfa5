<script lang="ts">
  import type { StripLine } from '../api/client';
  import { exactLength } from '../words/units.svelte';

  /** The gaps of one line as bars against what they are on the straight; a bar can be pulled. */
  interface Props {
    gaps: StripLine['gaps'];
    x: (mm: number) => number;
    y: number;
    width: number;
    /** What the bars are held against. */
    target: string;
    /** Whether letters are so small that hundredths of a mm are said. */
    fine: boolean;
    onhold: (event: PointerEvent, after: number) => void;
  }

  let { gaps, x, y, width, target, fine, onhold }: Props = $props();

  const BAR = 20;
  const TARGET_LABEL = 120;
  const FIGURE = 34;
  const REACH = 9;

  /** All bars as one path: one element to paint while a person drags. */
  function barPath(which: Iterable<number>, all: StripLine['gaps']): string {
    let path = '';
    for (const index of which) {
      const high = Math.max(1, Math.min(BAR * (all.share[index] ?? 0), 1.5 * BAR));
      path += `M${x(all.x[index] ?? 0) - 4} ${y}h8v${high}h-8z`;
    }
    return path;
  }

  /** Figures of the worst gaps, each moved on where it would lie on the one before. */
  const figures = $derived.by(() => {
    let reached = -Infinity;
    return [...gaps.worst]
      .sort((a, b) => (gaps.x[a] ?? 0) - (gaps.x[b] ?? 0))
      .map((index) => {
        reached = Math.max(x(gaps.x[index] ?? 0), reached + FIGURE);
        const excess = gaps.excess[index] ?? 0;
        return { index, at: reached, text: `${excess > 0 ? '+' : '−'}${exactLength(Math.abs(excess), fine ? 2 : 1)}` };
      });
  });

  /** How far the line of the gaps on the straight runs, px. */
  const targets = $derived.by(() => {
    const places = gaps.x.map(x);
    return { from: Math.min(...places) - 24, to: Math.max(...places) + 24 };
  });

  function down(event: PointerEvent): void {
    const at = event.clientX - (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect().left;
    const off = gaps.x.map((one) => Math.abs(x(one) - at));
    const nearest = off.indexOf(Math.min(...off));
    const after = gaps.after[nearest] ?? -1;
    if ((off[nearest] ?? Infinity) <= REACH && after >= 0) onhold(event, after);
  }
</script>

<path class="bars" d={barPath(gaps.x.keys(), gaps)} />
<path class="bars out" d={barPath(gaps.worst, gaps)} />
{#each figures as { index, at, text } (index)}
  <text class="figure out" x={at} y={y + 1.5 * BAR + 12}>{text}</text>
{/each}
<path class="target" d={`M${targets.from} ${y + BAR}H${targets.to}`} />
{#if targets.to + TARGET_LABEL < width}
  <text class="target" x={targets.to + 6} y={y + BAR + 4}>{target}</text>
{/if}
<!-- svelte-ignore a11y_no_static_element_interactions -->
<rect
  class="hold"
  x={targets.from}
  {y}
  width={targets.to - targets.from}
  height={1.5 * BAR}
  onpointerdown={down}
>
  <title>Pull a bar to open or close the gap</title>
</rect>

<style>
  .bars {
    fill: #94b5ac;
  }

  .bars.out {
    fill: var(--ochre);
  }

  text {
    fill: var(--ink-soft);
    font-size: 11px;
    text-anchor: middle;
  }

  text.out {
    fill: var(--ochre);
  }

  path.target {
    stroke: var(--verdigris);
    stroke-dasharray: 3 3;
  }

  text.target {
    fill: var(--verdigris);
    text-anchor: start;
  }

  .hold {
    fill: transparent;
    cursor: col-resize;
  }
</style>
