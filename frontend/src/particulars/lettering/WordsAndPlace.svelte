<script lang="ts">
  import { Button, Select, SelectItem, TextArea } from 'carbon-components-svelte';
  import { catalogue, choices, labelOf } from '../../api/catalogue';
  import type { Act, Lettering } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import { figure, guideName } from '../../words/words';
  import Choice from '../../parts/Choice.svelte';
  import LengthField from '../../parts/LengthField.svelte';
  import FacePicker from './FacePicker.svelte';
  import WordsFromFile from './WordsFromFile.svelte';

  interface Props {
    editor: Editor;
    lettering: Lettering;
    set: (changed: Partial<Lettering>) => void;
  }

  let { editor, lettering, set }: Props = $props();

  const scene = $derived(editor.live.around?.guides.find((one) => one.id === lettering.guide));
  const solved = $derived(editor.fitOf(lettering)?.figures ?? {});
  const problem = (field: string) => editor.problem('letterings', lettering.id, field);
  const readings = $derived(
    (['along', 'against'] as const).map((value, index) => ({ value, label: scene?.readings[index] ?? value })),
  );
  const shares = $derived(lettering.at_in === 'share');
  const others = $derived(
    editor.piece.letterings.filter((one) => one.guide === lettering.guide && one.id !== lettering.id),
  );

  const TOUCH = choices<NonNullable<Lettering['touch']>>('touch');
  const ALIGN = choices<NonNullable<Lettering['align']>>('align');
  /** What `at` is counted from. */
  const FROM = choices('at_in');

  /** The named place that the lettering stands at, where it stands at one. */
  const place = $derived(
    lettering.at_in !== 'mm' && !shares && lettering.at === 0
      ? lettering.at_in
      : shares
      ? (scene?.places.find((one) => figure(one.share) === figure(lettering.at))?.name ?? '')
      : '',
  );

  let words = $state<HTMLTextAreaElement | null>(null);
  let taking = $state(false);
  $effect(() => {
    if (!words || editor.selection.fresh !== lettering.id) return;
    editor.selection.fresh = undefined;
    words.focus();
    words.select();
  });

  const guides = $derived(editor.piece.guides.filter((one) => !one.removed || one.id === lettering.guide));

  function countFrom(at_in: Lettering['at_in']): void {
    if (at_in && at_in !== lettering.at_in) {
      editor.act({ act: 'keep-place-as', lettering: lettering.id, at_in });
    }
  }

  function goTo(name: string): void {
    const found = scene?.places.find((one) => one.name === name);
    if (found) set({ at_in: 'share', at: found.share });
  }

  function type(event: Event): void {
    editor.changeLettering(lettering.id, { text: (event.target as HTMLTextAreaElement).value });
    editor.pauseThenFinish();
  }

  /** Enter ends the words; with Shift it begins another line. */
  function enter(event: KeyboardEvent): void {
    if (event.key !== 'Enter' || event.shiftKey) return;
    event.preventDefault();
    void editor.finish();
  }

  function act(act: 'other-side' | 'turn-over'): void {
    editor.act({ act, lettering: lettering.id } as Act);
  }
</script>

