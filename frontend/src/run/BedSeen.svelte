<script lang="ts">
  /** The bed of a simulated machine: what came out, and what shall go wrong. */
  import { Select, SelectItem } from 'carbon-components-svelte';
  import LengthField from '../parts/LengthField.svelte';
  import { figure } from '../words/words';
  import type { Sending } from './sending.svelte';

  let { sent, machine }: { sent: Sending; machine: string } = $props();

  const AFTER = 30;
  let after = $state(AFTER);
  const seen = $derived(sent.cameOut);

  $effect(() => void sent.see(machine));
</script>

<section aria-label="What came out" class="particulars">
  <h3 class="ruled">On its bed</h3>
  {#if seen}
    <img src={`/api/machines/${machine}/picture?${sent.looked}`} alt="The bed: what was meant is pale, what was done dark, what is wrong red" />
    <p>
      {#if !seen.done}Nothing was done yet.{:else}
        {seen.done} lines done, {seen.meant} were meant.
        {#if seen.apart !== null}The farthest place is {figure(Number(seen.apart.toPrecision(2)))} mm off.{/if}
      {/if}
    </p>
    <div class="row">
      <button class="quiet" onclick={() => void sent.see(machine)}>look again</button>
      <button class="quiet" onclick={() => void sent.freshSheet(machine)}>lay a fresh sheet</button>
    </div>
    <div class="fault">
      <Select size="sm" labelText="Let it fail, once" selected={seen.fault} on:update={(event) => event.detail !== seen?.fault && void sent.fail(machine, String(event.detail), after)}>
        <SelectItem value="" text="not at all" />
        {#each Object.entries(seen.faults) as [name, words] (name)}<SelectItem value={name} text={`${name}: ${words}`} />{/each}
      </Select>
      <LengthField label="After instructions" unit="" value={after} onset={(value) => (after = Math.round(value))} />
    </div>
  {:else}
    <p>It does not answer just now.</p>
  {/if}
</section>

<style>
  img {
    display: block;
    border: 1px solid var(--line);
    width: 100%;
  }

  p {
    margin: 4px 0;
    color: var(--ink-soft);
    font-size: 12px;
  }

  .row {
    display: flex;
    gap: 12px;
  }

  .fault {
    display: grid;
    grid-template-columns: 2fr 1fr;
    align-items: end;
    gap: 12px;
    margin-top: 8px;
  }
</style>
