<script lang="ts">
  import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import type { Border, Prepare } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import Step from './Step.svelte';

  interface Props {
    editor: Editor;
    recipe: Prepare | undefined;
    /** The lettering whose recipe it is; empty for the whole piece. */
    where: string;
    onchange: (recipe: Prepare | null) => void;
  }

  let { editor, recipe, where, onchange }: Props = $props();

  const EMPTY: Prepare = { bands: [], cut_back: [], borders: [], few_nodes: 0.01 };
  const KINDS = [
    { value: 'middle', label: 'middle line' },
    { value: 'hatch', label: 'hatched' },
    { value: 'cross-hatch', label: 'hatched crosswise' },
    { value: 'rings', label: 'rings until full' },
  ] as const;
  const CORNERS = [
    { value: 'round', label: 'round' },
    { value: 'mitred', label: 'mitred' },
    { value: 'bevelled', label: 'bevelled' },
  ] as const;

  const steps = $derived(recipe ?? EMPTY);
  const border = $derived(steps.borders?.[0]);
  const band = $derived(steps.bands?.[0]);
  const cut = $derived(steps.cut_back?.[0]);
  const shapes = $derived([
    ...(editor.piece.blank ? [{ value: '', label: 'the blank' }] : []),
    ...editor.piece.guides.filter((one) => !one.removed).map((one) => ({ value: one.id, label: one.id })),
  ]);
  const firstShape = $derived(shapes[0]?.value || null);

  function set(changed: Partial<Prepare>): void {
    const next = { ...steps, ...changed };
    const plain = JSON.stringify({ ...EMPTY, few_nodes: 0 });
    const left = Object.fromEntries(
      Object.entries(next).filter(([, value]) => value !== null && value !== undefined),
    );
    onchange(JSON.stringify({ ...left, few_nodes: 0 }) === plain && next.few_nodes === 0.01 ? null : next);
  }

  const setBorder = (changed: Partial<Border>) =>
    set({
      borders: (steps.borders ?? []).map((one, index) => (index ? one : { ...one, ...changed })),
    });

  function setSecond(distance: number | undefined): void {
    const first = (steps.borders ?? []).slice(0, 1);
    const model = first[0];
    set({ borders: distance && model ? [...first, { ...model, distance, joined: false }] : first });
  }
</script>

