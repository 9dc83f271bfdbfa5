<script lang="ts">
  import { Button, ComposedModal, ModalBody, ModalFooter, ModalHeader } from 'carbon-components-svelte';
  import type { Editor } from '../piece/editor.svelte';

  let { editor, onopen }: { editor: Editor; onopen: (id: string) => void } = $props();

  async function copy(): Promise<void> {
    const id = await editor.keeping.copyOurs();
    if (id) onopen(id);
  }
</script>

<ComposedModal open preventCloseOnClickOutside size="sm">
  <ModalHeader title="This piece was changed in another window" />
  <ModalBody>
    <p>
      Both versions are kept: the other one is the piece as it now stands on the shelf, yours is in
      this window{editor.keeping.conflict?.kept ? ` and put away as revision ${editor.keeping.conflict.kept}` : ''}.
    </p>
  </ModalBody>
  <ModalFooter>
    <Button kind="secondary" on:click={() => void editor.settle('theirs')}>Show the other</Button>
    <Button kind="secondary" on:click={() => void editor.settle('ours')}>Replace it with mine</Button>
    <Button on:click={() => void copy()}>Keep mine as a new piece</Button>
  </ModalFooter>
</ComposedModal>

<style>
  p {
    line-height: 20px;
  }
</style>
