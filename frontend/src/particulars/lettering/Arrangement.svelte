<script lang="ts">
  import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import { catalogue, choices } from '../../api/catalogue';
  import type { Lettering } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import Choice from '../../parts/Choice.svelte';
  import HowTo from '../../parts/HowTo.svelte';
  import LengthField from '../../parts/LengthField.svelte';
  import DialParticulars from './DialParticulars.svelte';
  import MarkField from './MarkField.svelte';

  interface Props {
    editor: Editor;
    lettering: Lettering;
    set: (changed: Partial<Lettering>) => void;
  }

  let { editor, lettering, set }: Props = $props();

  const WAYS = catalogue().arrangements.map((one) => ({ ...one, value: one.name }));
  const LAPS = choices<NonNullable<NonNullable<Lettering['laps']>['way']>>('laps');
  const FILLS = choices<NonNullable<NonNullable<Lettering['fill']>['way']>>('fill');
  const ALIGN = choices('align');

  const shown = $derived(editor.live.around?.letterings.find((one) => one.id === lettering.id));
  const way = $derived(shown?.arrangement ?? '');
  const problem = (field: string) => editor.problem('letterings', lettering.id, field);
  const pitch = $derived(shown?.line_to_line ?? '');

  function go(way: string): void {
    editor.act({ act: 'arrange', lettering: lettering.id, way });
  }

  const lines = $derived(lettering.text.split('\n'));
  const choiceOf = (index: number) => lettering.lines?.[index] ?? { height: null, align: null };

  function setLine(index: number, changed: { height?: number | null; align?: Lettering['align'] | null }): void {
    const all = lines.map((_, at) => choiceOf(at));
    all[index] = { ...choiceOf(index), ...changed };
    set({ lines: all as Lettering['lines'] });
  }
</script>

<Choice label="The words stand" options={WAYS} value={way} onset={go} />

{#if lettering.repeat}
  {@const repeat = lettering.repeat}
  <div class="pair">
    <LengthField
      label="How often"
      unit="times"
      value={repeat.times ?? null}
      empty="as fits"
      problem={problem('repeat.times')}
      onset={(times) => set({ repeat: { ...repeat, times: Math.round(times), pitch: null } })}
      onclear={() => set({ repeat: { ...repeat, times: null } })}
    />
    <LengthField
      label="or at a distance of"
      value={repeat.pitch ?? null}
      empty="–"
      problem={problem('repeat.pitch')}
      onset={(pitch) => set({ repeat: { ...repeat, pitch, times: null, gap: null } })}
      onclear={() => set({ repeat: { ...repeat, pitch: null } })}
    />
  </div>
  <MarkField
    label="Between them"
    mark={repeat.separator ?? undefined}
    onset={(separator) => set({ repeat: { ...repeat, separator: separator ?? null } })}
  />
  <LengthField
    label="Extra gap between them"
    value={repeat.gap ?? null}
    empty="all equal, round the guide"
    onset={(gap) => set({ repeat: { ...repeat, gap, pitch: null } })}
    onclear={() => set({ repeat: { ...repeat, gap: null } })}
  />
{:else if lettering.laps}
  {@const laps = lettering.laps}
  <LengthField
    label="From lap to lap"
    value={laps.pitch}
    problem={problem('laps.pitch')}
    onset={(pitch) => set({ laps: { ...laps, pitch } })}
  />
  <Choice
    label="The next lap lies"
    options={LAPS}
    value={laps.way ?? 'inward'}
    onset={(way) => set({ laps: { ...laps, way } })}
  />
{:else if lettering.dial}
  <DialParticulars {editor} {lettering} dial={lettering.dial} placing={shown?.placing ?? ''} {set} />
{:else if lettering.fill}
  {@const fill = lettering.fill}
  <Choice
    label="The inside of the guide is filled"
    options={FILLS}
    value={fill.way ?? 'lines'}
    onset={(way) => set({ fill: { ...fill, way, again: way === 'lines' && fill.again } })}
  />
  <div class="pair">
    <LengthField
      label="Margin"
      value={fill.margin ?? 2}
      problem={problem('fill.margin') || problem('fill')}
      onset={(margin) => set({ fill: { ...fill, margin } })}
    />
    <LengthField
      label="From line to line"
      value={fill.pitch ?? null}
      empty="as usual"
      problem={problem('fill.pitch')}
      onset={(pitch) => set({ fill: { ...fill, pitch } })}
      onclear={() => set({ fill: { ...fill, pitch: null } })}
    />
  </div>
  {#if fill.way !== 'around'}
    <LengthField
      label="Lines turned by"
      unit="°"
      value={fill.angle ?? 0}
      onset={(angle) => set({ fill: { ...fill, angle } })}
    />
    <Checkbox
      labelText="lines as long as there is room"
      checked={fill.even ?? true}
      on:check={(event) => set({ fill: { ...fill, even: event.detail } })}
    />
    <Checkbox
      labelText="the words again until it is full"
      checked={fill.again ?? false}
      on:check={(event) => set({ fill: { ...fill, again: event.detail } })}
    />
  {/if}
{:else}
  <MarkField
    label="At start and end"
    mark={lettering.ends ?? undefined}
    onset={(ends) => set({ ends: ends ?? null })}
  />
{/if}

{#if lines.length > 1 && !lettering.dial && !lettering.fill}
  <LengthField
    label="From line to line"
    value={lettering.line_pitch ?? null}
    empty={`${pitch}, as usual`}
    problem={problem('line_pitch')}
    onset={(line_pitch) => set({ line_pitch })}
    onclear={() => set({ line_pitch: null })}
  />
  {#each lines as line, index (index)}
    <div class="pair">
      <LengthField
        label={`Height of “${line.slice(0, 12)}”`}
        value={choiceOf(index).height ?? null}
        empty={String(lettering.height)}
        onset={(height) => setLine(index, { height })}
        onclear={() => setLine(index, { height: null })}
      />
      <Select
        size="sm"
        labelText="held by its"
        selected={choiceOf(index).align ?? ''}
        on:update={(event) => setLine(index, { align: (event.detail || null) as Lettering['align'] | null })}
      >
        <SelectItem value="" text="as all" />
        {#each ALIGN as align (align.value)}
          <SelectItem value={align.value} text={align.label} />
        {/each}
      </Select>
    </div>
  {/each}
{:else if way === 'once'}
  <p>Words of several lines stand on lines parallel to the guide: press Shift and Enter among the words.</p>
{/if}

{#if way === 'dial' || way === 'phrase'}
  <HowTo job="letter-by-letter" label="letters and figures at places" />
{:else}
  <HowTo job="words-round-a-shape" label="words round a shape" />
{/if}

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
  }

  p {
    margin: 0;
    color: var(--ink-soft);
    font-size: 12px;
    line-height: 16px;
  }
</style>
