<script lang="ts">
  import { Button, Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import { untrack } from 'svelte';
  import { catalogue, choices } from '../../api/catalogue';
  import type { Guide, Way } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import { guideName } from '../../words/words';
  import Choice from '../../parts/Choice.svelte';
  import Inputs from '../../parts/Inputs.svelte';
  import LengthField from '../../parts/LengthField.svelte';
  import ScaleFields from '../../parts/ScaleFields.svelte';
  import NameField from '../../parts/NameField.svelte';
  import OutputField from '../../parts/OutputField.svelte';
  import NodeParticulars from './NodeParticulars.svelte';
  import Ways from './Ways.svelte';
  import { length, said, units } from '../../words/units.svelte';

  interface Props {
    editor: Editor;
    guide: Guide;
    onsave: () => void;
  }

  let { editor, guide, onsave }: Props = $props();

  const scene = $derived(editor.live.around?.guides.find((one) => one.id === guide.id));
  const values = $derived(
    editor.solved.guides.find((one) => one.id === guide.id) as unknown as Record<string, unknown>,
  );
  const others = $derived(
    editor.piece.guides.filter((one) => one.id !== guide.id && !one.removed),
  );
  const kind = $derived(catalogue().kinds[guide.kind]!);
  const ways = $derived(kind.inputs.filter((one): one is Way => one.input === 'way'));
  const figures = $derived(kind.inputs.filter((one) => one.input === 'figure' || one.input === 'guide'));
  const options = $derived(kind.inputs.filter((one) => one.input === 'option'));
  /** Whether its size is said by figures of its own. */
  const measured = $derived(
    ways.length > 0 || figures.some((one) => one.input === 'figure' && one.unit === 'mm'),
  );
  const switches = $derived(kind.inputs.filter((one) => one.input === 'switch'));
  /** Whether the recipe itself says which way it runs. */
  const turns = $derived(options.some((one) => 'field' in one && one.field === 'turn'));
  /** Guides whose ends can be joined to this one's. */
  const joinable = $derived(
    others.filter(
      (one) =>
        catalogue().kinds[one.kind]?.nodes &&
        !editor.live.around?.guides.find((other) => other.id === one.id)?.closed,
    ),
  );
  /** Kinds that it can become. */
  const kinds = $derived(Object.entries(scene?.becomes ?? {}));
  const part = $derived(guide.part ?? undefined);

  // A figure may come back when another guide has been chosen: it is for this one.
  const id = untrack(() => guide.id);

  function set(changed: Partial<Guide> | Record<string, unknown>): void {
    editor.changeGuide(id, changed);
    void editor.finish();
  }

  const problem = (field: string) => editor.problem('guides', guide.id, field);

  /** How far a smoothed line may be from what it was, mm. */
  let tolerance = $state(catalogue().firsts['smooth'] ?? 0);

  function scale(measure: 'percent' | 'width' | 'height', to: number): void {
    editor.act({ act: 'resize-guide', guide: id, measure, to });
  }

  function usePart(on: boolean): void {
    if (!on) return set({ part: null });
    set({ part: [0, Number(((scene?.length ?? 0) / 2).toFixed(3))] });
  }

  function setPart(which: 0 | 1, value: number): void {
    const now: [number, number] = [part?.[0] ?? 0, part?.[1] ?? 0];
    now[which] = value;
    set({ part: now });
  }

  const CORNERS = choices<NonNullable<Guide['corners']>>('corners');
</script>

<h2 class="particulars">{guideName(guide)} {#if !kinds.length}<span>{kind.title}</span>{/if}</h2>
<div class="fields particulars">
  {#if kinds.length}
    <Select
      size="sm"
      labelText="It is"
      selected={guide.kind}
      on:update={(event) => {
        if (event.detail !== guide.kind) editor.act({ act: 'become', guide: id, kind: String(event.detail) });
      }}
    >
      <SelectItem value={guide.kind} text={kind.title} />
      {#each kinds as [name, title] (name)}<SelectItem value={name} text={title} />{/each}
    </Select>
  {/if}
  {#if editor.selection.node !== undefined}
    <NodeParticulars {editor} {guide} index={editor.selection.node} />
  {/if}

  {#each ways as way, index (index)}
    <Ways {editor} {guide} {way} groups={ways} onset={set} />
  {/each}
  {#if figures.length}
    <div class="pair">
      <Inputs
        inputs={figures}
        {values}
        shapes={others.map((one) => ({ value: one.id, label: guideName(one) }))}
        {problem}
        onset={set}
      />
    </div>
  {/if}
  <Inputs inputs={options} {values} onset={set} />
  {#if !turns}
    <Checkbox
      labelText="Runs the other way"
      checked={guide.reverse ?? false}
      on:check={(event) => event.detail !== (guide.reverse ?? false) && set({ reverse: event.detail })}
    />
  {/if}
  <Inputs inputs={switches} {values} onset={set} />

  <details open={guide.turned !== 0 || !measured}>
    <summary>Place, turn, scale</summary>
    <div class="pair">
      {#if kind.turns || kind.scales}
        <LengthField
          label="Centre across"
          value={guide.centre?.[0] ?? 0}
          onset={(x) => set({ centre: [x, guide.centre?.[1] ?? 0] })}
        />
        <LengthField
          label="Centre up"
          value={guide.centre?.[1] ?? 0}
          onset={(y) => set({ centre: [guide.centre?.[0] ?? 0, y] })}
        />
      {/if}
      <LengthField
        label="Turned by"
        unit="°"
        value={guide.turned ?? 0}
        problem={problem('turned')}
        onset={(turned) => set({ turned })}
      />
      {#if kind.scales}<ScaleFields extent={measured ? undefined : scene?.extent} onscale={scale} />{/if}
    </div>
  </details>
  <details open={Boolean(part) || Boolean(guide.seam)}>
    <summary>Name, start point, part used, cut or drawn</summary>
    <NameField name={guide.name ?? ''} otherwise={guideName({ ...guide, name: '' })} onset={(name) => set({ name })} />
    <div class="pair">
      {#if scene?.closed && kind.seam_moves}
        <LengthField
          label="Start moved by"
          value={guide.seam ?? 0}
          problem={problem('seam')}
          onset={(seam) => set({ seam })}
        />
      {/if}
      {#if part}
        <LengthField
          label="Used from"
          value={part[0]}
          problem={problem('part')}
          onset={(value) => setPart(0, value)}
        />
        <LengthField label="to station" value={part[1]} onset={(value) => setPart(1, value)} />
      {/if}
    </div>
    <Checkbox
      labelText="Use only a part of it"
      checked={Boolean(part)}
      on:check={(event) => event.detail !== Boolean(part) && usePart(event.detail)}
    />
    <OutputField
      label="In files, the line itself is"
      value={guide.output}
      onset={(output) => set({ output: output === 'none' ? null : output })}
    />
  </details>
  <Choice
    label="Lettering takes its corners"
    options={CORNERS}
    value={guide.corners ?? 'pass'}
    onset={(corners) =>
      set({ corners, ...(corners === 'round' && !guide.corner_radius ? { corner_radius: catalogue().firsts['corner_radius'] } : {}) })}
  />
  {#if guide.corners === 'round'}
    <LengthField
      label="Rounded by"
      value={guide.corner_radius ?? 0}
      problem={problem('corner_radius')}
      onset={(corner_radius) => set({ corner_radius })}
    />
  {/if}
  {#if kind.nodes && editor.selection.node === undefined}
    <div class="actions">
      {#if !scene?.closed}
        <Button size="small" kind="ghost" on:click={() => editor.act({ act: 'close', guide: guide.id })}>
          Join its ends
        </Button>
      {/if}
      {#each joinable as other (other.id)}
        {#if !scene?.closed}
          <Button
            size="small"
            kind="ghost"
            on:click={() => editor.act({ act: 'join', guide: guide.id, other: other.id })}
          >
            Join to {guideName(other)}
          </Button>
        {/if}
      {/each}
    </div>
    <p>Double-click the line to add a point; choose a point to work on it.</p>
    <div class="pair">
      <LengthField label="Off the line by at most" value={tolerance} onset={(value) => (tolerance = value)} />
      <div class="beside">
        <Button
          size="small"
          kind="ghost"
          on:click={() => editor.act({ act: 'simplify', guide: guide.id, tolerance })}
        >
          Smooth, fewer points
        </Button>
      </div>
    </div>
  {/if}
  {#if scene}
    <p>
      Length <span class="figure">{length(scene.length)}</span> {units.sign}, {scene.closed ? 'closed' : 'open'}.
      {said(scene.note)}
    </p>
  {/if}
  <div class="actions">
    <Button size="small" kind="ghost" on:click={() => editor.selection.take('measure')}>Measure (M)</Button>
    <Button size="small" kind="ghost" on:click={onsave}>Save in the drawer</Button>
    <Button size="small" kind="ghost" on:click={() => set({ hidden: !guide.hidden })}>
      {guide.hidden ? 'Show it' : 'Hide it'}
    </Button>
    {#if !kind.nodes}
      <Button
        size="small"
        kind="ghost"
        on:click={() => editor.act({ act: 'make-drawn', guide: guide.id })}
      >
        Work on its points
      </Button>
    {/if}
    <Button size="small" kind="ghost" on:click={() => editor.duplicate()}>
      Duplicate
    </Button>
    <Button size="small" kind="danger-ghost" on:click={() => editor.removeChosen()}>
      Delete this guide
    </Button>
  </div>
</div>

<style>
  .pair {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 10px 12px;
  }

  .beside {
    align-self: end;
  }

  p {
    margin: 0;
    color: var(--ink-soft);
    font-size: 13px;
    line-height: 18px;
  }

  summary {
    margin-bottom: 8px;
    color: var(--ink-soft);
    font-size: 12px;
    cursor: pointer;
  }

  .actions {
    display: flex;
    flex-wrap: wrap;
    gap: 0 4px;
  }

  .actions :global(.bx--btn) {
    padding: 0 10px;
  }

  .fields :global(.bx--form-item) {
    margin: 0;
  }
</style>
