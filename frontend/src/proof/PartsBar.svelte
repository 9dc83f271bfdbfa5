<script lang="ts">
  import { InlineLoading, Select, SelectItem } from 'carbon-components-svelte';
  import type { ProofScene, Use } from '../api/client';
  import { figure } from '../editor/words';
  import Choice from '../parts/Choice.svelte';
  import type { Proofing } from './proofing.svelte';

  interface Props {
    proofing: Proofing;
    scene: ProofScene;
    busy: boolean;
  }

  let { proofing, scene, busy }: Props = $props();

  const USES: { value: Use; label: string }[] = [
    { value: 'kept', label: 'Letters kept' },
    { value: 'removed', label: 'Letters removed' },
  ];
  const falling = $derived(scene.parts.filter((part) => !part.holds).length);
  const layers = $derived([
    { id: '', label: 'all lettering' },
    ...scene.layers.map((layer) => ({ id: layer.id, label: layer.id.replace(/-/g, ' ') })),
  ]);
  const area = (mm2: number) => `${figure(Number(mm2.toPrecision(3)))} mm²`;
</script>

<div class="bar">
  <div class="use">
    <Choice
      label="The sheet is used so that"
      tabs
      options={USES}
      value={scene.use}
      onset={(use) => (proofing.use = use)}
    />
  </div>
  <p role="status">
    <i class="key stays"></i><span>{scene.parts.length - falling + scene.parts_left_out} parts stay, {area(scene.stays_area)}</span>
    <i class="key gone"></i><span>{area(scene.falls_area)} go{#if falling}, <b>{falling} of them fall out of the sheet</b>{/if}</span>
  </p>
  {#if busy}<InlineLoading description="" />{/if}
  <Select
    size="sm"
    inline
    labelText="Shown"
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
    align-items: center;
    gap: 16px;
    border-top: 1px solid var(--line);
    padding: 6px 12px;
    background: var(--paper);
    font-size: 13px;
  }

  .use {
    flex: none;
    width: 230px;
  }

  p {
    display: flex;
    flex: 1;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px 6px;
    margin: 0;
    font-size: 12px;
  }

  .key {
    width: 12px;
    height: 12px;
    border: 1px solid var(--line-strong);
  }

  .key.stays {
    background: #3d4a5c;
  }

  .key.gone {
    margin-left: 8px;
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
    width: auto;
  }

  .bar :global(.bx--select-input--inline__wrapper) {
    max-width: 170px;
  }
</style>
