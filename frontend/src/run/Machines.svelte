<script lang="ts">
  /** The machines that runs are sent to: added, changed, and let go of. */
  import { Button, InlineNotification, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import type { Machine } from '../api/client';
  import LengthField from '../parts/LengthField.svelte';
  import { BED, CORNERS, cornerOf, type Corner } from './sheet';
  import type { Sending } from './sending.svelte';

  let { sent, onclose }: { sent: Sending; onclose: () => void } = $props();

  let edited = $state.raw<Machine>();
  const own = $derived(sent.machines.filter((one) => !one.simulated));
  const serial = $derived(edited?.address.startsWith('/dev/') ?? false);

  function fresh(): Machine {
    return {
      id: `m-${crypto.randomUUID()}`,
      name: '',
      format: 'plt',
      bed: { ...BED },
      fastest: null,
      deepest: null,
      address: '',
      baud: 9600,
    };
  }

  const change = (changed: Partial<Machine>) => edited && (edited = { ...edited, ...changed });

  async function keep(): Promise<void> {
    if (edited && (await sent.keep(edited))) edited = undefined;
  }
</script>

<h2 class="particulars">Machines <button class="quiet" onclick={onclose}>back to sending</button></h2>
{#if edited}
  <div class="fields particulars">
    <TextInput size="sm" labelText="Name" value={edited.name} on:change={(event) => change({ name: String(event.detail ?? '') })} />
    <Select size="sm" labelText="It understands" selected={edited.format} on:update={(event) => change({ format: event.detail as Machine['format'] })}>
      <SelectItem value="plt" text="HP-GL" />
      <SelectItem value="gcode" text="G-code" />
    </Select>
    <div class="pair">
      <LengthField label="Bed, across" value={edited.bed.width} onset={(width) => change({ bed: { ...edited!.bed, width } })} />
      <LengthField label="Bed, up" value={edited.bed.height} onset={(height) => change({ bed: { ...edited!.bed, height } })} />
    </div>
    <Select size="sm" labelText="Its zero is at" selected={edited.bed.zero} on:update={(event) => change({ bed: { ...edited!.bed, zero: event.detail as Corner } })}>
      {#each CORNERS as corner (corner)}<SelectItem value={corner} text={corner === 'centre' ? 'the middle of its bed' : `its ${cornerOf(corner)}`} />{/each}
    </Select>
    <div class="pair">
      <LengthField label="At most as fast as" unit="mm/s" value={edited.fastest ?? null} empty="not known" onset={(fastest) => change({ fastest })} onclear={() => change({ fastest: null })} />
      <LengthField label="At most as deep as" value={edited.deepest ?? null} empty="not known" onset={(deepest) => change({ deepest })} onclear={() => change({ deepest: null })} />
    </div>
    <TextInput size="sm" labelText="Address" placeholder="host:port or /dev/…" value={edited.address} on:change={(event) => change({ address: String(event.detail ?? '') })} />
    {#if serial}
      <LengthField label="Baud" unit="" value={edited.baud} onset={(baud) => change({ baud: Math.round(baud) })} />
    {/if}
    <p>To be reached it must be allowed as well: start Ulvent with <code>--machine {edited.address || 'ADDRESS'}</code>.</p>
    {#if sent.wrong}<InlineNotification lowContrast hideCloseButton kind="error" title="" subtitle={sent.wrong} />{/if}
    <div class="row">
      <Button size="small" disabled={sent.busy} on:click={() => void keep()}>Keep</Button>
      <Button size="small" kind="ghost" on:click={() => (edited = undefined)}>Leave it</Button>
    </div>
  </div>
{:else}
  {#each own as { machine, allowed } (machine.id)}
    <div class="one">
      <div>
        <strong>{machine.name || machine.address}</strong>
        <p>{machine.address}{allowed ? '' : ' · may not be reached'}</p>
      </div>
      <span>
        <button class="quiet" onclick={() => (edited = machine)}>change</button>
        <button class="quiet" onclick={() => void sent.forget(machine.id)}>remove</button>
      </span>
    </div>
  {:else}
    <p>None of your own yet. The simulated ones are always there.</p>
  {/each}
  <Button size="small" kind="ghost" on:click={() => (edited = fresh())}>Add a machine</Button>
{/if}

<style>
  .row {
    display: flex;
    gap: 8px;
  }

  .one {
    display: flex;
    align-items: center;
    justify-content: space-between;
    border-bottom: 1px solid var(--line);
    padding: 8px 0;
  }

  p {
    margin: 4px 0;
    color: var(--ink-soft);
    font-size: 12px;
  }
</style>
