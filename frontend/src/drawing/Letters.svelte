<script lang="ts">
  /**
   * The letters of one lettering: outlines by name, placed by matrices.
   *
   * Outlines change with the words; matrices change with every move of a pointer and
   * are written straight into the elements, which is what keeps a drag fluent.
   */
  interface Props {
    shapes: ReadonlyMap<string, string>;
    names: string[];
    matrices: number[];
    drawn?: boolean[];
    strokes: boolean;
    /** Instead of names and matrices: letters that follow the curve. */
    outlines?: string[];
    /** Letters to be shown as chosen, and as changed by hand. */
    chosen?: boolean[];
    hand?: boolean[];
  }

  let { shapes, names, matrices, drawn, strokes, outlines = [], chosen, hand }: Props = $props();
  let group: SVGGElement;

  $effect(() => {
    const figures = matrices;
    const paths = group.children as HTMLCollectionOf<SVGPathElement>;
    for (let index = 0; index < names.length; index += 1) {
      const path = paths[index];
      const owner = path?.ownerSVGElement;
      if (!path || !owner || figures.length < 6 * (index + 1)) continue;
      const matrix = owner.createSVGMatrix();
      [matrix.a, matrix.b, matrix.c, matrix.d, matrix.e, matrix.f] = figures.slice(
        6 * index,
        6 * index + 6,
      ) as [number, number, number, number, number, number];
      path.transform.baseVal.initialize(owner.createSVGTransformFromMatrix(matrix));
    }
  });
</script>

<g bind:this={group} class="letters" class:strokes>
  {#each names as name, index (index)}
    <path
      d={shapes.get(name) ?? ''}
      data-letter={index}
      class:lost={drawn?.[index] === false}
      class:hand={hand?.[index]}
      class:chosen={chosen?.[index]}
    />
  {/each}
  {#each outlines as outline, index (index)}
    <path
      d={outline}
      data-letter={index}
      class:lost={drawn?.[index] === false}
      class:chosen={chosen?.[index]}
    />
  {/each}
</g>

<style>
  path {
    fill: var(--ink);
  }

  path.chosen {
    fill: var(--verdigris);
  }

  .strokes path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.3px;
    stroke-linecap: round;
    stroke-linejoin: round;
    vector-effect: non-scaling-stroke;
  }

  .strokes path.chosen {
    fill: none;
    stroke: var(--verdigris);
  }

  path.lost {
    fill: none;
    stroke: var(--brick);
    stroke-width: 1px;
    stroke-dasharray: 3 2;
    vector-effect: non-scaling-stroke;
  }
</style>
