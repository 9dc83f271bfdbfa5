<script lang="ts">
  import { Button, Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import { catalogue, choices } from '../../api/catalogue';
  import type { Blank, Output, Piece } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import { sentence } from '../../words/words';
  import Choice from '../../parts/Choice.svelte';
  import HowTo from '../../parts/HowTo.svelte';
  import Inputs from '../../parts/Inputs.svelte';
  import LengthField from '../../parts/LengthField.svelte';
  import OutputField from '../../parts/OutputField.svelte';
  import ScaleFields from '../../parts/ScaleFields.svelte';
  import { length } from '../../words/units.svelte';

  let { editor, onfile }: { editor: Editor; onfile: () => void } = $props();

  const BLANKS = catalogue().blanks;
  const SHEETS = catalogue().sheets;
  const { firsts } = catalogue();
  const LENGTHS = choices<Piece['lengths']>('lengths');
  const blank = $derived(editor.piece.blank ?? undefined);
  const values = $derived((blank ?? {}) as Record<string, unknown>);
  const kind = $derived(BLANKS.find((one) => one.name === blank?.kind));
  function set(changed: Partial<Piece>): void {
    editor.change(changed);
    void editor.finish();
  }

  function become(name: string): void {
    if (name === (blank?.kind ?? '')) return;
    const wanted = BLANKS.find((one) => one.name === name);
    if (wanted && !wanted.first) onfile();
    else if (wanted) setBlank({ kind: name, ...wanted.first } as Blank);
    else set({ blank: null });
  }

  /** Whether all that stands on the blank is scaled to another one. */
  let along = $state(false);

  function setBlank(wanted: Blank): void {
    if (along) editor.act({ act: 'scale-piece', measure: 'percent', blank: wanted });
    else set({ blank: wanted });
  }

  function scale(measure: 'percent' | 'width' | 'height', to: number): void {
    editor.act({ act: 'scale-piece', measure, to });
  }

  const colours: Partial<Record<Output, string>> = $derived(editor.piece.colours ?? {});
  const lie = $derived(editor.piece.lie);

  function setLie(changed: Partial<Piece["lie"]>): void {
    set({ lie: { ...lie, ...changed } });
  }

  const sheet = $derived(editor.piece.sheet ?? undefined);
  const area = $derived(editor.piece.area ?? undefined);
  const named = $derived(
    sheet
      ? (SHEETS.find((one) => one.width === sheet.width && one.height === sheet.height)?.name ??
          'own')
      : '',
  );

  function useSheet(name: string): void {
    const found = SHEETS.find((one) => one.name === name);
    if (!name) set({ sheet: null });
    else if (found) set({ sheet: { width: found.width, height: found.height } });
  }
</script>

<h2 class="particulars">The blank</h2>
<div class="fields particulars">
  <Select
    size="sm"
    labelText="It is"
    selected={blank?.kind ?? ''}
    on:update={(event) => become(String(event.detail))}
  >
    <SelectItem value="" text="none" />
    {#each BLANKS as one (one.name)}
      <SelectItem value={one.name} text={one.first ? one.title : `${one.title} …`} />
    {/each}
  </Select>
  {#if blank}
    <div class="pair">
      <Inputs
        inputs={kind?.inputs ?? []}
        {values}
        problem={(field) =>
          editor.live.problems.find((one) => one.field === `blank.${field}`)?.reason ?? ''}
        onset={(changed) => setBlank({ ...blank, ...changed } as Blank)}
      />
    </div>
    <Checkbox
      labelText="Scale what stands on it when the blank changes"
      checked={along}
      on:check={(event) => (along = event.detail)}
    />
    {#if 'source' in blank && blank.source}
      <p>From {blank.source}.</p>
    {/if}
  {/if}

  {#if blank}
    <OutputField
      label="In files, its own edge is"
      value={editor.piece.edge}
      onset={(edge) => set({ edge: edge === 'none' ? null : edge })}
    />
  {/if}
  <details>
    <summary>How the piece lies on the sheet</summary>
    <div class="pair">
      <LengthField label="Turned by" unit="°" value={lie.turned} onset={(turned) => setLie({ turned })} />
      <div class="turn">
        <Button size="small" kind="ghost" on:click={() => setLie({ turned: (lie.turned + 90) % 360 })}>
          Turn by 90°
        </Button>
      </div>
      <LengthField label="Moved across" value={lie.at[0]} onset={(x) => setLie({ at: [x, lie.at[1]] })} />
      <LengthField label="Moved up" value={lie.at[1]} onset={(y) => setLie({ at: [lie.at[0], y] })} />
    </div>
    <Checkbox
      labelText="Mirrored, as seen from the back"
      checked={lie.mirrored}
      on:check={(event) => event.detail !== lie.mirrored && setLie({ mirrored: event.detail })}
    />
  </details>
  <Choice
    label="Lengths are shown in"
    options={LENGTHS}
    value={editor.piece.lengths}
    onset={(lengths) => set({ lengths })}
  />
  <details>
    <summary>Colours in files</summary>
    <div class="colours">
      {#each Object.entries(catalogue().outputs) as [name, one] (name)}
        <label>
          <input
            type="color"
            value={colours[name as Output] ?? one.colour}
            onchange={(event) => set({ colours: { ...colours, [name]: event.currentTarget.value } })}
          />
          {sentence(one.words)}
        </label>
      {/each}
    </div>
    <p>Many machines tell what is cut, drawn and engraved by its colour.</p>
    <HowTo job="cut-draw-engrave" label="what is cut, drawn and engraved" />
  </details>
  <details>
    <summary>Scale the whole piece</summary>
    <div class="pair">
      <ScaleFields extent={editor.live.around?.extent ?? undefined} onscale={scale} />
    </div>
    <p>Blank, guides, letters, gaps and borders grow together; tools and the sheet stay.</p>
    <HowTo job="another-size" label="another size, mirrored, in inches" />
  </details>

  <Select
    size="sm"
    labelText="It lies on a sheet"
    selected={named}
    on:update={(event) => useSheet(String(event.detail))}
  >
    <SelectItem value="" text="none" />
    {#each SHEETS as one (one.name)}
      <SelectItem value={one.name} text={`${one.name}: ${length(one.width)} × ${length(one.height)}`} />
    {/each}
    {#if named === 'own'}<SelectItem value="own" text="own size" />{/if}
  </Select>
  {#if sheet}
    <div class="pair">
      <LengthField label="Sheet width" value={sheet.width} onset={(width) => set({ sheet: { ...sheet, width } })} />
      <LengthField label="Sheet height" value={sheet.height} onset={(height) => set({ sheet: { ...sheet, height } })} />
    </div>
    <div>
      <Button
        size="small"
        kind="ghost"
        on:click={() => set({ sheet: { width: sheet.height, height: sheet.width } })}
      >
        Turn the sheet by 90°
      </Button>
    </div>
  {/if}

  <Checkbox
    labelText="Show what the tool reaches"
    checked={Boolean(area)}
    on:check={(event) => {
      if (event.detail !== Boolean(area)) {
        set({ area: event.detail ? { width: firsts['reach_width'] ?? 0, height: firsts['reach_height'] ?? 0, turned: false } : null });
      }
    }}
  />
  {#if area}
    <div class="pair">
      <LengthField label="Reach, width" value={area.width} onset={(width) => set({ area: { ...area, width } })} />
      <LengthField label="Reach, height" value={area.height} onset={(height) => set({ area: { ...area, height } })} />
    </div>
    <Checkbox
      labelText="Turned by 90°"
      checked={area.turned ?? false}
      on:check={(event) => {
        if (event.detail !== (area.turned ?? false)) set({ area: { ...area, turned: event.detail } });
      }}
    />
  {/if}
</div>

<style>
  .pair {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 10px 12px;
  }

  details > .pair {
    margin: 8px 0;
  }

  .turn {
    align-self: end;
  }

  .colours {
    display: grid;
    gap: 4px;
    margin: 8px 0;
    font-size: 13px;
  }

  .colours label {
    display: flex;
    align-items: center;
    gap: 8px;
  }

  .colours input {
    width: 40px;
    height: 24px;
    border: 1px solid var(--line-strong);
    padding: 0;
    background: none;
  }

  p {
    margin: 0;
    color: var(--ink-soft);
    font-size: 13px;
  }

  .fields :global(.bx--form-item) {
    margin: 0;
  }
</style>
