<script lang="ts">
  import { Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import { catalogue, choices } from '../../api/catalogue';
  import type { Mark } from '../../api/client';
  import { outlinesOf } from '../../api/outlines';
  import LengthField from '../../parts/LengthField.svelte';

  interface Props {
    label: string;
    mark: Mark | undefined;
    onset: (mark: Mark | undefined) => void;
  }

  let { label, mark, onset }: Props = $props();

  const KINDS = choices('mark');

  let wrong = $state('');
  let chooser = $state<HTMLInputElement>();

  function choose(kind: string): void {
    if (kind === (mark?.kind ?? '')) return;
    wrong = '';
    if (!kind) onset(undefined);
    else if (kind === 'outline') chooser?.click();
    else onset(catalogue().marks[kind] as Mark);
  }

  /** An outline from a file, as one mark: the server reads it and says what it draws. */
  async function take(event: Event): Promise<void> {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    const read = await outlinesOf(file);
    if (typeof read === 'string') {
      wrong = read;
      return;
    }
    const closed = read.outlines.filter((one) => one.closed);
    if (!closed.length) {
      wrong = 'The file has no closed outline to be a mark.';
      return;
    }
    const d = closed.map((one) => one.edges.map((edge, index) => (index ? edge.data.replace(/^M[^A-Za-z]*/, '') : edge.data)).join('') + 'Z').join('');
    onset({ ...(catalogue().marks['outline'] as Mark), d });
  }
</script>

<div class="mark">
  <Select
    size="sm"
    labelText={label}
    selected={mark?.kind ?? ''}
    on:update={(event) => choose(String(event.detail))}
  >
    <SelectItem value="" text="nothing" />
    {#each KINDS as kind (kind.value)}
      <SelectItem value={kind.value} text={kind.label} />
    {/each}
  </Select>
  {#if mark}
    <LengthField
      label="Its height"
      unit="%"
      shownAs={100}
      value={mark.size ?? 0.4}
      onset={(size) => onset({ ...mark, size })}
    />
    {#if mark.kind === 'letter'}
      <TextInput
        size="sm"
        labelText="Character"
        value={mark.letter}
        maxlength={8}
        on:change={(event) => String(event.detail ?? '').trim() && onset({ ...mark, letter: String(event.detail) })}
      />
    {/if}
    <LengthField
      label="Middle at"
      unit="%"
      shownAs={100}
      value={mark.raised ?? 0.5}
      onset={(raised) => onset({ ...mark, raised })}
    />
  {/if}
</div>
<input
  bind:this={chooser}
  class="visually-hidden"
  type="file"
  accept={catalogue().readers.map((one) => `.${one.name}`).join(',')}
  aria-label={`${label}: a mark from a file`}
  tabindex="-1"
  onchange={take}
/>
{#if wrong}<p class="wrong" role="alert">{wrong}</p>{/if}

<style>
  .mark {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
  }

  .wrong {
    margin: 0;
    color: var(--brick);
    font-size: 12px;
  }
</style>
