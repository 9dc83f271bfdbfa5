<script lang="ts">
  import { InlineNotification, Modal, Stack, TextInput } from 'carbon-components-svelte';
  import { catalogue } from '../api/catalogue';
  import { api, figuresSettled, saying } from '../api/client';
  import { remembered } from '../piece/remembered';
  import LengthField from '../parts/LengthField.svelte';
  import { router } from '../shell/router.svelte';

  let { onclose }: { onclose: () => void } = $props();

  let words = $state('');
  const { firsts } = catalogue();
  let disc = $state(firsts['disc'] ?? 0);
  let ring = $state(firsts['ring'] ?? 0);
  let wrong = $state('');
  let wrongDisc = $state(false);
  let wrongRing = $state(false);

  async function make(): Promise<void> {
    await figuresSettled();
    if (wrongDisc || wrongRing) return;
    const body = { words, disc, ring, choices: remembered() };
    const answer = await api.POST('/api/pieces/first', { body }).catch(() => undefined);
    if (answer?.data) router.go(`/pieces/${answer.data.id}`);
    else wrong = saying(answer?.error);
  }
</script>

<Modal
  open
  size="xs"
  modalHeading="New piece"
  primaryButtonText="Lay it out"
  secondaryButtonText="Cancel"
  selectorPrimaryFocus="#new-words"
  hasForm
  on:click:button--secondary={onclose}
  on:close={onclose}
  on:submit={() => void make()}
>
  <Stack gap={5}>
    <TextInput
      id="new-words"
      labelText="Words"
      placeholder="the words on it"
      maxlength={catalogue().bounds.letters}
      bind:value={words}
    />
    <LengthField
      label="Disc, diameter"
      value={disc}
      onset={(value) => (disc = value)}
      onwrong={(is) => (wrongDisc = is)}
    />
    <LengthField
      label="Ring for the words, diameter"
      value={ring}
      onset={(value) => (ring = value)}
      onwrong={(is) => (wrongRing = is)}
    />
    {#if wrong}
      <InlineNotification lowContrast hideCloseButton kind="error" title={wrong} />
    {/if}
  </Stack>
</Modal>
