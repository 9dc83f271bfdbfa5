<script lang="ts">
  /** The part, turned by hand; where there is no WebGL, pictures of it from five sides. */
  import { onDestroy, onMount, untrack } from 'svelte';
  import { api, asDocument, type Piece } from '../api/client';
  import Choice from '../parts/Choice.svelte';
  import { figure } from '../words/words';
  import type { FoundBody } from './foundBody.svelte';
  import type { Measured, PartDrawing, Side } from './part';

  interface Props {
    piece: Piece;
    data: ArrayBuffer | undefined;
    busy: boolean;
    measuring: boolean;
    /** A body that was read, shown instead, of which a face is picked. */
    body: FoundBody | undefined;
    /** Hands out what keys do. */
    drawing: PartDrawing | undefined;
  }

  let { piece, data, busy, measuring = $bindable(), body, drawing = $bindable() }: Props = $props();

  const SIDES: { value: Side; label: string }[] = [
    { value: 'slant', label: 'aslant' },
    { value: 'front', label: 'front' },
    { value: 'top', label: 'top' },
    { value: 'right', label: 'right' },
    { value: 'back', label: 'back' },
  ];
  const CUTS = [
    { value: 'none' as const, label: 'whole' },
    { value: 'x' as const, label: 'cut along x' },
    { value: 'y' as const, label: 'along y' },
    { value: 'z' as const, label: 'along z' },
  ];
  const CLICK_PX = 4;

  let canvas = $state<HTMLCanvasElement>();
  let width = $state(0);
  let height = $state(0);
  let side = $state<Side>('slant');
  let cut = $state<'none' | 'x' | 'y' | 'z'>('none');
  let share = $state(0.5);
  let measured = $state.raw<Measured>();
  let lacking = $state(false);
  let picture = $state('');
  let shown = false;
  let lastBody: FoundBody | undefined;
  let pressedAt: readonly [number, number] = [0, 0];

  onMount(async () => {
    try {
      const { PartDrawing } = await import('./part');
      drawing = new PartDrawing(canvas!, (found) => (measured = found));
    } catch {
      lacking = true;
    }
  });
  onDestroy(() => {
    drawing?.close();
    drawing = undefined;
  });

  $effect(() => {
    if (drawing && width && height) drawing.fit(width, height);
  });
  $effect(() => {
    if (!drawing || !data || !width) return;
    const again = untrack(() => shown);
    shown = true;
    const now = drawing;
    const seen = body;
    void now.show(data, again && seen === lastBody).then(() => {
      if (seen) now.paint(seen.faceOf, untrack(() => seen.chosen));
      untrack(() => now.cut(cut === 'none' ? undefined : cut, share));
    });
    lastBody = seen;
  });
  $effect(() => {
    if (body) drawing?.paint(body.faceOf, body.chosen);
  });
  $effect(() => drawing?.cut(cut === 'none' ? undefined : cut, share));
  $effect(() => {
    if (!measuring) untrack(() => drawing)?.forgetMeasure();
  });

  $effect(() => {
    if (!lacking) return;
    const asked = { params: { query: { side } }, body: { piece: asDocument(piece) }, parseAs: 'blob' as const };
    void api.POST('/api/solid/picture', asked).then(({ data: found }) => {
      if (!found) return;
      // As data: pictures from elsewhere, blobs among them, are not let in.
      const reader = new FileReader();
      reader.onload = () => (picture = reader.result as string);
      reader.readAsDataURL(found);
    });
  });

  function released(event: PointerEvent): void {
    if (Math.hypot(event.clientX - pressedAt[0], event.clientY - pressedAt[1]) > CLICK_PX) return;
    const at = [(2 * event.offsetX) / width - 1, 1 - (2 * event.offsetY) / height] as const;
    if (measuring) drawing?.click(...at);
    else body?.pick(drawing?.triangleAt(...at));
  }

  const rounded = (mm: number) => figure(Number(mm.toFixed(2)));
</script>

<div class="part" bind:clientWidth={width} bind:clientHeight={height} class:measuring>
  {#if lacking}
    <p class="note">This browser draws nothing in three dimensions (WebGL is off): pictures of the part instead.</p>
    {#if picture}<img src={picture} alt={`The part seen ${SIDES.find((one) => one.value === side)?.label}`} />{/if}
  {:else}
    <canvas
      bind:this={canvas}
      aria-label="The part"
      onpointerdown={(event) => (pressedAt = [event.clientX, event.clientY])}
      onpointerup={released}
    ></canvas>
  {/if}
  <div class="tools">
    <Choice label="Seen from" options={SIDES} value={side} onset={(to) => ((side = to), drawing?.look(to))} />
    {#if !lacking}
      <Choice label="Section" options={CUTS} value={cut} onset={(to) => (cut = to)} />
      {#if cut !== 'none'}<input type="range" min="0" max="1" step="0.005" bind:value={share} aria-label="Where it is cut" />{/if}
      <button class="quiet" aria-pressed={measuring} onclick={() => (measuring = !measuring)}>measure</button>
    {/if}
  </div>
  {#if measuring}
    <p class="measured" role="status">
      {#if measured}{rounded(measured.length)} mm · x {rounded(measured.along[0])}, y {rounded(measured.along[1])}, z {rounded(measured.along[2])}{:else}Click two places of the part.{/if}
    </p>
  {/if}
  {#if body && !measuring && !lacking}<p class="measured">Click the face to letter on.</p>{/if}
  {#if busy}<p class="busy" role="status">making the part…</p>{/if}
</div>

<style>
  .part {
    position: relative;
    flex: 1;
    min-height: 0;
    overflow: hidden;
  }

  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    touch-action: none;
  }

  .measuring canvas {
    cursor: crosshair;
  }

  img {
    position: absolute;
    inset: 64px 0 0;
    width: 100%;
    height: calc(100% - 64px);
    object-fit: contain;
  }

  .tools {
    position: absolute;
    top: 8px;
    left: 12px;
    right: 12px;
    display: flex;
    flex-wrap: wrap;
    align-items: end;
    gap: 12px;
  }

  .tools :global(label) {
    padding: 0 8px;
    white-space: nowrap;
  }

  .note {
    position: absolute;
    bottom: 8px;
    left: 12px;
    font-size: 12px;
  }

  .measured,
  .busy {
    position: absolute;
    bottom: 10px;
    margin: 0;
    padding: 2px 8px;
    background: var(--sheet);
    font-size: 13px;
  }

  .measured {
    left: 12px;
  }

  .busy {
    right: 12px;
    color: var(--ink-soft);
  }

  .quiet {
    border: 1px solid var(--line-strong);
    padding: 3px 8px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
    font-size: 12px;
    cursor: pointer;
  }

  .quiet[aria-pressed='true'] {
    background: var(--ink);
    color: var(--sheet);
  }
</style>
