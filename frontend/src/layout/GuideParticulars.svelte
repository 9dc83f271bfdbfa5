<script lang="ts">
  import { Button, Checkbox, Select, SelectItem } from 'carbon-components-svelte';
  import { untrack } from 'svelte';
  import type { Guide } from '../api/client';
  import type { Editor } from '../editor/editor.svelte';
  import { FIGURES, KIND_NAMES, TURNING, WAYS, type Figure } from '../editor/guides';
  import { figure, guideName } from '../editor/words';
  import Choice from '../parts/Choice.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import NodeParticulars from './NodeParticulars.svelte';
  import Ways from './Ways.svelte';

  interface Props {
    editor: Editor;
    guide: Guide;
    onsave: () => void;
  }

  let { editor, guide, onsave }: Props = $props();

  const scene = $derived(editor.around?.guides.find((one) => one.id === guide.id));
  const values = $derived(
    editor.solved.guides.find((one) => one.id === guide.id) as unknown as Record<
      string,
      number | null | undefined
    >,
  );
  const others = $derived(
    editor.piece.guides.filter((one) => one.id !== guide.id && !one.removed),
  );
  const leans = $derived(['parallel', 'between', 'laid-flat'].includes(guide.kind));
  const part = $derived(guide.part ?? undefined);

  // A figure may come back when another guide has been chosen: it is for this one.
  const id = untrack(() => guide.id);

  function set(changed: Partial<Guide> | Record<string, unknown>): void {
    editor.changeGuide(id, changed as Partial<Guide>);
    void editor.finish();
  }

  const problem = (field: string) => editor.problem('guides', guide.id, field);
  const valueOf = (one: Figure) => values[one.field] ?? 0;

  function usePart(on: boolean): void {
    if (!on) return set({ part: null });
    const length = scene?.length ?? 0;
    set({ part: [0, Number((length / 2).toFixed(3))] });
  }

  function setPart(which: 0 | 1, value: number): void {
    const now: [number, number] = [part?.[0] ?? 0, part?.[1] ?? 0];
    now[which] = value;
    set({ part: now });
  }

  const CORNERS = [
    { value: 'pass', label: 'as they come' },
    { value: 'keep-off', label: 'kept off' },
    { value: 'round', label: 'rounded' },
  ] as const;
  const SIDES = [
    { value: 'top', label: 'top' },
    { value: 'bottom', label: 'bottom' },
  ] as const;
  const TURNS = [
    { value: 'clockwise', label: 'clockwise' },
    { value: 'counterclockwise', label: 'anticlockwise' },
  ] as const;
</script>

