<script lang="ts">
  import PieceView from './layout/PieceView.svelte';
  import { router } from './router.svelte';
  import Shelf from './shelf/Shelf.svelte';
</script>

{#if router.pieceId}
  {#key router.pieceId}
    <PieceView id={router.pieceId} />
  {/key}
{:else}
  <Shelf />
{/if}
