<script lang="ts">
  import { Button, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import { onMount } from 'svelte';
  import { catalogue, choices, labelOf } from '../api/catalogue';
  import { api, saying, type ToolSheet } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import LengthField from '../parts/LengthField.svelte';

  let { editor }: { editor: Editor } = $props();

  const MOST = catalogue().bounds.tool_sheets;
  const LIMITS = catalogue().limits;
  const USES = choices('use');

  let known = $state.raw<ToolSheet[]>([]);
  let wrong = $state('');
  let opened = $state('');
  const held = $derived(editor.piece.tool_sheets ?? []);
  const others = $derived(known.filter((one) => !held.some((mine) => mine.id === one.id)));

  onMount(load);

  async function load(): Promise<void> {
    const answer = await api.GET('/api/tool-sheets').catch(() => undefined);
    if (answer?.data) known = answer.data;
    else wrong = saying(answer?.error);
  }

  function hold(sheets: ToolSheet[]): void {
    editor.change({ tool_sheets: sheets });
    void editor.finish();
  }

  function add(id: string): void {
    const sheet = known.find((one) => one.id === id);
    if (!sheet) return;
    hold([...held, sheet]);
    opened = id;
  }

  const change = (id: string, changed: Partial<ToolSheet>) =>
    hold(held.map((one) => (one.id === id ? { ...one, ...changed, source: changed.source ?? 'own figures' } : one)));

  async function save(sheet: ToolSheet): Promise<void> {
    const answer = await api.PUT('/api/tool-sheets', { body: sheet }).catch(() => undefined);
    wrong = answer?.data ? '' : saying(answer?.error);
    await load();
  }
</script>

<p class="soft">The piece is checked against every sheet on this list. Its file holds a copy of them.</p>
{#each held as sheet (sheet.id)}
  <section>
    <div class="head">
      <button class="quiet name" aria-expanded={opened === sheet.id} onclick={() => (opened = opened === sheet.id ? '' : sheet.id)}>
        {sheet.name}
      </button>
      <button class="quiet" onclick={() => hold(held.filter((one) => one.id !== sheet.id))}>remove</button>
    </div>
    <p class="soft">{labelOf('use', sheet.use ?? 'kept')} · figures: {sheet.source || 'no source given'}</p>
    {#if opened === sheet.id}
      <div class="figures">
        <div class="wide"><TextInput size="sm" labelText="Name" value={sheet.name} on:change={(event) => change(sheet.id, { name: String(event.detail ?? '') })} /></div>
        <div class="wide"><Select size="sm" labelText="Use" selected={sheet.use ?? 'kept'} on:update={(event) => change(sheet.id, { use: event.detail as ToolSheet['use'] })}>
          {#each USES as { value, label } (value)}<SelectItem {value} text={label} />{/each}
        </Select></div>
        {#each LIMITS as { field, label } (field)}
          <LengthField
            {label}
            value={Number(sheet[field as keyof ToolSheet]) || null}
            empty="not checked"
            onset={(value) => change(sheet.id, { [field]: value })}
            onclear={() => change(sheet.id, { [field]: 0 })}
          />
        {/each}
        <div class="wide"><TextInput size="sm" labelText="Where the figures come from" value={sheet.source ?? ''} on:change={(event) => change(sheet.id, { source: String(event.detail ?? '') })} /></div>
      </div>
      <Button size="small" kind="ghost" on:click={() => void save(sheet)}>Save for other pieces</Button>
    {/if}
  </section>
{:else}
  <p>Checked with plain figures: strokes and gaps of 0.25 mm.</p>
{/each}
{#if held.length < MOST}
  {#key held.length}
  <Select size="sm" labelText="Check it also against" selected="" on:update={(event) => add(String(event.detail))}>
    <SelectItem value="" text="choose material and tool" />
    {#each others as one (one.id)}<SelectItem value={one.id} text={one.name} />{/each}
  </Select>
  {/key}
{/if}
{#if wrong}<p class="wrong" role="alert">{wrong}</p>{/if}

<style>
  .wide {
    grid-column: 1 / -1;
  }

  section {
    border-bottom: 1px solid var(--line);
    padding-bottom: 8px;
  }

  .head {
    display: flex;
    justify-content: space-between;
  }

  .name {
    padding-left: 0;
    font-weight: 600;
    text-align: left;
  }

  .figures {
    display: grid;
    grid-template-columns: 1fr 1fr;
    align-items: end;
    gap: 8px 12px;
    margin: 8px 0;
  }

  p {
    margin: 0;
    font-size: 13px;
  }

  .soft {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .wrong {
    color: var(--brick);
  }
</style>
