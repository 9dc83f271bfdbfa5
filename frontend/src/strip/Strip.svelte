<script lang="ts">
  import type { StripLine } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import type { Snapshot } from '../piece/snapshot';
  import Letters from '../drawing/Letters.svelte';
  import { untrack } from 'svelte';
  import Sizer from './Sizer.svelte';
  import StripGaps from './StripGaps.svelte';
  import StripHead from './StripHead.svelte';
  import { RULER, StripView } from './strip_view.svelte';
  import { exactLength, stepFor } from '../words/units.svelte';

  let { editor, tall = $bindable() }: { editor: Editor; tall: number } = $props();

  /** How much is shown beyond the seam, px. */
  const OVER = 42;

  const strip = $derived(editor.live.around?.strip ?? undefined);
  const guide = $derived(editor.piece.guides.find((one) => one.id === strip?.guide));
  const mine = $derived(strip?.lines.filter((one) => one.id === editor.lettering?.id) ?? []);
  /** The line whose gaps are shown: that of the chosen letter, or the first one. */
  const chosen = $derived(
    mine.find((one) => one.places.some((place) => editor.selection.letters.includes(place))) ?? mine[0],
  );
  const upright = $derived(strip?.lines.filter((one) => one.upright) ?? []);
  const turned = $derived(strip?.lines.filter((one) => !one.upright) ?? []);
  const gaps = $derived(chosen?.gaps);
  const spacing = $derived(editor.selection.before ? 'font' : (editor.lettering?.spacing ?? 'font'));

  const marks = $derived(
    editor.live.around?.measure?.guide === strip?.guide
      ? (editor.live.around?.measure?.stations ?? []).map((one) => (against ? length - one : one))
      : [],
  );

  // Figures that stay the same while a lettering slides: what hangs on them is not made anew.
  const length = $derived(strip?.length ?? 0);
  const against = $derived(strip?.against ?? false);
  const filled = $derived(strip?.filled ?? false);
  const laid = $derived({
    length,
    against,
    filled,
    laps: upright.length > 1,
    above: Math.max(...upright.map((one) => one.height - one.foot), 1e-6),
    below: Math.max(...upright.map((one) => one.foot), 0),
  });
  const view = new StripView(() => laid);
  const { x } = view;
  const { width, height, scale, left, line, bars, lane } = $derived(view);

  const namesOf = (line: StripLine) =>
    editor.live.around?.letterings.find((one) => one.id === line.id && one.line === line.line);

  /** Bars over the letters that were changed by hand. */
  const handMarks = $derived(
    mine
      .filter((one) => one.upright)
      .flatMap((one) =>
        one.by_hand.map((changed, index) => {
          if (!changed) return '';
          const [from, to] = [one.starts[index] ?? 0, one.ends[index] ?? 0];
          return `M${x(from) + 2} ${line + scale * (one.foot - one.height) - 5}H${x(to) - 2}`;
        }),
      )
      .join(''),
  );

  /** The letter of the chosen lettering at a place on the strip, by its place in the words. */
  function letterAt(event: PointerEvent): number | undefined {
    const at = view.stationAt(event);
    const key = (event.target as Element).closest('[data-line]')?.getAttribute('data-line');
    const over = mine.find((one) => String(one.line) === key);
    for (const shift of over?.over_seam ? [-length, 0, length] : [0]) {
      const index = over?.starts.findIndex(
        (from, number) => from + shift <= at && at <= (over.ends[number] ?? 0) + shift,
      );
      if (over && index !== undefined && index >= 0) return over.places[index];
    }
    return undefined;
  }
  /** The label of the chosen dial at a place on the strip. */
  function labelAt(event: PointerEvent): number | undefined {
    const at = view.stationAt(event);
    const labels = mine[0] && namesOf(mine[0])?.labels;
    if (!labels?.length) return undefined;
    const near = (mine[0]?.starts ?? []).map((from, index) => {
      const to = mine[0]?.ends[index] ?? from;
      return Math.max(from - at, at - to, 0);
    });
    const least = Math.min(...near);
    return least * scale < 6 ? labels[near.indexOf(least)] : undefined;
  }

  const linePlace = (one: StripLine) =>
    one.upright
      ? `matrix(${scale} 0 0 ${scale} ${left} ${line})`
      : `matrix(${scale} 0 0 ${scale} ${left} ${lane - scale * laneMiddle(one)})`;
  /** Letters in the other lane hang head down from the guide; their middle is brought to the lane's. */
  const laneMiddle = (one: StripLine) => one.foot + one.height / 2;

  /** The whole guide again when another one is pulled straight. */
  $effect(() => {
    void strip?.guide;
    untrack(() => view.showAll());
  });

  // ------------------------------------------------------------------ dragging

  interface Held {
    kind: 'lettering' | 'letters' | 'gap';
    id: string;
    x: number;
    y: number;
    base: Snapshot;
    way: number;
    moved: boolean;
    letter: number | undefined;
    /** The label of a dial that the letter belongs to. */
    label: number | undefined;
  }
  let held: Held | undefined;

  /** What reads the other way goes back along its reading when it is pulled forward. */
  const wayOf = (id: string) => (strip?.lines.find((one) => one.id === id)?.upright ? 1 : -1);

  function down(event: PointerEvent): void {
    if (editor.selection.tool === 'measure') {
      const along = view.stationAt(event);
      editor.selection.mark(against ? length - along : along);
      return;
    }
    const target = (event.target as Element).closest('[data-lettering]');
    const id = target?.getAttribute('data-lettering');
    if (!id || event.button !== 0) return;
    const letter = id === editor.lettering?.id ? letterAt(event) : undefined;
    const onChosen = letter !== undefined && editor.selection.letters.includes(letter);
    hold(event, onChosen ? 'letters' : 'lettering', id, letter);
  }

  function hold(event: PointerEvent, kind: Held['kind'], id: string, letter?: number): void {
    event.stopPropagation();
    (event.currentTarget as Element).closest('svg.strip')?.setPointerCapture(event.pointerId);
    const { clientX: x, clientY: y } = event;
    const label = kind === 'gap' ? undefined : labelAt(event);
    held = { kind, id, x, y, base: editor.base, way: wayOf(id), moved: false, letter, label };
  }

  function holdGap(event: PointerEvent, after: number): void {
    if (event.button !== 0 || !editor.lettering) return;
    editor.selection.letters = [after];
    hold(event, 'gap', editor.lettering.id, after);
  }

  function slide(event: PointerEvent, last: boolean): void {
    if (!held || (!held.moved && event.clientX === held.x && event.clientY === held.y)) return;
    if (!held.moved) held.base = editor.base;
    held.moved = true;
    const by = (held.way * (event.clientX - held.x)) / scale;
    const up = (-held.way * (event.clientY - held.y)) / scale;
    if (held.kind === 'gap') editor.nudge({ gap: by }, held.base, last);
    else if (held.kind === 'letters') editor.nudge({ along: by, across: up }, held.base, last);
    else editor.act({ act: 'slide-by', lettering: held.id, by }, held.base, last);
  }

  function up(event: PointerEvent): void {
    if (!held) return;
    const { id, moved, letter, label } = held;
    slide(event, true);
    held = undefined;
    if (moved) return;
    if (id !== editor.lettering?.id) editor.selection.choose({ kind: 'lettering', id });
    else if (label !== undefined) editor.selection.chooseLabel(label);
    else if (letter !== undefined && letter >= 0) editor.selection.chooseLetter(letter, event.shiftKey);
  }
