<script lang="ts">
  import { InlineNotification, Modal, Stack, TextInput } from 'carbon-components-svelte';
  import { api, figuresSettled, saying } from '../api/client';
  import { remembered } from '../editor/remembered';
  import LengthField from '../parts/LengthField.svelte';
  import { router } from '../router.svelte';

  let { onclose }: { onclose: () => void } = $props();

  let words = $state('');
  let disc = $state(300);
  let ring = $state(240);
  let wrong = $state('');
  let wrongDisc = $state(false);
  let wrongRing = $state(false);

  async function make(): Promise<void> {
    await figuresSettled();
    if (wrongDisc || wrongRing) return;
    const piece = {
      ulvent: 1,
      title: words.trim() || 'New piece',
      blank: { kind: 'disc', diameter: disc },
      guides: [{ id: 'ring', kind: 'circle', diameter: ring, start: 180 }],
      letterings: [
        {
          id: 'words',
          guide: 'ring',
          text: words.trim() || 'Your words',
          at: 0.25,
          at_in: 'share',
          ...remembered(),
        },
      ],
    };
    const answer = await api.POST('/api/pieces', { body: { piece } }).catch(() => undefined);
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
      placeholder="What it shall say"
      maxlength={2000}
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
