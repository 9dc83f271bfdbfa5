<script lang="ts">
  import type { Grip } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import type { Snapshot } from '../piece/snapshot';
  import type { Viewport } from './viewport.svelte';

  let { editor, view }: { editor: Editor; view: Viewport } = $props();

  /** What each grip looks like, about the origin, px; the shape says what it does. */
  const MARKS: Record<Grip['kind'], string> = {
    point: 'M-4 0a4 4 0 1 1 8 0a4 4 0 1 1 -8 0M-8 0h4M4 0h4M0 -8v4M0 4v4',
    handle: 'M-3 -3L3 3M-3 3L3 -3',
    start: 'M0 9V-9L9 -5L0 -1',
    part: 'M3 -8H-2V8H3',
    turn: 'M-6 3A7 7 0 1 1 6 3M6 3l-5 -1M6 3l2 -5',
    size: 'M-6 -6L6 6M-6 -6h5M-6 -6v5M6 6h-5M6 6v-5',
    centre: 'M-9 0H9M0 -9V9',
    distance: 'M0 -8V8M0 -8l-3 4M0 -8l3 4M0 8l-3 -4M0 8l3 -4',
  };
  const NODES = /^(node|point):/;

  const guide = $derived(editor.selection.chosen?.kind === 'guide' ? editor.guide : undefined);
  /** Grips are of one guide; several are pulled whole. */
  const shown = $derived(guide && !editor.selection.several ? (editor.live.scene?.grips ?? []) : []);
  const stems = $derived(
    shown
      .filter((grip) => grip.kind === 'handle')
      .map((grip) => {
        const node = editor.live.scene?.grips.find((one) => one.name === `node:${grip.index}`);
        return node ? `M${view.toScreen(node.at).join(' ')}L${view.toScreen(grip.at).join(' ')}` : '';
      })
      .join(''),
  );

  let held: { grip: Grip; from: [number, number]; base: Snapshot; moved: boolean } | undefined;

  /** Where the drawing is on the page; asked once a gesture, since asking lays the page out. */
  let corner = { left: 0, top: 0 };

  function place(event: PointerEvent): [number, number] {
    return view.toPiece(event.clientX - corner.left, event.clientY - corner.top);
  }

  function down(event: PointerEvent, grip: Grip): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    const grasped = event.currentTarget as SVGElement;
    grasped.setPointerCapture(event.pointerId);
    corner = grasped.ownerSVGElement!.getBoundingClientRect();
    if (NODES.test(grip.name)) editor.selection.node = grip.index;
    held = { grip, from: place(event), base: editor.base, moved: false };
  }

  function pull(event: PointerEvent, last: boolean): void {
    if (!held || !guide) return;
    if (last && !held.moved) return;
    if (!held.moved) held.base = editor.base;
    held.moved = true;
    const { grip, from, base } = held;
    editor.act(
      { act: 'pull', guide: guide.id, grip: grip.name, start: from, end: place(event) },
      base,
      last,
    );
  }

  function up(event: PointerEvent): void {
    pull(event, true);
    held = undefined;
  }

  function press(event: KeyboardEvent, grip: Grip): void {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[
      event.key
    ];
    if (event.key === 'Enter' && NODES.test(grip.name)) editor.selection.node = grip.index;
    if (!way || !guide) return;
    event.preventDefault();
    event.stopPropagation();
    const step = event.shiftKey ? 1 : 0.1;
    const [x, y] = grip.at;
    const [dx, dy] = view.back(step * (way[0] ?? 0), step * (way[1] ?? 0));
    const end: [number, number] = [x + dx, y + dy];
    editor.act({ act: 'pull', guide: guide.id, grip: grip.name, start: grip.at, end });
  }
</script>

<svg class:pulled={editor.holding}>
  <path class="stem" d={stems} />
  {#each shown as grip (grip.name)}
    {@const at = view.toScreen(grip.at)}
    <g
      role="button"
      tabindex="0"
      aria-label={grip.label}
      class={grip.kind}
      class:chosen={NODES.test(grip.name) && grip.index === editor.selection.node}
      data-grip={grip.name}
      transform={`translate(${at[0]} ${at[1]})`}
      onpointerdown={(event) => down(event, grip)}
      onpointermove={(event) => pull(event, false)}
      onpointerup={up}
      onpointercancel={up}
      onkeydown={(event) => press(event, grip)}
    >
      <title>{grip.label}</title>
      <circle r="11" />
      <path d={MARKS[grip.kind]} />
    </g>
  {/each}
</svg>

<style>
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: hidden;
    pointer-events: none;
  }

  g {
    cursor: move;
    pointer-events: all;
  }

  svg.pulled g {
    pointer-events: none;
  }

  circle {
    fill: transparent;
  }

  path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.4px;
  }

  .handle path,
  .stem {
    stroke: var(--ink-soft);
    stroke-width: 1px;
  }

  .chosen path {
    stroke: var(--verdigris);
    stroke-width: 2.4px;
  }

  .turn,
  .size {
    cursor: grab;
  }

  g:hover path,
  g:focus-visible path {
    stroke: var(--verdigris);
  }

  g:focus {
    outline: none;
  }

  g:focus-visible circle {
    stroke: var(--verdigris);
    stroke-width: 2px;
  }
</style>
