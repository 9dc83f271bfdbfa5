<script lang="ts">
  /** One row: its cells, what came of it, and what it has for itself. */
  import { Checkbox, NumberInput, TextInput } from 'carbon-components-svelte';
  import type { MadeName, NameRow, NamesScene } from '../api/client';
  import LengthField from '../parts/LengthField.svelte';
  import { figure } from '../words/words';
  import Ghosts from './Ghosts.svelte';
  import { withRow, type Names } from '../piece/list.svelte';
  import { alike, leftOut } from './mending';

  interface Props {
    scene: NamesScene | undefined;
    names: Names;
    rows: ReadonlyMap<number, MadeName>;
    row: number | undefined;
    /** Asked for smaller letters in some rows. */
    onmend: (rows: readonly number[]) => void;
    onchange: (names: Names) => void;
    /** Asked for the drawing with this row's words. */
    onlayout: () => void;
  }

  let { scene, names, rows, row, onmend, onchange, onlayout }: Props = $props();

  const one = $derived(row === undefined ? undefined : names.rows[row]);
  const made = $derived(row === undefined ? undefined : rows.get(row));
  const wrong = $derived(row !== undefined && made && !made.fits ? alike(row, rows, names) : []);

  function change(changed: Partial<NameRow>): void {
    if (row === undefined || !one) return;
    onchange(withRow(names, row, changed));
  }

  function cell(at: number, text: string): void {
    const cells = [...one!.cells];
    while (cells.length <= at) cells.push('');
    cells[at] = text;
    change({ cells });
  }

  function height(lettering: string, value: number | null): void {
    const heights = { ...one!.heights };
    if (value === null) delete heights[lettering];
    else heights[lettering] = value;
    change({ heights });
  }

  function putBack(lettering: string): void {
    const { [lettering]: _, ...hand } = one!.hand ?? {};
    change({ hand });
  }

  const rounded = (mm: number) => figure(Number(mm.toFixed(2)));
</script>

<aside class="right" aria-label="Particulars">
  {#if scene && one && row !== undefined}
    <h2 class="particulars">Row {row + 1}</h2>
    <div class="fields particulars">
      {#each scene.columns as column, at (at)}
        <TextInput size="sm" labelText={column ? `{${column}}` : 'not used'} value={one.cells[at] ?? ''} on:change={(event) => cell(at, String(event.detail ?? ''))} />
      {/each}
      {#if made && !made.fits}
        <p class="wrong">{made.reason}</p>
        {#if !one.left_out}
          <div class="ways">
            <button class="quiet" onclick={() => onmend([row])}>smaller letters, so that it fits</button>
            {#if wrong.length > 1}
              <button class="quiet" onclick={() => onmend(wrong)}>smaller letters in all {wrong.length} alike</button>
              <button class="quiet" onclick={() => onchange(leftOut(names, wrong))}>leave out all {wrong.length} alike</button>
            {/if}
          </div>
        {/if}
      {/if}
      {#each made?.warnings ?? [] as warning (warning)}<p class="soft">{warning}</p>{/each}
      {#each made?.figures ?? [] as [lettering, high, gap, room, guide] (lettering)}
        <LengthField label={`Height of ${scene.letterings[lettering]}`} value={one.heights?.[lettering] ?? null} empty={`${rounded(high)}, as the piece says`} onset={(value) => height(lettering, value)} onclear={() => height(lettering, null)} />
        {@const changed = one.hand?.[lettering]?.letters.length ?? 0}
        {#if changed}
          <p class="soft">
            {changed === 1 ? 'A letter' : `${changed} letters`} of {scene.letterings[lettering]} changed by hand in this row
            <button class="quiet" onclick={() => putBack(lettering)}>put back</button>
          </p>
        {/if}
        <p class="soft">{rounded(high)} mm high{guide ? ` on a ${guide}` : ''}{gap ? `, ${rounded(gap)} mm added to gaps` : ''}, {room < 0 ? `${rounded(-room)} mm too long` : `${rounded(room)} mm of room`}</p>
      {/each}
      <button class="quiet" onclick={onlayout}>change its letters by hand…</button>
      <NumberInput size="sm" labelText="Lies on sheets so often" min={1} max={1000} value={one.times ?? 1} on:change={(event) => event.detail !== null && event.detail !== (one.times ?? 1) && change({ times: Number(event.detail) })} />
      <Checkbox labelText="left out" checked={one.left_out} on:check={(event) => event.detail !== one.left_out && change({ left_out: event.detail })} />
      <button class="quiet" onclick={() => onchange({ ...names, rows: names.rows.filter((_, at) => at !== row) })}>remove this row</button>
    </div>
  {:else}
    <h2 class="particulars">A row</h2>
    <p class="soft pad">Choose a result to change its words, or give it a height of its own.</p>
    {#if scene}<Ghosts {scene} {rows} />{/if}
  {/if}
</aside>

<style>
  .soft,
  .wrong {
    margin: 0;
    font-size: 12px;
  }

  .soft {
    color: var(--ink-soft);
  }

  .wrong {
    border-left: 3px solid var(--brick);
    padding-left: 8px;
  }

  .ways {
    display: flex;
    flex-direction: column;
    align-items: flex-start;
  }

  .pad {
    margin-bottom: 12px;
    padding: 0 16px;
  }
</style>