{#snippet shape(label: string, value: string | null | undefined, onset: (id: string | null) => void)}
  <Select size="sm" labelText={label} selected={value ?? ''} on:update={(event) => onset(String(event.detail) || null)}>
    {#each shapes as one (one.value)}
      <SelectItem value={one.value} text={one.label} />
    {/each}
  </Select>
{/snippet}

<div role="group" aria-label={where ? 'Steps for this lettering' : 'Steps for the whole piece'}>
  <Step
    label="Single lines"
    hint="outlines drawn as middle lines, hatching or rings"
    on={Boolean(steps.strokes)}
    onset={(on) => set({ strokes: on ? { kind: 'middle', pitch: 0.5, angle: 45, pen: 0.3, outline: true } : null })}
  >
    {#if steps.strokes}
      {@const strokes = steps.strokes}
      <Select
        size="sm"
        labelText="As"
        selected={strokes.kind}
        on:update={(event) => set({ strokes: { ...strokes, kind: event.detail as (typeof KINDS)[number]['value'] } })}
      >
        {#each KINDS as { value, label } (value)}<SelectItem {value} text={label} />{/each}
      </Select>
      <LengthField label="Pen" value={strokes.pen ?? 0.3} onset={(pen) => set({ strokes: { ...strokes, pen } })} />
      {#if strokes.kind !== 'middle'}
        <LengthField label="Pitch" value={strokes.pitch ?? 0.5} onset={(pitch) => set({ strokes: { ...strokes, pitch } })} />
      {/if}
      {#if strokes.kind === 'hatch' || strokes.kind === 'cross-hatch'}
        <LengthField label="Angle" unit="°" value={strokes.angle ?? 45} onset={(angle) => set({ strokes: { ...strokes, angle } })} />
      {/if}
      {#if strokes.kind !== 'middle'}
        <Checkbox
          labelText="keep the outline"
          checked={strokes.outline ?? true}
          on:check={(event) => set({ strokes: { ...strokes, outline: event.detail } })}
        />
      {/if}
    {/if}
  </Step>
  <Step
    label="Join"
    hint="what overlaps becomes one outline"
    on={Boolean(steps.join)}
    onset={(on) => set({ join: on ? { over: 0 } : null })}
  >
    <LengthField label="If by more than" value={steps.join?.over ?? 0} onset={(over) => set({ join: { over } })} />
  </Step>
  <Step
    label="Band"
    hint="a bar or ring that carries the letters"
    on={Boolean(band)}
    onset={(on) => set({ bands: on ? [{ along: firstShape, width: 3, aside: 0 }] : [] })}
  >
    {#if band}
      {@render shape('Along', band.along, (along) => set({ bands: [{ ...band, along }] }))}
      <LengthField label="Width" value={band.width} onset={(width) => set({ bands: [{ ...band, width }] })} />
      <LengthField label="Aside by" value={band.aside ?? 0} onset={(aside) => set({ bands: [{ ...band, aside }] })} />
    {/if}
  </Step>
  <Step
    label="Cut back"
    hint="only what is inside, or outside, of a shape"
    on={Boolean(cut)}
    onset={(on) => set({ cut_back: on ? [{ to: firstShape, keep: 'inside', margin: 0 }] : [] })}
  >
    {#if cut}
      {@render shape('To', cut.to, (to) => set({ cut_back: [{ ...cut, to }] }))}
      <Select
        size="sm"
        labelText="Keeping"
        selected={cut.keep ?? 'inside'}
        on:update={(event) => set({ cut_back: [{ ...cut, keep: event.detail as 'inside' | 'outside' }] })}
      >
        <SelectItem value="inside" text="what is inside" />
        <SelectItem value="outside" text="what is outside" />
      </Select>
      <LengthField label="Margin" value={cut.margin ?? 0} onset={(margin) => set({ cut_back: [{ ...cut, margin }] })} />
    {/if}
  </Step>
  <Step
    label="Border"
    hint="an outline round the lettering, or inside it"
    on={Boolean(border)}
    onset={(on) => set({ borders: on ? [{ distance: 2, corners: 'round', fill: 2, joined: false }] : [] })}
  >
    {#if border}
      <LengthField label="Distance" value={border.distance} onset={(distance) => setBorder({ distance })} />
      <Select
        size="sm"
        labelText="Corners"
        selected={border.corners ?? 'round'}
        on:update={(event) => setBorder({ corners: event.detail as Border['corners'] })}
      >
        {#each CORNERS as { value, label } (value)}<SelectItem {value} text={label} />{/each}
      </Select>
      <LengthField label="Fill holes up to" value={border.fill ?? 0} onset={(fill) => setBorder({ fill })} />
      <LengthField
        label="A second at"
        value={steps.borders?.[1]?.distance ?? null}
        empty="none"
        onset={setSecond}
        onclear={() => setSecond(undefined)}
      />
      <Checkbox
        labelText="one with the letters"
        checked={border.joined ?? false}
        on:check={(event) => setBorder({ joined: event.detail })}
      />
    {/if}
  </Step>
  <Step
    label="Bridges"
    hint="ties that keep the counters of a stencil"
    on={Boolean(steps.bridges)}
    onset={(on) => set({ bridges: on ? { width: 1, changes: [] } : null })}
  >
    {#if steps.bridges}
      {@const bridges = steps.bridges}
      <LengthField label="Width" value={bridges.width ?? 1} onset={(width) => set({ bridges: { ...bridges, width } })} />
      {#if bridges.changes?.length}
        <button class="quiet" onclick={() => set({ bridges: { ...bridges, changes: [] } })}>
          forget {bridges.changes.length} changed by hand
        </button>
      {/if}
    {/if}
  </Step>
  <Step
    label="Take out of a shape"
    hint="the shape is kept, with the letters as holes"
    on={Boolean(steps.taken_out)}
    onset={(on) => set({ taken_out: on ? { of: firstShape } : null })}
  >
    {@render shape('Shape', steps.taken_out?.of, (of) => set({ taken_out: { of } }))}
  </Step>
  <Step
    label="Round corners"
    hint="to a radius, for a round cutter"
    on={Boolean(steps.rounding)}
    onset={(on) => set({ rounding: on ? { outside: 0.3, inside: 0.3 } : null })}
  >
    {#if steps.rounding}
      {@const rounding = steps.rounding}
      <LengthField label="Outer radius" value={rounding.outside ?? 0} onset={(outside) => set({ rounding: { ...rounding, outside } })} />
      <LengthField label="Inner radius" value={rounding.inside ?? 0} onset={(inside) => set({ rounding: { ...rounding, inside } })} />
    {/if}
  </Step>
  <Step
    label="Kerf"
    hint="half the width of the cut given back"
    on={Boolean(steps.kerf)}
    onset={(on) => set({ kerf: on ? { width: 0.2, side: 'outward' } : null })}
  >
    {#if steps.kerf}
      {@const kerf = steps.kerf}
      <LengthField label="Width" value={kerf.width} onset={(width) => set({ kerf: { ...kerf, width } })} />
      <Select
        size="sm"
        labelText="Given"
        selected={kerf.side ?? 'outward'}
        on:update={(event) => set({ kerf: { ...kerf, side: event.detail as 'outward' | 'inward' } })}
      >
        <SelectItem value="outward" text="outward" />
        <SelectItem value="inward" text="inward" />
      </Select>
    {/if}
  </Step>
  <Step
    label="Few nodes"
    hint="curves within 0.01 mm; done to all that is worked on"
    on={steps.few_nodes !== undefined && steps.few_nodes !== 0.01}
    onset={(on) => set({ few_nodes: on ? 0.02 : 0.01 })}
  >
    <LengthField label="Within" value={steps.few_nodes ?? 0.01} onset={(few_nodes) => set({ few_nodes })} />
  </Step>
</div>

<style>
  .quiet {
    padding: 0 0 6px;
    font-size: 12px;
    text-align: left;
  }
</style>
