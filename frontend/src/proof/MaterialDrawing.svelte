<script lang="ts">
  import { catalogue } from '../api/catalogue';
  import type { Finding, ProofBridge, ProofScene } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import type { Snapshot } from '../piece/snapshot';
  import { Gestures, type Hold, type Place } from '../drawing/gestures.svelte';
  import type { Viewport } from '../drawing/viewport.svelte';
  import ViewBar from '../drawing/ViewBar.svelte';
  import BridgeCard from './BridgeCard.svelte';

  interface Props {
    editor: Editor;
    view: Viewport;
    scene: ProofScene;
    looked: Finding | undefined;
    onshowall: () => void;
  }

  let { editor, view, scene, looked, onshowall }: Props = $props();

  const NUMBERED = 60;
  let bridge = $state.raw<ProofBridge>();

  const bridges = $derived(scene.layers.flatMap((layer) => layer.bridges));
  const shown = $derived(
    scene.layers.filter((layer) => (scene.layer ? layer.id === scene.layer : layer.kind !== 'border')),
  );
  const borders = $derived(scene.layers.filter((layer) => layer.kind === 'border'));
  const words = (output: string) => catalogue().outputs[output]?.words ?? 'left out';
  const places = $derived(looked?.places ?? []);
  const chosen = $derived(
    bridge &&
      bridges.find((one) => one.letter === bridge?.letter && one.number === bridge.number
        && one.lettering === bridge.lettering),
  );

  /** What letters and lines become, each with its letter; only what is there. */
  const legend = $derived.by(() => {
    const letters = scene.layers.filter((layer) => layer.kind !== 'border');
    const became = (all: readonly { output: string }[], what: string, style: (output: string) => string) =>
      [...new Set(all.map((one) => one.output))].map((output) => {
        const letter = catalogue().outputs[output]?.letter ?? '–';
        return { style: style(output), label: `${what}: ${letter} ${words(output)}` };
      });
    const seen = (is: unknown, style: string, label: string) => (is ? [{ style, label }] : []);
    return [
      ...became(letters, 'letters', (output) =>
        scene.use === 'lines' || output === 'draw' ? 'stroke' : 'stays',
      ),
      ...became([...borders, ...scene.lines], 'lines', (output) => `stroke ${output}`),
      ...seen(shown.some((one) => one.paths !== one.areas), 'kerf', 'where the tool goes'),
      ...seen(scene.loose, 'loose', 'loose'),
      ...seen(scene.unreached, 'unreached', 'not reached by the tool'),
    ];
  });

  const gestures = $derived(new Gestures(view, { take }));

  /** A press takes hold of a bridge, or moves the view. */
  function take(event: PointerEvent, at: Place): Hold | undefined {
    const index = (event.target as Element).getAttribute('data-bridge');
    bridge = index === null ? undefined : bridges[Number(index)];
    if (!bridge) return undefined;
    return bridge.letter < 0 ? {} : pull(bridge, at);
  }

  function pull(one: ProofBridge, [x, y]: Place): Hold {
    const { lettering, letter, number, about, axes } = one;
    let base: Snapshot | undefined;
    const act = (to: Place, last: boolean) => {
      const what = { lettering, letter, bridge: number, about, axes, to: view.toPiece(...to) };
      editor.act({ act: 'pull-bridge', ...what }, base, last);
    };
    return {
      move: (to) => {
        if (!base && to[0] === x && to[1] === y) return;
        base ??= editor.base;
        act(to, false);
      },
      end: (to) => base && act(to, true),
    };
  }
</script>

<div class="drawing" bind:clientWidth={view.width} bind:clientHeight={view.height}>
  <svg
    role="group"
    aria-label={`The piece as material: ${scene.parts.length} parts`}
    class:panning={gestures.panning}
    {@attach gestures.on}
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
          <path class={`border ${border.output}`} d={border.paths}><title>{border.name} is {words(border.output)}</title></path>
        {/each}
      {/if}
      {#each shown as layer (layer.id)}
        <path class="stroke" d={layer.strokes} />
        {#if scene.use === 'lines'}<path class="stroke" d={layer.paths} />{/if}
        {#if layer.paths !== layer.areas}
          <path class="kerf" d={layer.paths} />
        {/if}
      {/each}
      {#each scene.lines as line, index (index)}
        <path class={`stroke ${line.output}`} d={line.path}><title>{line.name} is {words(line.output)}</title></path>
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
          data-bridge={index}
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
  <ul aria-label="What the lines mean">
    {#each legend as { style, label } (label)}
      <li>
        <svg viewBox="0 0 28 8" aria-hidden="true">
          <path class={style} d={style.startsWith('stroke') || style === 'kerf' ? 'M1 4H27' : 'M9 0h10v8h-10z'} />
        </svg>
        {label}
      </li>
    {/each}
  </ul>
</div>

<style>
  ul {
    display: flex;
    flex-wrap: wrap;
    justify-content: flex-end;
    position: absolute;
    right: 12px;
    bottom: 8px;
    gap: 2px 14px;
    max-width: 60%;
    margin: 0;
    padding: 2px 6px;
    background: color-mix(in srgb, var(--ground) 85%, transparent);
    color: var(--ink-soft);
    font-size: 12px;
    list-style: none;
    pointer-events: none;
  }

  li svg {
    display: inline-block;
    width: 28px;
    height: 8px;
    vertical-align: middle;
  }

  .drawing {
    position: relative;
    flex: 1;
    min-height: 0;
    overflow: hidden;
  }

  .drawing > svg {
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

  .draw {
    stroke-dasharray: 1.5 3;
  }

  .engrave {
    stroke-width: 2.4px;
    stroke-dasharray: 8 2;
  }

  .none {
    stroke: var(--line-strong);
    stroke-dasharray: 2 5;
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
