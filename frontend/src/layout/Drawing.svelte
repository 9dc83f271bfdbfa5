<script lang="ts">
  import type { Dimension, Piece, SceneLettering } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import type { Viewport } from '../editor/viewport.svelte';
  import { figure } from '../editor/words';
  import DimensionFigure from './DimensionFigure.svelte';
  import Letters from './Letters.svelte';

  interface Props {
    editor: Editor;
    view: Viewport;
    margin: number;
    onshowall: () => void;
    onshowlettering: () => void;
  }

  let { editor, view, margin, onshowall, onshowlettering }: Props = $props();

  const LEADER = 54;
  const WHEEL = 0.0016;
  const scene = $derived(editor.scene);
  const chosenLettering = $derived(editor.lettering?.id);
  const chosenGuide = $derived(editor.guide?.id);
  let drawing: SVGSVGElement;

  // The whole piece stays in view until the person looks elsewhere.
  $effect(() => {
    if (scene && view.width && view.height && !view.moved && !held) view.show(scene.bounds, margin);
  });

  // ---------------------------------------------------------------- dimensions

  type Shown = { dimension: Dimension; at: [number, number]; label: string; sign: string };

  const shown = $derived.by((): Shown[] => {
    const found: Shown[] = [];
    for (const dimension of scene?.dimensions ?? []) {
      const start = view.toScreen(dimension.start);
      const end = view.toScreen(dimension.end);
      const middle: [number, number] = [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2];
      if (dimension.kind === 'blank-diameter') {
        found.push({ dimension, at: [end[0] + LEADER, end[1] + 14], label: 'Diameter of the blank', sign: '⌀ ' });
      } else if (dimension.kind === 'diameter' && dimension.owner === chosenGuide) {
        found.push({ dimension, at: middle, label: 'Diameter of the guide', sign: '⌀ ' });
      } else if (dimension.owner === chosenLettering) {
        const height = dimension.kind === 'height';
        found.push({
          dimension,
          at: [middle[0] - LEADER, middle[1] + (height ? -10 : 24)],
          label: height ? 'Height of capitals' : 'Standoff from the guide',
          sign: height ? '↕ ' : '⇲ ',
        });
      }
    }
    return found;
  });

  function set(dimension: Dimension, value: number): void {
    if (dimension.kind === 'blank-diameter') {
      editor.change({ blank: { kind: 'disc', diameter: value } });
    } else if (dimension.kind === 'diameter') {
      editor.changeGuide(dimension.owner, { diameter: value });
    } else {
      editor.changeLettering(dimension.owner, { [dimension.field]: value });
    }
    void editor.finish();
  }

  const screenLine = (dimension: Dimension) => {
    const [x1, y1] = view.toScreen(dimension.start);
    const [x2, y2] = view.toScreen(dimension.end);
    return { x1, y1, x2, y2 };
  };

  const guideLength = $derived(scene?.guides.find((one) => one.id === chosenGuide));
  const lengthAt = $derived.by(() => {
    const diameter = shown.find((one) => one.dimension.kind === 'diameter');
    return diameter ? ([diameter.at[0], diameter.at[1] + 34] as const) : undefined;
  });

  // ------------------------------------------------------------------ pointers

  type Held =
    | { kind: 'lettering'; id: string; from: [number, number]; base: Piece; moved: boolean }
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
    const id = (event.target as Element).closest('[data-lettering]')?.getAttribute('data-lettering');
    if (id && event.button === 0 && fingers.size === 1) {
      if (id !== chosenLettering) editor.choose({ kind: 'lettering', id });
      held = { kind: 'lettering', id, from: view.toPiece(...at), base: editor.piece, moved: false };
    } else {
      held = { kind: 'view', x: at[0], y: at[1] };
    }
  }

  function move(event: PointerEvent): void {
    if (!fingers.has(event.pointerId)) return;
    const at = inDrawing(event);
    const before = [...fingers.values()];
    fingers.set(event.pointerId, at);
    if (fingers.size === 2) {
      pinch(before as [[number, number], [number, number]]);
    } else if (held?.kind === 'view') {
      view.pan(at[0] - held.x, at[1] - held.y);
      held = { kind: 'view', x: at[0], y: at[1] };
    } else if (held?.kind === 'lettering') {
      held.moved = true;
      editor.slide({ lettering: held.id, start: held.from, end: view.toPiece(...at) }, held.base);
    }
  }

  function up(event: PointerEvent): void {
    if (held?.kind === 'lettering' && held.moved) {
      const end = view.toPiece(...inDrawing(event));
      editor.slide({ lettering: held.id, start: held.from, end }, held.base, true);
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

  const overflow = (lettering: SceneLettering) => lettering.room < 0;
</script>

<div class="drawing" bind:clientWidth={view.width} bind:clientHeight={view.height}>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex a11y_no_noninteractive_element_interactions -->
  <svg
    bind:this={drawing}
    role="application"
    aria-label="The piece. Arrow keys slide the chosen lettering."
    tabindex="0"
    class:panning={held?.kind === 'view'}
    onpointerdown={down}
    onpointermove={move}
    onpointerup={up}
    onpointercancel={up}
    onwheel={wheel}
    ondblclick={onshowall}
  >
    {#if scene}
      <g transform={view.transform}>
        {#if scene.blank_radius !== null && scene.blank_radius !== undefined}
          <circle class="blank" r={scene.blank_radius} />
          <path
            class="axes"
            d={`M${-scene.blank_radius * 1.04} 0H${scene.blank_radius * 1.04}M0 ${-scene.blank_radius * 1.04}V${scene.blank_radius * 1.04}`}
          />
        {/if}
        {#each scene.letterings as lettering (lettering.id)}
          <!-- svelte-ignore a11y_no_static_element_interactions -->
          <g class="lettering" class:chosen={lettering.id === chosenLettering} data-lettering={lettering.id}>
            <path class="band" class:over={overflow(lettering)} d={lettering.band} />
            <Letters
              shapes={editor.shapes}
              names={lettering.shapes}
              matrices={lettering.matrices}
              drawn={lettering.drawn}
              strokes={lettering.strokes}
            />
          </g>
        {/each}
        {#each scene.guides as guide (guide.id)}
          <path class="guide" class:chosen={guide.id === chosenGuide} d={guide.path} />
        {/each}
      </g>
      <g class="dimensions">
        <defs>
          <marker id="arrow" viewBox="0 0 10 6" refX="10" refY="3" markerWidth="8" markerHeight="5" orient="auto-start-reverse" markerUnits="userSpaceOnUse">
            <path d="M0 0.5 10 3 0 5.5" />
          </marker>
        </defs>
        {#each shown as one (one.dimension.kind + one.dimension.owner)}
          {@const line = screenLine(one.dimension)}
          {#if one.dimension.kind === 'blank-diameter'}
            <line x1={line.x2} y1={line.y2} x2={one.at[0] - 20} y2={one.at[1]} marker-start="url(#arrow)" />
          {:else}
            <line {...line} marker-start="url(#arrow)" marker-end="url(#arrow)" />
            {#if one.dimension.kind !== 'diameter'}
              <line
                class="leader"
                x1={(line.x1 + line.x2) / 2}
                y1={(line.y1 + line.y2) / 2}
                x2={one.at[0]}
                y2={one.at[1]}
              />
            {/if}
          {/if}
        {/each}
      </g>
    {/if}
  </svg>

  {#each shown as one (one.dimension.kind + one.dimension.owner)}
    <DimensionFigure
      dimension={one.dimension}
      at={one.at}
      label={one.label}
      sign={one.sign}
      onset={(value) => set(one.dimension, value)}
    />
  {/each}
  {#if guideLength && lengthAt}
    <span
      class="length"
      style:transform={`translate(${lengthAt[0]}px, ${lengthAt[1]}px) translate(-50%, -50%)`}
    >
      length round <span class="figure">{guideLength.length.toFixed(2)}</span>
    </span>
  {/if}

  <div class="views">
    <button onclick={onshowall} title="Key 0">whole piece</button>
    <button onclick={onshowlettering} disabled={!editor.lettering} title="Key 1">this lettering</button>
    <button aria-label="Closer" title="Key +" onclick={() => view.zoomIn()}>+</button>
    <button aria-label="Farther" title="Key −" onclick={() => view.zoomOut()}>−</button>
    <span class="figure" aria-label="Scale of the view">{figure(Number(view.scale.toPrecision(3)))} px/mm</span>
  </div>
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

  .dimensions line {
    stroke: var(--ink-soft);
    stroke-width: 1px;
  }

  .dimensions marker path {
    fill: none;
    stroke: var(--ink-soft);
  }

  .dimensions {
    pointer-events: none;
  }

  .length {
    position: absolute;
    top: 0;
    left: 0;
    color: var(--ink-soft);
    font-size: 12px;
    pointer-events: none;
    white-space: nowrap;
  }

  .views {
    display: flex;
    position: absolute;
    bottom: 8px;
    left: 8px;
    align-items: center;
    gap: 2px;
    color: var(--ink-soft);
    font-size: 12px;
  }

  .views button {
    border: 0;
    min-width: 24px;
    min-height: 24px;
    padding: 2px 6px;
    background: none;
    color: inherit;
    font: inherit;
    cursor: pointer;
  }

  .views button:hover:not(:disabled) {
    color: var(--verdigris);
    text-decoration: underline;
  }

  .views button:disabled {
    color: var(--line-strong);
  }

  .views span {
    margin-left: 8px;
  }
</style>
