<script lang="ts">
  import { TextInput } from 'carbon-components-svelte';
  import { setFigure, shownFigure, standsWrong } from '../words/figures.svelte';
  import { units } from '../words/units.svelte';
  import { isUndo } from './undoing';

  interface Props {
    label: string;
    /** Nothing where the figure is left to the core; then `empty` is shown. */
    value: number | null;
    empty?: string;
    unit?: string;
    /** What the figure is multiplied by to be shown; 100 for shares as percents. */
    shownAs?: number;
    problem?: string;
    onset: (value: number) => void;
    /** What an emptied field does, where it may be empty. */
    onclear?: () => void;
  }

  let {
    label,
    value,
    empty = '',
    unit = 'mm',
    shownAs = 1,
    problem = '',
    onset,
    onclear,
  }: Props = $props();

  let typed = $state<string>();
  let wrong = $state('');
  /** Whether what is typed has been handed over to be understood. */
  let handedOver = false;
  const known = $derived(value === null ? '' : shownFigure(value, unit, shownAs));
  const shown = $derived(typed ?? known);

  $effect(() => (wrong ? standsWrong() : undefined));

  async function set(): Promise<void> {
    if (typed === undefined || typed === known) {
      typed = undefined;
      wrong = '';
      return;
    }
    if (onclear && !typed.trim()) {
      typed = undefined;
      wrong = '';
      onclear();
      return;
    }
    handedOver = true;
    wrong = await setFigure(typed, unit, shownAs, (value) => {
      typed = undefined;
      onset(value);
    });
    handedOver = false;
  }

  function press(event: KeyboardEvent): void {
    if ((typed === undefined || handedOver) && isUndo(event)) return;
    event.stopPropagation();
    if (event.key === 'Enter') void set();
    if (event.key === 'Escape') {
      typed = undefined;
      wrong = '';
      (event.target as HTMLElement).blur();
    }
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const step = (event.shiftKey ? 1 : 0.1) * (event.key === 'ArrowUp' ? 1 : -1);
      onset(Number(((value ?? 0) + step / shownAs).toFixed(6)));
    }
  }
</script>

<div class="length" class:long={shown.length > 4}>
  <TextInput
    size="sm"
    labelText={label}
    value={shown}
    placeholder={empty}
    invalid={Boolean(wrong || problem)}
    invalidText={wrong || problem}
    on:input={(event) => (typed = String(event.detail ?? ''))}
    on:keydown={press}
    on:blur={() => void set()}
    autocomplete="off"
  />
  {#if !wrong && !problem && (value !== null || typed)}
    <span class="unit" aria-hidden="true">{unit === 'mm' ? units.sign : unit}</span>
  {/if}
</div>

<style>
  .length {
    container-type: inline-size;
    position: relative;
  }

  /* In a narrow field a long figure needs all of it. */
  @container (max-width: 96px) {
    .long .unit {
      display: none;
    }
  }

  .unit {
    position: absolute;
    right: 8px;
    bottom: 8px;
    color: var(--ink-soft);
    font-size: 12px;
    pointer-events: none;
  }

  .length :global(input) {
    padding: 0 10px;
    font-family: 'IBM Plex Mono', monospace;
  }
</style>
