<script lang="ts">
  import { Button, Checkbox, Select, SelectItem, TextArea } from 'carbon-components-svelte';
  import { catalogue, choices } from '../../api/catalogue';
  import type { Act, Dial, Lettering } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import Choice from '../../parts/Choice.svelte';
  import LengthField from '../../parts/LengthField.svelte';
  import OutputField from '../../parts/OutputField.svelte';

  interface Props {
    editor: Editor;
    lettering: Lettering;
    dial: Dial;
    /** How its places are said. */
    placing: string;
    set: (changed: Partial<Lettering>) => void;
  }

  let { editor, lettering, dial, placing, set }: Props = $props();

  const change = (changed: Partial<Dial>) => set({ dial: { ...dial, ...changed } });
  const problem = (field: string) => editor.problem('letterings', lettering.id, `dial.${field}`);

  const SEQUENCES = choices('labels');
  const PLACINGS = choices('places');
  const STANDS = choices<NonNullable<Dial['stand']>>('label_stance');
  const SIDES = choices<NonNullable<NonNullable<Dial['ticks']>['side']>>('ticks');

  const labels = $derived(dial.labels as unknown as Record<string, unknown> & { kind: string });
  const counts = $derived(catalogue().counted.includes(labels.kind));
  const setLabels = (changed: Record<string, unknown>) =>
    change({ labels: { ...labels, ...changed } as unknown as Dial['labels'] });

  function sequence(kind: string): void {
    if (kind !== labels.kind) editor.act({ act: 'label-with', lettering: lettering.id, kind });
  }

  const ticks = $derived(dial.ticks ?? undefined);
  const setTicks = (changed: Partial<NonNullable<Dial['ticks']>>) =>
    change({ ticks: { ...(ticks as NonNullable<Dial['ticks']>), ...changed } });

  function withTicks(on: boolean): void {
    editor.act({ act: 'set-ticks', lettering: lettering.id, on });
  }

  function place(way: string): void {
    if (way !== placing) editor.act({ act: 'place-labels', lettering: lettering.id, way } as Act);
  }

  let table = $state<string>();
  const unit = $derived(dial.places_in === 'mm' ? ' mm' : '°');
  const listed = $derived(
    ((labels.words as string[] | undefined) ?? [])
      .map((word, index) => (dial.places?.length ? `${dial.places[index] ?? ''}${unit}: ${word}` : word))
      .join('\n'),
  );

  function paste(): void {
    if (table !== undefined && table !== listed) {
      editor.act({ act: 'paste-labels', lettering: lettering.id, table });
    }
    table = undefined;
  }
</script>

