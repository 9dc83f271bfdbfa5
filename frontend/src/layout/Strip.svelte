<script lang="ts">
  import type { Piece, StripLine } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import { figure, guideName } from '../editor/words';
  import Letters from './Letters.svelte';

  let { editor }: { editor: Editor } = $props();

  const SIDE = 52;
  const RULER = 22;
  const TALLEST = 44;
  const BAR = 20;
  const TARGET_LABEL = 120;

  let width = $state(0);
  let height = $state(0);

  const strip = $derived(editor.around?.strip ?? undefined);
  const guide = $derived(editor.piece.guides.find((one) => one.id === strip?.guide));
  const chosen = $derived(strip?.lines.find((one) => one.id === editor.lettering?.id));
  const upright = $derived(strip?.lines.filter((one) => one.upright) ?? []);
  const turned = $derived(strip?.lines.filter((one) => !one.upright) ?? []);
  const gaps = $derived(chosen?.gaps);

  const marks = $derived(
    editor.around?.measure?.guide === strip?.guide
      ? (editor.around?.measure?.stations ?? []).map((one) => (against ? length - one : one))
      : [],
  );

  // Figures that stay the same while a lettering slides: what hangs on them is not made anew.
  const length = $derived(strip?.length ?? 0);
  const against = $derived(strip?.against ?? false);
  const tallest = $derived(Math.max(...(strip?.lines.map((one) => one.height) ?? []), 1e-6));
  const foot = $derived(Math.max(0, chosen?.foot ?? 0));

  /** Pixels a millimetre: the guide from side to side, but letters no taller than there is room. */
  const scale = $derived(
    length && width ? Math.min((width - 2 * SIDE) / length, TALLEST / tallest) : 1,
  );
  const left = $derived((width - scale * length) / 2);
  const line = $derived(RULER + 12 + TALLEST);
  const bars = $derived(line + 10 + foot * scale);
  const lane = $derived(height - 26);
  const x = (mm: number) => left + scale * mm;

  /** All bars as one path: one element to paint while a person drags. */
  function barPath(which: Iterable<number>, all: StripLine['gaps']): string {
    let path = '';
    for (const index of which) {
      const high = Math.max(1, Math.min(BAR * (all.share[index] ?? 0), 1.5 * BAR));
      path += `M${x(all.x[index] ?? 0) - 4} ${bars}h8v${high}h-8z`;
    }
    return path;
  }

  /** How far the line of the gaps on the straight runs, px. */
  const targets = $derived.by(() => {
    const places = gaps?.x.map(x) ?? [];
    return { from: Math.min(...places) - 24, to: Math.max(...places) + 24 };
  });

  /** Ticks of the ruler: a 1-2-5 step that leaves labels room. */
  const ticks = $derived.by(() => {
    const least = 64 / scale;
    const power = 10 ** Math.floor(Math.log10(least));
    const step = [1, 2, 5, 10].map((one) => one * power).find((one) => one >= least) ?? 10 * power;
    const labels: { at: number; text: string }[] = [];
    let path = '';
    for (let station = 0; station <= length + 1e-9; station += step / 5) {
      const at = x(against ? length - station : station);
      const labelled = Math.abs(station / step - Math.round(station / step)) < 1e-6;
      path += `M${at} ${RULER}v${labelled ? -7 : -4}`;
      if (labelled) labels.push({ at, text: figure(station) });
    }
    return { path, labels };
  });

  const namesOf = (id: string) => editor.around?.letterings.find((one) => one.id === id);
  const linePlace = (one: StripLine) =>
    one.upright
      ? `matrix(${scale} 0 0 ${scale} ${left} ${line})`
      : `matrix(${scale} 0 0 ${scale} ${left} ${lane - scale * laneMiddle(one)})`;
  /** Letters in the other lane hang head down from the guide; their middle is brought to the lane's. */
  const laneMiddle = (one: StripLine) => one.foot + one.height / 2;

  // ------------------------------------------------------------------ dragging

  let held: { id: string; x: number; base: Piece; way: number; moved: boolean } | undefined;

  function down(event: PointerEvent): void {
    if (editor.tool === 'measure') {
      const box = (event.currentTarget as Element).getBoundingClientRect();
      const along = (event.clientX - box.left - left) / scale;
      editor.mark(against ? length - along : along);
      return;
    }
    const target = (event.target as Element).closest('[data-lettering]');
    const id = target?.getAttribute('data-lettering');
    if (!id || event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    // What reads the other way slides back along its reading when it is pulled forward.
    const way = strip?.lines.find((one) => one.id === id)?.upright ? 1 : -1;
    held = { id, x: event.clientX, base: editor.piece, way, moved: false };
  }

  function slide(event: PointerEvent, last: boolean): void {
    if (!held || (!held.moved && event.clientX === held.x)) return;
    if (!held.moved) held.base = editor.piece;
    held.moved = true;
    const by = (held.way * (event.clientX - held.x)) / scale;
    editor.act({ act: 'slide-by', lettering: held.id, by }, held.base, last);
  }

  function up(event: PointerEvent): void {
    if (!held) return;
    const { id, moved } = held;
    slide(event, true);
    held = undefined;
    if (!moved && id !== editor.lettering?.id) editor.choose({ kind: 'lettering', id });
  }
</script>

<section aria-label="Strip">
  <header>
    <strong>{guide ? `${guideName(guide)}, pulled straight` : 'Strip'}</strong>
    {#if gaps?.x.length}
      <span>
        gaps are {Math.round(gaps.usual * 100)} % of what the face has on the straight, uneven by
        {Math.round(gaps.spread * 100)} %{#if gaps.worst.length}; {gaps.worst.length} stand{gaps.worst.length === 1 ? 's' : ''} out{/if}
      </span>
    {/if}
    {#if turned.length}<span>below: what reads the other way</span>{/if}
    <span class="keys">← → 0.1 mm · with Shift 1 mm</span>
  </header>
  <div class="body" bind:clientWidth={width} bind:clientHeight={height}>
    {#if strip && width}
      <!-- svelte-ignore a11y_no_static_element_interactions -->
      <svg
        {width}
        {height}
        onpointerdown={down}
        onpointermove={(event) => slide(event, false)}
        onpointerup={up}
        onpointercancel={up}
      >
        <rect class="field" x={x(0)} y={RULER} width={scale * length} height={line - RULER + 1} />
        <path class="tick" d={ticks.path} />
        {#each ticks.labels as label (label.text)}
          <text class="figure" x={label.at} y={RULER - 10}>{label.text}</text>
        {/each}
        <path class="edge" d={`M${x(0)} ${RULER}H${x(length)}`} />
        <path class="guide" d={`M${x(0)} ${line}H${x(length)}`} />

        {#each strip.bends as [from, to] (from)}
          <path class="tight" d={`M${x(from)} ${line + 3}H${Math.max(x(to), x(from) + 3)}`}>
            <title>bends more tightly here than the letters can follow</title>
          </path>
        {/each}
        {#each strip.corners as corner (corner)}
          <path class="corner" d={`M${x(corner)} ${RULER}V${line}M${x(corner) - 4} ${line + 6}l4 -6 4 6`}>
            <title>corner</title>
          </path>
        {/each}
        {#each marks as mark (mark)}
          <path class="measured" d={`M${x(mark)} ${RULER - 8}V${line + 8}`} />
        {/each}
        {#each strip.free as [from, to] (from)}
          {@const middle = (from + to) / 2}
          {#if scale * (to - from) > 84}
            <g class="room">
              <path d={`M${x(from) + 2} ${line - 30}H${x(to) - 2}`} />
              <path d={`M${x(from) + 8} ${line - 33}l-6 3 6 3M${x(to) - 8} ${line - 33}l6 3-6 3`} />
              <text class="figure" x={x(middle)} y={line - 36}>room {(to - from).toFixed(1)}</text>
            </g>
          {/if}
        {/each}

        <!-- What crosses the seam is cut off at both ends: a nested viewport cuts cheaply. -->
        <svg
          x={strip.closed ? x(0) : 0}
          width={strip.closed ? scale * length : width}
          {height}
          viewBox={strip.closed
            ? `${x(0)} 0 ${scale * length} ${height}`
            : `0 0 ${width} ${height}`}
        >
          {#each [...turned, ...upright] as one (one.id)}
            {@const names = namesOf(one.id)}
            {#if names}
              <!-- A closed guide shows what crosses the seam at both of its ends. -->
              {#each one.over_seam ? [-length, 0, length] : [0] as shift (shift)}
                <g
                  class="line"
                  class:chosen={one.id === chosen?.id}
                  class:other={!one.upright}
                  data-lettering={one.id}
                  transform={`translate(${scale * shift} 0) ${linePlace(one)}`}
                >
                  <Letters
                    shapes={editor.shapes}
                    names={names.shapes}
                    matrices={one.matrices}
                    drawn={names.drawn}
                    strokes={names.strokes}
                  />
                </g>
              {/each}
            {/if}
          {/each}
        </svg>

        {#if gaps?.x.length}
          <path class="bars" d={barPath(gaps.x.keys(), gaps)} />
          <path class="bars out" d={barPath(gaps.worst, gaps)} />
          {#each gaps.worst as index (index)}
            <text class="figure out" x={x(gaps.x[index] ?? 0)} y={bars + 1.5 * BAR + 12}>
              {(gaps.excess[index] ?? 0) > 0 ? '+' : '−'}{Math.abs(gaps.excess[index] ?? 0).toFixed(1)}
            </text>
          {/each}
          <path class="target" d={`M${targets.from} ${bars + BAR}H${targets.to}`} />
          {#if targets.to + TARGET_LABEL < width}
            <text class="target" x={targets.to + 6} y={bars + BAR + 4}>gap on the straight</text>
          {/if}
        {/if}

        {#if strip.closed}
          {#each [0, length] as end (end)}
            <path class="seam" d={`M${x(end)} ${RULER - 8}V${height - 4}`} />
          {/each}
          <text class="seam end" x={x(0) - 6} y={line + 4}>seam</text>
          <text class="seam" x={x(length) + 6} y={line + 4}>seam</text>
        {/if}
      </svg>
    {:else if editor.around}
      <p>No guide yet: add one at the left, and it is pulled straight here.</p>
    {/if}
  </div>
</section>

<style>
  section {
    display: flex;
    grid-column: 1 / -1;
    flex-direction: column;
    border-top: 1px solid var(--line);
    overflow: hidden;
  }

  header {
    display: flex;
    gap: 20px;
    padding: 6px 16px 0;
    color: var(--ink-soft);
    font-size: 13px;
    white-space: nowrap;
  }

  header strong {
    color: var(--ink);
    font-weight: 600;
  }

  .keys {
    margin-left: auto;
  }

  .body {
    flex: 1;
    min-height: 0;
  }

  .body p {
    padding: 24px 16px;
    color: var(--ink-soft);
  }

  svg {
    display: block;
    touch-action: none;
    user-select: none;
  }

  text {
    fill: var(--ink-soft);
    font-size: 11px;
    text-anchor: middle;
  }

  .field {
    fill: var(--sheet);
  }

  .tick,
  .edge,
  .room path {
    fill: none;
    stroke: var(--line-strong);
  }

  .guide {
    stroke: var(--verdigris);
    stroke-dasharray: 14 3 2 3;
  }

  .corner,
  .measured {
    fill: none;
    stroke: var(--ink-soft);
    stroke-dasharray: 2 2;
  }

  .measured {
    stroke: var(--verdigris);
    stroke-dasharray: none;
    stroke-width: 1.6px;
  }

  .tight {
    stroke: var(--ochre);
    stroke-width: 4px;
  }

  .line {
    cursor: ew-resize;
    pointer-events: bounding-box;
    opacity: 0.62;
  }

  .line.chosen {
    opacity: 1;
  }

  .bars {
    fill: #94b5ac;
  }

  .bars.out {
    fill: var(--ochre);
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

  path.seam {
    stroke: var(--ink);
    stroke-width: 1.4px;
  }

  text.seam {
    fill: var(--ink);
    text-anchor: start;
  }

  text.end {
    text-anchor: end;
  }
</style>
