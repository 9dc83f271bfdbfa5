<script lang="ts">
  import { Modal, TextInput } from 'carbon-components-svelte';

  interface Props {
    title: string;
    onclose: () => void;
    onrename: (title: string) => void;
  }

  let { title, onclose, onrename }: Props = $props();
  // svelte-ignore state_referenced_locally -- the old title is where typing starts
  let typed = $state(title);
</script>

<Modal
  open
  size="xs"
  modalHeading="Rename"
  primaryButtonText="Rename"
  secondaryButtonText="Cancel"
  selectorPrimaryFocus="#new-title"
  on:click:button--secondary={onclose}
  on:close={onclose}
  on:submit={() => onrename(typed.trim())}
>
  <TextInput id="new-title" labelText="Name of the piece" maxlength={200} bind:value={typed} />
</Modal>
