<script lang="ts">
  import type { Act } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';

  let { editor }: { editor: Editor } = $props();

  const shout = (lettering: string) => editor.act({ act: 'shout', lettering } as unknown as Act);
</script>

<main>
  {#each editor.piece.letterings as one (one.id)}
    <p>{one.text} <button onclick={() => shout(one.id)}>shout</button></p>
  {/each}
</main>
