<script lang="ts">
  import { Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import { catalogue, choices } from '../../api/catalogue';
  import { api, type FaceEntry, type Lettering } from '../../api/client';
  import { newest } from '../../api/newest';
  import type { Editor } from '../../piece/editor.svelte';
  import Choice from '../../parts/Choice.svelte';
  import LengthField from '../../parts/LengthField.svelte';
  import NameField from '../../parts/NameField.svelte';
  import OutputField from '../../parts/OutputField.svelte';

  interface Props {
    editor: Editor;
    lettering: Lettering;
    set: (changed: Partial<Lettering>) => void;
  }

  let { editor, lettering, set }: Props = $props();

  let face = $state.raw<FaceEntry>();
  const take = newest<{ data?: FaceEntry } | undefined>((answer) => (face = answer?.data));
  $effect(() => {
    const params = { path: { face_id: lettering.face } };
    void take(api.GET('/api/faces/{face_id}', { params }).catch(() => undefined));
  });

  const problem = (field: string) => editor.problem('letterings', lettering.id, field);
  const STANCES = choices<NonNullable<Lettering['shape']>>('stance');
  const MEASURES = choices('measured');
  /** With what of the guide letters can grow; nothing: it has nothing that changes. */
  const growing = $derived.by(() => {
    const guide = editor.piece.guides.find((one) => one.id === lettering.guide);
    if (!guide) return '';
    if (catalogue().kinds[guide.kind]?.grows) return 'Grow in step with the spiral';
    const { blank } = editor.piece;
    const narrows = blank && 'back_width' in blank && blank.back_width && blank.back_width !== blank.width;
    return guide.kind === 'belt' && narrows ? 'As high as the band is wide' : '';
  });

  const line = $derived(editor.live.around?.letterings.find((one) => one.id === lettering.id));
  /** What becomes of it where nothing is said of it. */
  const usualWords = $derived(
    line && line.output !== 'none' && !lettering.output
      ? catalogue().outputs[line.output]?.words
      : 'what face and material ask for',
  );

  const solved = $derived(editor.fitOf(lettering)?.figures ?? {});

  const usual = (tag: string) => face?.features.find((one) => one.tag === tag)?.usual ?? false;
  const isOn = (tag: string) => (lettering.features?.[tag] ?? Number(usual(tag))) > 0;

  function setFeature(tag: string, on: boolean): void {
    if (on === isOn(tag)) return;
    const features = { ...lettering.features };
    if (on === usual(tag)) delete features[tag];
    else features[tag] = on ? 1 : 0;
    set({ features });
  }
</script>

<Choice
  label="Letters on the curve"
  options={STANCES}
  value={lettering.shape ?? 'rigid'}
  onset={(shape) => set({ shape })}
/>
<div class="pair">
  <LengthField
    label={solved.height === undefined ? 'Height' : 'Height, solved'}
    value={solved.height ?? lettering.height}
    problem={problem('height')}
    onset={(height) => set({ height })}
  />
  <Select
    size="sm"
    labelText="Height measured on"
    selected={lettering.measured ?? 'capital'}
    on:update={(event) =>
      event.detail !== lettering.measured && set({ measured: event.detail as Lettering['measured'] })}
  >
    {#each MEASURES as measure (measure.value)}
      <SelectItem value={measure.value} text={measure.label} />
    {/each}
  </Select>
  <LengthField
    label={solved.end_height === undefined ? 'Height at the end' : 'At the end, solved'}
    value={solved.end_height ?? lettering.end_height ?? null}
    empty={lettering.with_guide ? 'as the guide' : 'the same'}
    problem={problem('end_height')}
    onset={(end_height) => set({ end_height, with_guide: false })}
    onclear={() => set({ end_height: null })}
  />
  <LengthField
    label="Wider word spaces"
    value={lettering.word_space ?? 0}
    onset={(word_space) => set({ word_space })}
  />
  <LengthField
    label={solved.width === undefined ? 'Width' : 'Width, solved'}
    unit="%"
    shownAs={100}
    value={solved.width ?? lettering.width ?? 1}
    problem={problem('width')}
    onset={(width) => set({ width })}
  />
  <LengthField
    label="Slant"
    unit="°"
    value={lettering.slant ?? 0}
    problem={problem('slant')}
    onset={(slant) => set({ slant })}
  />
  {#each face?.axes ?? [] as { tag, name, least, usual, most } (tag)}
    <LengthField
      label={`${name}, ${least} to ${most}`}
      unit=""
      value={lettering.axes?.[tag] ?? usual}
      problem={problem('axes')}
      onset={(value) => set({ axes: { ...lettering.axes, [tag]: value } })}
    />
  {/each}
</div>
{#if growing}
  <Checkbox
    labelText={growing}
    checked={lettering.with_guide ?? false}
    on:check={(event) =>
      event.detail !== (lettering.with_guide ?? false) &&
      set({ with_guide: event.detail, end_height: null })}
  />
{/if}
<Checkbox
  labelText="Mirrored, to be seen from behind"
  checked={lettering.mirrored ?? false}
  on:check={(event) => event.detail !== (lettering.mirrored ?? false) && set({ mirrored: event.detail })}
/>
{#if face?.good_for.includes('joined')}
  <Checkbox
    labelText="Spacing pulls joined letters apart"
    checked={lettering.spread_joined ?? false}
    on:check={(event) =>
      event.detail !== (lettering.spread_joined ?? false) && set({ spread_joined: event.detail })}
  />
{/if}
{#if lettering.spacing !== 'font'}
  <Checkbox
    labelText="Space figures and punctuation too"
    checked={lettering.space_all ?? false}
    on:check={(event) =>
      event.detail !== (lettering.space_all ?? false) && set({ space_all: event.detail })}
  />
{/if}
{#if face?.features.length}
  <fieldset>
    <legend>What the face offers</legend>
    {#each face.features as { tag, name } (tag)}
      <Checkbox
        labelText={name}
        checked={isOn(tag)}
        on:check={(event) => setFeature(tag, event.detail)}
      />
    {/each}
  </fieldset>
{/if}
<NameField name={lettering.name ?? ''} otherwise={line?.name ?? ''} onset={(name) => set({ name })} />
<OutputField
  value={lettering.output}
  usual={`as usual: ${usualWords}`}
  onset={(output) => set({ output })}
/>

<style>
  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
  }

  fieldset {
    margin: 0;
    border: 0;
    padding: 0;
  }

  legend {
    color: var(--ink-soft);
    font-size: 12px;
  }
</style>
