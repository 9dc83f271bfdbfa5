<script lang="ts">
  /** What is sewn, thread by thread, and what it comes to. */
  import { Checkbox } from 'carbon-components-svelte';
  import type { StitchScene } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
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

<aside aria-label="What is sewn">
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
          <button class="quiet" aria-pressed={one.wish.of === chosen} class:chosen={one.wish.of === chosen} onclick={() => (chosen = chosen === one.wish.of ? '' : one.wish.of)}>{one.name}</button>
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
              <li><button class="quiet" title={letter.name} onclick={() => clock.go(letter.begins)}>{letter.letter || letter.name}</button></li>
            {/each}
          </ul>
        </li>
      {/each}
    </ol>
    {#if scene.hoopings.length > 1}
      <h3>One hooping at a time</h3>
      <ul class="letters">
        {#each scene.hoopings as _, index (index)}
          <li><a href={`/api/pieces/${editor.id}/thread/dst?hooping=${index + 1}`} download>Hoop {index + 1}, DST</a></li>
        {/each}
      </ul>
    {/if}
    <TryOut {beside} />
  {/if}
  <p class="soft" role="status">{busy ? 'Making the stitches…' : ''}</p>
</aside>

<style>
  aside {
    border-right: 1px solid var(--line);
    padding: 16px;
    background: var(--paper);
    overflow: auto;
  }

  h2,
  h3 {
    margin: 0 0 4px;
    font-size: 14px;
    font-weight: 600;
  }

  h3 {
    margin-top: 14px;
    font-size: 13px;
  }

  p {
    margin: 0 0 8px;
    font-size: 13px;
  }

  .soft {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .warning,
  .asks {
    border-left: 3px solid var(--verdigris);
    padding-left: 8px;
    font-size: 12px;
  }

  ul,
  ol {
    margin: 0;
    padding: 0;
    list-style: none;
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

  .letters {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 6px;
  }

  .quiet {
    border: 0;
    padding: 2px 4px;
    background: none;
    color: var(--ink);
    font: inherit;
    font-size: 13px;
    text-align: left;
    cursor: pointer;
  }

  .quiet:hover,
  .chosen {
    background: var(--verdigris-soft);
  }
</style>
