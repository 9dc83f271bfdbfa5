<script lang="ts">
  import { catalogue, labelOf } from '../api/catalogue';
  import type { SceneLettering } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { Figures } from './figures.svelte';
  import { Gestures } from './gestures.svelte';
  import { Holds } from './holds';
  import { Sketch } from './sketch.svelte';
  import type { Viewport } from './viewport.svelte';
  import SampleBar from './SampleBar.svelte';
  import ViewBar from './ViewBar.svelte';
  import Dimensions from './Dimensions.svelte';
  import Grips from './Grips.svelte';
  import Letters from './Letters.svelte';
  import Marks from './Marks.svelte';
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

  const scene = $derived(editor.live.scene);
  const chosenLettering = $derived(editor.lettering?.id);
  const chosenGuide = $derived(editor.guide?.id);
  const shownGuides = $derived(scene?.guides.filter((one) => one.shown) ?? []);
  const figures = $derived(new Figures(editor, view));
  const sketch = $derived(new Sketch(editor));
  const holds = $derived(new Holds(editor, view, () => sketch));
  const gestures = $derived(
    new Gestures(view, {
      take: (event, at) => holds.take(event, at),
      hover: (place) => {
        if (editor.selection.tool !== 'points' || !sketch.active) return;
        sketch.hover(view.toPiece(...place()), view.scale);
      },
    }),
  );
  let measure = $state<Measure>();

  // The whole piece stays in view until the person looks elsewhere or takes hold of something.
  $effect(() => {
    const busy = gestures.busy || editor.selection.tool !== 'choose' || editor.holding;
    if (scene) view.lie = scene.lie;
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

  /** What is being worked out, where it takes a while. */
  const busyWith = $derived.by(() => {
    const { lettering } = editor;
    if (lettering?.fit) return labelOf('fit', lettering.fit.kind);
    return lettering && lettering.spacing !== 'font' ? 'gaps' : 'the layout';
  });

  /** The centre lines of the blank. */
  const axes = $derived.by(() => {
    if (!scene?.blank.length) return '';
    const [x0, y0, x1, y1] = scene.blank_bounds;
    const [ox, oy] = [0.02 * (x1 - x0), 0.02 * (y1 - y0)];
    const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
    return `M${x0 - ox} ${cy}H${x1 + ox}M${cx} ${y0 - oy}V${y1 + oy}`;
  });

  /** A double click ends a line, adds a point to a chosen drawn guide, or shows everything. */
  function twice(event: MouseEvent): void {
    if (editor.selection.tool === 'points') return sketch.finish();
    // The drawing has captured the pointer, so the event itself does not say what it is over.
    const under = document.elementFromPoint(event.clientX, event.clientY);
    const guide = under?.closest('[data-guide]')?.getAttribute('data-guide');
    if (guide && editor.guide?.id === guide && catalogue().kinds[editor.guide.kind]?.nodes) {
      editor.act({ act: 'add-node', guide, near: view.toPiece(...gestures.placeOf(event)) });
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

  const overflow = (lettering: SceneLettering) => lettering.room < 0;
</script>

<div class="drawing" bind:clientWidth={view.width} bind:clientHeight={view.height}>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex a11y_no_noninteractive_element_interactions -->
  <svg
    role="application"
    aria-label="The piece. Arrow keys slide the chosen lettering or move the chosen guide."
    tabindex="0"
    class:panning={gestures.panning}
    class:tool={editor.selection.tool !== 'choose'}
    class:pulled={editor.holding}
    ondblclick={twice}
    {@attach gestures.on}
  >
    {#if scene}
      <g transform={view.sheetTransform}>
        {#each scene.frames as frame (frame.kind)}
          {@const [x0, y0, x1, y1] = frame.box}
          <rect class={frame.kind} x={x0} y={y0} width={x1 - x0} height={y1 - y0} />
        {/each}
      </g>
      <g transform={view.transform}>
        {#if scene.blank.length}
          <path class={`blank ${editor.piece.edge ?? ''}`} fill-rule="evenodd" d={scene.blank.join('')} />
        {/if}
        <path class="axes" d={axes} />
        {#each shownGuides as guide (guide.id)}
          <path class="reach" data-guide={guide.id} d={guide.path} />
        {/each}
        {#each scene.letterings as lettering (`${lettering.id} ${lettering.line}`)}
          <!-- svelte-ignore a11y_no_static_element_interactions -->
          <g class="lettering" class:chosen={editor.selection.isChosen({ kind: 'lettering', id: lettering.id })} data-lettering={lettering.id} data-line={lettering.line}>
            <path class="band" class:over={overflow(lettering)} d={lettering.band} />
            {#each Object.entries(lettering.label_boxes) as [label, box] (label)}
              <path class="box" data-label={label} d={box} />
            {/each}
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
          <path
            class={`guide ${figures.outputs.get(guide.id) ?? ''}`}
            class:chosen={guide.id === chosenGuide || editor.selection.isChosen({ kind: 'guide', id: guide.id })}
            d={guide.path}
          />
          {#if guide.tight}
            <path class="tight" d={guide.tight} />
          {/if}
        {/each}
        {#each figures.endings as ending (ending.line)}
          {@const [x, y] = ending.last}
          <circle class="last" class:over={ending.left < 0} cx={x} cy={y} r={3 / view.scale} />
        {/each}
        {#if scene.measure}
          <path class="stretch" d={scene.measure.path} />
        {/if}
      </g>
      <Marks {editor} {view} {figures} {sketch} />
    {/if}
  </svg>

  {#if editor.selection.tool === 'choose'}
    <Grips {editor} {view} />
    {#if editor.selection.figures}<Dimensions {editor} {view} shown={figures.dimensions} />{/if}
  {:else if editor.selection.tool === 'measure'}
    <Measure bind:this={measure} {editor} found={scene?.measure} />
  {:else}
    <SketchBar {editor} {sketch} />
  {/if}

  {#if editor.live.busy}
    <p class="busy" role="status">working out: {busyWith} …</p>
  {/if}

  <ViewBar {view} {onshowall}>
    <button onclick={onshowlettering} disabled={!editor.lettering} title="Key 1">this lettering</button>
    <SampleBar {editor} />
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

  /* What the tool follows is told apart by its line and a letter, not by colour alone. */
  .guide.cut,
  .blank.cut {
    stroke: var(--ink);
    stroke-width: 1.4px;
    stroke-dasharray: none;
  }

  .guide.draw,
  .blank.draw {
    stroke: var(--ink);
    stroke-width: 1.4px;
    stroke-dasharray: 1.5 3;
  }

  .guide.engrave,
  .blank.engrave {
    stroke: var(--ink);
    stroke-width: 2.4px;
    stroke-dasharray: 8 2;
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

  .last.over {
    fill: var(--brick);
  }

  .band,
  .box {
    fill: transparent;
  }

  .lettering.chosen .box:hover {
    fill: #1f736522;
  }

  .busy {
    position: absolute;
    right: 12px;
    bottom: 28px;
    margin: 0;
    padding: 4px 10px;
    background: var(--sheet);
    color: var(--ink-soft);
    font-size: 12px;
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

  /* What is pulled has the pointer: nothing else needs to be found under it on every move. */
  svg.pulled * {
    pointer-events: none;
  }

  svg.tool {
    cursor: crosshair;
  }
</style>
