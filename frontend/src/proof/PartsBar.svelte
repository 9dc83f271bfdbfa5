<script lang="ts">
  import { InlineLoading, Select, SelectItem } from 'carbon-components-svelte';
  import { choices } from '../api/catalogue';
  import type { ProofScene, Use } from '../api/client';
  import { figure, sentence } from '../words/words';
  import Choice from '../parts/Choice.svelte';
  import type { Proofing } from './proofing.svelte';

  interface Props {
    proofing: Proofing;
    scene: ProofScene;
    busy: boolean;
  }

  let { proofing, scene, busy }: Props = $props();

  const USES = choices<Use>('use').map((one) => ({ ...one, label: sentence(one.label) }));
  /** Both ways of cutting a sheet, and what else a tool sheet of the piece asks for. */
  const uses = $derived(
    USES.filter(
      ({ value }) =>
        value === 'kept' || value === 'removed' || scene.sheets.some((one) => one.use === value),
    ),
  );
  const falling = $derived(scene.parts.filter((part) => !part.holds).length);
  const layers = $derived([
    { id: '', label: 'all lettering' },
    ...scene.layers.map((layer) => ({ id: layer.id, label: layer.name })),
  ]);
  const staying = $derived(scene.parts.length - falling + scene.parts_left_out);
  const parts = (count: number) => `${count} ${count === 1 ? 'part' : 'parts'}`;
  const area = (mm2: number) =>
    mm2 < 1000
      ? `${figure(Number(mm2.toPrecision(3)))} mm²`
      : `${figure(Number((mm2 / 100).toPrecision(3)))} cm²`;
</script>

<div class="bar">
  <div class="use" class:more={uses.length > 2}>
    <Choice
      label="The sheet is used so that"
      tabs
      options={uses}
      value={scene.use}
      onset={(use) => (proofing.use = use)}
    />
  </div>
  <p role="status">
    {#if scene.use === 'lines'}
      <span>{scene.layers.reduce((sum, layer) => sum + layer.nodes, 0)} nodes in lines that are drawn</span>
    {:else}
    <span><i class="key stays"></i>{scene.use === 'sunk' ? '' : `${parts(staying)} `}kept, {area(scene.stays_area)}</span>
    <span><i class="key gone"></i>{area(scene.falls_area)} removed{#if falling}, <b>{parts(falling)} fallen out</b>{/if}</span>
    {/if}
  </p>
  {#if busy}<InlineLoading description="" />{/if}
  <Select
    size="sm"
    inline
    labelText=""
    aria-label="Which layer is shown"
    selected={proofing.layer}
    on:update={(event) => (proofing.layer = String(event.detail))}
  >
    {#each layers as { id, label } (id)}
      <SelectItem value={id} text={label} />
    {/each}
  </Select>
</div>

<style>
  .bar {
    display: flex;
    flex: none;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 12px;
    border-top: 1px solid var(--line);
    padding: 6px 12px;
    background: var(--paper);
    font-size: 13px;
  }

  .use {
    flex: none;
    width: 276px;
  }

  .use.more {
    width: 420px;
  }

  .use :global(label) {
    font-size: 12px;
  }

  p {
    display: flex;
    flex: 1 0 auto;
    flex-direction: column;
    gap: 2px;
    min-width: 0;
    margin: 0;
    font-size: 12px;
    line-height: 16px;
    white-space: nowrap;
  }

  .key {
    display: inline-block;
    width: 10px;
    height: 10px;
    margin-right: 6px;
    border: 1px solid var(--line-strong);
  }

  .key.stays {
    background: #3d4a5c;
  }

  .key.gone {
    background: #e3dccb;
  }

  b {
    color: var(--brick);
  }

  .bar :global(.bx--inline-loading) {
    width: auto;
    min-height: 0;
  }

  .bar :global(.bx--select) {
    flex: none;
    width: 150px;
  }

  .bar :global(.bx--select-input) {
    min-width: 0;
    width: 132px;
    font-size: 12px;
  }

  .bar :global(.bx--select--inline) {
    grid-template-columns: auto;
  }
</style>
