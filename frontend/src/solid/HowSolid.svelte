<script lang="ts">
  /** How a lettering stands out, or, where none is chosen, what the body is. */
  import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import { catalogue } from '../api/catalogue';
  import type { Blank, LetteringRelief, Solid, SolidScene } from '../api/client';
  import Choice from '../parts/Choice.svelte';
  import Inputs from '../parts/Inputs.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import type { Editor } from '../piece/editor.svelte';

  interface Props {
    editor: Editor;
    scene: SolidScene | undefined;
    chosen: string;
    onchange: (recipe: Solid) => void;
  }

  let { editor, scene, chosen, onchange }: Props = $props();

  const RELIEFS: { value: LetteringRelief['relief']; label: string }[] = [
    { value: 'raised', label: 'raised' },
    { value: 'sunk', label: 'sunk' },
    { value: 'grooved', label: 'grooved' },
    { value: 'through', label: 'through' },
    { value: 'none', label: 'left out' },
  ];
  const EDGES: { value: Solid['edge']; label: string }[] = [
    { value: 'square', label: 'square' },
    { value: 'rounded', label: 'rounded' },
    { value: 'bevelled', label: 'bevelled' },
  ];
  const MAKINGS: { value: Solid['making']; label: string }[] = [
    { value: 'printing', label: 'printed' },
    { value: 'milling', label: 'milled' },
    { value: 'casting', label: 'cast' },
  ];
  const FIRST_RIM = { width: 3, depth: 1 };

  const recipe = $derived(scene?.recipe);
  const lettering = $derived.by(() => {
    const shown = scene?.letterings.find((one) => one.relief.of === chosen);
    return shown && { ...shown, relief: recipe?.letterings.find((one) => one.of === chosen) ?? shown.relief };
  });
  const all = $derived(recipe?.relief);
  const inputs = $derived(catalogue().blanks.find((one) => one.name === editor.piece.blank?.kind)?.inputs ?? []);

  function change(changed: Partial<Solid>): void {
    if (recipe) onchange({ ...recipe, ...changed });
  }

  function relief(changed: Partial<LetteringRelief>): void {
    if (!recipe) return;
    if (lettering) {
      const mine = { ...lettering.relief, ...changed };
      change({ letterings: [...recipe.letterings.filter((one) => one.of !== mine.of), mine] });
    } else {
      change({ relief: { ...recipe.relief, ...changed } });
    }
  }

  function asAll(): void {
    if (recipe) change({ letterings: recipe.letterings.filter((one) => one.of !== chosen) });
  }

  function blank(changed: Partial<Blank>): void {
    editor.change({ blank: { ...editor.piece.blank, ...changed } as Blank });
    editor.pauseThenFinish();
  }
</script>

{#snippet how(one: Omit<LetteringRelief, 'of'>)}
  <Choice label="Lettering is" options={RELIEFS} value={one.relief} onset={(to) => relief({ relief: to })} />
  {#if one.relief === 'raised' || one.relief === 'sunk'}
    <div class="pair">
      <LengthField label={one.relief === 'raised' ? 'Raised by' : 'Sunk by'} value={one.by} onset={(by) => relief({ by })} />
      <LengthField label="Walls lean in" unit="°" value={one.draft} onset={(draft) => relief({ draft })} />
    </div>
  {/if}
  {#if one.relief === 'grooved'}
    <div class="pair">
      <LengthField label="Deep at most" value={one.by} onset={(by) => relief({ by })} />
      <LengthField label="Pointed cutter" unit="°" value={one.angle} onset={(angle) => relief({ angle })} />
    </div>
  {/if}
  {#if one.relief === 'raised'}
    <Choice label="Upper edges of letters" options={EDGES} value={one.edge} onset={(edge) => relief({ edge, edge_size: edge === 'square' ? 0 : one.edge_size || Math.min(0.2, one.by) })} />
    {#if one.edge !== 'square'}<LengthField label="Taken off by" value={one.edge_size} onset={(edge_size) => relief({ edge_size })} />{/if}
  {/if}
{/snippet}

<aside class="right" aria-label="Particulars">
  {#if scene && recipe && lettering}
    <h2 class="particulars">{lettering.name}</h2>
    <div class="fields particulars">
      {@render how(lettering.relief)}
      {#if lettering.own}<button class="quiet" onclick={asAll}>as all lettering</button>{/if}
    </div>
  {:else if scene && recipe && all}
    <h2 class="particulars">The body</h2>
    <div class="fields particulars">
      {#if editor.piece.blank && scene.kind !== 'read'}
        <Inputs {inputs} values={editor.piece.blank} onset={blank} />
      {/if}
      {#if scene.kind === 'plate'}
        <LengthField label="Thickness of the plate" value={recipe.thickness} onset={(thickness) => change({ thickness })} />
      {:else if scene.kind === 'side'}
        <LengthField label="Bore" value={recipe.bore || null} empty="none" onset={(bore) => change({ bore })} onclear={() => change({ bore: 0 })} />
      {/if}
      {#if scene.kind === 'plate' || scene.kind === 'side'}
        <Choice label="Edges of the body" options={EDGES} value={recipe.edge} onset={(edge) => change({ edge, edge_size: edge === 'square' ? 0 : recipe.edge_size || 0.5 })} />
        {#if recipe.edge !== 'square'}<LengthField label="Edges taken off by" value={recipe.edge_size} onset={(edge_size) => change({ edge_size })} />{/if}
      {/if}
      {#if scene.kind === 'plate'}
        <fieldset>
          <legend>Rim</legend>
          <Checkbox labelText="is left standing round a lower floor" checked={recipe.rim != null} on:check={(event) => event.detail !== (recipe.rim != null) && change({ rim: event.detail ? FIRST_RIM : null })} />
          {#if recipe.rim}
            {@const rim = recipe.rim}
            <div class="pair">
              <LengthField label="Rim, wide" value={rim.width} onset={(width) => change({ rim: { ...rim, width } })} />
              <LengthField label="Floor lower by" value={rim.depth} onset={(depth) => change({ rim: { ...rim, depth } })} />
            </div>
          {/if}
        </fieldset>
      {/if}
      {@render how(all)}
      <Checkbox labelText="lettering apart, in another colour" checked={recipe.apart} on:check={(event) => event.detail !== recipe.apart && change({ apart: event.detail })} />
      <Select size="sm" labelText="Made of" selected={recipe.material} on:update={(event) => event.detail !== recipe.material && change({ material: event.detail as Solid['material'] })}>
        {#each scene.materials as one (one.name)}<SelectItem value={one.name} text={one.title} />{/each}
      </Select>
      <Choice label="It is" options={MAKINGS} value={recipe.making} onset={(making) => change({ making })} />
      {#if recipe.making === 'milling'}<LengthField label="Cutter" value={recipe.cutter} onset={(cutter) => change({ cutter })} />{/if}
      {#if recipe.making === 'casting'}<LengthField label="Larger for shrinking" unit="%" value={recipe.shrinkage} onset={(shrinkage) => change({ shrinkage })} />{/if}
      <div class="pair">
        <LengthField label="Chords off by" value={recipe.tolerance} onset={(tolerance) => change({ tolerance })} />
        <LengthField label="Single lines, wide" value={recipe.line} onset={(line) => change({ line })} />
      </div>
      {#if scene.own}
        <button class="quiet" onclick={() => { editor.change({ solid: null }); void editor.finish(); }}>back to the plain part</button>
      {/if}
    </div>
  {/if}
</aside>

