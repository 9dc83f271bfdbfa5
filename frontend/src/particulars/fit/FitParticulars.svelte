<script lang="ts">
  import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import { catalogue, choices, labelOf } from '../../api/catalogue';
  import type { Lettering } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import { fitWords } from '../../words/words';
  import Choice from '../../parts/Choice.svelte';
  import MarkField from '../lettering/MarkField.svelte';
  import HowTo from '../../parts/HowTo.svelte';
  import LengthField from '../../parts/LengthField.svelte';
  import { said } from '../../words/units.svelte';

  interface Props {
    editor: Editor;
    lettering: Lettering;
    set: (changed: Partial<Lettering>) => void;
  }

  let { editor, lettering, set }: Props = $props();

  type Fit = NonNullable<Lettering['fit']>;
  const SEAMS = choices<NonNullable<Fit['seam']>>('seam');
  type Kind = Fit['kind'] | 'typed';
  const TYPED = { value: 'typed', label: 'as typed' } as const;
  type GivesWay = NonNullable<Fit['gives']>[number];

  const fit = $derived(lettering.fit ?? undefined);
  const kind = $derived<Kind>(fit?.kind ?? 'typed');
  const solved = $derived(editor.fitOf(lettering));
  const isSolved = $derived(
    Object.keys({ ...solved?.figures, ...solved?.guide_figures }).length > 0,
  );
  const guide = $derived(editor.live.around?.guides.find((one) => one.id === lettering.guide));
  const recipe = $derived(editor.piece.guides.find((one) => one.id === lettering.guide));
  const winds = $derived(recipe ? catalogue().kinds[recipe.kind]?.winds : false);
  const scene = $derived(editor.live.around?.letterings.find((one) => one.id === lettering.id));
  const problem = (field: string) => editor.problem('letterings', lettering.id, `fit.${field}`);

  /** The fits that go together with how the words stand. */
  const offered = $derived([
    TYPED,
    ...choices<Kind>('fit').filter((one) => scene?.fits.includes(one.value)),
  ]);

  /** A fit, or all figures as they were typed before it. */
  function choose(to: Kind): void {
    if (to === kind) return;
    editor.act({ act: 'set-fit', lettering: lettering.id, kind: to === 'typed' ? null : to });
  }

  /** The fit ends, and its figures stay as they came. */
  const keep = () => editor.act({ act: 'keep-figures', lettering: lettering.id });

  function change(changed: Partial<Fit>): void {
    if (fit) set({ fit: { ...fit, ...changed } });
  }

  // ------------------------------------------------------------------ where it may stand

  type Bound = NonNullable<Fit['within']>[number];

  const bounds = $derived(
    choices<Bound>('within').filter((one) => scene?.keeps.includes(one.value)),
  );

  function keepWithin(bound: Bound, on: boolean): void {
    const now = fit?.within ?? [];
    if (on === now.includes(bound)) return;
    const within = on ? [...now, bound] : now.filter((one) => one !== bound);
    change(within.length ? { within } : { within, clear: 0 });
  }

  function setPart(end: 0 | 1, station: number | undefined): void {
    const length = guide?.length ?? 0;
    if (station === undefined) return change({ part: null });
    const part: [number, number] = [...(fit?.part ?? [0, length])];
    part[end] = station;
    change({ part });
  }

  // ------------------------------------------------------------------ what gives way

  /** One figure, or one after another. */
  const GIVES = choices('gives').flatMap((one, _, all) => [
    one,
    ...all
      .filter((other) => other.value !== one.value)
      .map((other) => ({
        value: `${one.value} ${other.value}`,
        label: `${one.label}, then ${other.label}`,
      })),
  ]);
  const giving = $derived((fit?.gives ?? []).map((one) => one.figure).join(' '));

  function setGiving(to: string): void {
    if (to === giving) return;
    const had = fit?.gives ?? [];
    const names = to.split(' ').filter(Boolean) as GivesWay['figure'][];
    change({ gives: names.map((name) => had.find((one) => one.figure === name) ?? { figure: name }) });
  }

  function setLimit(index: number, changed: Partial<GivesWay>): void {
    const gives = [...(fit?.gives ?? [])];
    const now = gives[index];
    if (now) gives[index] = { ...now, ...changed };
    change({ gives });
  }
</script>

<Select
  size="sm"
  labelText="Its size is"
  selected={kind}
  on:update={(event) => choose(event.detail as Kind)}
