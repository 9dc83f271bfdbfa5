<script lang="ts">
  /** The steps of preparing, as the server lists them; a step that is off is left out. */
  import { catalogue } from '../api/catalogue';
  import type { Prepare, StepEntry } from '../api/client';
  import LengthField from '../parts/LengthField.svelte';
  import Inputs from '../parts/Inputs.svelte';
  import type { Editor } from '../piece/editor.svelte';
  import Step from './Step.svelte';

  interface Props {
    editor: Editor;
    recipe: Prepare | undefined;
    /** The lettering whose recipe it is; empty for the whole piece. */
    where: string;
    onchange: (recipe: Prepare | null) => void;
  }

  let { editor, recipe, where, onchange }: Props = $props();

  type Values = Record<string, unknown>;

  const STEPS = catalogue().steps;
  const steps = $derived((recipe ?? {}) as Values);
  const shapes = $derived([
    ...(editor.piece.blank ? [{ value: '', label: 'the blank' }] : []),
    ...editor.piece.guides.filter((one) => !one.removed).map((one) => ({ value: one.id, label: one.id })),
  ]);

  const same = (one: unknown, other: unknown) =>
    JSON.stringify(one ?? null) === JSON.stringify(other ?? null);
  const valueOf = (step: StepEntry) => steps[step.field] ?? step.left_out;
  const isOn = (step: StepEntry) => !same(valueOf(step), step.left_out);
  const isList = (step: StepEntry) => Array.isArray(step.left_out);

  /** A step's recipe where it is one record: of a list, the first one. */
  const record = (step: StepEntry): Values =>
    (isList(step) ? (valueOf(step) as Values[])[0] : (valueOf(step) as Values)) ?? {};

  /** What a step begins with; what it names is the first shape that there is. */
  function first(step: StepEntry): unknown {
    if (typeof step.first !== 'object') return step.first;
    const named = step.inputs.flatMap((one) => {
      const shape = one.input === 'guide' && shapes.find(({ value }) => value || one.or_blank);
      return one.input === 'guide' ? [[one.field, (shape && shape.value) || null]] : [];
    });
    const begun = { ...(step.first as Values), ...Object.fromEntries(named) };
    return isList(step) ? [begun] : begun;
  }

  function set(field: string, value: unknown): void {
    const next = { ...steps, [field]: value };
    const nothing = STEPS.every((step) => same(next[step.field] ?? step.left_out, step.left_out));
    onchange(nothing ? null : (next as unknown as Prepare));
  }

  function change(step: StepEntry, changed: Values): void {
    const now = { ...record(step), ...changed };
    if (!isList(step)) return set(step.field, now);
    set(step.field, [now, ...(valueOf(step) as Values[]).slice(1)]);
  }

  /** A second entry of a list, like the first one but for a figure. */
  function again(step: StepEntry, field: string, plain: [string, unknown][], value?: number): void {
    const model = record(step);
    const second = value ? [{ ...model, [field]: value, ...Object.fromEntries(plain) }] : [];
    set(step.field, [model, ...second]);
  }

  const secondOf = (step: StepEntry, field: string) =>
    ((valueOf(step) as Values[])[1]?.[field] as number | undefined) ?? null;
  const handOf = (step: StepEntry, field: string) => (record(step)[field] as unknown[] | undefined) ?? [];
</script>

<div role="group" aria-label={where ? 'Steps for this lettering' : 'Steps for the whole piece'}>
  {#each STEPS as step (step.field)}
    <Step
      label={step.title}
      hint={step.hint}
      on={isOn(step)}
      onset={(on) => set(step.field, on ? first(step) : step.left_out)}
    >
      {#each step.inputs as one, index (index)}
        {#if one.input === 'again'}
          <LengthField
            label={one.label}
            value={secondOf(step, one.field)}
            empty="none"
            onset={(value) => again(step, one.field, one.plain ?? [], value)}
            onclear={() => again(step, one.field, one.plain ?? [])}
          />
        {:else if one.input === 'by-hand'}
          {@const changes = handOf(step, one.field)}
          {#if changes.length}
            <button class="quiet" onclick={() => change(step, { [one.field]: [] })}>
              forget {changes.length} {one.label}
            </button>
          {/if}
        {:else if one.input === 'figure' && !one.field}
          <LengthField
            label={one.label}
            unit={one.unit ?? 'mm'}
            value={Number(valueOf(step))}
            onset={(value) => set(step.field, value)}
          />
        {:else}
          <Inputs
            inputs={[one]}
            values={record(step)}
            {shapes}
            listed
            onset={(changed) => change(step, changed)}
          />
        {/if}
      {/each}
    </Step>
  {/each}
</div>

<style>
  .quiet {
    padding: 0 0 6px;
    font-size: 12px;
    text-align: left;
  }
</style>