{#if labels.kind !== 'phrase'}
  <Select
    size="sm"
    labelText="Labels"
    selected={labels.kind}
    on:update={(event) => sequence(String(event.detail))}
  >
    {#each SEQUENCES as one (one.value)}
      <SelectItem value={one.value} text={one.label} />
    {/each}
  </Select>
{:else}
  <Checkbox
    labelText="A space holds a place, which stays empty"
    checked={labels.spaces !== false}
    on:check={(event) => event.detail !== (labels.spaces !== false) && setLabels({ spaces: event.detail })}
  />
{/if}
<div class="pair">
  <Select size="sm" labelText="Places" selected={placing} on:update={(event) => place(String(event.detail))}>
    {#if placing === 'listed'}
      <SelectItem value="listed" text="as listed" />
    {/if}
    {#each PLACINGS as one (one.value)}
      <SelectItem value={one.value} text={one.label} />
    {/each}
  </Select>
  {#if placing === 'parts'}
    <LengthField
      label="Guide divided into"
      unit="parts"
      value={dial.divisions ?? null}
      problem={problem('divisions')}
      onset={(divisions) => change({ divisions: Math.round(divisions) })}
    />
  {:else if placing === 'pitch'}
    <LengthField
      label="One every"
      value={dial.pitch ?? null}
      problem={problem('pitch')}
      onset={(pitch) => change({ pitch })}
    />
  {/if}
</div>
{#if problem('on')}
  <p class="wrong">{problem('on')}</p>
{/if}
{#if counts}
  <div class="three">
    <LengthField label="From" unit="" value={labels.first as number} onset={(first) => setLabels({ first })} />
    <LengthField
      label="to"
      unit=""
      value={(labels.last as number | null) ?? null}
      empty="all"
      problem={problem('labels.last')}
      onset={(last) => setLabels({ last })}
      onclear={() => setLabels({ last: null })}
    />
    <LengthField
      label="step"
      unit=""
      value={labels.step as number}
      problem={problem('labels.step')}
      onset={(step) => setLabels({ step })}
    />
  </div>
{:else if labels.kind === 'compass'}
  <Select
    size="sm"
    labelText="Points"
    selected={String(labels.points ?? 8)}
    on:update={(event) => {
      const points = Number(event.detail);
      if (points !== (labels.points ?? 8)) setLabels({ points });
    }}
  >
    {#each catalogue().points as points (points)}
      <SelectItem value={String(points)} text={String(points)} />
    {/each}
  </Select>
{/if}
{#if labels.kind === 'list'}
  <TextArea
    labelText="One label a line"
    helperText="An empty line is an empty place. A label’s own place stands before it: “22.5°: NE”, or “40 mm: in”."
    rows={4}
    invalid={Boolean(problem('places'))}
    invalidText={problem('places')}
    value={table ?? listed}
    on:input={(event) => (table = (event.target as HTMLTextAreaElement).value)}
    on:blur={paste}
  />
{/if}
<Choice label="Each label stands" options={STANDS} value={dial.stand ?? 'on-guide'} onset={(stand) => change({ stand })} />
<Choice
  label="They go"
  options={[
    { value: 'along', label: 'along the guide' },
    { value: 'against', label: 'against it' },
  ]}
  value={dial.way ?? 'along'}
  onset={(way) => change({ way })}
/>
{#if catalogue().on_line.includes(dial.stand ?? 'on-guide')}
  <Checkbox
    labelText="Follow the curve"
    checked={dial.curved ?? true}
    on:check={(event) => event.detail !== (dial.curved ?? true) && change({ curved: event.detail })}
  />
{/if}
{#if labels.kind === 'figures'}
  <details open={Boolean(labels.pad || labels.decimals || labels.unit || labels.sign)}>
    <summary>Digits, sign, unit</summary>
    <div class="three">
      <LengthField label="Digits" unit="" value={(labels.pad as number) ?? 0} onset={(pad) => setLabels({ pad: Math.round(pad) })} />
      <LengthField label="Decimals" unit="" value={(labels.decimals as number) ?? 0} onset={(decimals) => setLabels({ decimals: Math.round(decimals) })} />
      <label class="unit">
        Unit
        <input
          value={(labels.unit as string) ?? ''}
          maxlength="12"
          onchange={(event) => setLabels({ unit: event.currentTarget.value })}
        />
      </label>
    </div>
    <Checkbox
      labelText="+ before what is more than 0"
      checked={Boolean(labels.sign)}
      on:check={(event) => event.detail !== Boolean(labels.sign) && setLabels({ sign: event.detail })}
    />
  </details>
{/if}
<Checkbox
  labelText="Ticks"
  checked={Boolean(ticks)}
  on:check={(event) => event.detail !== Boolean(ticks) && withTicks(event.detail)}
/>
{#if ticks}
  <div class="three">
    {#each [['major', 'Long'], ['middle', 'Middle'], ['minor', 'Short']] as const as [which, label] (which)}
      <LengthField
        label={`${label} ticks`}
        value={ticks[which]?.length ?? null}
        empty="none"
        onset={(length) => setTicks({ [which]: { width: 0, ...ticks[which], length } })}
        onclear={() => setTicks({ [which]: null })}
      />
    {/each}
    {#each ['major', 'middle', 'minor'] as const as which (which)}
      <LengthField
        label="width"
        value={ticks[which]?.width ?? null}
        empty="–"
        onset={(width) => ticks[which] && setTicks({ [which]: { ...ticks[which], width } })}
      />
    {/each}
  </div>
  <LengthField
    label="From label to label"
    unit="parts"
    value={ticks.parts ?? 1}
    problem={problem('ticks.parts')}
    onset={(parts) => setTicks({ parts: Math.round(parts) })}
  />
  <Choice label="Ticks lie" options={SIDES} value={ticks.side ?? 'inside'} onset={(side) => setTicks({ side })} />
  <OutputField
    label="In files, the ticks are"
    value={ticks.output}
    usual="the same as the labels"
    onset={(output) => setTicks({ output })}
  />
{/if}
{#if dial.changes?.length}
  <Button size="small" kind="ghost" on:click={() => change({ changes: [] })}>
    All {dial.changes.length} changed labels like the others
  </Button>
{/if}
<p>Click a label on the drawing to change that one alone.</p>

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
  }

  .three {
    display: grid;
    grid-template-columns: 1fr 1fr 1fr;
    gap: 8px 12px;
    align-items: end;
  }

  .unit {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .unit input {
    display: block;
    width: 100%;
    height: 32px;
    margin-top: 8px;
    border: 0;
    border-bottom: 1px solid var(--line-strong);
    padding: 0 10px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
  }

  p {
    margin: 0;
    color: var(--ink-soft);
    font-size: 12px;
  }
</style>
