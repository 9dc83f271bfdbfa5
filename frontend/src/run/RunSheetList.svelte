<script lang="ts">
  /** The passes of a piece, in order, with what each comes to. */
  import { Button, Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import { catalogue } from '../api/catalogue';
  import type { RunPass, RunScene, RunSheet, ShownPass } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { figure } from '../words/words';
  import type { Clock } from '../rehearsal/clock.svelte';
  import { take } from '../shell/taking';
  import { changedPass, movedPass } from './sheet';
  import { lasting, metres } from '../rehearsal/figures';

  interface Props {
    editor: Editor;
    scene: RunScene | undefined;
    clock: Clock;
    /** The pass whose particulars are seen. */
    chosen: string;
    /** Whether sending is seen in place of particulars. */
    sending: boolean;
    onchange: (sheet: RunSheet) => void;
  }

  let { editor, scene, clock, chosen = $bindable(), sending = $bindable(), onchange }: Props = $props();

  const LISTED = 300;
  const MOST_PASSES = catalogue().bounds.passes;
  const passes = $derived(scene?.sheet.passes ?? []);
  const runs = $derived((scene?.passes ?? []).filter((one) => one.runs));
  const total = (of: (one: ShownPass) => number) => runs.reduce((sum, one) => sum + of(one), 0);
  const recipe = (id: string) => passes.find((one) => one.id === id);

  function change(id: string, changed: Partial<RunPass>): void {
    if (scene) onchange(changedPass(scene.sheet, id, changed));
  }

  function choose(name: string): void {
    const wanted = scene?.choices.find((one) => one.name === name);
    if (wanted) onchange({ ...scene!.sheet, passes: wanted.sheet.passes });
    chosen = '';
  }

  function choosePass(id: string): void {
    chosen = id === chosen ? '' : id;
    sending = false;
  }

  function add(): void {
    if (!scene?.fresh) return;
    onchange({ ...scene.sheet, passes: [...passes, scene.fresh] });
    chosen = scene.fresh.id;
  }

  function remove(id: string): void {
    if (scene) onchange({ ...scene.sheet, passes: passes.filter((one) => one.id !== id) });
  }
</script>

<aside aria-label="Run sheet">
  <h2>Run sheet</h2>
  {#if scene}
    <p class="soft">
      {#if !runs.length}Nothing runs.{:else}{lasting(scene.seconds)} · {metres(total((one) => one.drawn))} with the tool down,
      {metres(total((one) => one.idle))} with it up · takes {figure(scene.takes[0])} × {figure(scene.takes[1])} mm{scene.share == null ? '' : `, ${Math.round(100 * scene.share)} % of the sheet`}{/if}
    </p>
    {#if scene.sheet.rehearsal !== 'off'}
      <p class="warning">A rehearsal: the tool stays up, {scene.sheet.rehearsal === 'bounds' ? 'round the bounds only' : 'all along'}.</p>
    {/if}
    {#key scene}
      <Select size="sm" labelText="Begin from" selected="" on:update={(event) => choose(String(event.detail))}>
        <SelectItem value="" text={scene.own ? 'its own run sheet' : 'nothing said: as the piece says'} />
        {#each scene.choices as one (one.name)}<SelectItem value={one.name} text={`${one.title}: ${one.hint}`} />{/each}
      </Select>
    {/key}
    <ol>
      {#each scene.passes as one, place (one.id)}
        <li class:chosen={one.id === chosen} class:idle={!one.runs}>
          <button class="head" aria-expanded={one.id === chosen} onclick={() => choosePass(one.id)}>
            <span class="tag">{one.letter}{one.number}</span>
            <svg viewBox="0 0 40 6" aria-hidden="true">
              <path d="M0 3H40" stroke={one.colour} stroke-dasharray={one.dashes.join(' ')} />
            </svg>
            <span class="title">{one.title}</span>
          </button>
          <p class="soft">
            {catalogue().tools[one.tool]?.title} · {#if one.runs}
              {one.lines.length} {one.lines.length === 1 ? 'line' : 'lines'} · {metres(one.drawn)} · {lasting(one.seconds)}
            {:else}
              {recipe(one.id)?.held ? 'held back' : 'does not run'}
            {/if}
          </p>
          {#if one.runs && !one.lines.length}<p class="warning">{catalogue().tools[one.tool]?.areas === 'cleared' ? 'It comes into nothing that is there.' : 'It works on nothing that is there.'}</p>{/if}
          {#if one.id === chosen}
            <div class="row">
              <Checkbox labelText="runs" checked={recipe(one.id)?.on ?? true} on:check={(event) => event.detail !== recipe(one.id)?.on && change(one.id, { on: event.detail })} />
              <Checkbox labelText="held back" checked={recipe(one.id)?.held ?? false} on:check={(event) => event.detail !== recipe(one.id)?.held && change(one.id, { held: event.detail })} />
            </div>
            <div class="row">
              <button class="quiet" disabled={place === 0} onclick={() => onchange(movedPass(scene.sheet, one.id, -1))}>earlier</button>
              <button class="quiet" disabled={place === passes.length - 1} onclick={() => onchange(movedPass(scene.sheet, one.id, 1))}>later</button>
              <button class="quiet" onclick={() => remove(one.id)}>remove</button>
            </div>
            {#if one.runs}
              <p class="soft files">
                Alone:
                {#each catalogue().run_formats as { name, title } (name)}
                  <button class="quiet" title={title} onclick={() => void take(editor, `run/${name}?pass=${one.id}`)}>{name.replace('.pdf', '').toUpperCase()}</button>
                {/each}
              </p>
            {/if}
            {#if one.lines.length}
              <ul aria-label={`Lines of ${one.title}`}>
                {#each one.lines.slice(0, LISTED) as line, index (index)}
                  <li><button class="quiet" onclick={() => clock.go(line.begins)}>{index + 1} {line.name}</button></li>
                {/each}
                {#if one.lines.length > LISTED}<li class="soft">and {one.lines.length - LISTED} more</li>{/if}
              </ul>
            {/if}
          {/if}
        </li>
      {/each}
    </ol>
    <div class="foot">
      <Button size="small" kind="ghost" disabled={passes.length >= MOST_PASSES || !scene.fresh} on:click={add}>Add a pass</Button>
      {#if scene.own}
        <button class="quiet" onclick={() => { editor.change({ run: null }); void editor.finish(); }}>back to the plain one</button>
      {/if}
    </div>
    <div class="send">
      <Button size="small" kind={sending ? 'tertiary' : 'primary'} aria-pressed={sending} on:click={() => (sending = !sending)}>
        {sending ? 'Back to particulars' : 'Send to a machine…'}
      </Button>
    </div>
  {/if}
</aside>

<style>
  .files {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 0 4px;
  }

  aside {
    border-right: 1px solid var(--line);
    padding: 16px;
    background: var(--paper);
    overflow: auto;
  }

  h2 {
    margin: 0 0 4px;
    font-size: 14px;
    font-weight: 600;
  }

  p {
    margin: 0 0 10px;
    font-size: 13px;
  }

  .soft {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .warning {
    color: var(--ochre);
    font-size: 12px;
  }

  ol,
  ul {
    margin: 12px 0;
    padding: 0;
    list-style: none;
  }

  ol > li {
    border-top: 1px solid var(--line);
    padding: 8px 0 0;
  }

  ol > li.chosen {
    border-left: 3px solid var(--verdigris);
    padding-left: 8px;
  }

  ol > li.idle .title {
    color: var(--ink-soft);
    text-decoration: line-through;
  }

  ul {
    max-height: 180px;
    margin: 4px 0 10px;
    overflow: auto;
    font-size: 12px;
  }

  .head {
    display: flex;
    align-items: center;
    gap: 8px;
    width: 100%;
    border: 0;
    padding: 2px 0;
    background: none;
    color: var(--ink);
    font: inherit;
    font-weight: 600;
    text-align: left;
    cursor: pointer;
  }

  .head svg {
    flex: none;
    width: 40px;
    height: 6px;
  }

  .head path {
    stroke-width: 2;
  }

  .title {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }

  .tag {
    flex: none;
    min-width: 28px;
    border: 1px solid var(--line-strong);
    font: 600 11px/18px 'IBM Plex Mono', monospace;
    text-align: center;
  }

  .row {
    display: flex;
    gap: 12px;
    margin-bottom: 4px;
  }

  .send {
    margin-top: 12px;
  }

  .foot {
    display: flex;
    align-items: center;
    justify-content: space-between;
  }
</style>
