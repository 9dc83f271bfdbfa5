<script lang="ts">
  /** How a lettering is sewn, or, where none is chosen, the whole piece. */
  import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import type { Sewing, SewnLettering, StitchScene } from '../api/client';
  import Choice from '../parts/Choice.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import type { Editor } from '../piece/editor.svelte';
  import { figure } from '../words/words';
  import type { Columns } from './columns.svelte';

  interface Props {
    editor: Editor;
    scene: StitchScene | undefined;
    chosen: string;
    columns: Columns;
    onchange: (recipe: Sewing) => void;
  }

  let { editor, scene, chosen, columns, onchange }: Props = $props();

  const STITCHES: { value: SewnLettering['stitch']; label: string }[] = [
    { value: 'auto', label: 'as its strokes ask' },
    { value: 'satin', label: 'satin' },
    { value: 'rows', label: 'rows' },
    { value: 'run', label: 'a running line' },
    { value: 'bean', label: 'a triple line' },
    { value: 'edge', label: 'a line round its edge' },
    { value: 'applique', label: 'appliqué: place, tack, cover' },
    { value: 'quilted', label: 'one line through all letters' },
  ];
  const UNDERLAYS: { value: NonNullable<SewnLettering['underlay']>; label: string }[] = [
    { value: 'auto', label: 'by width' },
    { value: 'none', label: 'none' },
    { value: 'centre', label: 'centre' },
    { value: 'edge', label: 'edges' },
    { value: 'zigzag', label: 'zig-zag' },
  ];
  const ORDERS = [
    { value: 'along' as const, label: 'along the words' },
    { value: 'centre' as const, label: 'centre outward' },
  ];
  const HOOPS = [[100, 100], [130, 180], [160, 260], [200, 300]];
  const FIRST_GROUND = { apart: 5, clear: 2 };

  const recipe = $derived(scene?.recipe);
  const lettering = $derived.by(() => {
    const shown = scene?.letterings.find((one) => one.wish.of === chosen);
    return shown && { ...shown, wish: recipe?.letterings.find((one) => one.of === chosen) ?? shown.wish };
  });
  const words = $derived(editor.piece.letterings.find((one) => one.id === chosen)?.text ?? '');
  const letters = $derived(
    (scene?.threads ?? []).filter((one, at, all) => one.lettering === chosen && one.place >= 0
      && all.findIndex((two) => two.lettering === chosen && two.place === one.place) === at),
  );

  function change(changed: Partial<Sewing>): void {
    if (recipe) onchange({ ...recipe, ...changed });
  }

  function wish(changed: Partial<SewnLettering>): void {
    if (!recipe || !lettering) return;
    const mine = { ...lettering.wish, ...changed };
    change({ letterings: [...recipe.letterings.filter((one) => one.of !== mine.of), mine] });
  }

  function letterWish(place: number, stitch: string): void {
    const others = lettering!.wish.letters.filter((one) => one.place !== place);
    wish({ letters: stitch ? [...others, { place, stitch: stitch as SewnLettering['stitch'] }] : others });
  }

  const stitchOf = (place: number) => lettering?.wish.letters.find((one) => one.place === place)?.stitch ?? '';
</script>

