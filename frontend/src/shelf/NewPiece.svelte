<script lang="ts">
  /** A new piece, from what a maker has: a starting point, or a blank, a guide and words. */
  import { InlineNotification, Modal, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import { onMount } from 'svelte';
  import { catalogue } from '../api/catalogue';
  import { api, saying, type Blank, type DrawerEntry, type Guide } from '../api/client';
  import { newest } from '../api/newest';
  import { remembered } from '../piece/remembered';
  import Inputs from '../parts/Inputs.svelte';
  import LengthField from '../parts/LengthField.svelte';
  import FromFile from '../contents/FromFile.svelte';
  import { figures } from '../words/figures.svelte';
  import { router } from '../shell/router.svelte';

  let { onclose }: { onclose: () => void } = $props();

  const { beginnings, blanks, firsts, starts, readers } = catalogue();
  const ENDINGS = readers.map((one) => `.${one.name}`).join(',');
  const GUIDES = starts.filter((one) => !one.needs);
  const PAUSE_MS = 150;

  /** The starting point; nothing where blank and guide are the person's own. */
  let from = $state(beginnings[0]?.name ?? '');
  let words = $state('');
  let blank = $state.raw<Blank | null>((beginnings[0]?.blank as Blank | undefined) ?? null);
  /** `start ring`, `edge`, `drawer ID` or `file`. */
  let along = $state('start ring');
  let edge = $state(firsts['edge'] ?? 0);
  let guide = $state.raw<Guide>();
  let saved = $state.raw<DrawerEntry[]>([]);
  let wrong = $state('');
  let picture = $state('');

  const beginning = $derived(beginnings.find((one) => one.name === from));
  const kind = $derived(blanks.find((one) => one.name === blank?.kind));
  const body = $derived({
    words,
    beginning: from,
    blank,
    choices: remembered(),
    start: along.startsWith('start ') ? along.slice(6) : '',
    ...(along === 'edge' ? { edge } : {}),
    ...(guide && /^(drawer|file)/.test(along) ? { guide } : {}),
  });

  onMount(async () => {
    const answer = await api
      .GET('/api/drawer', { params: { query: { words: '' } } })
      .catch(() => undefined);
    saved = answer?.data ?? [];
  });

  function begin(name: string): void {
    from = name;
    wrong = '';
    const found = beginnings.find((one) => one.name === name);
    if (found) blank = found.blank as Blank;
  }

  // ------------------------------------------------------------------ the picture

  const show = newest<{ data?: unknown; error?: unknown } | undefined>((answer) => {
    wrong = answer?.data ? '' : saying(answer?.error);
    if (answer?.data) picture = String(answer.data);
  });
  $effect(() => {
    const wanted = body;
    const timer = setTimeout(
      () =>
        void show(
          api.POST('/api/beginnings/picture', { body: wanted, parseAs: 'text' }).catch(() => undefined),
        ),
      PAUSE_MS,
    );
    return () => clearTimeout(timer);
  });

  // --------------------------------------------------------------------- from files

  /** A chosen file, and what of it is wanted: which of its lines is asked then. */
  let file = $state.raw<{ given: File; wanted: 'guide' | 'blank' }>();

  function chosen(event: Event, wanted: 'guide' | 'blank'): void {
    const input = event.target as HTMLInputElement;
    const given = input.files?.[0];
    input.value = '';
    if (given) file = { given, wanted };
  }

  async function follow(wanted: string): Promise<void> {
    along = wanted;
    guide = undefined;
    if (!wanted.startsWith('drawer ')) return;
    const params = { path: { guide_id: wanted.slice(7) } };
    const copy = { piece: { ulvent: 1, blank }, id: 'guide', fit: 'true' as const };
    const answer = await api
      .POST('/api/drawer/{guide_id}/copy', { params, body: copy })
      .catch(() => undefined);
    if (answer?.data) guide = answer.data.guide as Guide;
    else wrong = saying(answer?.error);
  }

  const valueOf = (event: Event) => (event.target as HTMLSelectElement).value;

  function become(name: string): void {
    const wanted = blanks.find((one) => one.name === name);
    if (!wanted) blank = null;
    else if (wanted.first) blank = { kind: name, ...wanted.first } as unknown as Blank;
    else blankChooser?.click();
  }

  let blankChooser = $state<HTMLInputElement>();
  let guideChooser = $state<HTMLInputElement>();

  async function make(): Promise<void> {
    await figures.settled();
    if (figures.wrong) return;
    const answer = await api.POST('/api/beginnings', { body }).catch(() => undefined);
    if (answer?.data) router.go(`/pieces/${answer.data.id}`);
    else wrong = saying(answer?.error);
  }

  /** Enter from any field of one line makes the piece. */
  function enter(event: KeyboardEvent): void {
    if (event.key !== 'Enter' || !(event.target instanceof HTMLInputElement)) return;
    if (event.target.type === 'file') return;
    event.preventDefault();
    // A figure is handed over when its field is left.
    event.target.blur();
    void make();
  }
</script>

<Modal
  open={!file}
  size="lg"
  modalHeading="New piece"
  primaryButtonText="Make it"
  secondaryButtonText="Cancel"
  selectorPrimaryFocus="#new-words"
  shouldSubmitOnEnter={false}
  on:click:button--secondary={onclose}
  on:close={() => !file && onclose()}
  on:submit={() => void make()}
>
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <div class="new" onkeydowncapture={enter}>
    <fieldset class="from">
      <legend>Start from</legend>
      {#each beginnings as one (one.name)}
        <label class:on={from === one.name} title={one.hint}>
          <input
            type="radio"
            name="from"
            class="visually-hidden"
            checked={from === one.name}
            onchange={() => begin(one.name)}
          />
          <img src={`/api/beginnings/${one.name}/picture`} alt="" />
          {one.title}
        </label>
      {/each}
      <label class:on={!from} title="any blank, and any guide on it">
        <input
          type="radio"
          name="from"
          class="visually-hidden"
          checked={!from}
          onchange={() => begin('')}
        />
        <svg viewBox="0 0 44 32" aria-hidden="true"><path d="M22 8v16M14 16h16" /></svg>
        Blank and guide of my own
      </label>
    </fieldset>
    <div class="fields">
      <TextInput
        id="new-words"
        size="sm"
        labelText="Words"
        placeholder={beginning && !beginning.says ? 'a dial has figures' : 'the words on it'}
        disabled={beginning ? !beginning.says : false}
        maxlength={catalogue().bounds.letters}
        bind:value={words}
      />
      <Select
        size="sm"
        labelText="The blank"
        selected={blank?.kind ?? ''}
        on:change={(event) => become(valueOf(event))}
      >
        <SelectItem value="" text="none" />
        {#each blanks as one (one.name)}
          <SelectItem value={one.name} text={one.first ? one.title : `${one.title} …`} />
        {/each}
      </Select>
      {#if blank && kind}
        <div class="pair">
          <Inputs
            inputs={kind.inputs}
            values={blank as unknown as Record<string, unknown>}
            onset={(changed) => (blank = { ...blank, ...changed } as Blank)}
          />
        </div>
      {/if}
      {#if beginning}
        <p class="soft">Guides and letters are scaled to the blank.</p>
      {:else}
        <Select
          size="sm"
          labelText="The words follow"
          selected={along}
          on:change={(event) => {
            if (valueOf(event) === 'file') guideChooser?.click();
            void follow(valueOf(event));
          }}
        >
          {#each GUIDES as one (one.name)}
            <SelectItem value={`start ${one.name}`} text={one.name} />
          {/each}
          <SelectItem value="edge" text="the blank’s own edge" />
          <SelectItem value="file" text="a line from a file …" />
          {#each saved as one (one.id)}
            <SelectItem value={`drawer ${one.id}`} text={`from the drawer: ${one.name}`} />
          {/each}
        </Select>
        {#if along === 'file'}
          <button class="quiet file" type="button" onclick={() => guideChooser?.click()}>
            {guide ? 'another line or file …' : 'choose the file …'}
          </button>
        {:else if along === 'edge'}
          <LengthField
            label="Inside of the edge by"
            value={edge}
            onset={(value) => (edge = value)}
          />
        {/if}
      {/if}
      <input
        bind:this={blankChooser}
        type="file"
        class="visually-hidden"
        tabindex="-1"
        accept={ENDINGS}
        aria-label="A file with the blank’s outline"
        onchange={(event) => chosen(event, 'blank')}
      />
      <input
        bind:this={guideChooser}
        type="file"
        class="visually-hidden"
        tabindex="-1"
        accept={ENDINGS}
        aria-label="A file with the guide’s line"
        onchange={(event) => chosen(event, 'guide')}
      />
      {#if wrong}
        <InlineNotification lowContrast hideCloseButton kind="error" title={wrong} />
      {/if}
    </div>
    <figure aria-label="What it will be">
      {#if picture}
        <img src={`data:image/svg+xml,${encodeURIComponent(picture)}`} alt="The piece as it will be" />
      {/if}
    </figure>
  </div>
</Modal>

{#if file}
  <FromFile
    {...file}
    onguide={(taken) => ([guide, wrong] = [taken, ''])}
    onblank={(taken) => ([from, blank, wrong] = ['', taken, ''])}
    onclose={() => (file = undefined)}
  />
{/if}

<style>
  .new {
    display: grid;
    grid-template-columns: 232px minmax(200px, 1fr) minmax(220px, 1.4fr);
    gap: 20px;
  }

  .from {
    display: grid;
    grid-template-columns: 1fr 1fr;
    align-content: start;
    gap: 8px;
    margin: 0;
    border: 0;
    padding: 0;
  }

  legend {
    margin-bottom: 6px;
    color: var(--ink-soft);
    font-size: 12px;
  }

  .from label {
    display: flex;
    flex-direction: column;
    align-items: center;
    border: 1px solid var(--line);
    padding: 6px 4px;
    background: var(--sheet);
    font-size: 12px;
    line-height: 15px;
    text-align: center;
    cursor: pointer;
  }

  .from label:hover {
    border-color: var(--line-strong);
  }

  .from label.on {
    border-color: var(--verdigris);
    box-shadow: inset 0 0 0 1px var(--verdigris);
  }

  .from label:focus-within {
    outline: 2px solid var(--verdigris);
    outline-offset: 1px;
  }

  .from img,
  .from svg {
    width: 88px;
    height: 60px;
    margin-bottom: 4px;
    fill: none;
    stroke: var(--ink-soft);
    stroke-width: 1.5px;
  }

  .fields {
    display: grid;
    align-content: start;
    gap: 12px;
  }

  .pair {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 10px 12px;
  }

  .soft {
    margin: 0;
    color: var(--ink-soft);
    font-size: 13px;
  }

  .file {
    justify-self: start;
  }

  figure {
    display: flex;
    align-items: center;
    justify-content: center;
    min-height: 280px;
    margin: 0;
    border: 1px solid var(--line);
    background: var(--ground);
  }

  figure img {
    max-width: 100%;
    max-height: 380px;
    padding: 12px;
  }
</style>
