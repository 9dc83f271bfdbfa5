<script lang="ts">
  /** A first piece in five steps, each beside the control that it is about; left at any time. */
  import { Button } from 'carbon-components-svelte';
  import { onMount } from 'svelte';
  import type { Editor } from '../piece/editor.svelte';

  let { editor, onclose }: { editor: Editor; onclose: () => void } = $props();

  const STEPS = [
    { at: 'aside textarea', title: 'Your words', text: 'Type what the piece says. Enter ends the words.' },
    { at: 'aside .face', title: 'A face', text: 'Choose the letters by your own words, set in every face there is.' },
    {
      at: '.dimension button',
      title: 'True sizes',
      text: 'Click any figure on the drawing and type yours: 25.4/2 and 3/8in are understood.',
    },
    {
      at: '[aria-label="Gaps between letters"]',
      title: 'Even gaps',
      text: 'The guide lies here pulled straight. “Even” makes gaps that look alike on the curve; letters are dragged here or on the drawing, or moved by arrow keys.',
    },
    {
      at: 'nav[aria-label="Views"] a:last-child',
      title: 'Proof, then the file',
      text: 'The proof shows what falls out, touches or is too thin. At the top right a file for the machine is exported.',
    },
  ];
  const EDGE = 8;
  const WIDTH = 300;
  const LOOK_MS = 200;

  let step = $state(0);
  let box = $state.raw<DOMRect>();
  let height = $state(160);
  let card = $state<HTMLDivElement>();
  const now = $derived(STEPS[step]!);

  onMount(() => {
    // The steps are about words: some are chosen.
    const first = editor.piece.letterings[0];
    if (!editor.lettering && first) editor.selection.choose({ kind: 'lettering', id: first.id });
    editor.selection.page = 'words';
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  });

  $effect(() => {
    void step;
    look();
    card?.focus();
  });

  /** Where the control is now: it may move while the person tries it. */
  function look(): void {
    box = document.querySelector(now.at)?.getBoundingClientRect();
  }

  const place = $derived.by(() => {
    if (!box) return { left: 320, top: 120 };
    const left = Math.min(Math.max(box.left, EDGE), innerWidth - WIDTH - EDGE);
    const below = box.bottom + 12;
    const top = below + height < innerHeight ? below : Math.max(box.top - height - 12, EDGE);
    return { left, top };
  });

  function press(event: KeyboardEvent): void {
    if (event.key === 'Escape') {
      event.stopPropagation();
      onclose();
    }
  }
</script>

{#if box}
  <div
    class="ring"
    style:left={`${box.left - 4}px`}
    style:top={`${box.top - 4}px`}
    style:width={`${box.width + 8}px`}
    style:height={`${box.height + 8}px`}
  ></div>
{/if}
<div
  bind:this={card}
  bind:offsetHeight={height}
  class="card"
  role="dialog"
  aria-label={`Step ${step + 1} of ${STEPS.length}: ${now.title}`}
  tabindex="-1"
  style:left={`${place.left}px`}
  style:top={`${place.top}px`}
  onkeydown={press}
>
  <p class="count">Step {step + 1} of {STEPS.length}</p>
  <strong>{now.title}</strong>
  <p>{now.text}</p>
  <div class="actions">
    <Button size="small" kind="ghost" on:click={onclose}>Leave</Button>
    {#if step > 0}<Button size="small" kind="ghost" on:click={() => (step -= 1)}>Back</Button>{/if}
    {#if step < STEPS.length - 1}
      <Button size="small" on:click={() => (step += 1)}>Next</Button>
    {:else}
      <Button size="small" on:click={onclose}>Done</Button>
    {/if}
  </div>
</div>

<style>
  .ring {
    position: fixed;
    z-index: 20;
    border: 2px solid var(--verdigris);
    box-shadow: 0 0 0 4px #1f736533;
    pointer-events: none;
  }

  .card {
    position: fixed;
    z-index: 21;
    width: 300px;
    border: 1px solid var(--line-strong);
    padding: 12px 16px;
    background: var(--sheet);
    box-shadow: 0 4px 16px #1b213022;
    font-size: 13px;
  }

  .card:focus {
    outline: none;
  }

  .count {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .card p {
    margin: 0 0 4px;
  }

  .actions {
    display: flex;
    justify-content: flex-end;
    gap: 8px;
    margin-top: 8px;
  }
</style>
