<script lang="ts" module>
  import type { BatchRequest } from '../api/client';

  export type Wanted = BatchRequest;
</script>

<script lang="ts">
  /** What is made of the rows: a file each, in which format and named how, or sheets. */
  import { Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import Choice from '../parts/Choice.svelte';
  import LengthField from '../parts/LengthField.svelte';

  interface Props {
    wanted: Wanted;
    /** Of the piece: parts that are sewn lie in it. */
    hoop: { width: number; height: number };
    onchange: (wanted: Wanted) => void;
  }

  let { wanted, hoop, onchange }: Props = $props();

  type Format = Wanted['format'];
  const SEWN: readonly Format[] = ['dst', 'pes', 'jef', 'exp', 'vp3'];
  const FORMATS: readonly Format[] = ['svg', 'dxf', 'plt', 'gcode', 'pdf', 'png', ...SEWN, 'stl', '3mf', 'step'];
  const SHEET = { width: 600, height: 400, margin: 5, gap: 2, turns: [0, 90], offcuts: [], mark: 0 };
  const OFFCUT: [number, number] = [300, 200];
  const SHEETS: readonly (readonly [Format, string])[] = [
    ['svg', 'lines: SVG'], ['3mf', 'parts on a plate: 3MF'],
    ...SEWN.map((one) => [one, `stitches in a hoop: ${one?.toUpperCase()}`] as const),
  ];
  const AS = [
    { value: 'files', label: 'a file each' },
    { value: 'roll', label: 'one file' },
    { value: 'sheets', label: 'nested on sheets' },
  ];
  const TURNS = [
    { value: '0,90', label: 'by quarters' },
    { value: '0,180', label: 'grain kept' },
    { value: '0', label: 'not' },
  ];

  const sheet = $derived(wanted.sheet);
  const sewn = $derived(SEWN.includes(wanted.format));
  const offcuts = $derived((sheet?.offcuts ?? []) as [number, number][]);
  const change = (changed: Partial<Wanted>) => onchange({ ...wanted, ...changed });
  const set = (at: number, size: [number, number]) => lay({ offcuts: offcuts.map((one, other) => (other === at ? size : one)) });

  function as(value: string): void {
    if (value === 'files') change({ sheet: null });
    else {
      const format = SHEETS.some(([one]) => one === wanted.format) ? wanted.format : 'svg';
      change({ sheet: { ...(sheet ?? { ...SHEET, ...usual(format) }), roll: value === 'roll' }, format });
    }
  }

  /** What is laid out in a format lies on a sheet of this size, unless the maker says otherwise. */
  const usual = (format: Format) => (SEWN.includes(format) ? hoop : { width: SHEET.width, height: SHEET.height });

  /** Numbers are drawn: sheets of anything but lines have none. */
  function write(format: Format): void {
    const before = usual(wanted.format);
    const own = sheet?.width !== before.width || sheet.height !== before.height;
    change({ format, sheet: sheet && { ...sheet, ...(own ? {} : usual(format)), mark: format === 'svg' ? sheet.mark : 0 } });
  }

  const lay = (changed: Partial<NonNullable<Wanted['sheet']>>) => sheet && change({ sheet: { ...sheet, ...changed } });
</script>

<Choice
  label="As"
  options={AS}
  value={!sheet ? 'files' : sheet.roll ? 'roll' : 'sheets'}
  onset={as}
/>
{#if sheet}
  <Select size="sm" labelText="Written as" selected={wanted.format ?? 'svg'} on:update={(event) => event.detail !== wanted.format && write(event.detail as Format)}>
    {#each SHEETS as [format, words] (format)}<SelectItem value={format} text={words} />{/each}
  </Select>
  <div class="pair">
    <LengthField label={sheet.roll ? 'Roll, wide' : sewn ? 'Hoop, wide' : 'Sheet, wide'} value={sheet.width} onset={(width) => lay({ width })} />
    {#if !sheet.roll}<LengthField label="high" value={sheet.height} onset={(height) => lay({ height })} />{/if}
    <LengthField label="Free round it" value={sheet.margin ?? SHEET.margin} onset={(margin) => lay({ margin })} />
    <LengthField label="Between parts" value={sheet.gap ?? SHEET.gap} onset={(gap) => lay({ gap })} />
    {#if wanted.format === 'svg'}<LengthField label="Number beside each" value={sheet.mark || null} empty="none" onset={(mark) => lay({ mark })} onclear={() => lay({ mark: 0 })} />{/if}
  </div>
  <Choice label="Parts may be turned" options={TURNS} value={(sheet.turns ?? SHEET.turns).join(',')} onset={(value) => lay({ turns: value.split(',').map(Number) })} />
  {#if offcuts.length}
    <p class="soft">Off-cuts, filled before a whole sheet is taken</p>
    {#each offcuts as [width, height], at (at)}
      <div class="offcut">
        <LengthField label={`Off-cut ${at + 1}, wide`} value={width} onset={(width) => set(at, [width, height])} />
        <LengthField label="high" value={height} onset={(height) => set(at, [width, height])} />
        <button class="quiet" aria-label={`Remove off-cut ${at + 1}`} onclick={() => lay({ offcuts: offcuts.filter((_, other) => other !== at) })}>remove</button>
      </div>
    {/each}
  {/if}
  {#if !sewn}<div><button class="quiet" onclick={() => lay({ offcuts: [...offcuts, offcuts.at(-1) ?? OFFCUT] })}>add an off-cut</button></div>{/if}
{:else}
  <div class="pair">
    <Select size="sm" labelText="Format" selected={wanted.format ?? 'svg'} on:update={(event) => event.detail !== wanted.format && change({ format: event.detail as Format })}>
      {#each FORMATS as format (format)}<SelectItem value={format} text={String(format).toUpperCase()} />{/each}
    </Select>
    <TextInput size="sm" labelText="Files are named" value={wanted.name ?? ''} on:change={(event) => change({ name: String(event.detail) })} />
  </div>
{/if}
<Checkbox labelText="Rows with faults too" checked={wanted.anyway ?? false} on:check={(event) => event.detail !== wanted.anyway && change({ anyway: event.detail })} />

<style>
  .offcut {
    display: grid;
    grid-template-columns: 1fr 1fr auto;
    align-items: end;
    gap: 6px 12px;
  }

  .soft {
    margin: 0;
    color: var(--ink-soft);
    font-size: 12px;
  }

  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 6px 12px;
  }
</style>
