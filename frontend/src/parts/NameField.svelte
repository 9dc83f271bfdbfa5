<script lang="ts">
  /** What something is called; emptied, it goes by what it is. */
  import { TextInput } from 'carbon-components-svelte';
  import { isUndo } from './undoing';

  interface Props {
    name: string;
    /** What it goes by without a name. */
    otherwise: string;
    onset: (name: string) => void;
  }

  let { name, otherwise, onset }: Props = $props();

  let typed = $state<string>();

  function set(): void {
    const wanted = typed?.trim();
    typed = undefined;
    if (wanted !== undefined && wanted !== name) onset(wanted);
  }

  function press(event: KeyboardEvent): void {
    if (typed === undefined && isUndo(event)) return;
    event.stopPropagation();
    if (event.key === 'Enter') set();
    if (event.key === 'Escape') typed = undefined;
  }
</script>

<TextInput
  size="sm"
  labelText="Name, in lists and files"
  value={typed ?? name}
  placeholder={otherwise}
  maxlength={80}
  autocomplete="off"
  on:input={(event) => (typed = String(event.detail ?? ''))}
  on:keydown={press}
  on:blur={set}
/>
