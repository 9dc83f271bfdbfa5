<script lang="ts">
  import Add from 'carbon-icons-svelte/lib/Add.svelte';
  import type { Guide, Lettering } from '../api/client';
  import { DERIVED, DRAWN, OPTIONS, type Option, type Recipe } from '../editor/guides';
  import type { Chosen, Editor } from '../editor/editor.svelte';
  import { blankWords, figure, guideName, guideSize, readingWords } from '../editor/words';

  interface Props {
    editor: Editor;
    onfile: () => void;
    ondrawer: () => void;
  }

  let { editor, onfile, ondrawer }: Props = $props();

  const chosen = $derived(editor.chosen);
  const solved = $derived(editor.solved);
  const letteringsOf = (guide: Guide) =>
    solved.letterings.filter((one) => one.guide === guide.id);
  const isChosen = (kind: Chosen['kind'], id = '') =>
    chosen?.kind === kind && (chosen.kind === 'blank' || chosen.id === id);
  /** What a lettering says: its words, or the labels of its dial. */
  function saidBy(lettering: Lettering): string {
    if (!lettering.dial) return lettering.text.replace(/\n/g, ' ').trim();
    const found = editor.around?.letterings.find((one) => one.id === lettering.id);
    return Object.values(found?.label_texts ?? {}).slice(0, 8).join(' ');
  }

  /** What a lettering without words is. */
  const wordless = (lettering: Lettering) =>
    lettering.dial ? 'a dial' : lettering.repeat?.separator ? `a ring of ${lettering.repeat.separator.kind}s` : 'no words yet';

  const sample = (lettering: Lettering) =>
    `/api/faces/${encodeURIComponent(lettering.face)}/words?text=${encodeURIComponent(saidBy(lettering))}`;

  /** A guide's own outline, as large as its picture. */
  function picture(guide: Guide): { box: string; path: string } | undefined {
    const found = editor.around?.guides.find((one) => one.id === guide.id);
    if (!found) return undefined;
    const [x0, y0, x1, y1] = found.bounds;
    const size = Math.max(x1 - x0, y1 - y0) || 1;
    const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
    return {
      box: `${cx - 0.56 * size} ${cy - 0.56 * size} ${1.12 * size} ${1.12 * size}`,
      path: found.path,
    };
  }

  const guides = $derived(solved.guides);
  /** Guides that are there, and lines kept only because something stands on them. */
  const stoodOn = (guide: Guide) => letteringsOf(guide).length > 0;
  const shown = $derived(guides.filter((one) => !one.removed || stoodOn(one)));
  const present = $derived(guides.filter((one) => !one.removed));

  const blankBox = $derived.by(() => {
    const [x0, y0, x1, y1] = editor.around?.blank_bounds ?? [0, 0, 1, 1];
    const size = 1.1 * Math.max(x1 - x0, y1 - y0, 1);
    return `${(x0 + x1 - size) / 2} ${(y0 + y1 - size) / 2} ${size} ${size}`;
  });

  /** How large a new guide is: as the blank asks, or 200 mm. */
  const size = $derived.by(() => {
    const box = editor.around?.blank.length ? editor.around.blank_bounds : undefined;
    return box ? Math.min(box[2] - box[0], box[3] - box[1]) : 200;
  });

  const USUAL = OPTIONS.filter((one) => ['ring', 'arch', 'wave', 'spiral'].includes(one.name));
  const FILE = 'M15 5H25L31 11V27H15ZM25 5V11H31M19 21c2-6 6 3 8-4';
  const DRAWER = 'M9 7H35V26H9ZM9 16H35M20 11.5h4M20 21h4';
  let choosing = $state(false);
  let opener = $state<HTMLButtonElement>();
  let gallery = $state<HTMLDivElement>();

  $effect(() => gallery?.focus());

  function close(): void {
    choosing = false;
    opener?.focus();
  }

  function put(recipe: Recipe, stem: string): void {
    editor.addGuide({ ...recipe, id: editor.newGuideId(stem) });
  }

  function add(option: Option): void {
    put(option.recipe(size), option.name.replace(/ .*/, ''));
  }

  function derive(kind: (typeof DERIVED)[number]['kind']): void {
    const base = editor.guide && !editor.guide.removed ? editor.guide : present[0];
    if (!base) return;
    if (kind === 'between') {
      const other = present.find((one) => one.id !== base.id);
      if (other) put({ kind, first: base.id, second: other.id, share: 0.5 }, 'middle');
    } else if (kind === 'parallel') {
      put({ kind, guide: base.id, distance: 10 }, 'parallel');
    } else {
      put({ kind, guide: base.id, centre: [0, 0] }, 'flat');
    }
  }
