<script lang="ts">
  import type { Dimension } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import type { Viewport } from './viewport.svelte';
  import DimensionFigure from './DimensionFigure.svelte';
  import type { ShownDimension } from './figures.svelte';
  import { isPoint } from './free_lines';
  import { exactLength, said, units } from '../words/units.svelte';

  let { editor, view, shown }: { editor: Editor; view: Viewport; shown: readonly ShownDimension[] } = $props();

  type XY = [number, number];

  const key = (one: Dimension): string => `${one.of} ${one.owner} ${one.field}`;

  /** The coordinates of a chosen point, beside it. */
  const coordinates = $derived.by((): { dimension: Dimension; at: XY }[] => {
    const guide = editor.selection.chosen?.kind === 'guide' ? editor.guide : undefined;
    const point = editor.live.scene?.grips.find(
      (one) => one.kind === 'point' && one.index === editor.selection.node,
    );
    if (!guide || !point) return [];
    const [x, y] = view.toScreen(point.at);
    return [
      { field: 'across', label: 'Point, across', sign: '→ ', value: point.at[0], dy: 26 },
      { field: 'up', label: 'Point, up', sign: '↑ ', value: -point.at[1], dy: 52 },
    ].map(({ dy, ...rest }) => ({
      dimension: {
        ...rest,
        of: 'guide',
        owner: guide.id,
        unit: 'mm',
        start: point.at,
        end: point.at,
        at: 0.5,
        solved: false,
        off: 'left',
      },
      at: [x + 52, y + dy],
    }));
  });

  function place(field: string, value: number): void {
    const [across, up] = coordinates.map((one) => one.dimension.value);
    if (!editor.guide || editor.selection.node === undefined) return;
    const at: XY = field === 'across' ? [value, -(up ?? 0)] : [across ?? 0, -value];
    editor.act({ act: 'place-node', guide: editor.guide.id, index: editor.selection.node, at });
  }

  function set(dimension: Dimension, value: number): void {
    const changed = { [dimension.field]: value };
    if (dimension.of === 'blank') {
      editor.change({ blank: { ...editor.piece.blank!, ...changed } });
    } else if (dimension.of === 'guide') {
      editor.changeGuide(dimension.owner, changed);
    } else {
      editor.changeLettering(dimension.owner, changed);
    }
    void editor.finish();
  }

  const length = $derived(
    editor.selection.chosen ? editor.live.scene?.guides.find((one) => one.id === editor.guide?.id) : undefined,
  );
</script>

<svg aria-hidden="true">
  <defs>
    <marker
      id="arrow"
      viewBox="0 0 10 6"
      refX="10"
      refY="3"
      markerWidth="8"
      markerHeight="5"
      orient="auto-start-reverse"
      markerUnits="userSpaceOnUse"
    >
      <path d="M0 0.5 10 3 0 5.5" />
    </marker>
  </defs>
  {#each shown as one (key(one.dimension))}
    {#if isPoint(one)}
      <line
        x1={one.end[0]}
        y1={one.end[1]}
        x2={one.at[0] - (one.at[0] < one.end[0] ? -16 : 16)}
        y2={one.at[1]}
        marker-start="url(#arrow)"
      />
    {:else}
      <line
        x1={one.start[0]}
        y1={one.start[1]}
        x2={one.end[0]}
        y2={one.end[1]}
        marker-start="url(#arrow)"
        marker-end="url(#arrow)"
      />
      {#each one.witnesses as [from, to], index (index)}
        <line class="leader" x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} />
      {/each}
      {#if one.dimension.of === 'lettering'}
        <line
          class="leader"
          x1={(one.start[0] + one.end[0]) / 2}
          y1={(one.start[1] + one.end[1]) / 2}
          x2={one.at[0]}
          y2={one.at[1]}
        />
      {/if}
    {/if}
  {/each}
</svg>

{#each shown as one (key(one.dimension))}
  <DimensionFigure
    dimension={one.dimension}
    at={one.at}
    onset={(value) => set(one.dimension, value)}
  />
{/each}
{#each coordinates as one (one.dimension.field)}
  <DimensionFigure
    dimension={one.dimension}
    at={one.at}
    onset={(value) => place(one.dimension.field, value)}
  />
{/each}
{#if length}
  <p class="length" class:narrow={view.width < 520}>
    {length.closed ? 'length round' : 'length'} <span class="figure">{exactLength(length.length, 3)}</span> {units.sign}
    {#if length.note}<b>{said(length.note)}</b>{/if}
  </p>
{/if}

<style>
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
  }

  line {
    stroke: var(--ink-soft);
    stroke-width: 1px;
  }

  marker path {
    fill: none;
    stroke: var(--ink-soft);
  }

  .length {
    position: absolute;
    right: 12px;
    bottom: 8px;
    margin: 0;
    color: var(--ink-soft);
    font-size: 12px;
    pointer-events: none;
  }

  .length.narrow {
    bottom: 28px;
  }

  .length b {
    display: block;
    color: var(--ochre);
    font-weight: 400;
  }
</style>
