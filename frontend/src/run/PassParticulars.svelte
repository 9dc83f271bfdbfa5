<script lang="ts">
  /** How the chosen pass works, or, without one, how the whole run lies on the machine. */
  import { Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import { catalogue } from '../api/catalogue';
  import type { RunPass, RunScene, RunSheet, Works } from '../api/client';
  import Choice from '../parts/Choice.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import NameField from '../parts/NameField.svelte';
  import type { Hand, OnHand } from './hand';
  import WholeRun from './WholeRun.svelte';
  import { changedPass, kerfOf, sameWorks, toggled, withKerf } from './sheet';

  interface Props {
    scene: RunScene | undefined;
    chosen: string;
    hand: Hand;
    onchange: (sheet: RunSheet) => void;
    onhand: OnHand;
  }

  let { scene, chosen, hand = $bindable(), onchange, onhand }: Props = $props();

  const TOOLS = Object.entries(catalogue().tools);
  const USES: { what: Works['what']; name: string }[] = [
    { what: 'draw', name: 'all that is drawn' },
    { what: 'engrave', name: 'all that is engraved' },
    { what: 'cut', name: 'all that is cut' },
  ];
  const HANDS = [
    { value: '', label: 'moves it' },
    { value: 'begin', label: 'begins' },
    { value: 'tab', label: 'tabs' },
    { value: 'work', label: 'works' },
  ];
  const pass = $derived(scene?.sheet.passes.find((one) => one.id === chosen));
  const shown = $derived(scene?.passes.find((one) => one.id === chosen));
  const tool = $derived(pass && catalogue().tools[pass.tool]);
  const workable = $derived([
    ...USES.map((one) => ({ ...one, of: '' })),
    ...(scene?.workable ?? []).filter((one) => !USES.some((use) => use.what === one.what)),
  ]);
  const kerf = $derived(pass && kerfOf(pass));
  const closes = $derived(!tool?.areas);

  function change(changed: Partial<RunPass>): void {
    if (scene && pass) onchange(changedPass(scene.sheet, pass.id, changed));
  }

  const works = (one: { what: Works['what']; of: string }) =>
    pass?.works.some((mine) => sameWorks(mine, one)) ?? false;
</script>

<aside class="right" aria-label="Particulars">
  {#if scene && pass && shown && tool}
    <h2 class="particulars">Pass {shown.number} <span>· {tool.title}</span></h2>
    <div class="fields particulars">
      <NameField name={pass.name} otherwise={tool.title} onset={(name) => change({ name })} />
      <Select size="sm" labelText="Tool" selected={pass.tool} on:update={(event) => change({ tool: event.detail as RunPass['tool'] })}>
        {#each TOOLS as [name, one] (name)}<SelectItem value={name} text={one.title} />{/each}
      </Select>
      {#if closes}
        <Choice label="A press on the drawing" options={HANDS} value={hand} onset={(does) => (hand = does as Hand)} />
      {/if}
      <fieldset>
        <legend>Works on</legend>
        {#each workable as one (`${one.what} ${one.of}`)}
          <Checkbox labelText={one.name} checked={works(one)} on:check={(event) => event.detail !== works(one) && change({ works: toggled(pass.works, { what: one.what, of: one.of }) })} />
        {/each}
      </fieldset>
      <div class="pair">
        <LengthField label="Speed" unit="mm/s" value={pass.speed ?? null} empty={`usual, ${shown.speed}`} onset={(speed) => change({ speed })} onclear={() => change({ speed: null })} />
        {#if tool.way === 'power'}
          <LengthField label="Power" unit="%" value={pass.power ?? null} empty={`usual, ${shown.power}`} onset={(power) => change({ power })} onclear={() => change({ power: null })} />
        {/if}
        {#if tool.way === 'depth'}
          <LengthField label="Depth" value={pass.depth || null} empty={shown.depth ? `usual, ${shown.depth}` : tool.areas === 'grooved' ? 'as it fits' : 'on the sheet'} onset={(depth) => change({ depth })} onclear={() => change({ depth: 0 })} />
          <LengthField label="A round goes" value={pass.step || null} empty="all at once" onset={(step) => change({ step })} onclear={() => change({ step: 0 })} />
        {/if}
        <LengthField label="How often" unit="" value={pass.repeats} onset={(repeats) => change({ repeats: Math.round(repeats) })} />
      </div>
      {#if tool.areas === 'filled'}
        <div class="pair">
          <LengthField label="Rows apart" value={pass.filling.pitch} onset={(pitch) => change({ filling: { ...pass.filling, pitch } })} />
          <LengthField label="Turned" unit="°" value={pass.filling.angle} onset={(angle) => change({ filling: { ...pass.filling, angle } })} />
          <LengthField label="Overscan" value={pass.filling.overscan} onset={(overscan) => change({ filling: { ...pass.filling, overscan } })} />
        </div>
      {/if}
      {#if tool.areas === 'grooved' || tool.areas === 'cleared'}
        <div class="pair">
          {#if tool.areas === 'grooved'}
            <LengthField label="Between its sides" unit="°" value={pass.carving.angle} onset={(angle) => change({ carving: { ...pass.carving, angle } })} />
          {/if}
          <LengthField label="Across its bit" value={pass.carving.bit || null} empty={`usual, ${tool.bit}`} onset={(bit) => change({ carving: { ...pass.carving, bit } })} onclear={() => change({ carving: { ...pass.carving, bit: 0 } })} />
          {#if tool.areas === 'cleared'}
            <LengthField label="Ways round apart" unit="%" value={pass.carving.over} onset={(over) => change({ carving: { ...pass.carving, over } })} />
            <LengthField label="Left at the edges" value={pass.carving.left || null} empty="nothing" onset={(left) => change({ carving: { ...pass.carving, left } })} onclear={() => change({ carving: { ...pass.carving, left: 0 } })} />
          {/if}
        </div>
      {/if}
      {#if closes}
        <div class="pair">
          <LengthField label="Overcut" value={pass.overcut || null} empty="none" onset={(overcut) => change({ overcut })} onclear={() => change({ overcut: 0 })} />
          {#if tool.way !== 'power'}
            <LengthField label="Blade trails by" value={pass.trail || null} empty="not at all" onset={(trail) => change({ trail })} onclear={() => change({ trail: 0 })} />
          {/if}
          <LengthField label="Led in on an arc of" value={pass.lead || null} empty="none" onset={(lead) => change({ lead })} onclear={() => change({ lead: 0 })} />
          <LengthField label="Tabs" unit="" value={pass.tabs?.number ?? null} empty="none" onset={(number) => change({ tabs: { ...(pass.tabs ?? scene!.tabs), number: Math.round(number) } })} onclear={() => change({ tabs: null })} />
          {#if pass.tabs}
            <LengthField label="Or about every" value={pass.tabs.apart || null} empty="by number" onset={(apart) => change({ tabs: { ...pass.tabs!, apart } })} onclear={() => change({ tabs: { ...pass.tabs!, apart: 0 } })} />
            <LengthField label="Tabs are wide" value={pass.tabs.width} onset={(width) => change({ tabs: { ...pass.tabs!, width } })} />
            {#if tool.way === 'depth'}
              <LengthField label="And high" value={pass.tabs.height || null} empty="all of it" onset={(height) => change({ tabs: { ...pass.tabs!, height } })} onclear={() => change({ tabs: { ...pass.tabs!, height: 0 } })} />
            {/if}
          {/if}
        </div>
      {/if}
      {#each shown.starts as [x, y], index (index)}
        <div class="pair">
          <LengthField label={`Begins at, ${index + 1}`} value={x} onset={(to) => void onhand('begin', [to, y], [x, y])} onclear={() => void onhand('begin', null, [x, y])} />
          <LengthField label="and up" value={-y} onset={(to) => void onhand('begin', [x, -to], [x, y])} />
        </div>
      {/each}
      <div class="pair">
        <LengthField label="Kerf given back" value={kerf?.width ?? null} empty="none" onset={(width) => change({ kerf: withKerf(pass, { width }) })} onclear={() => change({ kerf: withKerf(pass, null) })} />
        {#if kerf}
          <Select size="sm" labelText="The line is moved" selected={kerf.side} on:update={(event) => change({ kerf: withKerf(pass, { side: event.detail as 'outward' | 'inward' }) })}>
            <SelectItem value="outward" text="outward: what is in it is kept" />
            <SelectItem value="inward" text="inward: it is cut out" />
          </Select>
        {/if}
      </div>
      {#if kerf}
        <Checkbox labelText="guides and the blank's edge as well" checked={kerf.edges} on:check={(event) => event.detail !== kerf?.edges && change({ kerf: withKerf(pass, { edges: event.detail }) })} />
      {/if}
      {#if (pass.kerf ?? []).some((one) => one.of != null)}<p>Some letterings have a kerf of their own.</p>{/if}
      {#if pass.tool === 'router' || tool.areas === 'cleared'}
        <Select size="sm" labelText="Milling" selected={pass.milling} on:update={(event) => change({ milling: event.detail as RunPass['milling'] })}>
          <SelectItem value="conventional" text="conventional" />
          <SelectItem value="climb" text="climb" />
        </Select>
      {/if}
      <TextInput size="sm" labelText="Asked for before it" placeholder="nothing" value={pass.pause} on:change={(event) => change({ pause: String(event.detail ?? '') })} />
    </div>
  {:else if scene}
    <WholeRun {scene} {onchange} />
  {/if}
</aside>

<style>
  fieldset {
    margin: 0;
    border: 0;
    padding: 0;
  }

  legend {
    margin-bottom: 4px;
    color: var(--ink-soft);
    font-size: 12px;
  }

  p {
    margin: 0;
    color: var(--ink-soft);
    font-size: 12px;
  }
</style>
