<script lang="ts">
  import { catalogue } from '../api/catalogue';
  import type { SceneLettering } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import type { Snapshot } from '../piece/snapshot';
  import { Sketch } from './sketch.svelte';
  import type { Viewport } from './viewport.svelte';
  import ViewBar from './ViewBar.svelte';
  import Dimensions from './Dimensions.svelte';
  import Grips from './Grips.svelte';
  import Letters from './Letters.svelte';
  import Measure from './Measure.svelte';
  import SketchBar from './SketchBar.svelte';

  interface Props {
    editor: Editor;
    view: Viewport;
    margin: number;
    onshowall: () => void;
    onshowlettering: () => void;
  }

  let { editor, view, margin, onshowall, onshowlettering }: Props = $props();

  const WHEEL = 0.0016;
  const scene = $derived(editor.live.scene);
  const chosenLettering = $derived(editor.lettering?.id);
  const chosenGuide = $derived(editor.guide?.id);
  const shownGuides = $derived(scene?.guides.filter((one) => one.shown) ?? []);
  const sketch = $derived(new Sketch(editor));
  let drawing: SVGSVGElement;
  let measure = $state<Measure>();

  // The whole piece stays in view until the person looks elsewhere or takes hold of something.
  $effect(() => {
    const busy = held || editor.selection.tool !== 'choose' || editor.holding;
    if (scene && view.width && view.height && !view.moved && !busy) view.show(scene.bounds, margin);
  });

  export function copyMeasure(): void {
    void measure?.copy();
  }

  export function endSketch(): void {
    sketch.finish();
  }

  export function cancelSketch(): boolean {
    if (!sketch.active) return false;
    sketch.cancel();
    return true;
  }

  /** Where the lines of the chosen lettering end on an open guide, and what is left after them. */
  const endings = $derived(
    (scene?.letterings ?? []).flatMap((one) =>
      one.last && one.id === chosenLettering
        ? // Said on the side away from the words, so that it does not lie on them.
          [{ ...one.last, line: one.line, before: (one.matrices.at(-2) ?? -Infinity) > one.last.at[0] }]
        : [],
    ),
  );

  /** The centre lines of the blank. */
  const axes = $derived.by(() => {
    if (!scene?.blank.length) return '';
    const [x0, y0, x1, y1] = scene.blank_bounds;
    const [ox, oy] = [0.02 * (x1 - x0), 0.02 * (y1 - y0)];
    const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
    return `M${x0 - ox} ${cy}H${x1 + ox}M${cx} ${y0 - oy}V${y1 + oy}`;
  });

  // ------------------------------------------------------------------ pointers

  type Letter = { place: number; label: number | undefined };
  type Hold = { id: string; from: [number, number]; base: Snapshot; moved: boolean };
  type Held =
    | ({ kind: 'lettering' | 'letters'; letter: Letter | undefined; more: boolean } & Hold)
    | ({ kind: 'guide' } & Hold)
    | { kind: 'freehand' }
    | { kind: 'view'; x: number; y: number };

  let held = $state.raw<Held>();
  // Two fingers: their last distance and middle.
  const fingers = new Map<number, [number, number]>();

  /** Where the drawing is on the page; asked once a gesture, since asking lays the page out. */
  let corner = { left: 0, top: 0 };

  function inDrawing(event: PointerEvent | WheelEvent): [number, number] {
    return [event.clientX - corner.left, event.clientY - corner.top];
  }

  function down(event: PointerEvent): void {
    if (event.button > 1) return;
    corner = drawing.getBoundingClientRect();
    const at = inDrawing(event);
    fingers.set(event.pointerId, at);
    drawing.setPointerCapture(event.pointerId);
    drawing.focus({ preventScroll: true });
    if (event.button === 0 && fingers.size === 1 && editor.selection.tool !== 'choose') {
      useTool(view.toPiece(...at));
      return;
    }
    const target = event.target as Element;
    const id = target.closest('[data-lettering]')?.getAttribute('data-lettering');
    const guide = target.closest('[data-guide]')?.getAttribute('data-guide');
    const from = view.toPiece(...at);
    if (guide && event.button === 0 && fingers.size === 1) {
      const mine = editor.selection.chosen?.kind === 'guide' && editor.selection.chosen.id === guide;
      if (!mine) editor.selection.choose({ kind: 'guide', id: guide });
      held = mine
        ? { kind: 'guide', id: guide, from, base: editor.base, moved: false }
        : { kind: 'view', x: at[0], y: at[1] };
    } else if (id && event.button === 0 && fingers.size === 1) {
      const mine = id === chosenLettering;
      if (!mine) editor.selection.choose({ kind: 'lettering', id });
      const letter = mine ? letterAt(target) : undefined;
      const onChosen = letter && editor.selection.letters.includes(letter.place);
      held = {
        kind: onChosen ? 'letters' : 'lettering',
        id,
        from,
        base: editor.base,
        moved: false,
        letter,
        more: event.shiftKey,
      };
    } else {
      held = { kind: 'view', x: at[0], y: at[1] };
    }
  }

  /** What a press does while a tool is taken up. */
  function useTool(at: [number, number]): void {
    if (editor.selection.tool === 'measure') {
      editor.selection.mark(at);
    } else if (editor.selection.tool === 'points') {
      sketch.place(at, view.scale);
    } else {
      sketch.draw(at, view.scale);
      held = { kind: 'freehand' };
    }
  }

  function move(event: PointerEvent): void {
    if (editor.selection.tool === 'points' && sketch.active && !fingers.size) {
      corner = drawing.getBoundingClientRect();
      sketch.hover(view.toPiece(...inDrawing(event)), view.scale);
    }
    if (!fingers.has(event.pointerId)) return;
    const at = inDrawing(event);
    const before = [...fingers.values()];
    fingers.set(event.pointerId, at);
    if (fingers.size === 2) {
      pinch(before as [[number, number], [number, number]]);
    } else if (held?.kind === 'view') {
      view.pan(at[0] - held.x, at[1] - held.y);
      held = { kind: 'view', x: at[0], y: at[1] };
    } else if (held?.kind === 'freehand') {
      sketch.draw(view.toPiece(...at), view.scale);
    } else if (held) {
      // From how the piece is when the pull begins: a typed figure may have come since the press.
      if (!held.moved) held.base = editor.base;
      held.moved = true;
      pull(held, view.toPiece(...at), false);
    }
  }

  function pull(what: { kind: 'lettering' | 'letters' | 'guide' } & Hold, end: [number, number], last: boolean): void {
    const { id, from: start, base } = what;
    if (what.kind === 'letters') {
      const letters = editor.selection.letters;
      editor.act({ act: 'pull-letters', lettering: id, letters, start, end }, base, last);
    } else if (what.kind === 'lettering') {
      editor.act({ act: 'slide-after', lettering: id, start, end }, base, last);
    } else {
      editor.act({ act: 'pull', guide: id, grip: 'whole', start, end }, base, last);
    }
  }

  function up(event: PointerEvent): void {
    if (held?.kind === 'freehand') sketch.finishFreehand();
    else if (held && held.kind !== 'view' && held.moved) {
      pull(held, view.toPiece(...inDrawing(event)), true);
    } else if (held?.kind === 'lettering' || held?.kind === 'letters') {
      // A press without a pull chooses a letter of the lettering that was chosen already.
      if (held.letter?.label !== undefined) editor.selection.chooseLabel(held.letter.label);
      else if (held.letter && held.letter.place >= 0) editor.selection.chooseLetter(held.letter.place, held.more);
      else if (!held.letter) editor.selection.letters = [];
    }
    fingers.delete(event.pointerId);
    held = undefined;
  }

  function pinch(before: [[number, number], [number, number]]): void {
    const now = [...fingers.values()] as [[number, number], [number, number]];
    const [was, is] = [before, now].map(([a, b]) => ({
      x: (a[0] + b[0]) / 2,
      y: (a[1] + b[1]) / 2,
      apart: Math.max(Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]), 1),
    })) as [Middle, Middle];
    view.pan(is.x - was.x, is.y - was.y);
    view.zoom(is.apart / was.apart, is.x, is.y);
  }
  type Middle = { x: number; y: number; apart: number };

  function wheel(event: WheelEvent): void {
    event.preventDefault();
    corner = drawing.getBoundingClientRect();
    const factor = 2 ** (-event.deltaY * WHEEL * (event.ctrlKey ? 6 : 1));
    view.zoom(factor, ...inDrawing(event));
  }

  /** A double click ends a line, adds a point to a chosen drawn guide, or shows everything. */
  function twice(event: MouseEvent): void {
    if (editor.selection.tool === 'points') return sketch.finish();
    // The drawing has captured the pointer, so the event itself does not say what it is over.
    const under = document.elementFromPoint(event.clientX, event.clientY);
    const guide = under?.closest('[data-guide]')?.getAttribute('data-guide');
    if (guide && editor.guide?.id === guide && catalogue().kinds[editor.guide.kind]?.nodes) {
      const box = drawing.getBoundingClientRect();
      const near = view.toPiece(event.clientX - box.left, event.clientY - box.top);
      editor.act({ act: 'add-node', guide, near });
    } else {
      onshowall();
    }
  }

  /** Which letters of a line are chosen: letters of the words, or a label of a dial. */
  function chosenOf(lettering: SceneLettering): boolean[] | undefined {
    if (lettering.id !== chosenLettering) return undefined;
    if (editor.selection.label !== undefined) return lettering.labels.map((one) => one === editor.selection.label);
    if (!editor.selection.letters.length) return undefined;
    return lettering.places.map((place) => editor.selection.letters.includes(place));
  }

  /** The letter under the pointer, by its line and its place on it. */
  function letterAt(target: Element): { place: number; label: number | undefined } | undefined {
    const index = Number(target.getAttribute('data-letter') ?? -1);
    const line = Number(target.closest('[data-line]')?.getAttribute('data-line'));
    const found = scene?.letterings.find((one) => one.id === chosenLettering && one.line === line);
    if (index < 0 || !found) return undefined;
    return { place: found.places[index] ?? -1, label: found.labels[index] };
  }

  const overflow = (lettering: SceneLettering) => lettering.room < 0;
