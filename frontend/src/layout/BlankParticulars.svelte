<script lang="ts">
  import type { Piece } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import LengthField from '../parts/LengthField.svelte';

  interface Props {
    editor: Editor;
    blank: NonNullable<Piece['blank']>;
  }

  let { editor, blank }: Props = $props();

  function set(diameter: number): void {
    editor.change({ blank: { kind: 'disc', diameter } });
    void editor.finish();
  }
</script>

<h2>The blank: a disc</h2>
<LengthField label="Diameter" value={blank.diameter} onset={set} />

<style>
  h2 {
    margin: 0 0 12px;
    font-size: 14px;
    font-weight: 600;
  }
</style>
