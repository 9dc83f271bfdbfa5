<script lang="ts">
  /** What a person sets of a record: figures, choices, switches, as the server lists them. */
  import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import type { Input } from '../api/client';
  import Choice from './Choice.svelte';
  import LengthField from './LengthField.svelte';

  type Values = Record<string, unknown>;

  interface Props {
    inputs: readonly Input[];
    /** The record; what it leaves out is as usual. */
    values: Values;
    /** Guides that can be named; an empty value stands for the blank. */
    shapes?: readonly { value: string; label: string }[];
    /** Whether options are lists to choose from rather than rows. */
    listed?: boolean;
    problem?: (field: string) => string;
    onset: (changed: Values) => void;
  }

  let { inputs, values, shapes = [], listed = false, problem = () => '', onset }: Props = $props();

  const text = (field: string) => String(values[field] ?? '');
  const set = (field: string, value: unknown) => onset({ [field]: value });

  /** Inputs that depend on another field are shown while that has one of their values. */
  const shown = $derived(
    inputs.filter((one) => !('when' in one && one.when) || one.when.values.includes(text(one.when.field))),
  );
  const named = (values: readonly (readonly [string, string])[]) =>
    values.map(([value, label]) => ({ value, label }));
</script>

{#each shown as one, index (`${index} ${'field' in one ? one.field : ''}`)}
  {#if one.input === 'figure'}
    <LengthField
      label={one.label}
      unit={one.unit ?? 'mm'}
      shownAs={one.shown_as ?? 1}
      value={one.empty && values[one.field] == null ? null : Number(values[one.field] ?? 0)}
      empty={one.empty ?? ''}
      problem={problem(one.field)}
      onset={(value) => set(one.field, value)}
      {...one.empty ? { onclear: () => set(one.field, null) } : {}}
    />
  {:else if one.input === 'option' && listed}
    <Select
      size="sm"
      labelText={one.label}
      selected={text(one.field)}
      on:update={(event) => event.detail !== text(one.field) && set(one.field, event.detail)}
    >
      {#each named(one.values) as { value, label } (value)}<SelectItem {value} text={label} />{/each}
    </Select>
  {:else if one.input === 'option'}
    <div class="wide">
      <Choice
        label={one.label}
        options={named(one.values)}
        value={text(one.field)}
        onset={(value) => set(one.field, value)}
      />
    </div>
  {:else if one.input === 'switch'}
    <div class="wide">
      <Checkbox
        labelText={one.label}
        checked={Boolean(values[one.field])}
        on:check={(event) => event.detail !== Boolean(values[one.field]) && set(one.field, event.detail)}
      />
    </div>
  {:else if one.input === 'guide'}
    <Select
      size="sm"
      labelText={one.label}
      selected={text(one.field)}
      on:update={(event) => event.detail !== text(one.field) && set(one.field, event.detail || null)}
    >
      {#each shapes.filter(({ value }) => value || one.or_blank) as { value, label } (value)}
        <SelectItem {value} text={label} />
      {/each}
    </Select>
  {/if}
{/each}

<style>
  .wide {
    grid-column: 1 / -1;
  }

  .wide :global(.bx--form-item) {
    margin: 0;
  }
</style>
