<script lang="ts">
  /** The pattern with the shortest, the longest and the highest of the rows upon it. */
  import type { MadeName, NamesScene } from '../api/client';

  let { scene, rows }: { scene: NamesScene; rows: ReadonlyMap<number, MadeName> } = $props();

  const made = $derived([...rows.values()].filter((one) => one.picture));
  const most = (rank: (one: MadeName) => number) =>
    made.reduce<MadeName | undefined>((best, one) => (best && rank(best) >= rank(one) ? best : one), undefined);
  const high = (one: MadeName) => Math.max(0, ...one.figures.map(([, height]) => height));
  const shown = $derived(
    [
      { what: 'longest', one: most((one) => one.title.length) },
      { what: 'shortest', one: most((one) => -one.title.length) },
      { what: 'highest letters', one: most(high) },
    ].filter(({ one }, at, all) => one && all.findIndex((other) => other.one?.row === one.row) === at),
  );
  const box = $derived(`${scene.box[0]} ${scene.box[1]} ${scene.box[2] - scene.box[0]} ${scene.box[3] - scene.box[1]}`);
</script>

{#if shown.length}
  <figure>
    <svg viewBox={box} role="img" aria-label="The longest, the shortest and the highest row on the pattern">
      <path class="blank" d={scene.blank} />
      {#each shown as { what, one } (what)}<path class={what.split(' ')[0]} d={one?.picture} />{/each}
    </svg>
    <figcaption>
      {#each shown as { what, one } (what)}<span><i class={what.split(' ')[0]}></i>{what}: {one?.title}</span>{/each}
    </figcaption>
  </figure>
{/if}

<style>
  figure {
    margin: 0;
    padding: 0 16px;
  }

  svg {
    display: block;
    width: 100%;
    max-height: 240px;
    background: var(--ground);
  }

  .blank {
    fill: var(--sheet);
    stroke: var(--line-strong);
    stroke-width: 1px;
    vector-effect: non-scaling-stroke;
  }

  path.longest {
    fill: var(--verdigris);
    opacity: 0.55;
  }

  path.shortest {
    fill: var(--ink);
    opacity: 0.75;
  }

  path.highest {
    fill: var(--ochre);
    opacity: 0.5;
  }

  figcaption {
    display: flex;
    flex-direction: column;
    margin-top: 6px;
    color: var(--ink-soft);
    font-size: 12px;
  }

  i {
    display: inline-block;
    width: 10px;
    height: 10px;
    margin-right: 6px;
  }

  i.longest {
    background: var(--verdigris);
  }

  i.shortest {
    background: var(--ink);
  }

  i.highest {
    background: var(--ochre);
  }
</style>
