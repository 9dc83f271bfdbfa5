<script lang="ts">
  import { OverflowMenu, OverflowMenuItem } from 'carbon-components-svelte';
  import type { PieceSummary } from '../api/client';
  import { follow } from '../shell/router.svelte';

  interface Props {
    piece: PieceSummary;
    onrename: () => void;
    onduplicate: () => void;
    ondelete: () => void;
  }

  let { piece, onrename, onduplicate, ondelete }: Props = $props();
  const title = $derived(piece.title || 'Untitled');
  const changed = $derived(
    new Date(piece.changed_at).toLocaleDateString([], { day: 'numeric', month: 'short' }),
  );
</script>

<li>
  <a href={`/pieces/${piece.id}`} onclick={follow}>
    <img
      src={`/api/pieces/${piece.id}/thumbnail?revision=${piece.revision}`}
      alt={`Picture of ${title}`}
    />
    <h2>{title}</h2>
  </a>
  <div class="line">
    <span>{piece.blank} · {changed}</span>
    <OverflowMenu flipped size="sm" aria-label={`More for ${title}`} iconDescription={`More for ${title}`}>
      <OverflowMenuItem text="Rename" on:click={onrename} />
      <OverflowMenuItem text="Duplicate" on:click={onduplicate} />
      <OverflowMenuItem text="Download piece file" href={`/api/pieces/${piece.id}/file`} />
      <OverflowMenuItem danger text="Delete" on:click={ondelete} />
    </OverflowMenu>
  </div>
</li>

<style>
  li {
    border: 1px solid var(--line);
    background: var(--sheet);
  }

  a {
    display: block;
    color: var(--ink);
    text-decoration: none;
  }

  a:hover h2 {
    color: var(--verdigris);
  }

  img {
    display: block;
    box-sizing: border-box;
    width: 100%;
    height: 220px;
    padding: 14px;
    background: var(--ground);
    object-fit: contain;
  }

  h2 {
    margin: 0;
    font-size: inherit;
    display: block;
    padding: 10px 12px 0;
    font-weight: 600;
  }

  .line {
    display: flex;
    align-items: center;
    justify-content: space-between;
    padding: 0 4px 4px 12px;
    color: var(--ink-soft);
    font-size: 13px;
  }
</style>