<h2>{guideName(guide)} <span>{KIND_NAMES[guide.kind]}</span></h2>
<div class="fields">
  {#if editor.node !== undefined && (guide.kind === 'drawn' || guide.kind === 'arc-through')}
    <NodeParticulars {editor} {guide} index={editor.node} />
  {/if}

  {#each WAYS[guide.kind] ?? [] as way, index (index)}
    <Ways {editor} {guide} {way} groups={WAYS[guide.kind] ?? []} onset={set} />
  {/each}
  {#if FIGURES[guide.kind].length}
    <div class="pair">
      {#each FIGURES[guide.kind] as one (one.field)}
        <LengthField
          label={one.label}
          unit={one.unit ?? 'mm'}
          shownAs={one.shownAs ?? 1}
          value={valueOf(one)}
          problem={problem(one.field)}
          onset={(value) => set({ [one.field]: value })}
        />
      {/each}
    </div>
  {/if}

  {#if guide.kind === 'parallel' || guide.kind === 'laid-flat'}
    <Select
      size="sm"
      labelText={guide.kind === 'parallel' ? 'Parallel to' : 'As long as'}
      selected={guide.guide}
      on:update={(event) => set({ guide: String(event.detail) })}
    >
      {#each others as other (other.id)}
        <SelectItem value={other.id} text={guideName(other)} />
      {/each}
    </Select>
  {:else if guide.kind === 'between'}
    <div class="pair">
      {#each [['first', 'From'], ['second', 'to']] as [field, label] (field)}
        <Select
          size="sm"
          labelText={label}
          selected={field === 'first' ? guide.first : guide.second}
          on:update={(event) => set({ [field ?? '']: String(event.detail) })}
        >
          {#each others as other (other.id)}
            <SelectItem value={other.id} text={guideName(other)} />
          {/each}
        </Select>
      {/each}
    </div>
  {/if}

  {#if guide.kind === 'arc'}
    <Choice label="Lies at its circle's" options={SIDES} value={guide.side ?? 'top'} onset={(side) => set({ side })} />
  {/if}
  {#if TURNING.includes(guide.kind) && 'turn' in guide}
    <Choice
      label="Runs"
      options={TURNS}
      value={guide.turn ?? 'clockwise'}
      onset={(turn) => set({ turn })}
    />
  {:else}
    <Checkbox
      labelText="Runs the other way"
      checked={guide.reverse ?? false}
      on:check={(event) => event.detail !== (guide.reverse ?? false) && set({ reverse: event.detail })}
    />
  {/if}
  {#if guide.kind === 'spiral' || guide.kind === 'growing-spiral'}
    <Checkbox
      labelText="From the outside in"
      checked={guide.inward ?? false}
      on:check={(event) => event.detail !== (guide.inward ?? false) && set({ inward: event.detail })}
    />
  {/if}

  <details open={guide.turned !== 0 || guide.scaled !== 1}>
    <summary>Place, turn, scale</summary>
    <div class="pair">
      {#if !leans || guide.kind === 'laid-flat'}
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
      <LengthField
        label="Scaled by"
        unit="×"
        value={guide.scaled ?? 1}
        problem={problem('scaled')}
        onset={(scaled) => set({ scaled })}
      />
    </div>
  </details>
  <details open={Boolean(part) || Boolean(guide.seam)}>
    <summary>Start, part, own line</summary>
    <div class="pair">
      {#if scene?.closed && guide.kind !== 'circle'}
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
    <Select
      size="sm"
      labelText="As a line of its own"
      selected={guide.output ?? ''}
      on:update={(event) => set({ output: (event.detail || null) as Guide['output'] })}
    >
      <SelectItem value="" text="none: it only guides" />
      <SelectItem value="cut" text="is cut" />
      <SelectItem value="draw" text="is drawn" />
      <SelectItem value="engrave" text="is engraved" />
    </Select>
  </details>
  <Choice
    label="Lettering takes its corners"
    options={CORNERS}
    value={guide.corners ?? 'pass'}
    onset={(corners) =>
      set({ corners, ...(corners === 'round' && !guide.corner_radius ? { corner_radius: 5 } : {}) })}
  />
  {#if guide.corners === 'round'}
    <LengthField
      label="Rounded by"
      value={guide.corner_radius ?? 0}
      problem={problem('corner_radius')}
      onset={(corner_radius) => set({ corner_radius })}
    />
  {/if}
  {#if guide.kind === 'drawn' && editor.node === undefined}
    <div class="actions">
      {#if !guide.closed}
        <Button size="small" kind="ghost" on:click={() => editor.act({ act: 'close', guide: guide.id })}>
          Join its ends
        </Button>
      {/if}
      {#each others.filter((one) => one.kind === 'drawn' && !one.closed) as other (other.id)}
        {#if !guide.closed}
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
  {/if}
  {#if scene}
    <p>
      Length <span class="figure">{figure(scene.length)}</span> mm, {scene.closed ? 'closed' : 'open'}.
      {#if scene.note}{scene.note}{/if}
    </p>
  {/if}
  <div class="actions">
    <Button size="small" kind="ghost" on:click={() => editor.take('measure')}>Measure (M)</Button>
    <Button size="small" kind="ghost" on:click={onsave}>Save in the drawer</Button>
    <Button size="small" kind="ghost" on:click={() => set({ hidden: !guide.hidden })}>
      {guide.hidden ? 'Show it' : 'Hide it'}
    </Button>
    {#if guide.kind !== 'drawn'}
      <Button
        size="small"
        kind="ghost"
        on:click={() => editor.act({ act: 'make-drawn', guide: guide.id })}
      >
        Work on its points
      </Button>
    {/if}
    <Button
      size="small"
      kind="danger-ghost"
      on:click={() => editor.remove({ kind: 'guide', id: guide.id })}
    >
      Delete this guide
    </Button>
  </div>
</div>

<style>
  h2 {
    margin: 0 0 12px;
    font-size: 14px;
    font-weight: 600;
  }

  h2 span {
    color: var(--ink-soft);
    font-weight: 400;
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
