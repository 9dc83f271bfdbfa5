<script lang="ts">
  /** Stitch files: one that is looked at, and the piece's own sewn by the simulated stitcher. */
  import { Button, Select, SelectItem } from 'carbon-components-svelte';
  import LengthField from '../parts/LengthField.svelte';
  import { lasting } from '../rehearsal/figures';
  import { figure } from '../words/words';
  import { ENDINGS, type Beside } from './beside.svelte';

  let { beside, hoopings }: { beside: Beside; hoopings: number } = $props();

  let wanted = $state(1);
  /** Nothing: all of it. */
  const hooping = $derived(hoopings > 1 ? Math.min(wanted, hoopings) : 0);
  let breaksAt = $state<number | null>(null);
  let input = $state<HTMLInputElement>();
  const rounded = (mm: number, places = 1) => figure(Number(mm.toFixed(places)));

  function chosen(): void {
    const file = input?.files?.[0];
    if (file) void beside.look(file);
    if (input) input.value = '';
  }
</script>

<section aria-label="Stitch files">
  <h3>Sewn on trial</h3>
  <div class="pair">
    {#if hoopings > 1}
      <Select size="sm" labelText="Hooping" selected={String(hooping)} on:update={(event) => (wanted = Number(event.detail))}>
        {#each { length: hoopings } as _, index (index)}<SelectItem value={String(index + 1)} text={`Hoop ${index + 1}`} />{/each}
        <SelectItem value="0" text="all of it" />
      </Select>
    {/if}
    <LengthField label="Thread breaks at stitch" unit="" value={breaksAt} empty="it holds" onset={(at) => (breaksAt = Math.round(at))} onclear={() => (breaksAt = null)} />
  </div>
  <Button size="small" kind="tertiary" disabled={beside.busy} on:click={() => void beside.sew(breaksAt, hooping)}>Sew it on the stitcher</Button>
  <div role="status">
    {#if beside.sewn}
      {@const sewn = beside.sewn}
      {#if sewn.wrong.length}
        <p class="warning">The stitcher refuses the file: {sewn.wrong.join('; ')}.</p>
      {:else}
        <p class="soft">{sewn.went_back ? 'The thread broke; it went back 8 stitches and went on. ' : ''}{sewn.sewn} stitches came out, none farther than {rounded(sewn.off, 2)} mm from where it was meant. The dark line shows them.</p>
      {/if}
      <button class="quiet" onclick={() => (beside.sewn = undefined)}>take it away</button>
    {/if}
  </div>
  <input bind:this={input} type="file" accept={ENDINGS} hidden onchange={chosen} />
  <button class="quiet" onclick={() => input?.click()}>look at a stitch file…</button>
  {#if beside.file}
    {@const file = beside.file}
    <p class="soft">{file.name}: {file.stitches} stitches · {rounded(file.size[0])} × {rounded(file.size[1])} mm · {lasting(file.seconds)} · {rounded(file.metres)} m · {file.trims} trims. It lies at the right of the piece.</p>
    <button class="quiet" onclick={() => (beside.file = undefined)}>take it away</button>
  {/if}
</section>

<style>
  h3 {
    margin: 14px 0 4px;
    font-size: 13px;
    font-weight: 600;
  }

  p {
    margin: 4px 0;
  }

  .soft {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .warning {
    border-left: 3px solid var(--verdigris);
    padding-left: 8px;
    font-size: 12px;
  }

  .pair {
    margin-bottom: 6px;
  }

  .quiet {
    display: block;
    border: 0;
    padding: 4px 0;
    background: none;
    color: var(--verdigris);
    font: inherit;
    font-size: 12px;
    cursor: pointer;
  }
</style>