{#if lettering.dial?.labels.kind !== 'phrase' && lettering.dial}
  <p class="soft">What a dial says is on the page “Spread”.</p>
{:else}
  <TextArea
    bind:ref={words}
    labelText="Words"
    rows={Math.min(3, Math.max(lettering.text.split('\n').length, Math.ceil(lettering.text.length / 26)))}
    value={lettering.text}
    maxlength={catalogue().bounds.letters}
    invalid={Boolean(problem('text'))}
    invalidText={problem('text')}
    on:input={type}
    on:blur={() => void editor.finish()}
    on:keydown={enter}
  />
  <button class="quiet taken" onclick={() => (taking = true)}>words from a table…</button>
  {#if taking}
    <WordsFromFile onclose={() => (taking = false)} onwords={(text) => { set({ text }); void editor.finish(); }} />
  {/if}
{/if}
<FacePicker {editor} {lettering} onset={(face) => set({ face })} />
<div class="three">
  <LengthField
    label={solved.height === undefined ? 'Height' : 'As high as fits'}
    value={solved.height ?? lettering.height}
    problem={problem('height')}
    onset={(height) => set({ height })}
  />
  {#if lettering.spacing === 'overlap'}
    <LengthField
      label="Overlap"
      value={lettering.overlap ?? 0.5}
      problem={problem('overlap')}
      onset={(overlap) => set({ overlap })}
    />
  {:else}
    <LengthField
      label={solved.tracking === undefined ? 'Spacing' : 'Gap, solved'}
      value={solved.tracking ?? lettering.tracking ?? 0}
      onset={(tracking) => set({ tracking })}
    />
  {/if}
  <LengthField
    label="Standoff"
    value={lettering.standoff ?? 0}
    problem={problem('standoff')}
    onset={(standoff) => set({ standoff })}
  />
</div>
<Choice
  label="Touches the guide with its"
  options={TOUCH}
  value={lettering.touch ?? 'baseline'}
  onset={(touch) => set({ touch })}
/>
{#if guides.length > 1}
  <Select
    size="sm"
    labelText="On the guide"
    selected={lettering.guide}
    on:update={(event) => editor.moveToGuide([lettering], String(event.detail))}
  >
    {#each guides as one (one.id)}<SelectItem value={one.id} text={guideName(one)} />{/each}
  </Select>
{/if}
<Choice
  label="Reads"
  options={readings}
  value={lettering.reading ?? 'along'}
  onset={(reading) => set({ reading })}
/>
<div class="buttons">
  <Button
    size="small"
    kind="ghost"
    title="Across to the other side of the guide; the words go on reading the same way"
    on:click={() => act('other-side')}>Other side</Button
  >
  <Button
    size="small"
    kind="ghost"
    title="Upside down in the same place: the words read the other way round"
    on:click={() => act('turn-over')}>Turn over</Button
  >
  {#if others.length}
    <Button
      size="small"
      kind="ghost"
      title="Between the same two lines as the other lettering of this guide, upright"
      on:click={() => editor.act({ act: 'match-band', lettering: lettering.id, other: others[0]!.id })}
    >
      Match other
    </Button>
  {/if}
</div>
<div class="pair">
  <LengthField
    label={lettering.dial
      ? 'First label at'
      : `Its ${labelOf('align', lettering.align)} at`}
    unit={shares ? '%' : 'mm'}
    shownAs={shares ? 100 : 1}
    value={lettering.at ?? 0}
    onset={(at) => set({ at })}
  />
  <Select
    size="sm"
    labelText="Put it at"
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
    label="Aligned by its"
    options={ALIGN}
    value={lettering.align ?? 'start'}
    onset={(align) => set({ align })}
  />
  <Select
    size="sm"
    labelText="Place measured"
    selected={lettering.at_in ?? 'mm'}
    on:update={(event) => countFrom(event.detail as Lettering['at_in'])}
  >
    {#each FROM as from (from.value)}
      <SelectItem value={from.value} text={from.label} />
    {/each}
  </Select>
</div>

<style>
  .pair :global(.bx--select-input) {
    padding-right: 22px;
    padding-left: 6px;
    font-size: 12px;
  }

  :global(.bx--text-area) {
    min-height: 32px;
    padding: 6px 10px;
  }

  .pair,
  .three {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
  }

  .three {
    grid-template-columns: 1fr 1fr 1fr;
  }

  .buttons {
    display: flex;
    justify-content: space-between;
    margin: -8px -6px -6px;
  }

  .buttons :global(.bx--btn) {
    min-height: 28px;
    padding: 2px 6px;
    font-size: 13px;
    white-space: nowrap;
  }
</style>
