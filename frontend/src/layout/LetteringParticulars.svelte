<script lang="ts">
  import { Button, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import type { Lettering } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import { ALIGN, TOUCH, figure, readingWords } from '../editor/words';
  import Choice from '../parts/Choice.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import FacePicker from './FacePicker.svelte';

  let { editor, lettering }: { editor: Editor; lettering: Lettering } = $props();

  const guide = $derived(editor.piece.guides.find((one) => one.id === lettering.guide));
  const scene = $derived(editor.around?.guides.find((one) => one.id === lettering.guide));
  const set = (changed: Partial<Lettering>) => {
    editor.changeLettering(lettering.id, changed);
    void editor.finish();
  };

  const readings = $derived(
    (['along', 'against'] as const).map((value) => ({ value, label: readingWords(guide, value) })),
  );
  const shares = $derived(lettering.at_in === 'share');
  /** The named place that the lettering stands at, where it stands at one. */
  const place = $derived(
    shares
      ? (scene?.places.find((one) => figure(one.share) === figure(lettering.at))?.name ?? '')
      : '',
  );

  /** Another unit for the same place; the core says what it comes to. */
  function measureIn(unit: Lettering['at_in']): void {
    if (!scene || unit === lettering.at_in) return;
    const at = unit === 'share' ? lettering.at / scene.length : lettering.at * scene.length;
    set({ at_in: unit, at: Number(at.toFixed(6)) });
  }

  function goTo(name: string): void {
    const found = scene?.places.find((one) => one.name === name);
    if (found) set({ at_in: 'share', at: found.share });
  }

  function type(event: CustomEvent<unknown>): void {
    editor.changeLettering(lettering.id, { text: String(event.detail ?? '') });
    editor.pauseThenFinish();
  }
</script>

<div class="fields">
  <TextInput
    size="sm"
    labelText="Words"
    value={lettering.text}
    maxlength={2000}
    invalid={Boolean(editor.problem('letterings', lettering.id, 'text'))}
    invalidText={editor.problem('letterings', lettering.id, 'text')}
    on:input={type}
    on:blur={() => void editor.finish()}
    on:keydown={(event) => event.key === 'Enter' && void editor.finish()}
  />
  <FacePicker {editor} {lettering} onset={(face) => set({ face })} />
  <div class="three">
    <LengthField
      label="Height"
      value={lettering.height}
      problem={editor.problem('letterings', lettering.id, 'height')}
      onset={(height) => set({ height })}
    />
    <LengthField
      label="Looser"
      value={lettering.tracking}
      onset={(tracking) => set({ tracking })}
    />
    <LengthField
      label="Standoff"
      value={lettering.standoff}
      problem={editor.problem('letterings', lettering.id, 'standoff')}
      onset={(standoff) => set({ standoff })}
    />
  </div>
  <Choice
    label="Touches the guide with its"
    options={TOUCH}
    value={lettering.touch}
    onset={(touch) => set({ touch })}
  />
  <Choice
    label="Reads"
    options={readings}
    value={lettering.reading}
    onset={(reading) => set({ reading })}
  />
  <div class="pair">
    <LengthField
      label={`Its ${ALIGN.find((one) => one.value === lettering.align)?.label} at`}
      unit={shares ? '%' : 'mm'}
      shownAs={shares ? 100 : 1}
      value={lettering.at}
      onset={(at) => set({ at })}
    />
    <Select
      size="sm"
      labelText="that is"
      selected={place}
      on:update={(event) => goTo(String(event.detail))}
    >
      <SelectItem value="" text="elsewhere" disabled={place !== ''} />
      {#each scene?.places ?? [] as named (named.name)}
        <SelectItem value={named.name} text={`the ${named.name}`} />
      {/each}
    </Select>
  </div>
  <div class="pair">
    <Choice
      label="Held by its"
      options={ALIGN}
      value={lettering.align}
      onset={(align) => set({ align })}
    />
    <Choice
      label="Place kept as"
      options={[
        { value: 'mm', label: 'mm' },
        { value: 'share', label: '%' },
      ]}
      value={lettering.at_in}
      onset={measureIn}
    />
  </div>
  <div>
    <Button
      size="small"
      kind="danger-ghost"
      on:click={() => editor.remove({ kind: 'lettering', id: lettering.id })}
    >
      Remove this lettering
    </Button>
  </div>
</div>

<style>
  .fields {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
  }

  .pair,
  .three {
    display: grid;
    grid-template-columns: 5fr 4fr;
    gap: 12px;
  }

  .three {
    grid-template-columns: 1fr 1fr 1fr;
  }
</style>
