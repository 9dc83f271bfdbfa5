<script lang="ts">
  import { follow } from './router.svelte';
</script>

<a class="brand" href="/" onclick={follow} aria-label="Ulvent, to the shelf">
  <img src="/mark.svg" alt="" width="24" height="24" />
  <span>Ulvent</span>
</a>

<style>
  .brand {
    display: flex;
    align-items: center;
    gap: 8px;
    color: var(--ink);
    font-weight: 600;
    text-decoration: none;
  }
</style>