>
  {#each offered as { value, label } (value)}
    <SelectItem {value} text={label} />
  {/each}
</Select>

{#if fit && solved}
  <div class="outcome" class:wrong={solved.note}>
    {#if isSolved}<p><b aria-hidden="true">=</b> {said(fitWords(solved, guide))}</p>{/if}
    {#if solved.note}<p class="note">{said(solved.note)}</p>{/if}
    {#if isSolved}
      <Button size="small" kind="ghost" on:click={keep}>End the fit, keep these figures</Button>
    {:else}
      <p>Your own figures stand until it can be solved.</p>
    {/if}
  </div>
{/if}

{#if fit?.kind === 'guide'}
  <Select
    size="sm"
    labelText="The guide gives by its"
    selected={fit.figure || (guide?.sizes[0]?.field ?? '')}
    on:update={(event) => event.detail !== fit.figure && change({ figure: String(event.detail) })}
  >
    {#each guide?.sizes ?? [] as { field, label } (field)}
      <SelectItem value={field} text={label.toLowerCase()} />
    {/each}
  </Select>
  {#if winds}
    <Select
      size="sm"
      labelText="until"
      selected={fit.until ?? 'filled'}
      on:update={(event) =>
        event.detail !== fit.until && change({ until: event.detail as Fit['until'] })}
    >
      {#each choices('until') as { value, label } (value)}<SelectItem {value} text={label} />{/each}
    </Select>
  {/if}
{/if}

{#if fit}
  {#if fit.kind === 'height' && bounds.length}
    <fieldset>
      <legend>Also keeps</legend>
      {#each bounds as { value, label } (value)}
        <Checkbox
          labelText={label}
          checked={fit.within?.includes(value) ?? false}
          on:check={(event) => keepWithin(value, event.detail)}
        />
      {/each}
    </fieldset>
  {/if}
  <div class="pair">
    {#if fit.kind !== 'repeats' && fit.until !== 'clear'}
      <LengthField
        label={guide?.closed && !fit.part ? 'Left free where they meet' : 'Left free at each end'}
        value={fit.margin ?? 0}
        problem={problem('margin')}
        onset={(margin) => change({ margin })}
      />
    {/if}
    {#if fit.within?.length || lettering.laps || fit.until === 'clear'}
      <LengthField
        label={fit.within?.length ? 'Clear of these by' : 'Between turns'}
        value={fit.clear ?? 0}
        problem={problem('clear')}
        onset={(clear) => change({ clear })}
      />
    {/if}
  </div>
  {#if fit.kind === 'gap' && guide?.closed && !fit.part}
    <Choice
      label="Where the words meet again there is"
      options={SEAMS}
      value={fit.seam ?? 'letter'}
      onset={(seam) => change({ seam })}
    />
    <MarkField
      label="with a mark in it"
      mark={fit.mark ?? undefined}
      onset={(mark) => change({ mark: mark ?? null })}
    />
  {/if}
  {#if fit.kind === 'height'}
    <TextInput
      size="sm"
      labelText="One height with all of the set named"
      placeholder="no set"
      value={fit.alike ?? ''}
      on:change={(event) => change({ alike: String(event.detail ?? '').trim() })}
    />
  {/if}

  {#if ['height', 'gap', 'taper'].includes(fit.kind) && !lettering.repeat && !lettering.laps}
    <div class="pair">
      <LengthField
        label="Only from station"
        value={fit.part?.[0] ?? null}
        empty="all of it"
        problem={problem('part')}
        onset={(station) => setPart(0, station)}
        onclear={() => setPart(0, undefined)}
      />
      <LengthField
        label="to station"
        value={fit.part?.[1] ?? null}
        empty="all of it"
        onset={(station) => setPart(1, station)}
        onclear={() => setPart(1, undefined)}
      />
    </div>
  {/if}

  <div class="pair">
    <LengthField
      label={`${labelOf('fit_limits', fit.kind)}, at least`}
      unit={fit.kind === 'repeats' ? 'times' : 'mm'}
      value={fit.least ?? null}
      empty="any"
      problem={problem('least')}
      onset={(least) => change({ least })}
      onclear={() => change({ least: null })}
    />
    <LengthField
      label="at most"
      unit={fit.kind === 'repeats' ? 'times' : 'mm'}
      value={fit.most ?? null}
      empty="any"
      problem={problem('most')}
      onset={(most) => change({ most })}
      onclear={() => change({ most: null })}
    />
  </div>

  {#if fit.kind === 'gap'}
    <Select
      size="sm"
      labelText="Where that is not enough, change"
      selected={giving}
      on:update={(event) => setGiving(String(event.detail))}
    >
      <SelectItem value="" text="nothing" />
      {#each GIVES as { value, label } (value)}
        <SelectItem {value} text={label} />
      {/each}
    </Select>
    {#each fit.gives ?? [] as gives, index (index)}
      {@const percent = gives.figure === 'width'}
      <div class="pair">
        <LengthField
          label={percent ? 'Width, at least' : 'Height, at least'}
          unit={percent ? '%' : 'mm'}
          shownAs={percent ? 100 : 1}
          value={gives.least ?? null}
          empty="any"
          onset={(least) => setLimit(index, { least })}
          onclear={() => setLimit(index, { least: null })}
        />
        <LengthField
          label="at most"
          unit={percent ? '%' : 'mm'}
          shownAs={percent ? 100 : 1}
          value={gives.most ?? null}
          empty="any"
          onset={(most) => setLimit(index, { most })}
          onclear={() => setLimit(index, { most: null })}
        />
      </div>
    {/each}
  {/if}
{:else}
  <p class="hint">
    {lettering.dial
      ? 'The labels of a dial stand by its divisions: there is nothing to be solved.'
      : 'Choose what is to be solved; it is solved again whenever words, face or guide change.'}
  </p>
{/if}

<HowTo job="middle-of-a-banner" label="as high as a banner has room for" />

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    align-items: end;
    gap: 12px;
  }

  fieldset {
    margin: 0;
    border: 0;
    padding: 0;
  }

  fieldset :global(.bx--form-item) {
    margin: 0;
  }

  fieldset :global(.bx--checkbox-wrapper) {
    margin: 0;
    padding: 0;
  }

  legend {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .outcome {
    border-left: 2px solid var(--verdigris);
    padding: 2px 0 2px 10px;
  }

  .outcome.wrong {
    border-color: var(--brick);
  }

  .outcome b {
    color: var(--verdigris);
  }

  .outcome :global(.bx--btn) {
    min-height: 26px;
    margin-left: -8px;
    padding: 2px 8px;
  }

  .outcome p {
    margin: 0;
  }

  .note {
    color: var(--brick);
    font-size: 12px;
  }

  .hint {
    margin: 0;
    color: var(--ink-soft);
    font-size: 13px;
  }
</style>