</script>

<section aria-label="Strip">
  <Sizer bind:tall />
  <StripHead {editor} {guide} {gaps} {filled} turned={turned.length > 0} zoom={view.zoom} onzoom={(by) => (by ? view.closer(by) : view.showAll())} />
  <div class="body" bind:clientWidth={view.width} bind:clientHeight={view.height}>
    {#if strip && width}
      <!-- svelte-ignore a11y_no_static_element_interactions -->
      <svg
        class="strip"
        {width}
        {height}
        onwheel={view.wheel}
        onpointerdown={down}
        onpointermove={(event) => slide(event, false)}
        onpointerup={up}
        onpointercancel={up}
      >
        <rect class="field" x={x(0)} y={RULER} width={scale * length} height={filled ? bars - RULER : line - RULER + 1} />
        <path class="tick" d={view.ruler.path} />
        {#each view.ruler.labels as label, index (index)}
          <text class="figure" x={label.at} y={RULER - 10}>{label.text}</text>
        {/each}
        <path class="edge" d={`M${x(0)} ${RULER}H${x(length)}`} />
        {#if !filled}<path class="guide" d={`M${x(0)} ${line}H${x(length)}`} />{/if}

        {#each strip.bends as [from, to], index (index)}
          <path class="tight" d={`M${x(from)} ${line + 3}H${Math.max(x(to), x(from) + 3)}`}>
            <title>bends more tightly here than the letters can follow</title>
          </path>
        {/each}
        {#each strip.corners as corner, index (index)}
          <path class="corner" d={`M${x(corner)} ${RULER}V${line}M${x(corner) - 4} ${line + 6}l4 -6 4 6`}>
            <title>corner</title>
          </path>
        {/each}
        {#each marks as mark, index (index)}
          <path class="measured" d={`M${x(mark)} ${RULER - 8}V${line + 8}`} />
        {/each}
        {#each strip.free as [from, to], index (index)}
          {@const middle = (from + to) / 2}
          {#if scale * (to - from) > 84}
            <g class="room">
              <path d={`M${x(from) + 2} ${line - 30}H${x(to) - 2}`} />
              <path d={`M${x(from) + 8} ${line - 33}l-6 3 6 3M${x(to) - 8} ${line - 33}l6 3-6 3`} />
              <text class="figure" x={x(middle)} y={line - 36}>room {exactLength(to - from, 1)}</text>
            </g>
          {/if}
        {/each}

        <!-- Beyond the seam as much is shown as letters that cross it need: a nested viewport cuts cheaply. -->
        <svg
          x={strip.closed ? x(0) - OVER : 0}
          width={strip.closed ? scale * length + 2 * OVER : width}
          {height}
          viewBox={strip.closed
            ? `${x(0) - OVER} 0 ${scale * length + 2 * OVER} ${height}`
            : `0 0 ${width} ${height}`}
        >
          {#each [...turned, ...upright] as one (`${one.id} ${one.line}`)}
            {@const names = namesOf(one)}
            {#if names}
              <!-- A closed guide shows what crosses the seam at both of its ends. -->
              {#each one.over_seam ? [-length, 0, length] : [0] as shift (shift)}
                <g
                  class="line"
                  class:chosen={one.id === editor.lettering?.id}
                  class:other={!one.upright}
                  data-lettering={one.id}
                  data-line={one.line}
                  transform={`translate(${scale * shift} 0) ${linePlace(one)}`}
                >
                  <Letters
                    shapes={editor.live.shapes}
                    names={one.shapes.length ? one.shapes : names.shapes}
                    matrices={one.matrices}
                    drawn={names.drawn}
                    strokes={names.strokes}
                    chosen={editor.selection.letters.length && one.id === editor.lettering?.id
                      ? one.places.map((place) => editor.selection.letters.includes(place))
                      : undefined}
                  />
                </g>
              {/each}
            {/if}
          {/each}
        </svg>

        {#if handMarks}<path class="by-hand" d={handMarks} />{/if}
        {#if gaps?.x.length}
          <StripGaps
            {gaps}
            {x}
            y={bars}
            {width}
            target={spacing === 'font' ? 'gap on the straight' : 'gap wanted'}
            fine={stepFor(editor.lettering?.height) < 0.1}
            onhold={holdGap}
          />
        {/if}

        {#if strip.closed}
          {#each [0, length] as end (end)}
            <path class="seam" d={`M${x(end)} ${RULER - 8}V${height - 4}`} />
          {/each}
          <text class="seam end" x={x(0) - 6} y={RULER - 4}>seam</text>
          <text class="seam" x={x(length) + 6} y={RULER - 4}>seam</text>
        {/if}
      </svg>
    {:else if editor.live.around}
      <p>No guide yet: add one at the left, and it is pulled straight here.</p>
    {/if}
  </div>
</section>

<style>
  section {
    position: relative;
    display: flex;
    grid-column: 1 / -1;
    flex-direction: column;
    border-top: 1px solid var(--line);
    overflow: hidden;
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

  .by-hand {
    stroke: var(--verdigris);
    stroke-width: 2px;
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
