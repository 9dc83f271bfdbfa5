<script lang="ts">
  import { api, type Finding, type ProofBridge, type ProofScene } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import type { Snapshot } from '../piece/snapshot';
  import type { Viewport } from '../drawing/viewport.svelte';
  import ViewBar from '../drawing/ViewBar.svelte';
  import BridgeCard from './BridgeCard.svelte';
  import { changeBridge } from './bridges';

  interface Props {
    editor: Editor;
    view: Viewport;
    scene: ProofScene;
    looked: Finding | undefined;
    onshowall: () => void;
  }

  let { editor, view, scene, looked, onshowall }: Props = $props();

  const NUMBERED = 60;
  let panning = $state<{ x: number; y: number }>();
  let bridge = $state.raw<ProofBridge>();

  const bridges = $derived(scene.layers.flatMap((layer) => layer.bridges));
  const shown = $derived(
    scene.layers.filter((layer) => (scene.layer ? layer.id === scene.layer : layer.kind !== 'border')),
  );
  const borders = $derived(scene.layers.filter((layer) => layer.kind === 'border'));
  const places = $derived(looked?.places ?? []);
  const chosen = $derived(
    bridge &&
      bridges.find((one) => one.letter === bridge?.letter && one.number === bridge.number
        && one.lettering === bridge.lettering),
  );

  /** A bridge that is being pulled; the newest place waits while an answer is on its way. */
  let pulling = $state.raw<{ bridge: ProofBridge; base: Snapshot; moved: boolean }>();
  let angle: number | undefined;
  let asking = false;
  let newest: [number, number] | undefined;

  function grasp(event: PointerEvent, one: ProofBridge): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    bridge = one;
    if (one.letter < 0) return;
    pulling = { bridge: one, base: editor.base, moved: false };
    angle = undefined;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }

  function pull(event: PointerEvent): void {
    if (!pulling) return;
    const { left, top } = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
    newest = view.toPiece(event.clientX - left, event.clientY - top);
    if (Math.abs(event.movementX) + Math.abs(event.movementY) > 0) pulling = { ...pulling, moved: true };
    if (pulling.moved && !asking) void ask();
  }

  async function ask(): Promise<void> {
    asking = true;
    while (newest && pulling) {
      const to = newest;
      const { bridge: held, base } = pulling;
      newest = undefined;
      const answer = await api
        .POST('/api/proof/bridge', { body: { bridge: held, to } })
        .catch(() => undefined);
      if (answer?.data === undefined) continue;
      angle = answer.data;
      changeBridge(editor, held, { angle }, base, !pulling);
    }
    asking = false;
  }

  function release(): void {
    const held = pulling;
    pulling = undefined;
    // One that is still asked for is the last one when it has been answered.
    if (held?.moved && !asking && angle !== undefined) {
      changeBridge(editor, held.bridge, { angle }, held.base);
    }
  }

  function wheel(event: WheelEvent): void {
    event.preventDefault();
    view.zoom(Math.exp(-event.deltaY / 400), event.offsetX, event.offsetY);
  }

  function down(event: PointerEvent): void {
    if (event.button !== 0) return;
    panning = { x: event.clientX, y: event.clientY };
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    bridge = undefined;
  }

  function move(event: PointerEvent): void {
    if (!panning) return;
    view.pan(event.clientX - panning.x, event.clientY - panning.y);
    panning = { x: event.clientX, y: event.clientY };
  }
</script>