<aside class="right" aria-label="Particulars">
  {#if scene && recipe && lettering}
    <h2 class="particulars">{lettering.name}</h2>
    <div class="fields particulars">
      <Select size="sm" labelText="Sewn as" selected={lettering.wish.stitch} on:update={(event) => event.detail !== lettering.wish.stitch && wish({ stitch: event.detail as SewnLettering['stitch'] })}>
        {#each STITCHES as one (one.value)}<SelectItem value={one.value} text={one.label} />{/each}
      </Select>
      <div class="pair">
        <LengthField label="Rows turned" unit="°" value={lettering.wish.angle} onset={(angle) => wish({ angle })} />
        <LengthField label="Satin on single lines" value={lettering.wish.width ?? null} empty="a line" onset={(width) => wish({ width })} onclear={() => wish({ width: null })} />
      </div>
      <Select size="sm" labelText="Underlay" selected={lettering.wish.underlay ?? ''} on:update={(event) => event.detail !== (lettering.wish.underlay ?? '') && wish({ underlay: (event.detail || null) as SewnLettering['underlay'] })}>
        <SelectItem value="" text="as the piece says" />
        {#each UNDERLAYS as one (one.value)}<SelectItem value={one.value} text={one.label} />{/each}
      </Select>
      {#if letters.length && letters.length <= 60}
        <fieldset>
          <legend>Letters that differ</legend>
          {#each letters as one (one.place)}
            {@const set = columns.of?.lettering === chosen && columns.of.place === one.place}
            <div class="letter">
            <Select size="sm" inline labelText={one.letter} selected={stitchOf(one.place)} on:update={(event) => event.detail !== stitchOf(one.place) && letterWish(one.place, String(event.detail))}>
              <SelectItem value="" text="like the others" />
              {#each STITCHES.filter((two) => two.value !== 'quilted' && two.value !== 'applique') as two (two.value)}<SelectItem value={two.value} text={two.label} />{/each}
            </Select>
            <button class="quiet" aria-pressed={set} onclick={() => void columns.show(set ? undefined : { lettering: chosen, place: one.place })}>{set ? 'columns: done' : 'columns…'}</button>
            </div>
            {#if set && columns.seen}
              <p class="soft">Pull the ends of the lines: they say where a column ends and how its thread lies. It holds for every “{columns.seen.letter}” in this face.</p>
              {#if columns.seen.by_hand}<button class="quiet" onclick={() => void columns.asFound()}>back to the columns as found</button>{/if}
            {/if}
          {/each}
        </fieldset>
      {/if}
      <p class="soft">{words}</p>
    </div>
  {:else if scene && recipe}
    <h2 class="particulars">The whole piece</h2>
    <div class="fields particulars">
      <Select size="sm" labelText="Cloth" selected={recipe.cloth} on:update={(event) => event.detail !== recipe.cloth && change({ cloth: event.detail as Sewing['cloth'] })}>
        {#each scene.cloths as one (one.name)}<SelectItem value={one.name} text={one.title} />{/each}
      </Select>
      <Select size="sm" labelText="Thread" selected={recipe.thread} on:update={(event) => event.detail !== recipe.thread && change({ thread: event.detail as Sewing['thread'] })}>
        {#each scene.thread_kinds as one (one.name)}<SelectItem value={one.name} text={one.title} />{/each}
      </Select>
      <div class="pair">
        <LengthField label="Stitches of one side" value={recipe.spacing ?? null} empty={`usual, ${figure(scene.usual.spacing)}`} onset={(spacing) => change({ spacing })} onclear={() => change({ spacing: null })} />
        <LengthField label="Wider on each side" value={recipe.pull ?? null} empty={`usual, ${figure(scene.usual.pull)}`} onset={(pull) => change({ pull })} onclear={() => change({ pull: null })} />
        <LengthField label="Stitches in lines" value={recipe.length ?? null} empty={`usual, ${figure(Number(scene.usual.length.toFixed(2)))}`} onset={(length) => change({ length })} onclear={() => change({ length: null })} />
        <LengthField label="Speed" unit="/min" value={recipe.speed} onset={(speed) => change({ speed })} />
      </div>
      <p class="soft">Usual figures: {scene.usual.source}.</p>
      <Choice label="Underlay" options={UNDERLAYS} value={recipe.underlay} onset={(underlay) => change({ underlay })} />
      <Choice label="Letters are sewn" options={ORDERS} value={recipe.order} onset={(order) => change({ order })} />
      <fieldset>
        <legend>Hoop</legend>
        <Checkbox labelText="is shown and kept to" checked={recipe.hoop != null} on:check={(event) => event.detail !== (recipe.hoop != null) && change({ hoop: event.detail ? { width: 130, height: 180, turned: false, basting: false } : null })} />
        {#if recipe.hoop}
          {@const hoop = recipe.hoop}
          <div class="row" role="group" aria-label="Usual hoops">
            {#each HOOPS as [width, height] (width)}<button class="quiet" onclick={() => change({ hoop: { ...hoop, width: width!, height: height! } })}>{width} × {height}</button>{/each}
          </div>
          <div class="pair">
            <LengthField label="Hoop, wide" value={hoop.width} onset={(width) => change({ hoop: { ...hoop, width } })} />
            <LengthField label="Hoop, high" value={hoop.height} onset={(height) => change({ hoop: { ...hoop, height } })} />
          </div>
          <Checkbox labelText="turned by 90°" checked={hoop.turned} on:check={(event) => event.detail !== hoop.turned && change({ hoop: { ...hoop, turned: event.detail } })} />
          <Checkbox labelText="basting box first" checked={hoop.basting} on:check={(event) => event.detail !== hoop.basting && change({ hoop: { ...hoop, basting: event.detail } })} />
        {/if}
      </fieldset>
      <fieldset>
        <legend>Ground</legend>
        <Checkbox labelText="a wandering line round the words" checked={recipe.ground != null} on:check={(event) => event.detail !== (recipe.ground != null) && change({ ground: event.detail ? FIRST_GROUND : null })} />
        {#if recipe.ground}
          {@const ground = recipe.ground}
          <div class="pair">
            <LengthField label="Turns apart" value={ground.apart} onset={(apart) => change({ ground: { ...ground, apart } })} />
            <LengthField label="Off the words by" value={ground.clear} onset={(clear) => change({ ground: { ...ground, clear } })} />
          </div>
        {/if}
      </fieldset>
      {#if scene.own}
        <button class="quiet" onclick={() => { editor.change({ sewing: null }); void editor.finish(); }}>back to the usual way of sewing</button>
      {/if}
    </div>
  {/if}
</aside>

<style>
  .soft {
    margin: 0;
    color: var(--ink-soft);
    font-size: 12px;
  }

  .letter {
    display: flex;
    align-items: center;
    gap: 8px;
  }

  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
  }

  .quiet {
    border: 0;
    padding: 2px 4px;
    background: none;
    color: var(--verdigris);
    font: inherit;
    font-size: 12px;
    cursor: pointer;
  }
</style>
