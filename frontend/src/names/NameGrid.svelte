<script lang="ts">
  /** Results, a picture each; those that do not fit come first. Only what is in sight is drawn. */
  import type { MadeName, NameRow, NamesScene } from '../api/client';
  import { titleOf, type Names } from '../piece/list.svelte';

  interface Props {
    scene: NamesScene;
    rows: ReadonlyMap<number, MadeName>;
    names: Names;
    chosen: number | undefined;
    /** Only rows that say this are shown. */
    sought: string;
    /** Told which rows are in sight. */
    onsight: (rows: readonly number[]) => void;
    onchoose: (row: number) => void;
  }

  let { scene, rows, names, chosen, sought, onsight, onchoose }: Props = $props();

  const CELL_WIDTH = 190;
  const CELL_HEIGHT = 150;
  const OVER = 2;

  let width = $state(0);
  let height = $state(0);
  let top = $state(0);

  const shown = $derived.by(() => {
    const wanted = sought.trim().toLocaleLowerCase();
    const empty = new Set(scene.empty);
    const says = (row: NameRow) => !wanted || row.cells.join(' ').toLocaleLowerCase().includes(wanted);
    return [...names.rows.entries()].flatMap(([at, row]) => (!empty.has(at) && says(row) ? [at] : []));
  });
  const order = $derived.by(() => {
    const out = (row: number) => Boolean(names.rows[row]?.left_out);
    const wrong = (row: number) => !out(row) && rows.get(row)?.fits === false;
    const reason = (row: number) => rows.get(row)?.reason ?? '';
    const first = shown.filter(wrong).sort((one, two) => reason(one).localeCompare(reason(two)) || one - two);
    return [...first, ...shown.filter((row) => !wrong(row) && !out(row)), ...shown.filter(out)];
  });
  const columns = $derived(Math.max(1, Math.floor(width / CELL_WIDTH)));
  const wide = $derived((width - 16) / columns);
  const lines = $derived(Math.ceil(order.length / columns));
  const first = $derived(Math.max(0, Math.floor(top / CELL_HEIGHT) - OVER));
  const last = $derived(Math.min(lines, Math.ceil((top + height) / CELL_HEIGHT) + OVER));
  const sight = $derived(order.slice(first * columns, last * columns));
  const box = $derived(`${scene.box[0]} ${scene.box[1]} ${scene.box[2] - scene.box[0]} ${scene.box[3] - scene.box[1]}`);

  $effect(() => onsight(sight));
</script>

<div class="grid" bind:clientWidth={width} bind:clientHeight={height} onscroll={(event) => (top = event.currentTarget.scrollTop)}>
  <div class="all" style:height={`${lines * CELL_HEIGHT}px`}>
    {#each sight as row, index (row)}
      {@const made = rows.get(row)}
      {@const place = first * columns + index}
      <button
        class="cell"
        class:chosen={row === chosen}
        class:wrong={made?.fits === false}
        class:out={names.rows[row]?.left_out}
        aria-pressed={row === chosen}
        style:left={`${(place % columns) * wide}px`}
        style:width={`${wide - 8}px`}
        style:top={`${Math.floor(place / columns) * CELL_HEIGHT}px`}
        onclick={() => onchoose(row)}
      >
        <svg viewBox={box} aria-hidden="true">
          <path class="blank" d={scene.blank} />
          {#if made}<path class="ink" d={made.picture} />{/if}
        </svg>
        <span class="title">{row + 1} {titleOf(names.rows[row])}</span>
        <span class="said">{names.rows[row]?.left_out ? 'left out' : !made ? '…' : made.fits ? (made.warnings[0] ?? '') : made.reason}</span>
      </button>
    {/each}
  </div>
</div>

<style>
  .grid {
    flex: 1;
    min-height: 0;
    overflow: auto;
    padding: 8px;
  }

  .all {
    position: relative;
  }

  .cell {
    position: absolute;
    display: flex;
    flex-direction: column;
    height: 142px;
    border: 1px solid var(--line);
    padding: 6px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
    font-size: 12px;
    text-align: left;
    cursor: pointer;
  }

  .cell.wrong {
    border-color: var(--brick);
    border-width: 2px;
  }

  .cell.chosen {
    outline: 2px solid var(--verdigris);
  }

  .cell.out {
    opacity: 0.45;
  }

  svg {
    flex: 1;
    min-height: 0;
    width: 100%;
  }

  .blank {
    fill: none;
    stroke: var(--line-strong);
    vector-effect: non-scaling-stroke;
  }

  .ink {
    fill: var(--ink);
  }

  .title,
  .said {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }

  .title {
    font-weight: 600;
  }

  .said {
    min-height: 16px;
    color: var(--ink-soft);
  }
</style>
