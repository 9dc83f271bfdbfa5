<script lang="ts">
  /** The run sent to a machine: begun, held, stopped, and taken up again. */
  import { Button, Checkbox, InlineNotification, ProgressBar, Select, SelectItem } from 'carbon-components-svelte';
  import type { RunScene } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { settled } from '../piece/settled';
  import BedSeen from './BedSeen.svelte';
  import Machines from './Machines.svelte';
  import type { Sending } from './sending.svelte';
  import { cornerOf } from './sheet';
  import { lasting, metres } from '../rehearsal/figures';
  import type { Moment } from './timeline';

  interface Props {
    editor: Editor;
    sent: Sending;
    scene: RunScene | undefined;
    /** Where the rehearsal stands. */
    moment: Moment | undefined;
  }

  let { editor, sent, scene, moment }: Props = $props();

  const STATES = {
    sending: 'Sending',
    holding: 'Held: it stands still',
    asking: 'It asks for something',
    silent: 'The machine is silent',
    done: 'All of it is done',
    stopped: 'Stopped',
    failed: 'It failed',
    'broken-off': 'Broken off',
  } as const;

  let machine = $state('');
  let onePass = $state('');
  let despite = $state(false);
  let edited = $state(false);
  const job = $derived(sent.job);
  const wanted = $derived(machine || job?.machine.id || sent.machines[0]?.machine.id || '');
  const to = $derived(sent.machines.find((one) => one.machine.id === wanted));
  const running = $derived((scene?.passes ?? []).filter((one) => one.runs));
  const behind = $derived(job ? job.done + job.uncertain : 0);
  const standing = $derived(moment?.done ?? 0);

  async function send(): Promise<void> {
    if (!(await settled(editor))) return;
    await sent.send(wanted, editor.keeping.revision, onePass, despite);
    despite = false;
  }
</script>

<aside class="right" aria-label="Sending">
  {#if edited}
    <Machines {sent} onclose={() => (edited = false)} />
  {:else}
    <h2 class="particulars">Send to a machine</h2>
    <div class="fields particulars">
      <Select size="sm" labelText="Machine" selected={wanted} on:update={(event) => (machine = String(event.detail))}>
        {#each sent.machines as one (one.machine.id)}<SelectItem value={one.machine.id} text={one.machine.name} />{/each}
      </Select>
      {#if to}
        <p>
          {to.machine.format === 'plt' ? 'HP-GL' : 'G-code'} · bed {to.machine.bed.width} × {to.machine.bed.height} mm, zero at
          its {cornerOf(to.machine.bed.zero)} · {to.machine.address}
        </p>
        {#if !to.allowed}
          <p class="warning">Its address may not be reached. Who starts Ulvent allows it with <code>--machine {to.machine.address}</code>.</p>
        {/if}
      {/if}
      <button class="quiet left" onclick={() => (edited = true)}>machines…</button>
      {#if running.length > 1}
        <Select size="sm" labelText="What is sent" selected={onePass} on:update={(event) => (onePass = String(event.detail))}>
          <SelectItem value="" text="all passes, in order" />
          {#each running as one (one.id)}<SelectItem value={one.id} text={`${one.letter}${one.number} ${one.title} only`} />{/each}
        </Select>
      {/if}
      {#if sent.open}
        <p class="warning" role="alert">Not sent: {sent.open}</p>
        <Checkbox labelText="send it all the same" bind:checked={despite} />
      {/if}
      {#if sent.wrong}
        <InlineNotification lowContrast hideCloseButton kind="error" title="" subtitle={sent.wrong} />
      {/if}
      {#if !job?.active}
        <Button size="small" disabled={!to?.allowed || sent.busy || !running.length || to.busy !== null} on:click={() => void send()}>
          {job && !job.active && job.state !== 'done' ? 'Send anew from the beginning' : 'Send'}
        </Button>
        {#if to?.busy}<p class="warning">It has a job of another piece.</p>{/if}
      {/if}
    </div>

    {#if job}
      <section aria-label="Job" class="particulars">
        <h3 class="ruled">{STATES[job.state]}{#if job.machine.id !== wanted}<span> · {job.machine.name}</span>{/if}</h3>
        {#if job.reason}<p class={job.state === 'asking' ? 'asks' : 'warning'} role="alert">{job.reason}</p>{/if}
        <ProgressBar
          size="sm"
          labelText={`${job.done} of ${job.lines} lines`}
          value={job.lines ? (100 * job.done) / job.lines : 0}
          max={100}
          status={job.state === 'done' ? 'finished' : job.state === 'failed' ? 'error' : 'active'}
          helperText={`${metres(job.length_done)} of ${metres(job.length)} · ${lasting(job.seconds_done)} of ${lasting(job.seconds)} by the model`}
        />
        {#if job.at && job.active}<p>Now: {job.at}</p>{/if}
        {#if job.active}
          <div class="row">
            {#if job.state === 'sending'}
              <Button size="small" kind="tertiary" on:click={() => void sent.wish('hold')}>Hold</Button>
            {:else}
              <Button size="small" on:click={() => void sent.wish('go-on')}>{job.state === 'asking' ? 'Done, go on' : 'Go on'}</Button>
            {/if}
            <Button size="small" kind="danger-tertiary" on:click={() => void sent.wish('stop')}>Stop</Button>
          </div>
        {:else if job.state !== 'done'}
          <p>
            {job.done} {job.done === 1 ? 'line was' : 'lines were'} answered for.
            {#if job.uncertain}
              Of {job.uncertain === 1 ? 'one more' : `${job.uncertain} more`} it is not known whether it was done: look at the sheet.
            {/if}
          </p>
          <div class="choices">
            {#if behind < job.lines}
              <Button size="small" kind="tertiary" disabled={sent.busy} on:click={() => void sent.takeUp(behind, false)}>Go on from line {behind + 1}</Button>
            {:else}
              <Button size="small" kind="tertiary" disabled={sent.busy} on:click={() => void sent.takeUp(job.lines, false)}>
                No line again, only the end: tool up, and back
              </Button>
            {/if}
            {#if job.uncertain}
              <Button size="small" kind="tertiary" disabled={sent.busy} on:click={() => void sent.takeUp(job.done, true)}>
                Line {job.done + 1} again, and on
              </Button>
            {/if}
            {#if standing !== behind && standing < job.lines}
              <Button size="small" kind="ghost" disabled={sent.busy} on:click={() => void sent.takeUp(standing, true)}>
                From line {standing + 1}, where the rehearsal stands
              </Button>
            {/if}
          </div>
        {/if}
      </section>
    {/if}
    {#if to?.simulated}<BedSeen {sent} machine={wanted} />{/if}
  {/if}
</aside>

<style>
  h3 span {
    color: var(--ink-soft);
    font-weight: 400;
  }

  p {
    margin: 4px 0;
    color: var(--ink-soft);
    font-size: 12px;
  }

  .asks {
    color: var(--ink);
    font-size: 14px;
    font-weight: 600;
  }

  .warning {
    color: var(--ochre);
  }

  .left {
    justify-self: start;
  }

  .row {
    display: flex;
    gap: 8px;
    margin-top: 10px;
  }

  .choices {
    display: flex;
    flex-direction: column;
    align-items: flex-start;
    gap: 6px;
    margin-top: 8px;
  }
</style>
