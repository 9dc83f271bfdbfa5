<script lang="ts">
  /** Whether something is cut, drawn or engraved, or in no file. */
  import { Select, SelectItem } from 'carbon-components-svelte';
  import { catalogue } from '../api/catalogue';
  import type { Output } from '../api/client';

  interface Props {
    label?: string;
    /** Nothing where it is as usual. */
    value: Output | 'none' | null | undefined;
    /** What is usual, in words; without it one of the others is always chosen. */
    usual?: string;
    /** Whether it is said of several things that differ. */
    different?: boolean;
    onset: (value: Output | 'none' | null) => void;
  }

  let { label = 'In files it is', value, usual, different = false, onset }: Props = $props();

  const MIXED = 'mixed';
  const options = $derived([
    ...(different ? [{ value: MIXED, label: MIXED }] : []),
    ...(usual ? [{ value: '', label: usual }] : []),
    ...Object.entries(catalogue().outputs).map(([name, one]) => ({ value: name, label: one.words })),
    { value: 'none', label: 'left out' },
  ]);
  const chosen = $derived(different ? MIXED : (value ?? (usual ? '' : 'none')));
</script>

<Select
  size="sm"
  labelText={label}
  selected={chosen}
  on:update={(event) => {
    if (event.detail !== chosen) onset((event.detail || null) as Output | null);
  }}
>
  {#each options as one (one.value)}<SelectItem value={one.value} text={one.label} />{/each}
</Select>
