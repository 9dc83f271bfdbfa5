<script lang="ts">
  import type { Dimension } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import type { Viewport } from './viewport.svelte';
  import DimensionFigure from './DimensionFigure.svelte';
  import { freePlaces, spotsOf } from './free_places';
  import { exactLength, said, units } from '../words/units.svelte';

  let { editor, view }: { editor: Editor; view: Viewport } = $props();

  const LEADER = 46;
  const CLEAR = 26;
  const DIGIT = 8;
  /** Directions that are tried for a line that may be turned. */
  const TURNS = 24;

  type Shown = { dimension: Dimension; at: XY; start: XY; end: XY; leader: boolean };
  type XY = [number, number];

  const key = (one: Dimension): string => `${one.of} ${one.owner} ${one.field}`;

  /** The dimensions of the blank and of what is chosen, with a place for each figure. */
  const shown = $derived.by((): Shown[] => {
    const found: Shown[] = [];
    for (const dimension of editor.live.scene?.dimensions ?? []) {
      const mine =
        dimension.of === 'blank' ||
        (dimension.of === 'guide' && dimension.owner === editor.guide?.id) ||
        (dimension.of === 'lettering' && dimension.owner === editor.lettering?.id);
      if (!mine) continue;
      const [start, end] = freeLine(dimension);
      const leader = start[0] === end[0] && start[1] === end[1];
      const share = dimension.at ?? 0.5;
      const at: XY = leader
        ? [end[0] + LEADER, end[1] + 14]
        : [start[0] + share * (end[0] - start[0]), start[1] + share * (end[1] - start[1])];
      if (dimension.of === 'lettering') {
        at[0] -= LEADER;
        at[1] += dimension.field === 'height' ? -10 : 24;
      }
      found.push({ dimension, at, start, end, leader });
    }
    return apart(found);
  });

  /** What figures keep off: the letters. */
  const spots = $derived(spotsOf(editor.live.around?.letterings ?? [], view));

  /** The ends of a dimension's line; one that may be turned about its middle is turned off letters. */
  function freeLine({ start, end, turns }: Dimension): [XY, XY] {
    const [one, two] = [view.toScreen(start), view.toScreen(end)];
    if (!turns) return [one, two];
    const [cx, cy] = [(one[0] + two[0]) / 2, (one[1] + two[1]) / 2];
    const [dx, dy] = [(two[0] - one[0]) / 2, (two[1] - one[1]) / 2];
    let best: { met: number; ends: [XY, XY] } | undefined;
    for (let step = 0; step < TURNS && best?.met !== 0; step += 1) {
      // From where it was, to and fro.
      const turn = (Math.PI / TURNS) * (step % 2 ? (step + 1) / 2 : -step / 2);
      const [x, y] = [dx * Math.cos(turn) - dy * Math.sin(turn), dx * Math.sin(turn) + dy * Math.cos(turn)];
      const ends: [XY, XY] = [[cx - x, cy - y], [cx + x, cy + y]];
      const size = Math.hypot(x, y) || 1;
      const met = spots.filter(([a, b, reach]) => {
        const along = Math.abs(((a - cx) * x + (b - cy) * y) / size);
        return along < size + reach && Math.abs(((a - cx) * y - (b - cy) * x) / size) < reach + 3;
      }).length;
      if (!best || met < best.met) best = { met, ends };
    }
    return best?.ends ?? [one, two];
  }

  const wide = (one: Shown): number =>
    DIGIT * (one.dimension.value.toFixed(3).length + (one.dimension.solved ? 6 : 3));

  /** Figures are moved off letters and off each other. */
  function apart(all: Shown[]): Shown[] {
    const wanted = all.map((one) => ({ at: one.at, half: [wide(one) / 2, CLEAR / 2] as const }));
    const places = freePlaces(wanted, spots, [view.width, view.height]);
    return all.map((one, index) => ({ ...one, at: [...places[index]!] }));
  }

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
        turns: false,
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
    {#if one.leader}
      <line
        x1={one.end[0]}
        y1={one.end[1]}
        x2={one.at[0] - 16}
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
