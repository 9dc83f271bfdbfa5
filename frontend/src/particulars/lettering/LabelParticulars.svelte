<script lang="ts">
  import { Button, Checkbox, TextInput } from 'carbon-components-svelte';
  import { catalogue } from '../../api/catalogue';
  import type { Dial, LabelChange, Lettering } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import LengthField from '../../parts/LengthField.svelte';

  interface Props {
    editor: Editor;
    lettering: Lettering;
    dial: Dial;
    label: number;
    set: (changed: Partial<Lettering>) => void;
  }

  let { editor, lettering, dial, label, set }: Props = $props();

  const changes = $derived(dial.changes ?? []);
  const change = $derived(changes.find((one) => one.label === label));
  const said = $derived(
    editor.live.around?.letterings.find((one) => one.id === lettering.id)?.label_texts[label] ?? '',
  );

  function alter(changed: Partial<LabelChange>): void {
    const altered = { label, ...change, ...changed } as LabelChange;
    set({ dial: { ...dial, changes: [...changes.filter((one) => one.label !== label), altered] } });
  }

  function reset(): void {
    set({ dial: { ...dial, changes: changes.filter((one) => one.label !== label) } });
  }
</script>

<h2>Label {label + 1} <strong>{said}</strong> <span>on its own</span></h2>
<TextInput
  size="sm"
  labelText="Says"
  value={change?.text ?? said}
  maxlength={catalogue().bounds.label}
  on:change={(event) => alter({ text: String(event.detail ?? '') })}
/>
<div class="pair">
  <LengthField
    label="Height"
    value={change?.height ?? null}
    empty={String(lettering.height)}
    onset={(height) => alter({ height })}
    onclear={() => alter({ height: null })}
  />
  <LengthField label="Turned" unit="°" value={change?.turn ?? 0} onset={(turn) => alter({ turn })} />
  <LengthField label="Moved along" value={change?.along ?? 0} onset={(along) => alter({ along })} />
  <LengthField label="Moved up" value={change?.across ?? 0} onset={(across) => alter({ across })} />
</div>
<Checkbox
  labelText="Left out"
  checked={change?.hidden ?? false}
  on:check={(event) => event.detail !== (change?.hidden ?? false) && alter({ hidden: event.detail })}
/>
<div class="actions">
  <Button size="small" kind="ghost" disabled={!change} on:click={reset}>Like the others</Button>
  <Button size="small" kind="ghost" on:click={() => (editor.selection.label = undefined)}>Done</Button>
</div>

<style>
  h2 {
    margin: 0;
    font-size: 14px;
    font-weight: 400;
  }

  h2 span {
    color: var(--ink-soft);
  }

  .pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px;
  }

  .actions {
    display: flex;
    margin-left: -12px;
  }
</style>
