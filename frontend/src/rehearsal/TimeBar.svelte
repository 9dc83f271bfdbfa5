<script lang="ts">
  /** The time of the rehearsal: played, held, and gone to. */
  import { InlineLoading } from 'carbon-components-svelte';
  import Choice from '../parts/Choice.svelte';
  import { SPEEDS, type Clock } from './clock.svelte';
  import { lasting } from './figures';

  interface Props {
    clock: Clock;
    /** What is rehearsed: a run, or the sewing. */
    of: string;
    /** What a step goes on by. */
    unit: string;
    /** The stretches of time that are told apart. */
    spans: { key: string; label: string; title: string; seconds: number }[];
    /** What is said of the moment. */
    said: string;
    busy: boolean;
    onstep: (way: 1 | -1) => void;
  }

  let { clock, of, unit, spans, said, busy, onstep }: Props = $props();

  const STEP = 0.05;
  const speeds = SPEEDS.map((one) => ({ value: String(one), label: `${one}×` }));
</script>

<div class="bar">
  <div class="row">
    <button onclick={() => clock.toggle()} title="Space">{clock.playing ? 'Hold' : 'Play'}</button>
    <button onclick={() => onstep(-1)} title="←" aria-label={`The ${unit} before`}>‹</button>
    <button onclick={() => onstep(1)} title="→" aria-label={`The next ${unit}`}>›</button>
    <div class="scale">
      <input
        type="range"
        min="0"
        max={clock.end}
        step={STEP}
        value={clock.at}
        aria-label={`Time of the ${of}`}
        aria-valuetext={lasting(clock.at)}
        oninput={(event) => clock.go(Number(event.currentTarget.value))}
      />
      <div class="passes" aria-hidden="true">
        {#each spans as one (one.key)}
          <span style:flex-grow={one.seconds} title={one.title}>{one.label}</span>
        {/each}
      </div>
    </div>
    <span class="figure time">{lasting(clock.at)} of {lasting(clock.end)}</span>
  </div>
  <div class="row words">
    <p role="status">{said}</p>
    <span class="busy">{#if busy}<InlineLoading description="" />{/if}</span>
    <div class="speeds">
      <Choice
        label="Played"
        tabs
        options={speeds}
        value={String(clock.speed)}
        onset={(speed) => (clock.speed = Number(speed) as (typeof SPEEDS)[number])}
      />
    </div>
  </div>
</div>

<style>
  .bar {
    display: flex;
    flex: none;
    flex-direction: column;
    gap: 4px;
    border-top: 1px solid var(--line);
    padding: 8px 12px;
    background: var(--paper);
  }

  .row {
    display: flex;
    align-items: center;
    gap: 8px;
  }

  .words {
    justify-content: space-between;
    min-height: 28px;
  }

  p {
    flex: 1;
    margin: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: var(--ink-soft);
    font-size: 13px;
  }

  button {
    border: 1px solid var(--line-strong);
    min-width: 30px;
    min-height: 28px;
    padding: 0 8px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
    cursor: pointer;
  }

  .scale {
    flex: 1;
    min-width: 80px;
  }

  input {
    display: block;
    width: 100%;
    margin: 0;
    accent-color: var(--verdigris);
  }

  .passes {
    display: flex;
    gap: 2px;
    padding: 0 6px;
  }

  .passes span {
    min-width: 14px;
    border-top: 2px solid var(--line-strong);
    color: var(--ink-soft);
    font: 600 10px/14px 'IBM Plex Mono', monospace;
    overflow: hidden;
  }

  .busy {
    flex: none;
    width: 28px;
    height: 20px;
  }

  .busy :global(.bx--inline-loading) {
    min-height: 0;
  }

  .speeds {
    min-width: 200px;
  }

  .time {
    min-width: 150px;
    font-size: 12px;
    text-align: right;
  }
</style>