</script>

<div class="drawing" bind:clientWidth={view.width} bind:clientHeight={view.height}>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex a11y_no_noninteractive_element_interactions -->
  <svg
    bind:this={drawing}
    role="application"
    aria-label="The piece. Arrow keys slide the chosen lettering or move the chosen guide."
    tabindex="0"
    class:panning={held?.kind === 'view'}
    class:tool={editor.selection.tool !== 'choose'}
    class:pulled={editor.holding}
    onpointerdown={down}
    onpointermove={move}
    onpointerup={up}
    onpointercancel={up}
    onwheel={wheel}
    ondblclick={twice}
  >
    {#if scene}
      <g transform={view.transform}>
        {#each scene.frames as frame (frame.kind)}
          {@const [x0, y0, x1, y1] = frame.box}
          <rect class={frame.kind} x={x0} y={y0} width={x1 - x0} height={y1 - y0} />
        {/each}
        {#if scene.blank.length}
          <path class="blank" fill-rule="evenodd" d={scene.blank.join('')} />
        {/if}
        <path class="axes" d={axes} />
        {#each shownGuides as guide (guide.id)}
          <path class="reach" data-guide={guide.id} d={guide.path} />
        {/each}
        {#each scene.letterings as lettering (`${lettering.id} ${lettering.line}`)}
          <!-- svelte-ignore a11y_no_static_element_interactions -->
          <g class="lettering" class:chosen={lettering.id === chosenLettering} data-lettering={lettering.id} data-line={lettering.line}>
            <path class="band" class:over={overflow(lettering)} d={lettering.band} />
            <Letters
              shapes={editor.live.shapes}
              names={lettering.shapes}
              matrices={lettering.matrices}
              drawn={lettering.drawn}
              strokes={lettering.strokes}
              outlines={lettering.outlines}
              chosen={chosenOf(lettering)}
            />
            {#each lettering.ticks as ticks (ticks.strokes)}
              <path class="ticks" class:stroked={ticks.strokes} d={ticks.path} />
            {/each}
          </g>
        {/each}
        {#each shownGuides as guide (guide.id)}
          <path class="guide" class:chosen={guide.id === chosenGuide} d={guide.path} />
          {#if guide.tight}
            <path class="tight" d={guide.tight} />
          {/if}
        {/each}
        {#each endings as ending (ending.line)}
          {@const [x, y] = ending.at}
          <circle class="last" class:over={ending.left < 0} cx={x} cy={y} r={3 / view.scale} />
        {/each}
        {#if scene.measure}
          <path class="stretch" d={scene.measure.path} />
        {/if}
      </g>
      {#each endings as ending (ending.line)}
        {@const [x, y] = view.toScreen(ending.at)}
        <text class="ending figure" class:over={ending.left < 0} class:before={ending.before} x={x + (ending.before ? -10 : 10)} y={y + (ending.before ? 4 : 14)}>
          {Math.abs(ending.left).toFixed(1)} {ending.left < 0 ? 'over' : 'left'}
        </text>
      {/each}
      {#each scene.measure?.points ?? [] as point, index (index)}
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
    {/if}
  </svg>

  {#if editor.selection.tool === 'choose'}
    <Grips {editor} {view} />
    <Dimensions {editor} {view} />
  {:else if editor.selection.tool === 'measure'}
    <Measure bind:this={measure} {editor} found={scene?.measure} />
  {:else}
    <SketchBar {editor} {sketch} />
  {/if}

  <ViewBar {view} {onshowall}>
    <button onclick={onshowlettering} disabled={!editor.lettering} title="Key 1">this lettering</button>
  </ViewBar>
</div>

<style>
  .drawing {
    position: relative;
    flex: 1;
    min-height: 0;
    overflow: hidden;
  }

  svg {
    display: block;
    width: 100%;
    height: 100%;
    cursor: grab;
    touch-action: none;
    user-select: none;
  }

  svg.panning {
    cursor: grabbing;
  }

  svg:focus-visible {
    outline-offset: -3px;
  }

  .blank {
    fill: var(--sheet);
    stroke: var(--line-strong);
    stroke-width: 1px;
    vector-effect: non-scaling-stroke;
  }

  .axes {
    fill: none;
    stroke: var(--line);
    stroke-width: 1px;
    stroke-dasharray: 10 3 2 3;
    vector-effect: non-scaling-stroke;
  }

  .guide {
    fill: none;
    stroke: var(--line-strong);
    stroke-width: 1px;
    stroke-dasharray: 14 3 2 3;
    vector-effect: non-scaling-stroke;
    pointer-events: none;
  }

  .guide.chosen {
    stroke: var(--verdigris);
    stroke-width: 1.3px;
  }

  .lettering {
    cursor: ew-resize;
  }

  .ticks {
    fill: var(--ink);
  }

  .ticks.stroked {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.3px;
    vector-effect: non-scaling-stroke;
  }

  .last {
    fill: var(--verdigris);
  }

  .ending {
    fill: var(--verdigris);
    stroke: var(--sheet);
    stroke-width: 3px;
    paint-order: stroke;
    font-size: 11px;
    pointer-events: none;
  }

  .ending.before {
    text-anchor: end;
  }

  .ending.over {
    fill: var(--brick);
  }

  .last.over {
    fill: var(--brick);
  }

  .band {
    fill: transparent;
  }

  .lettering:hover .band {
    fill: #1f736512;
  }

  .lettering.chosen .band {
    fill: var(--verdigris-soft);
  }

  .lettering.chosen .band.over {
    fill: #f3e0dc;
  }

  .reach {
    fill: none;
    stroke: transparent;
    stroke-width: 14px;
    vector-effect: non-scaling-stroke;
    pointer-events: stroke;
    cursor: pointer;
  }

  .sheet,
  .area {
    fill: none;
    stroke: var(--line-strong);
    stroke-width: 1px;
    vector-effect: non-scaling-stroke;
  }

  .sheet {
    fill: #f6f3ea;
  }

  .area {
    stroke-dasharray: 8 5;
  }

  .tight {
    fill: none;
    stroke: var(--ochre);
    stroke-width: 3px;
    stroke-opacity: 0.7;
    vector-effect: non-scaling-stroke;
    pointer-events: none;
  }

  .stretch {
    fill: none;
    stroke: var(--verdigris);
    stroke-width: 4px;
    stroke-opacity: 0.5;
    vector-effect: non-scaling-stroke;
  }

  .mark,
  .way {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.4px;
  }

  /* What is pulled has the pointer: nothing else needs to be found under it on every move. */
  svg.pulled * {
    pointer-events: none;
  }

  svg.tool {
    cursor: crosshair;
  }
</style>
