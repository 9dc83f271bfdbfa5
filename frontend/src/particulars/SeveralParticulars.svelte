<script lang="ts">
  /** What several letterings and guides have in common; what is set is set for each of them. */
  import { Button, Select, SelectItem } from 'carbon-components-svelte';
  import { choices } from '../api/catalogue';
  import type { Guide, Lettering } from '../api/client';
  import LengthField from '../parts/LengthField.svelte';
  import OutputField from '../parts/OutputField.svelte';
  import type { Editor } from '../piece/editor.svelte';
  import { guideName } from '../words/words';
  import FacePicker from './lettering/FacePicker.svelte';

  let { editor }: { editor: Editor } = $props();

  const GAPS = choices<NonNullable<Lettering['spacing']>>('spacing');
  const MIXED = 'mixed';

  const letterings = $derived(editor.letterings);
  const guides = $derived(editor.guides);
  const onGuides = $derived(editor.piece.guides.filter((one) => !one.removed));
  const counted = (count: number, one: string) => (count === 1 ? `1 ${one}` : `${count} ${one}s`);
  const heading = $derived(
    [
      ...(letterings.length ? [counted(letterings.length, 'lettering')] : []),
      ...(guides.length ? [counted(guides.length, 'guide')] : []),
    ].join(' and '),
  );

  /** What all of them have; nothing where they differ. */
  function common<Owner, Value>(all: readonly Owner[], of: (one: Owner) => Value): Value | undefined {
    const [first, ...others] = all.map(of);
    return others.every((one) => one === first) ? first : undefined;
  }

  function set(changed: Partial<Lettering>): void {
    for (const { id } of letterings) editor.changeLettering(id, changed);
    void editor.finish();
  }

  function setGuides(changed: Partial<Guide>): void {
    for (const { id } of guides) editor.changeGuide(id, changed);
    void editor.finish();
  }

  const face = $derived(common(letterings, (one) => one.face));
  const spacing = $derived(common(letterings, (one) => one.spacing ?? 'font'));
  const guide = $derived(common(letterings, (one) => one.guide));
  const output = $derived(common(letterings, (one) => one.output ?? null));
  const lines = $derived(common(guides, (one) => one.output ?? null));
  const hidden = $derived(common(guides, (one) => one.hidden ?? false));
</script>

<h2 class="particulars">{heading} <span>chosen</span></h2>
<div class="fields particulars">
  <!-- While the last lettering goes, what is shown of it still needs it: so it is an item of a list. -->
  {#each letterings.slice(-1) as lettering (lettering.id)}
    <FacePicker {editor} {lettering} different={face === undefined} onset={(face) => set({ face })} />
    <div class="three">
      {#each [['Height', 'height'], ['Spacing', 'tracking'], ['Standoff', 'standoff']] as const as [label, field] (field)}
        <LengthField
          {label}
          value={common(letterings, (one) => one[field]) ?? null}
          empty={MIXED}
          onset={(value) => set({ [field]: value })}
        />
      {/each}
    </div>
    <Select
      size="sm"
      labelText="Gaps"
      selected={spacing ?? ''}
      on:update={(event) => {
        if (event.detail && event.detail !== spacing) set({ spacing: event.detail as Lettering['spacing'] });
      }}
    >
      {#if spacing === undefined}<SelectItem value="" text={MIXED} />{/if}
      {#each GAPS as one (one.value)}<SelectItem value={one.value} text={one.label} />{/each}
    </Select>
    <Select
      size="sm"
      labelText="On the guide"
      selected={guide ?? ''}
      on:update={(event) => event.detail && editor.moveToGuide(letterings, String(event.detail))}
    >
      {#if guide === undefined}<SelectItem value="" text={MIXED} />{/if}
      {#each onGuides as one (one.id)}<SelectItem value={one.id} text={guideName(one)} />{/each}
    </Select>
    <OutputField
      label="In files the letters are"
      value={output}
      different={output === undefined}
      usual="what face and material ask for"
      onset={(output) => set({ output })}
    />
  {/each}
  {#if guides.length}
    <OutputField
      label="In files, the lines themselves are"
      value={lines}
      different={lines === undefined}
      onset={(output) => setGuides({ output: output === 'none' ? null : output })}
    />
  {/if}
  <p>
    Dragging one on the drawing moves all of its kind. Press another with Control to take it up or leave it
    out.
  </p>
  <div class="actions">
    <Button size="small" kind="ghost" on:click={() => editor.duplicate()}>Duplicate</Button>
    {#if guides.length}
      <Button size="small" kind="ghost" on:click={() => setGuides({ hidden: !hidden })}>
        {hidden ? 'Show the guides' : 'Hide the guides'}
      </Button>
    {/if}
    <Button size="small" kind="danger-ghost" on:click={() => editor.removeChosen()}>Remove all of them</Button>
  </div>
</div>

<style>
  .three {
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr));
    gap: 10px;
  }

  p {
    margin: 0;
    color: var(--ink-soft);
    font-size: 12px;
    line-height: 16px;
  }

  .actions {
    display: flex;
    flex-wrap: wrap;
    margin-left: -12px;
  }

  .actions :global(.bx--btn) {
    padding: 4px 12px;
  }
</style>
