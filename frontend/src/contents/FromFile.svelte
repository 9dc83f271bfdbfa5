<script lang="ts">
  import { FileUploaderButton, InlineNotification, Modal } from 'carbon-components-svelte';
  import { onMount } from 'svelte';
  import { catalogue } from '../api/catalogue';
  import { outlinesOf, type FileUnit } from '../api/outlines';
  import { api, saying, type Blank, type Guide, type ShownFile, type ShownOutline } from '../api/client';
  import Choice from '../parts/Choice.svelte';
  import { length, units } from '../words/units.svelte';

  interface Props {
    wanted: 'guide' | 'blank';
    /** A file that has been chosen already. */
    given?: File | undefined;
    onguide?: (guide: Guide) => void;
    onblank?: (blank: Blank) => void;
    onclose: () => void;
  }

  let { wanted, given, onguide, onblank, onclose }: Props = $props();

  const READERS = catalogue().readers;
  const ENDINGS = READERS.map((one) => `.${one.name}`);
  const NAMES = READERS.map((one) => one.title).join(' or ');

  type Edge = { outline: number; edge: number };

  let file = $state.raw<File>();
  let found = $state.raw<ShownFile>();
  let wrong = $state('');
  let busy = $state(false);
  let unit = $state<FileUnit>('file');
  /** The chosen edges, in the order in which they were chosen. */
  let chosen = $state.raw<Edge[]>([]);
  let last = $state.raw<Edge>();

  const same = (a: Edge, b: Edge) => a.outline === b.outline && a.edge === b.edge;
  const isChosen = (one: Edge) => chosen.some((other) => same(one, other));
  const box = $derived.by(() => {
    const [x0, y0, x1, y1] = found?.bounds ?? [0, 0, 1, 1];
    const margin = 0.04 * Math.max(x1 - x0, y1 - y0, 1);
    return `${x0 - margin} ${y0 - margin} ${x1 - x0 + 2 * margin} ${y1 - y0 + 2 * margin}`;
  });

  async function open(chosenFile: File | undefined): Promise<void> {
    if (!chosenFile) return;
    file = chosenFile;
    wrong = '';
    found = undefined;
    chosen = [];
    last = undefined;
    busy = true;
    const read = await outlinesOf(chosenFile, unit);
    busy = false;
    if (typeof read === 'string') wrong = read;
    else found = read;
    chooseAtFirst();
  }

  /** What can hardly be meant otherwise: the only line of a file, or all that a blank can take. */
  function chooseAtFirst(): void {
    const outlines = found?.outlines ?? [];
    const meant = outlines.flatMap((one, index) =>
      (wanted === 'blank' ? one.closed : outlines.length === 1) ? edgesAlong(index) : [],
    );
    chosen = meant;
    last = meant.at(-1);
  }

  onMount(() => void open(given));

  /** Choose an edge, or leave it out again; a blank takes whole outlines. */
  function choose(one: Edge): void {
    last = one;
    if (wanted === 'blank') return whole(one);
    chosen = isChosen(one) ? chosen.filter((other) => !same(one, other)) : [...chosen, one];
  }

  const edgesAlong = (outline: number): Edge[] =>
    (found?.outlines[outline]?.edges ?? []).map((_, edge) => ({ outline, edge }));
  const allChosen = (outline: number) => edgesAlong(outline).every(isChosen);

  /** A whole outline more, or less. */
  function whole(one: Edge): void {
    const rest = chosen.filter((other) => other.outline !== one.outline);
    chosen = allChosen(one.outline) ? rest : [...rest, ...edgesAlong(one.outline)];
  }

  /** The run of edges that goes on smoothly from the last chosen one. */
  const run = $derived.by(() => {
    const edge = last;
    if (!edge) return [];
    return found?.outlines[edge.outline]?.runs.find((one) => one.includes(edge.edge)) ?? [];
  });

  function takeRun(): void {
    if (last) chosen = run.map((edge) => ({ outline: last!.outline, edge }));
  }

  const edgesOf = (outline: ShownOutline | undefined) => outline?.edges.length ?? 0;
  const chosenOutlines = $derived([...new Set(chosen.map((one) => one.outline))]);

  async function take(): Promise<void> {
    const source = file?.name ?? '';
    const dataOf = (one: Edge) => found?.outlines[one.outline]?.edges[one.edge]?.data ?? '';
    if (wanted === 'blank') {
      const outlines = chosenOutlines.map((outline) =>
        chosen.filter((one) => one.outline === outline).map(dataOf),
      );
      const answer = await api
        .POST('/api/outlines/take/blank', { body: { outlines, source } })
        .catch(() => undefined);
      if (!answer?.data) return void (wrong = saying(answer?.error));
      onblank?.(answer.data as Blank);
    } else {
      const body = { id: 'outline', edges: chosen.map(dataOf), source };
      const answer = await api.POST('/api/outlines/take/guide', { body }).catch(() => undefined);
      if (!answer?.data) return void (wrong = saying(answer?.error));
      onguide?.(answer.data as Guide);
    }
    onclose();
  }

  const UNITS = catalogue().file_units.map(([value, label]) => ({ value: value as FileUnit, label }));
