<script lang="ts">
  import { Button, InlineLoading, Modal, Select, SelectItem } from 'carbon-components-svelte';
  import ChevronDown from 'carbon-icons-svelte/lib/ChevronDown.svelte';
  import { catalogue } from '../../api/catalogue';
  import { api, saying, type FaceEntry, type Lettering } from '../../api/client';
  import { newest } from '../../api/newest';
  import type { Editor } from '../../piece/editor.svelte';

  interface Props {
    editor: Editor;
    lettering: Lettering;
    /** Whether it is said of several letterings whose faces differ. */
    different?: boolean;
    onset: (face: string) => void;
  }

  let { editor, lettering, different = false, onset }: Props = $props();

  let open = $state(false);
  let faces = $state.raw<FaceEntry[]>();
  let wrong = $state('');
  let adding = $state(false);
  let chooser = $state<HTMLInputElement>();
  /** The face that was taken out last, to be brought back. */
  let removed = $state.raw<FaceEntry>();
  let wanted = $state('');
  const words = $derived(lettering.text.trim() || 'Quillmere Orchard');
  const sample = (face: string) =>
    `/api/faces/${encodeURIComponent(face)}/words?text=${encodeURIComponent(words)}`;
  const problem = $derived(editor.problem('letterings', lettering.id, 'face'));

  const ALL = { value: '', label: 'any use' };
  const USES = [ALL, ...catalogue().traits.map((value) => ({ value, label: value }))];
  const shown = $derived(faces?.filter((one) => !wanted || one.good_for.includes(wanted)) ?? []);

  /** A font file, tried out by the server before it is taken. */
  async function add(event: Event): Promise<void> {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    adding = true;
    const answer = await api
      .POST('/api/faces', {
        params: { query: { name: file.name.replace(/\.[^.]*$/, '').slice(0, 120) || 'face' } },
        body: file as unknown as string,
        bodySerializer: (body) => body as unknown as BodyInit,
        headers: { 'Content-Type': 'application/octet-stream' },
      })
      .catch(() => undefined);
    adding = false;
    if (answer?.data) await choose(answer.data.id);
    else wrong = `${file.name} was not added: ${saying(answer?.error)}`;
  }

  async function remove(face: FaceEntry): Promise<void> {
    const params = { path: { face_id: face.id } };
    const answer = await api.DELETE('/api/faces/{face_id}', { params }).catch(() => undefined);
    wrong = answer?.response.ok ? '' : saying(answer?.error);
    removed = answer?.response.ok ? face : undefined;
    await load();
  }

  async function bringBack(face: FaceEntry): Promise<void> {
    await api
      .POST('/api/faces/{face_id}/restore', { params: { path: { face_id: face.id } } })
      .catch(() => undefined);
    removed = undefined;
    await load();
  }

  async function show(): Promise<void> {
    open = true;
    await load();
  }

  const take = newest<{ data?: FaceEntry[]; error?: unknown } | undefined>((answer) => {
    faces = answer?.data;
    if (!answer?.data) wrong = saying(answer?.error);
  });

  function load(): Promise<void> {
    const params = { query: { text: lettering.text } };
    return take(api.GET('/api/faces', { params }).catch(() => undefined));
  }

  async function choose(face: string): Promise<void> {
    open = false;
    wrong = '';
    removed = undefined;
    onset(face);
  }
</script>

<div>
  <span class="label" id="face-label">Face</span>
  <button class="face" aria-haspopup="dialog" aria-labelledby="face-label face-name" onclick={show}>
    {#if different}
      <span id="face-name">mixed</span>
    {:else}
      <span class="sample"><img src={sample(lettering.face)} alt="" /></span>
      <span class="visually-hidden" id="face-name">{lettering.face}</span>
    {/if}
    <ChevronDown size={16} />
  </button>
  {#if problem}<p class="problem">{problem}</p>{/if}
</div>

{#if open}
  <Modal open passiveModal size="sm" modalHeading="Choose a face" on:close={() => (open = false)}>
    <div class="tools">
      <Select size="sm" labelText="Good for" bind:selected={wanted}>
        {#each USES as use (use.value)}
          <SelectItem value={use.value} text={use.label} />
        {/each}
      </Select>
      <Button size="small" kind="tertiary" disabled={adding} on:click={() => chooser?.click()}>
        {adding ? 'Trying it out …' : 'Add a font file …'}
      </Button>
      <input
        bind:this={chooser}
        class="visually-hidden"
        type="file"
        accept=".ttf,.otf,.woff,.woff2,.svg,.jhf"
        aria-label="A font file"
        tabindex="-1"
        onchange={add}
      />
    </div>
    {#if wrong}<p class="problem" role="alert">{wrong}</p>{/if}
    {#if removed}
      <p class="removed">
        {removed.name} is no longer offered; what is set in it keeps it.
        <button class="quiet" onclick={() => removed && bringBack(removed)}>Bring it back</button>
      </p>
    {/if}
    {#if faces}
      <ul>
        {#each shown as face (face.id)}
          <li class:on={face.id === lettering.face}>
            <button
              aria-pressed={face.id === lettering.face}
              aria-label={`${face.name}, ${face.kind}`}
              onclick={() => choose(face.id)}
            >
              <span class="sample"><img src={sample(face.id)} alt="" loading="lazy" /></span>
              <span><strong>{face.name}</strong> · {[face.kind, ...face.good_for].join(' · ')}</span>
            </button>
            <span class="notes">
              {#if face.missing.length}
                <span class="missing">has no {face.missing.join(' ')}</span>
              {/if}
              {#if face.added}
                <button class="quiet" onclick={() => remove(face)}>take out</button>
              {/if}
              <a href={`/api/faces/${face.id}/licence`} target="_blank" rel="noopener">
                {face.licence}
              </a>
            </span>
          </li>
        {:else}
          <li class="none">No face here is good for that: add a font file.</li>
        {/each}
      </ul>
    {:else if !wrong}
      <InlineLoading description="Taking out the type case" />
    {/if}
  </Modal>
{/if}

<style>
  .tools {
    display: grid;
    grid-template-columns: 1fr auto;
    align-items: end;
    gap: 12px;
    margin-bottom: 8px;
  }

  .removed,
  .none {
    padding: 8px 0;
    color: var(--ink-soft);
    font-size: 13px;
  }

  .removed button,
  .notes button {
    color: var(--verdigris);
    font-size: 12px;
  }

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

  li > button {
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

  li > button > span:last-child {
    display: block;
    overflow: hidden;
    padding-right: 176px;
    text-overflow: ellipsis;
    white-space: nowrap;
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
