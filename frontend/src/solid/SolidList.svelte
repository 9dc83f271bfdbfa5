<script lang="ts">
  /** What the part comes to, which letterings stand out of it, and its files. */
  import { catalogue } from '../api/catalogue';
  import type { SolidScene } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import BodyFile from './BodyFile.svelte';
  import type { FoundBody } from './foundBody.svelte';
  import ListPane from '../shell/ListPane.svelte';
  import { take } from '../shell/taking';
  import { figure, sentence } from '../words/words';

  interface Props {
    editor: Editor;
    scene: SolidScene | undefined;
    busy: boolean;
    /** The lettering whose relief is seen in the particulars; empty: the body's. */
    chosen: string;
    /** A body that was read, of which no face is taken yet. */
    body: FoundBody | undefined;
  }

  let { editor, scene, busy, chosen = $bindable(), body = $bindable() }: Props = $props();

  const RELIEFS = { raised: 'raised by', sunk: 'sunk by', grooved: 'grooved by', through: 'cut through', none: 'left out' };
  const STRETCHED = 12;
  let scale = $state<'iso' | 'british' | 'american'>('iso');
  const rounded = (value: number, digits = 1) => figure(Number(value.toFixed(digits)));

  const wrongSize = $derived(editor.live.problems.find((one) => one.field.endsWith('size'))?.reason ?? '');

  function sizeRing(event: Event): void {
    const input = event.target as HTMLInputElement;
    if (input.value.trim()) editor.act({ act: 'size-ring', scale, size: input.value });
    input.value = '';
  }

  function choose(lettering: string): void {
    chosen = chosen === lettering ? '' : lettering;
    if (chosen) editor.selection.choose({ kind: 'lettering', id: chosen });
  }
</script>

<ListPane label="The part">
  <h2>Part</h2>
  <BodyFile {editor} {scene} bind:body />
  {#if scene}
    <p class="soft" aria-live="polite">{scene.blank}</p>
    <dl>
      <dt>Size</dt>
      <dd>{rounded(scene.size[0], 2)} × {rounded(scene.size[1], 2)} × {rounded(scene.size[2], 2)} mm</dd>
      <dt>Volume</dt>
      <dd>{rounded(scene.volume, 2)} cm³</dd>
      <dt>Surface</dt>
      <dd>{rounded(scene.area, 1)} cm²</dd>
      <dt>Weight</dt>
      <dd>{scene.weight == null ? 'say a material' : `${rounded(scene.weight, scene.weight < 10 ? 2 : 1)} g`}</dd>
      {#if scene.ring}
        <dt>Ring size</dt>
        <dd>{rounded(scene.ring.iso, 1)} (ISO 8653) · {scene.ring.british || '—'} British · {figure(scene.ring.american)} American</dd>
        <dt><label for="ring-size">Made to size</label></dt>
        <dd class="sized">
          <input id="ring-size" maxlength="12" placeholder={rounded(scene.ring.iso, 1)} onchange={sizeRing} />
          <select aria-label="On which scale" bind:value={scale}>
            <option value="iso">ISO, mm</option>
            <option value="british">British</option>
            <option value="american">American</option>
          </select>
          {#if wrongSize}<p class="wrong" role="alert">{sentence(wrongSize)}.</p>{/if}
        </dd>
      {/if}
      <dt>Mesh</dt>
      <dd>{scene.triangles.toLocaleString('en')} triangles, off by {figure(scene.recipe.tolerance)} mm at most</dd>
    </dl>
    {#if scene.parts.length > 1}<p class="soft">In {scene.parts.length} parts: {scene.parts.join('; ')}.</p>{/if}
    {#if scene.reference}<p class="soft">{scene.reference[0]?.toUpperCase()}{scene.reference.slice(1)}.</p>{/if}
    {#if !scene.own}<p class="soft">Nothing said of a part: the blank as it is, its lettering raised by 1 mm.</p>{/if}
    <h3>Letterings</h3>
    <ul>
      {#each scene.letterings as one (one.relief.of)}
        <li>
          <button class="quiet entry" class:chosen={one.relief.of === chosen} aria-pressed={one.relief.of === chosen} onclick={() => choose(one.relief.of)}>{one.name}</button>
          <span class="soft">{RELIEFS[one.relief.relief]}{one.relief.relief !== 'through' && one.relief.relief !== 'none' ? ` ${figure(one.relief.by)}` : ''}</span>
        </li>
      {/each}
    </ul>
    {#if scene.stretched.length}
      <h3>Stretch that remains</h3>
      <ul>
        {#each scene.stretched.slice(0, STRETCHED) as one, index (index)}<li><b>{one.letter}</b> <span class="soft">{one.said}</span></li>{/each}
        {#if scene.stretched.length > STRETCHED}<li class="soft">and {scene.stretched.length - STRETCHED} more, no worse to speak of</li>{/if}
      </ul>
    {/if}
    <h3>Take it away</h3>
    <ul>
      {#each catalogue().solid_formats as { name, title } (name)}
        <li><button class="quiet" onclick={() => void take(editor, `solid/${name}`)}>{title}</button></li>
      {/each}
    </ul>
  {/if}
  <p class="soft" role="status">{busy ? 'Making the part…' : ''}</p>
</ListPane>

<style>
  dl {
    display: grid;
    grid-template-columns: 76px 1fr;
    gap: 4px 8px;
    margin: 0 0 8px;
    font-size: 13px;
  }

  dt {
    color: var(--ink-soft);
  }

  dd {
    margin: 0;
  }

  .sized {
    display: grid;
    grid-template-columns: 64px 1fr;
    gap: 4px;
  }

  .wrong {
    grid-column: 1 / -1;
    margin: 0;
    color: var(--brick);
    font-size: 12px;
  }

  .sized input,
  .sized select {
    min-width: 0;
    border: 0;
    border-bottom: 1px solid var(--line-strong);
    padding: 4px 6px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
  }
</style>
