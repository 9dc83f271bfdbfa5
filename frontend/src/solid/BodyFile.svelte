<script lang="ts">
  /** A part that there is already: read from a file, a face of it picked, and let go again. */
  import { Button } from 'carbon-components-svelte';
  import type { Solid, SolidScene } from '../api/client';
  import Choice from '../parts/Choice.svelte';
  import HowTo from '../parts/HowTo.svelte';
  import type { Editor } from '../piece/editor.svelte';
  import { figure } from '../words/words';
  import { ENDINGS, readBody, type BodyUnit, type FoundBody } from './foundBody.svelte';

  interface Props {
    editor: Editor;
    scene: SolidScene | undefined;
    body: FoundBody | undefined;
  }

  let { editor, scene, body = $bindable() }: Props = $props();

  const UNITS: { value: BodyUnit; label: string }[] = [
    { value: 'file', label: 'as it says' },
    { value: 'mm', label: 'mm' },
    { value: 'inch', label: 'inches' },
  ];

  let input = $state<HTMLInputElement>();
  let unit = $state<BodyUnit>('file');
  let file = $state.raw<File>();
  let reading = $state(false);
  let wrong = $state('');
  const mm = (value: number) => figure(Number(value.toFixed(1)));
  const read = $derived(editor.piece.solid?.body);

  async function open(chosen: File | undefined): Promise<void> {
    if (!chosen) return;
    file = chosen;
    reading = true;
    const found = await readBody(chosen, unit);
    reading = false;
    wrong = typeof found === 'string' ? found : '';
    if (typeof found !== 'string') body = found;
  }

  function chosen(): void {
    void open(input?.files?.[0]);
    if (input) input.value = '';
  }

  function inUnit(to: BodyUnit): void {
    unit = to;
    void open(file);
  }

  function take(): void {
    const taken = scene && body?.taken(scene.recipe);
    if (!taken) return;
    editor.change(taken);
    editor.pauseThenFinish();
    body = undefined;
  }

  function letGo(): void {
    editor.change({ solid: { ...editor.piece.solid, body: null } as Solid });
    editor.pauseThenFinish();
  }
</script>

<input bind:this={input} type="file" accept={ENDINGS} hidden onchange={chosen} aria-label="File of a body" />
{#if body}
  <section aria-label="Faces of the body">
    <p>{body.name}: {body.found.size.map(mm).join(' × ')} mm</p>
    <Choice label="Its unit" options={UNITS} value={unit} onset={inUnit} />
    <h3>Faces to letter on</h3>
    <ul>
      {#each body.found.faces as face, index (index)}
        <li>
          <button class="quiet entry" class:chosen={index === body.chosen} aria-pressed={index === body.chosen} onclick={() => (body!.chosen = index)}>{face.said}</button>
        </li>
      {/each}
    </ul>
    <Button size="small" on:click={take}>Letter on this face</Button>
    <button class="quiet" onclick={() => (body = undefined)}>leave it</button>
    <p><HowTo job="part-from-a-file" label="on a part from a file" /></p>
  </section>
{:else}
  <p>
    {#if read}<span class="soft">Lettered on {read.name}.</span>{/if}
    <button class="quiet" disabled={reading} onclick={() => input?.click()}>{read ? 'another file…' : 'letter on a part from a file…'}</button>
    {#if read}<button class="quiet" onclick={letGo}>let it go</button>{/if}
  </p>
{/if}
{#if reading}<p class="soft" role="status">Reading the body…</p>{/if}
{#if wrong}<p class="wrong" role="alert">{wrong}</p>{/if}

<style>
  section {
    margin-bottom: 12px;
    border-bottom: 1px solid var(--line);
    padding-bottom: 10px;
  }

  p {
    margin: 4px 0;
    font-size: 13px;
  }

  .wrong {
    color: var(--brick);
  }
</style>