</script>

<nav aria-label="Contents">
  <h2>The blank</h2>
  <button
    class="entry"
    class:on={isChosen('blank')}
    aria-pressed={isChosen('blank')}
    onclick={() => editor.choose({ kind: 'blank' })}
  >
    <svg class="picture" viewBox={blankBox} aria-hidden="true">
      <path class="disc" d={editor.around?.blank.join('') ?? ''} />
    </svg>
    <span>{editor.piece.blank ? blankWords(editor.piece.blank) : 'no blank'}</span>
  </button>

  <h2>Guides and lettering</h2>
  {#each shown as guide (guide.id)}
    {@const drawn = picture(guide)}
    <div class="guide" class:away={guide.hidden || guide.removed}>
      {#if guide.removed}
        <p class="kept">
          Line of a deleted guide, kept for its lettering.
          <button
            class="quiet"
            onclick={() => editor.act({ act: 'restore-guide', guide: guide.id })}
          >
            Bring it back
          </button>
        </p>
      {:else}
        <button
          class="entry"
          class:on={isChosen('guide', guide.id)}
          aria-pressed={isChosen('guide', guide.id)}
          onclick={() => editor.choose({ kind: 'guide', id: guide.id })}
        >
          <svg class="picture" viewBox={drawn?.box ?? '0 0 1 1'} aria-hidden="true">
            <path d={drawn?.path ?? ''} />
          </svg>
          <span>
            <strong>{guideName(guide)}</strong> · {guideSize(guide)}{guide.hidden ? ' · hidden' : ''}
          </span>
        </button>
      {/if}
      <ul>
        {#each letteringsOf(guide) as lettering (lettering.id)}
          {@const found = editor.around?.findings.filter((one) => one.lettering === lettering.id)}
          <li>
            <button
              class="lettering"
              class:on={isChosen('lettering', lettering.id)}
              aria-pressed={isChosen('lettering', lettering.id)}
              aria-label={saidBy(lettering) || wordless(lettering)}
              onclick={() => editor.choose({ kind: 'lettering', id: lettering.id })}
            >
              {#if saidBy(lettering)}
                <span class="sample"><img src={sample(lettering)} alt="" /></span>
              {:else}
                <em>{wordless(lettering)}</em><br />
              {/if}
              <span>
                {readingWords(guide, lettering.reading)} · {figure(lettering.height)} mm
                {#each ['fault', 'warning'] as severity (severity)}
                  {@const mine = found?.filter((one) => one.severity === severity)}
                  {#if mine?.length}
                    <b class={severity} title={mine.map((one) => one.message).join('\n')}>· {severity}</b>
                  {/if}
                {/each}
              </span>
            </button>
          </li>
        {/each}
      </ul>
      {#if !guide.removed && !guide.hidden}
        <button class="quiet add" onclick={() => editor.addLettering(guide.id)}>
          <Add size={16} /> lettering on this guide
        </button>
      {/if}
    </div>
  {:else}
    <p class="none">No guide yet. Lettering needs a line to follow.</p>
  {/each}

  <h2>Add a guide</h2>
  <div class="kinds">
    {#each USUAL as option (option.name)}
      {@render choice(option.name, option.picture, () => add(option))}
    {/each}
  </div>
  <button
    class="quiet more"
    aria-expanded={choosing}
    bind:this={opener}
    onclick={() => (choosing = !choosing)}
  >
    <Add size={16} /> all guides, files, drawer
  </button>
</nav>

{#snippet choice(name: string, picture: string, onchoose: () => void, disabled = false)}
  <button
    {disabled}
    onclick={() => {
      choosing = false;
      onchoose();
    }}
  >
    <svg viewBox="0 0 44 32" aria-hidden="true"><path d={picture} /></svg>
    {name}
  </button>
{/snippet}

{#if choosing}
  <div
    class="gallery"
    role="dialog"
    aria-label="Add a guide"
    tabindex="-1"
    bind:this={gallery}
    onkeydown={(event) => event.key === 'Escape' && close()}
  >
    <h3>Exact</h3>
    <div class="kinds">
      {#each OPTIONS as option (option.name)}
        {@render choice(option.name, option.picture, () => add(option))}
      {/each}
    </div>
    <div class="groups">
    <section>
    <h3>Drawn</h3>
    <div class="kinds">
      {#each DRAWN as option (option.tool)}
        {@render choice(option.name, option.picture, () => editor.take(option.tool))}
      {/each}
    </div>
    </section>
    <section>
    <h3>Made from guides that are there</h3>
    <div class="kinds">
      {#each DERIVED as option (option.kind)}
        {@render choice(
          option.name,
          option.picture,
          () => derive(option.kind),
          present.length < (option.kind === 'between' ? 2 : 1),
        )}
      {/each}
    </div>
    </section>
    <section>
    <h3>Kept or brought along</h3>
    <div class="kinds">
      {@render choice('from a file', FILE, onfile)}
      {@render choice('from the drawer', DRAWER, ondrawer)}
    </div>
    </section>
    </div>
    <button class="quiet" onclick={close}>close</button>
  </div>
{/if}

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
    stroke-width: 1.2px;
    vector-effect: non-scaling-stroke;
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
    font-weight: 600;
  }

  .lettering b.warning {
    color: var(--ochre);
  }

  .away .picture {
    opacity: 0.4;
  }

  .kept {
    margin: 4px 6px;
    color: var(--ink-soft);
    font-size: 12px;
    line-height: 16px;
  }

  .kept button {
    color: var(--verdigris);
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
    gap: 4px;
  }

  .kinds button {
    border: 1px solid var(--line);
    padding: 2px 0 4px;
    background: var(--sheet);
    text-align: center;
    font-size: 11px;
    line-height: 13px;
  }

  .kinds button:disabled {
    opacity: 0.45;
    cursor: default;
  }

  .kinds button:hover:not(:disabled) {
    border-color: var(--verdigris);
  }

  .more {
    display: flex;
    gap: 4px;
    align-items: center;
    margin-top: 6px;
    color: var(--verdigris);
  }

  .gallery {
    position: fixed;
    z-index: 20;
    top: 52px;
    left: 240px;
    border: 1px solid var(--line-strong);
    padding: 4px 16px 12px;
    width: 580px;
    background: var(--paper);
  }

  .gallery:focus-visible {
    outline: none;
  }

  .gallery .kinds {
    grid-template-columns: repeat(auto-fill, 74px);
  }

  .groups {
    display: flex;
    gap: 24px;
  }

  .groups .kinds {
    display: flex;
  }

  .groups .kinds button {
    width: 74px;
  }

  .gallery > button {
    margin-top: 10px;
    color: var(--verdigris);
  }

  h3 {
    margin: 10px 0 4px;
    color: var(--ink-soft);
    font-size: 12px;
    font-weight: 400;
  }

  .kinds svg {
    display: block;
    width: 100%;
    fill: none;
    stroke: var(--ink);
  }
</style>
