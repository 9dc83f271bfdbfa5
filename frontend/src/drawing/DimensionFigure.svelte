<script lang="ts">
  import { tick } from 'svelte';
  import type { Dimension } from '../api/client';
  import { setFigure, shownFigure } from '../words/figures.svelte';
  import { units } from '../words/units.svelte';

  interface Props {
    dimension: Dimension;
    /** Where its middle is, px. */
    at: readonly [number, number];
    onset: (value: number) => void;
  }

  let { dimension, at, onset }: Props = $props();

  // Shares are typed as percents.
  const shownAs = $derived(dimension.unit === '%' ? 100 : 1);
  const shown = $derived(shownFigure(dimension.value, dimension.unit, shownAs));
  const label = $derived(dimension.label);
  const spoken = $derived(
    `${shown} ${dimension.unit === 'mm' ? units.sign : dimension.unit || ''}`.trim() + (dimension.solved ? ', solved' : ''),
  );
  const after = $derived(['°', '%'].includes(dimension.unit) ? ` ${dimension.unit}` : '');

  let typing = $state(false);
  let typed = $state('');
  let wrong = $state('');
  let input = $state<HTMLInputElement>();

  async function start(): Promise<void> {
    typed = shown;
    wrong = '';
    typing = true;
    await tick();
    input?.select();
  }

  async function set(): Promise<void> {
    if (typed === shown) {
      typing = false;
      return;
    }
    wrong = await setFigure(typed, dimension.unit, shownAs, (value) => {
      typing = false;
      onset(value);
    });
    if (wrong) input?.focus();
  }

  /** What was typed is forgotten first: the field is left when it goes. */
  function giveUp(): void {
    typed = shown;
    wrong = '';
    typing = false;
  }

  function press(event: KeyboardEvent): void {
    event.stopPropagation();
    if (event.key === 'Enter') void set();
    if (event.key === 'Escape') giveUp();
  }
</script>

<div
  class="dimension"
  style:transform={`translate(${at[0]}px, ${at[1]}px) translate(-50%, -50%)`}
>
  {#if typing}
    <input
      bind:this={input}
      bind:value={typed}
      class="figure"
      class:wrong
      size={Math.max(typed.length, 6)}
      aria-label={label}
      aria-invalid={Boolean(wrong)}
      onkeydown={press}
      onblur={() => (wrong ? giveUp() : void set())}
    />
    {#if wrong}<span class="why" role="alert">{wrong}</span>{/if}
  {:else}
    <button
      class="figure"
      class:solved={dimension.solved}
      aria-label={`${label}: ${spoken}`}
      title={dimension.solved ? `${label}, solved; a typed figure ends the fit` : label}
      onclick={start}
    >
      {#if dimension.solved}<b>=</b>{/if}
      {dimension.sign}{shown.replace('-', '−')}{after}
    </button>
  {/if}
</div>

<style>
  .dimension {
    position: absolute;
    top: 0;
    left: 0;
  }

  button,
  input {
    border: 1px solid var(--line);
    padding: 2px 7px;
    background: var(--sheet);
    color: var(--ink);
    font-size: 12px;
    line-height: 18px;
    white-space: nowrap;
  }

  button {
    cursor: text;
  }

  button.solved {
    border-style: dashed;
    border-color: var(--verdigris);
  }

  b {
    color: var(--verdigris);
  }

  button:hover,
  input {
    border-color: var(--verdigris);
  }

  input.wrong {
    border-color: var(--brick);
  }

  .why {
    position: absolute;
    top: 100%;
    left: 50%;
    padding: 4px 8px;
    transform: translateX(-50%);
    background: var(--brick);
    color: #fff;
    font-size: 12px;
    white-space: nowrap;
  }
</style>
