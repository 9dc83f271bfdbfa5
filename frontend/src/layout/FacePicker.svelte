<script lang="ts">
  import { InlineLoading, Modal } from 'carbon-components-svelte';
  import ChevronDown from 'carbon-icons-svelte/lib/ChevronDown.svelte';
  import { api, saying, type FaceEntry, type Lettering } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';

  interface Props {
    editor: Editor;
    lettering: Lettering;
    onset: (face: string) => void;
  }

  let { editor, lettering, onset }: Props = $props();

  let open = $state(false);
  let faces = $state.raw<FaceEntry[]>();
  let wrong = $state('');
  const words = $derived(lettering.text.trim() || 'Quillmere Orchard');
  const sample = (face: string) =>
    `/api/faces/${encodeURIComponent(face)}/words?text=${encodeURIComponent(words)}`;
  const problem = $derived(editor.problem('letterings', lettering.id, 'face'));

  async function show(): Promise<void> {
    open = true;
    const answer = await api
      .GET('/api/faces', { params: { query: { text: lettering.text } } })
      .catch(() => undefined);
    faces = answer?.data;
    wrong = answer?.data ? '' : saying(answer?.error);
  }

  function choose(face: string): void {
    open = false;
    onset(face);
  }
</script>

<div>
  <span class="label" id="face-label">Face</span>
  <button class="face" aria-haspopup="dialog" aria-labelledby="face-label face-name" onclick={show}>
    <span class="sample"><img src={sample(lettering.face)} alt="" /></span>
    <span class="visually-hidden" id="face-name">{lettering.face}</span>
    <ChevronDown size={16} />
  </button>
  {#if problem}<p class="problem">{problem}</p>{/if}
</div>

{#if open}
  <Modal open passiveModal size="sm" modalHeading="Choose a face" on:close={() => (open = false)}>
    {#if faces}
      <ul>
        {#each faces as face (face.id)}
          <li class:on={face.id === lettering.face}>
            <button
              aria-pressed={face.id === lettering.face}
              aria-label={`${face.name}, ${face.kind}`}
              onclick={() => choose(face.id)}
            >
              <span class="sample"><img src={sample(face.id)} alt="" loading="lazy" /></span>
              <span><strong>{face.name}</strong> · {face.kind}</span>
            </button>
            <span class="notes">
              {#if face.missing.length}
                <span class="missing">has no {face.missing.join(' ')}</span>
              {/if}
              <a href={`/api/faces/${face.id}/licence`} target="_blank" rel="noopener">
                {face.licence}
              </a>
            </span>
          </li>
        {/each}
      </ul>
    {:else if wrong}
      <p role="alert">{wrong}</p>
    {:else}
      <InlineLoading description="Taking out the type case" />
    {/if}
  </Modal>
{/if}

<style>
  .label {
    display: block;
    margin-bottom: 6px;
    color: var(--ink-soft);
    font-size: 12px;
  }

  .face {
    display: flex;
    align-items: center;
    justify-content: space-between;
    width: 100%;
    height: 40px;
    border: 0;
    border-bottom: 1px solid var(--line-strong);
    padding: 4px 8px 4px 12px;
    background: var(--sheet);
    cursor: pointer;
  }

  .sample {
    display: block;
    flex: 1;
    min-width: 0;
    overflow: hidden;
    mask-image: linear-gradient(to right, #000 94%, transparent);
    text-align: left;
  }

  .face img {
    display: block;
    height: 24px;
  }

  .problem,
  .missing {
    color: var(--brick);
    font-size: 12px;
  }

  ul {
    margin: 0;
    padding: 0;
    list-style: none;
  }

  li {
    position: relative;
    border-bottom: 1px solid var(--line);
  }

  li.on {
    background: var(--verdigris-soft);
  }

  li button {
    display: block;
    width: 100%;
    border: 0;
    padding: 8px 10px 6px;
    background: none;
    color: inherit;
    font: inherit;
    text-align: left;
    cursor: pointer;
  }

  li:hover {
    background: var(--ground);
  }

  li img {
    display: block;
    height: 36px;
  }

  li button span {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .notes {
    display: flex;
    position: absolute;
    right: 10px;
    bottom: 7px;
    gap: 12px;
  }

  .notes a {
    color: var(--verdigris);
    font-size: 12px;
  }
</style>