</script>

<Modal
  open
  size="lg"
  modalHeading={wanted === 'blank' ? 'A blank from a file' : 'A guide from a file'}
  primaryButtonText={wanted === 'blank' ? 'Take as the blank' : 'Take as a guide'}
  secondaryButtonText="Cancel"
  primaryButtonDisabled={!chosen.length}
  hasForm
  shouldSubmitOnEnter={false}
  on:click:button--secondary={onclose}
  on:close={onclose}
  on:submit={() => void take()}
>
  <div class="top">
    <FileUploaderButton
      size="small"
      kind="tertiary"
      labelText={file ? 'Another file' : `Choose an ${NAMES} file`}
      accept={ENDINGS}
      disableLabelChanges
      on:change={(event) => void open(event.detail[0])}
    />
    <span>{file?.name ?? ''}</span>
    <div class="units">
      <Choice
        label="Its units are"
        options={UNITS}
        value={unit}
        onset={(value) => {
          unit = value;
          void open(file);
        }}
      />
    </div>
  </div>
  {#if wrong}
    <InlineNotification
      lowContrast
      hideCloseButton
      kind="error"
      title="Nothing was taken."
      subtitle={wrong}
    />
  {/if}
  <div class="sheet" class:empty={!found}>
    {#if found}
      <!-- svelte-ignore a11y_no_static_element_interactions -->
      <svg viewBox={box}>
        {#each found.outlines as outline, o (o)}
          {#each outline.edges as edge, e (e)}
            {@const one = { outline: o, edge: e }}
            <path class="line" class:on={isChosen(one)} d={edge.path} />
            <path
              class="hit"
              role="button"
              tabindex="0"
              aria-label={`outline ${o + 1}, edge ${e + 1}`}
              aria-pressed={isChosen(one)}
              d={edge.path}
              onclick={() => choose(one)}
              onkeydown={(event) => event.key === 'Enter' && choose(one)}
            />
          {/each}
        {/each}
      </svg>
    {:else}
      <p>
        {busy
          ? 'Reading the file …'
          : 'Its outlines are shown here. Choose edges one by one, a run, or a whole outline.'}
      </p>
    {/if}
  </div>
  <p class="state">
    {#if !found}
      &nbsp;
    {:else if !last}
      {found.outlines.length} outline{found.outlines.length === 1 ? '' : 's'}. Click an edge.
    {:else}
      {chosen.length} edge{chosen.length === 1 ? '' : 's'} chosen;
      {#if wanted === 'guide'}
        {#if run.length > 1 && run.length < edgesOf(found.outlines[last.outline])}
          <button type="button" onclick={takeRun}>the {run.length} that go on smoothly</button> ·
        {/if}
        {#if !allChosen(last.outline)}
          <button type="button" onclick={() => last && whole(last)}>
            {found.outlines[last.outline]?.closed ? 'the whole way round' : 'the whole line'},
            {length(found.outlines[last.outline]?.length ?? 0)} {units.sign}
          </button> ·
        {/if}
      {/if}
      <button type="button" onclick={() => (chosen = [])}>none</button>
    {/if}
  </p>
</Modal>

<style>
  .top {
    display: flex;
    gap: 16px;
    align-items: end;
    margin-bottom: 12px;
  }

  .top span {
    flex: 1;
    overflow: hidden;
    padding-bottom: 6px;
    text-overflow: ellipsis;
    white-space: nowrap;
  }

  .units {
    width: 240px;
  }

  .sheet {
    border: 1px solid var(--line);
    height: 340px;
    background: var(--sheet);
  }

  .sheet.empty {
    display: grid;
    place-items: center;
    color: var(--ink-soft);
  }

  svg {
    width: 100%;
    height: 100%;
  }

  path {
    fill: none;
    vector-effect: non-scaling-stroke;
  }

  .line {
    stroke: var(--ink-soft);
    stroke-width: 1.2px;
  }

  .line.on {
    stroke: var(--verdigris);
    stroke-width: 3px;
  }

  .hit {
    stroke: transparent;
    stroke-width: 14px;
    cursor: pointer;
  }

  .hit:focus {
    outline: none;
  }

  .hit:focus-visible {
    stroke: #1f736555;
  }

  .hit:hover {
    stroke: #1f736526;
  }

  .state {
    margin-top: 8px;
    color: var(--ink-soft);
    font-size: 13px;
  }

  .state button {
    border: 0;
    min-height: 24px;
    background: none;
    color: var(--verdigris);
    font: inherit;
    cursor: pointer;
  }
</style>