<div class="drawing" bind:clientWidth={view.width} bind:clientHeight={view.height}>
  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <svg
    role="group"
    aria-label={`The piece as material: ${scene.parts.length} parts`}
    class:panning
    onwheel={wheel}
    onpointerdown={down}
    onpointermove={move}
    onpointerup={() => (panning = undefined)}
  >
    <defs>
      <pattern id="fallen" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform={`rotate(45) scale(${1 / view.scale})`}>
        <rect width="6" height="6" class="gone" />
        <line x1="0" y1="0" x2="0" y2="6" class="hatching" />
      </pattern>
    </defs>
    <g transform={view.transform}>
      <path class="sheet" class:plain={scene.use === 'lines'} d={scene.sheet} fill-rule="evenodd" />
      <path class="stays" d={scene.stays} fill-rule={scene.use === 'kept' ? 'nonzero' : 'evenodd'} />
      <path class="loose" d={scene.loose} fill-rule="evenodd" />
      {#if !scene.layer}
        {#each borders as border (border.id)}
          <path class="border" d={border.paths} />
        {/each}
      {/if}
      {#each shown as layer (layer.id)}
        <path class="stroke" d={layer.strokes} />
        {#if scene.use === 'lines'}<path class="stroke" d={layer.paths} />{/if}
        {#if layer.paths !== layer.areas}
          <path class="kerf" d={layer.paths} />
        {/if}
      {/each}
      {#each scene.guides as guide, index (index)}
        <path class="stroke" d={guide} />
      {/each}
      <path class="unreached" d={scene.unreached} />
      {#each bridges as one, index (index)}
        <path
          class="bridge"
          class:chosen={one === chosen}
          style:stroke-width={one.width}
          d={`M${one.begin[0]} ${one.begin[1]}L${one.end[0]} ${one.end[1]}`}
          role="button"
          tabindex="0"
          aria-label={one.letter < 0 ? 'Bridge between letters' : `Bridge ${one.number + 1} of letter ${one.letter + 1}`}
          onpointerdown={(event) => grasp(event, one)}
          onpointermove={pull}
          onpointerup={release}
          onpointercancel={release}
          onkeydown={(event) => event.key === 'Enter' && (bridge = one)}
        />
      {/each}
    </g>
    {#if scene.parts.length <= NUMBERED && scene.use !== 'lines'}
      {#each scene.parts as part (part.number)}
        {@const [x, y] = view.toScreen(part.at)}
        <text class="number" class:falls={!part.holds} {x} y={y + 4}>{part.number}</text>
      {/each}
    {/if}
    {#each places as place, index (index)}
      {@const [x, y] = view.toScreen(place)}
      <circle class="place" class:first={index === 0} cx={x} cy={y} r={index === 0 ? 16 : 9} />
    {/each}
  </svg>

  {#if chosen}
    <BridgeCard {editor} bridge={chosen} onclose={() => (bridge = undefined)} />
  {/if}

  <ViewBar {view} {onshowall} />
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

  path {
    stroke-width: 1px;
    vector-effect: non-scaling-stroke;
  }

  .gone {
    fill: #e3dccb;
  }

  .hatching {
    stroke: #c9bfa6;
    stroke-width: 1px;
  }

  .sheet {
    fill: url('#fallen');
    stroke: var(--line-strong);
  }

  .sheet.plain {
    fill: var(--sheet);
  }

  .stays {
    fill: #3d4a5c;
    stroke: var(--ink);
    stroke-width: 0.6px;
  }

  .loose {
    fill: #d9a79f;
    stroke: var(--brick);
    stroke-width: 1.2px;
  }

  .border {
    fill: none;
    stroke: var(--verdigris);
    stroke-width: 1.6px;
  }

  .stroke {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.2px;
  }

  .kerf {
    fill: none;
    stroke: var(--verdigris);
    stroke-width: 1px;
    stroke-dasharray: 4 2;
  }

  .unreached {
    fill: var(--ochre);
    stroke: var(--ochre);
  }

  .bridge {
    fill: none;
    stroke: transparent;
    vector-effect: none;
    cursor: pointer;
  }

  .bridge:hover,
  .bridge:focus-visible,
  .bridge.chosen {
    stroke: #4fc7b0;
    outline: none;
  }

  .number {
    fill: var(--sheet);
    font-family: 'IBM Plex Mono', monospace;
    font-size: 10px;
    paint-order: stroke;
    pointer-events: none;
    stroke: var(--ink);
    stroke-width: 2.5px;
    text-anchor: middle;
  }

  .number.falls {
    stroke: var(--brick);
  }

  .place {
    fill: none;
    stroke: var(--brick);
    stroke-width: 1.5px;
    pointer-events: none;
  }

  .place.first {
    stroke-width: 2.5px;
  }
</style>
