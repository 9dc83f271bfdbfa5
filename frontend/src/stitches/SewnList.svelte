<script lang="ts">
  /** What is sewn, thread by thread, and what it comes to. */
  import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import { catalogue } from '../api/catalogue';
  import type { StitchScene } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import ListPane from '../shell/ListPane.svelte';
  import { take } from '../shell/taking';
  import type { Clock } from '../rehearsal/clock.svelte';
  import { lasting } from '../rehearsal/figures';
  import { figure } from '../words/words';
  import type { Beside } from './beside.svelte';
  import TryOut from './TryOut.svelte';

  interface Props {
    scene: StitchScene | undefined;
    clock: Clock;
    /** The lettering whose particulars are seen; empty: none. */
    chosen: string;
    needles: boolean;
    busy: boolean;
    editor: Editor;
    beside: Beside;
  }

  let { scene, clock, chosen = $bindable(), needles = $bindable(), busy, editor, beside }: Props = $props();

  const LISTED = 400;
  const FORMATS = catalogue().thread_formats;
  let format = $state<string>(FORMATS[0]?.name ?? '');
  const rounded = (mm: number) => figure(Number(mm.toFixed(1)));
  const thread = (metres: number) => `${figure(Number(metres.toFixed(metres < 10 ? 1 : 0)))} m`;
  const counted = (count: number, one: string) => `${count} ${one}${count === 1 ? '' : one.endsWith('ch') ? 'es' : 's'}`;
  /** Letters once each, however many threads they take. */
  const lettersOf = (colour: number) =>
    (scene?.threads ?? []).filter((one, at, all) => {
      const before = all[at - 1];
      return one.colour === colour && !(before?.colour === colour && before.name === one.name
        && before.place === one.place && before.letter === one.letter && one.place >= 0);
    });
</script>

<ListPane label="What is sewn">
  <h2>Stitches</h2>
  {#if scene}
    <p class="soft" aria-live="polite">
      {#if !scene.stitches}Nothing is sewn: the piece has no letters.{:else}{counted(scene.stitches, 'stitch')} · {rounded(scene.size[0])} × {rounded(scene.size[1])} mm ·
      {lasting(scene.seconds)} at {figure(scene.recipe.speed)} a minute · {thread(scene.metres)} of thread · {counted(scene.jumps, 'jump')}, {counted(scene.trims, 'trim')}{/if}
    </p>
    {#if !scene.own}<p class="soft">Nothing said of thread: with the usual figures for woven cotton and 40 weight.</p>{/if}
    {#if scene.too_large}<p class="warning">{scene.too_large}</p>{/if}
    {#if scene.hoopings.length > 1}<p class="warning">Too large for one hoop: {scene.hoopings.length} hoopings, laid by the marks.</p>{/if}
    <Checkbox labelText="Needle points" bind:checked={needles} />
    <h3>Letterings</h3>
    <ul>
      {#each scene.letterings as one (one.wish.of)}
        <li>
          <button class="quiet entry" aria-pressed={one.wish.of === chosen} class:chosen={one.wish.of === chosen} onclick={() => (chosen = chosen === one.wish.of ? '' : one.wish.of)}>{one.name}</button>
          {#if one.overhead != null}<span class="soft">one line, {Math.round(100 * one.overhead)} % more than the letters’ own</span>{/if}
        </li>
      {/each}
    </ul>
    <h3>In their order</h3>
    <ol class="colours">
      {#each scene.colours as one, index (index)}
        <li>
          {#if one.asks}<p class="asks">{one.asks}</p>{/if}
          <p><span class="spool" style:background={one.colour}></span>{index + 1} · {counted(one.stitches, 'stitch')} · {thread(one.metres)} · {lasting(one.seconds)}</p>
          <ul class="letters">
            {#each lettersOf(index).slice(0, LISTED) as letter, at (at)}
              <li><button class="quiet entry" title={letter.name} onclick={() => clock.go(letter.begins)}>{letter.letter || letter.name}</button></li>
            {/each}
          </ul>
        </li>
      {/each}
    </ol>
    {#if scene.hoopings.length > 1}
      <h3>One hooping at a time</h3>
      <Select size="sm" labelText="Taken away as" selected={format} on:update={(event) => (format = String(event.detail))}>
        {#each FORMATS as { name, title } (name)}<SelectItem value={name} text={title} />{/each}
      </Select>
      <ul class="letters">
        {#each scene.hoopings as _, index (index)}
          <li><button class="quiet" onclick={() => void take(editor, `thread/${format}?hooping=${index + 1}`)}>Hoop {index + 1}</button></li>
        {/each}
      </ul>
    {/if}
    <TryOut {beside} hoopings={scene.hoopings.length} />
  {/if}
  <p class="soft" role="status">{busy ? 'Making the stitches…' : ''}</p>
</ListPane>

<style>
  .warning,
  .asks {
    border-left: 3px solid var(--verdigris);
    padding-left: 8px;
    font-size: 12px;
  }

  .colours > li {
    border-top: 1px solid var(--line);
    padding: 8px 0;
  }

  .spool {
    display: inline-block;
    width: 12px;
    height: 12px;
    margin-right: 6px;
    vertical-align: -1px;
  }

  .quiet:not(.entry) {
    border: 0;
    padding: 4px 8px 4px 0;
    background: none;
    color: var(--verdigris);
    font: inherit;
    font-size: 12px;
    cursor: pointer;
  }

  .letters {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 6px;
  }
</style>
