<script lang="ts">
  import { Button, Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import { onMount } from 'svelte';
  import { api, type Blank, type Piece } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import { figure } from '../editor/words';
  import LengthField from '../parts/LengthField.svelte';

  let { editor, onfile }: { editor: Editor; onfile: () => void } = $props();

  const blank = $derived(editor.piece.blank ?? undefined);
  const values = $derived((blank ?? {}) as unknown as Record<string, number>);
  let sheets = $state.raw<{ name: string; width: number; height: number }[]>([]);

  onMount(async () => {
    const answer = await api.GET('/api/sheets').catch(() => undefined);
    sheets = answer?.data ?? [];
  });

  const FIGURES: Record<string, [string, string][]> = {
    disc: [['diameter', 'Diameter']],
    ring: [
      ['outer', 'Outer diameter'],
      ['inner', 'Inner diameter'],
    ],
    rectangle: [
      ['width', 'Width'],
      ['height', 'Height'],
      ['radius', 'Corner radius'],
    ],
    banner: [
      ['width', 'Width'],
      ['height', 'Height'],
      ['notch', 'Ends cut in by'],
      ['rise', 'Rises by'],
    ],
    tag: [
      ['width', 'Width'],
      ['height', 'Height'],
      ['radius', 'Corner radius'],
      ['hole', 'Hole'],
      ['hole_inset', 'Hole from the end'],
    ],
    outline: [],
  };

  const FIRST: Record<string, Blank> = {
    disc: { kind: 'disc', diameter: 300 },
    ring: { kind: 'ring', outer: 300, inner: 160 },
    rectangle: { kind: 'rectangle', width: 300, height: 200, radius: 0 },
    banner: { kind: 'banner', width: 400, height: 90, notch: 25, rise: 0 },
    tag: { kind: 'tag', width: 90, height: 40, radius: 6, hole: 5, hole_inset: 8 },
  };

  function set(changed: Partial<Piece>): void {
    editor.change(changed);
    void editor.finish();
  }

  function become(kind: string): void {
    if (kind === blank?.kind) return;
    if (kind === 'outline') onfile();
    else set({ blank: FIRST[kind] ?? null });
  }

  const sheet = $derived(editor.piece.sheet ?? undefined);
  const area = $derived(editor.piece.area ?? undefined);
  const named = $derived(
    sheet
      ? (sheets.find((one) => one.width === sheet.width && one.height === sheet.height)?.name ??
          'own')
      : '',
  );

  function useSheet(name: string): void {
    const found = sheets.find((one) => one.name === name);
    if (!name) set({ sheet: null });
    else if (found) set({ sheet: { width: found.width, height: found.height } });
  }
</script>

<h2>The blank</h2>
<div class="fields">
  <Select
    size="sm"
    labelText="It is"
    selected={blank?.kind ?? ''}
    on:update={(event) => become(String(event.detail))}
  >
    <SelectItem value="" text="none" />
    <SelectItem value="disc" text="a disc" />
    <SelectItem value="ring" text="a ring" />
    <SelectItem value="rectangle" text="a rectangle" />
    <SelectItem value="banner" text="a banner" />
    <SelectItem value="tag" text="a tag with a hole" />
    <SelectItem value="outline" text="an outline from a file …" />
  </Select>
  {#if blank}
    <div class="pair">
      {#each FIGURES[blank.kind] ?? [] as [field, label] (field)}
        <LengthField
          {label}
          value={values[field] ?? 0}
          problem={editor.problems.find((one) => one.field === `blank.${field}`)?.reason ?? ''}
          onset={(value) => set({ blank: { ...blank, [field]: value } })}
        />
      {/each}
    </div>
    {#if blank.kind === 'outline' && blank.source}
      <p>From {blank.source}.</p>
    {/if}
  {/if}

  <Select
    size="sm"
    labelText="It lies on a sheet"
    selected={named}
    on:update={(event) => useSheet(String(event.detail))}
  >
    <SelectItem value="" text="none" />
    {#each sheets as one (one.name)}
      <SelectItem value={one.name} text={`${one.name}: ${figure(one.width)} × ${figure(one.height)}`} />
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
        set({ area: event.detail ? { width: 300, height: 200, turned: false } : null });
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
  h2 {
    margin: 0 0 12px;
    font-size: 14px;
    font-weight: 600;
  }

  .fields {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
  }

  .pair {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 10px 12px;
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
