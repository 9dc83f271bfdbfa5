<script lang="ts">
  /** How the whole run lies on the machine, and how it is worded. */
  import { Checkbox, Select, SelectItem, TextArea } from 'carbon-components-svelte';
  import type { RunScene, RunSheet } from '../api/client';
  import LengthField from '../parts/LengthField.svelte';
  import { BED, CORNERS, cornerOf, type Corner } from './sheet';

  interface Props {
    scene: RunScene;
    onchange: (sheet: RunSheet) => void;
  }

  let { scene, onchange }: Props = $props();

  const sheet = $derived(scene.sheet);
  const bed = $derived(sheet.bed ?? null);
  const change = (changed: Partial<RunSheet>) => onchange({ ...sheet, ...changed });
  const gcode = (changed: Partial<NonNullable<RunSheet['gcode']>>) => change({ gcode: { ...sheet.gcode, ...changed } });
</script>

<h2 class="particulars">The whole run</h2>
<div class="fields particulars">
  <Select size="sm" labelText="It begins at the piece's" selected={sheet.zero} on:update={(event) => change({ zero: event.detail as RunSheet['zero'] })}>
    {#each CORNERS as one (one)}<SelectItem value={one} text={cornerOf(one)} />{/each}
  </Select>
  <div class="pair">
    <LengthField label="That lies, across" value={sheet.at[0]} onset={(x) => change({ at: [x, sheet.at[1]] })} />
    <LengthField label="and up, from zero" value={sheet.at[1]} onset={(y) => change({ at: [sheet.at[0], y] })} />
  </div>
  <div class="pair">
    <LengthField label="Bed, across" value={bed?.width ?? null} empty="not known" onset={(width) => change({ bed: { ...BED, ...bed, width } })} onclear={() => change({ bed: null })} />
    {#if bed}
      <LengthField label="Bed, up" value={bed.height} onset={(height) => change({ bed: { ...bed, height } })} />
    {/if}
  </div>
  {#if bed}
    <Select size="sm" labelText="The machine's zero is at" selected={bed.zero} on:update={(event) => change({ bed: { ...bed, zero: event.detail as Corner } })}>
      {#each CORNERS as one (one)}<SelectItem value={one} text={`its ${cornerOf(one)}`} />{/each}
    </Select>
  {/if}
  <LengthField label="Marks to lay it by again, outside by" value={sheet.marks || null} empty="no marks" onset={(marks) => change({ marks })} onclear={() => change({ marks: 0 })} />
  {#if sheet.marks}<p>Choose the pass that draws them, and let it work on them.</p>{/if}
  <Checkbox labelText="mirrored, for film that is cut from its back" checked={sheet.mirrored} on:check={(event) => event.detail !== sheet.mirrored && change({ mirrored: event.detail })} />
  <Select size="sm" labelText="Rehearsal on the machine" selected={sheet.rehearsal} on:update={(event) => change({ rehearsal: event.detail as RunSheet['rehearsal'] })}>
    <SelectItem value="off" text="no: the tools work" />
    <SelectItem value="bounds" text="round the bounds, tool up" />
    <SelectItem value="path" text="all of the path, tool up" />
  </Select>
  <LengthField label="Box for weeding, beyond what is cut by" value={sheet.weeding || null} empty="no box" onset={(weeding) => change({ weeding })} onclear={() => change({ weeding: 0 })} />
  {#if sheet.weeding}
    <LengthField label="Lines across that box, about every" value={sheet.weeding_apart || null} empty="none" onset={(apart) => change({ weeding_apart: apart })} onclear={() => change({ weeding_apart: 0 })} />
  {/if}
  <Select size="sm" labelText="PDF on" selected={sheet.paper} on:update={(event) => change({ paper: event.detail as RunSheet['paper'] })}>
    <SelectItem value="one" text="one page, as large as it needs" />
    <SelectItem value="a4" text="tiles of A4" />
    <SelectItem value="a3" text="tiles of A3" />
    <SelectItem value="letter" text="tiles of letter paper" />
    <SelectItem value="tabloid" text="tiles of tabloid paper" />
  </Select>
  <details>
    <summary>G-code</summary>
    <div class="fields">
      <Select size="sm" labelText="Lengths in" selected={sheet.gcode.unit} on:update={(event) => gcode({ unit: event.detail as 'mm' | 'inch' })}>
        <SelectItem value="mm" text="mm" />
        <SelectItem value="inch" text="inches" />
      </Select>
      <Checkbox labelText="arcs as arcs" checked={sheet.gcode.arcs} on:check={(event) => event.detail !== sheet.gcode.arcs && gcode({ arcs: event.detail })} />
      <TextArea rows={2} labelText="Lines at its beginning" placeholder="none" value={sheet.gcode.preamble} on:change={(event) => gcode({ preamble: (event.target as HTMLTextAreaElement).value })} />
      <TextArea rows={2} labelText="Lines at its end" placeholder="none" value={sheet.gcode.end} on:change={(event) => gcode({ end: (event.target as HTMLTextAreaElement).value })} />
    </div>
  </details>
  <p>Times are for a machine that gathers speed at 1,000 mm/s², travels at 200 mm/s, and takes 0.05 s to lift.</p>
</div>

<style>
  p {
    margin: 0;
    color: var(--ink-soft);
    font-size: 12px;
  }

  summary {
    margin-bottom: 8px;
    font-size: 13px;
    cursor: pointer;
  }
</style>
