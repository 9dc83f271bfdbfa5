<script lang="ts">
  import Add from 'carbon-icons-svelte/lib/Add.svelte';
  import type { Guide, Lettering } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { sameEntry, type Entry } from '../piece/selection.svelte';
  import { guideName, sentence } from '../words/words';
  import OutputBadge from '../parts/OutputBadge.svelte';
  import Gallery from './Gallery.svelte';
  import { length, said, units } from '../words/units.svelte';

  interface Props {
    editor: Editor;
    onfile: () => void;
    ondrawer: () => void;
  }

  let { editor, onfile, ondrawer }: Props = $props();

  const solved = $derived(editor.solved);
  const letteringsOf = (guide: Guide) =>
    solved.letterings.filter((one) => one.guide === guide.id);
  const isChosen = (kind: Entry['kind'], id: string) => editor.selection.isChosen({ kind, id });
  const blankChosen = $derived(editor.selection.chosen?.kind === 'blank');
  const lineOf = (lettering: Lettering) =>
    editor.live.around?.letterings.find((one) => one.id === lettering.id);

  /** What a lettering says: its words, or the labels of its dial. */
  function saidBy(lettering: Lettering): string {
    if (!lettering.dial) return lettering.text.replace(/\n/g, ' ').trim();
    return Object.values(lineOf(lettering)?.label_texts ?? {}).slice(0, 8).join(' ');
  }

  /** What a lettering without words is. */
  const wordless = (lettering: Lettering) =>
    lettering.dial ? 'a dial' : lettering.repeat?.separator ? `a ring of ${lettering.repeat.separator.kind}s` : 'no words yet';

  const sample = (lettering: Lettering) =>
    `/api/faces/${encodeURIComponent(lettering.face)}/words?text=${encodeURIComponent(saidBy(lettering))}`;

  const sceneOf = (guide: Guide) => editor.live.around?.guides.find((one) => one.id === guide.id);

  /** A guide's own outline, as large as its picture. */
  function picture(guide: Guide): { box: string; path: string } | undefined {
    const found = sceneOf(guide);
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

  /** All that can be chosen, from top to bottom. */
  const entries = $derived(
    shown.flatMap((guide): Entry[] => [
      ...(guide.removed ? [] : [{ kind: 'guide', id: guide.id } as const]),
      ...letteringsOf(guide).map(({ id }) => ({ kind: 'lettering', id }) as const),
    ]),
  );

  /** A press chooses; with Control one more or one less, with Shift all from the last one on. */
  function choose(event: MouseEvent, entry: Entry): void {
    const { selection } = editor;
    const placeOf = (one: Entry) => entries.findIndex((other) => sameEntry(one, other));
    const last = selection.entries.at(-1);
    const [from, to] = [last ? placeOf(last) : -1, placeOf(entry)];
    if (event.ctrlKey || event.metaKey) selection.chooseMore(entry);
    else if (event.shiftKey && from >= 0) {
      const between = entries.slice(Math.min(from, to), Math.max(from, to) + 1);
      selection.chooseAll([...between.filter((one) => one !== entries[to]), entry]);
    } else selection.choose(entry);
  }

  /** A lettering being dragged, and the guide that it is over. */
  let dragged = $state<string>();
  let over = $state<string>();

  function dragOver(event: DragEvent, guide: string): void {
    if (!dragged) return;
    event.preventDefault();
    over = guide;
  }

  function drop(event: DragEvent, guide: string): void {
    event.preventDefault();
    const one = editor.piece.letterings.filter(({ id }) => id === dragged);
    // One of several that are chosen takes the others along.
    const moved = dragged && isChosen('lettering', dragged) ? editor.letterings : one;
    editor.moveToGuide(moved, guide);
    dragged = over = undefined;
  }

  /** Alt with an arrow moves an entry in its list. */
  function reorder(event: KeyboardEvent, of: 'lettering' | 'guide', id: string): void {
    const by = ({ ArrowUp: -1, ArrowDown: 1 } as const)[event.key as 'ArrowUp' | 'ArrowDown'];
    if (!event.altKey || !by) return;
    event.preventDefault();
    event.stopPropagation();
    editor.act({ act: 'reorder', of, id, by });
  }

  const blankBox = $derived.by(() => {
    const [x0, y0, x1, y1] = editor.live.around?.blank_bounds ?? [0, 0, 1, 1];
    const size = 1.1 * Math.max(x1 - x0, y1 - y0, 1);
    return `${(x0 + x1 - size) / 2} ${(y0 + y1 - size) / 2} ${size} ${size}`;
  });
</script>

<nav aria-label="Contents">
  <h2>The blank</h2>
  <button
    class="entry"
    class:on={blankChosen}
    aria-pressed={blankChosen}
    onclick={() => editor.selection.choose({ kind: 'blank' })}
  >
    <svg class="picture" viewBox={blankBox} aria-hidden="true">
      <path class="disc" d={editor.live.around?.blank.join('') ?? ''} />
    </svg>
    <span>{sentence(said(editor.live.around?.blank_words ?? ''))} <OutputBadge output={editor.piece.edge} /></span>
  </button>

  <h2>Guides and lettering</h2>
  {#each shown as guide (guide.id)}
    {@const found = sceneOf(guide)}
    {@const drawn = picture(guide)}
    <!-- svelte-ignore a11y_no_static_element_interactions -->
    <div
      class="guide"
      class:away={guide.hidden || guide.removed}
      class:over={over === guide.id}
      ondragover={(event) => dragOver(event, guide.id)}
      ondragleave={() => (over = undefined)}
      ondrop={(event) => drop(event, guide.id)}
    >
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
          onkeydown={(event) => reorder(event, 'guide', guide.id)}
          onclick={(event) => choose(event, { kind: 'guide', id: guide.id })}
        >
          <svg class="picture" viewBox={drawn?.box ?? '0 0 1 1'} aria-hidden="true">
            <path d={drawn?.path ?? ''} />
          </svg>
          <span>
            <strong>{guideName(guide)}</strong> · {said(found?.size ?? '')}{guide.hidden ? ' · hidden' : ''}
            <OutputBadge output={guide.output} />
          </span>
        </button>
      {/if}
      <ul>
        {#each letteringsOf(guide) as lettering (lettering.id)}
          {@const findings = editor.findings.filter((one) => one.lettering === lettering.id)}
          <li>
            <button
              class="lettering"
              class:on={isChosen('lettering', lettering.id)}
              aria-pressed={isChosen('lettering', lettering.id)}
              draggable="true"
              ondragstart={() => (dragged = lettering.id)}
              ondragend={() => (dragged = over = undefined)}
              onkeydown={(event) => reorder(event, 'lettering', lettering.id)}
              onclick={(event) => choose(event, { kind: 'lettering', id: lettering.id })}
            >
              {#if saidBy(lettering)}
                <span class="sample"><img src={sample(lettering)} alt={saidBy(lettering)} /></span>
              {:else}
                <em>{wordless(lettering)}</em><br />
              {/if}
              <span>
                <OutputBadge output={lineOf(lettering)?.output} />
                {#if lettering.name}{lettering.name} · {/if}{found?.readings[lettering.reading === 'against' ? 1 : 0]} · {length(lettering.height)} {units.sign}
                {#each ['fault', 'warning'] as severity (severity)}
                  {@const mine = findings.filter((one) => one.severity === severity)}
                  {#if mine.length}
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

  <Gallery {editor} {onfile} {ondrawer} />
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

  .guide.over {
    outline: 2px dashed var(--verdigris);
    outline-offset: -1px;
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
</style>
