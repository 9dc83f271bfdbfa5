<script lang="ts">
  import Add from 'carbon-icons-svelte/lib/Add.svelte';
  import type { Guide, Lettering } from '../api/client';
  import type { Chosen, Editor } from '../editor/editor.svelte';
  import { figure, guideName, guideSize, readingWords } from '../editor/words';

  let { editor }: { editor: Editor } = $props();

  const chosen = $derived(editor.chosen);
  const letteringsOf = (guide: Guide) =>
    editor.piece.letterings.filter((one) => one.guide === guide.id);
  const isChosen = (kind: Chosen['kind'], id = '') =>
    chosen?.kind === kind && (chosen.kind === 'blank' || chosen.id === id);
  const sample = (lettering: Lettering) =>
    `/api/faces/${encodeURIComponent(lettering.face)}/words?text=${encodeURIComponent(lettering.text)}`;

  /** A guide's own outline, as large as its picture. */
  function picture(guide: Guide): { box: string; path: string } | undefined {
    const found = editor.scene?.guides.find((one) => one.id === guide.id);
    if (!found) return undefined;
    const [x0, y0, x1, y1] = found.bounds;
    const size = Math.max(x1 - x0, y1 - y0) || 1;
    const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
    return {
      box: `${cx - 0.56 * size} ${cy - 0.56 * size} ${1.12 * size} ${1.12 * size}`,
      path: found.path,
    };
  }
</script>

<nav aria-label="Contents">
  <h2>The blank</h2>
  {#if editor.piece.blank}
    <button
      class="entry"
      class:on={isChosen('blank')}
      aria-pressed={isChosen('blank')}
      onclick={() => editor.choose({ kind: 'blank' })}
    >
      <svg class="picture" viewBox="0 0 28 28" aria-hidden="true">
        <circle class="disc" cx="14" cy="14" r="12" />
      </svg>
      <span>Disc ⌀ {figure(editor.piece.blank.diameter)}</span>
    </button>
  {:else}
    <p class="none">none</p>
  {/if}

  <h2>Guides and lettering</h2>
  {#each editor.piece.guides as guide (guide.id)}
    {@const drawn = picture(guide)}
    <div class="guide">
      <button
        class="entry"
        class:on={isChosen('guide', guide.id)}
        aria-pressed={isChosen('guide', guide.id)}
        onclick={() => editor.choose({ kind: 'guide', id: guide.id })}
      >
        <svg class="picture" viewBox={drawn?.box ?? '0 0 1 1'} aria-hidden="true">
          <path d={drawn?.path ?? ''} />
        </svg>
        <span><strong>{guideName(guide)}</strong> · {guideSize(guide)}</span>
      </button>
      <ul>
        {#each letteringsOf(guide) as lettering (lettering.id)}
          {@const faults = editor.scene?.findings.filter((one) => one.lettering === lettering.id)}
          <li>
            <button
              class="lettering"
              class:on={isChosen('lettering', lettering.id)}
              aria-pressed={isChosen('lettering', lettering.id)}
              aria-label={lettering.text || 'no words yet'}
              onclick={() => editor.choose({ kind: 'lettering', id: lettering.id })}
            >
              {#if lettering.text.trim()}
                <span class="sample"><img src={sample(lettering)} alt="" /></span>
              {:else}
                <em>no words yet</em>
              {/if}
              <span>
                {readingWords(guide, lettering.reading)} · {figure(lettering.height)} mm
                {#if faults?.length}<b title={faults.map((one) => one.message).join('\n')}>· fault</b>{/if}
              </span>
            </button>
          </li>
        {/each}
      </ul>
      <button class="quiet add" onclick={() => editor.addLettering(guide.id)}>
        <Add size={16} /> lettering on this guide
      </button>
    </div>
  {:else}
    <p class="none">No guide yet. Lettering needs a line to follow.</p>
  {/each}

  <h2>Add a guide</h2>
  <div class="kinds">
    <button onclick={() => editor.addGuide()}>
      <svg viewBox="0 0 44 32" aria-hidden="true"><circle cx="22" cy="16" r="11" /></svg>
      ring
    </button>
  </div>
</nav>

<style>
  nav {
    overflow-y: auto;
    border-right: 1px solid var(--line);
    padding: 4px 12px 12px 16px;
  }

  h2 {
    margin: 12px 0 6px;
    color: var(--ink-soft);
    font-size: 13px;
    font-weight: 600;
  }

  button {
    color: inherit;
    font: inherit;
    text-align: left;
    cursor: pointer;
  }

  .entry,
  .lettering {
    width: 100%;
    border: 0;
    background: none;
  }

  .entry {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 4px 6px;
  }

  .entry:hover,
  .lettering:hover {
    background: var(--ground);
  }

  .entry.on,
  .lettering.on {
    background: var(--verdigris-soft);
  }

  .picture {
    flex: none;
    width: 28px;
    height: 28px;
    fill: none;
    stroke: var(--verdigris);
    stroke-dasharray: 5 2 1 2;
  }

  .picture path {
    stroke-width: 1.2px;
    vector-effect: non-scaling-stroke;
  }

  .disc {
    stroke: var(--ink-soft);
    stroke-dasharray: none;
    fill: var(--sheet);
  }

  ul {
    margin: 2px 0 0 19px;
    border-left: 2px solid var(--line);
    padding: 0;
    list-style: none;
  }

  .lettering {
    display: block;
    margin-left: -2px;
    border-left: 2px solid transparent;
    padding: 5px 6px 6px 10px;
  }

  .lettering.on {
    border-left-color: var(--verdigris);
  }

  .sample {
    display: block;
    overflow: hidden;
    mask-image: linear-gradient(to right, #000 94%, transparent);
  }

  .sample img {
    display: block;
    height: 20px;
  }

  .lettering span {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .lettering b {
    color: var(--brick);
  }

  .add {
    display: flex;
    align-items: center;
    gap: 4px;
    margin: 4px 0 10px 15px;
    color: var(--verdigris);
  }

  .none {
    color: var(--ink-soft);
    font-size: 13px;
  }

  .kinds {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    gap: 6px;
  }

  .kinds button {
    border: 1px solid var(--line);
    padding: 4px 0;
    background: var(--sheet);
    text-align: center;
    font-size: 12px;
  }

  .kinds button:hover {
    border-color: var(--verdigris);
  }

  .kinds svg {
    display: block;
    width: 100%;
    fill: none;
    stroke: var(--ink);
  }
</style>
