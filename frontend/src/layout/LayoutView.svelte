<script lang="ts">
  import type { Editor } from '../editor/editor.svelte';
  import { Viewport } from '../editor/viewport.svelte';
  import { figure } from '../editor/words';
  import { router } from '../router.svelte';
  import Conflict from './Conflict.svelte';
  import Contents from './Contents.svelte';
  import Drawer from './Drawer.svelte';
  import Drawing from './Drawing.svelte';
  import FromFile from './FromFile.svelte';
  import Head from './Head.svelte';
  import Notices from './Notices.svelte';
  import Particulars from './Particulars.svelte';
  import Shortcuts from './Shortcuts.svelte';
  import Strip from './Strip.svelte';

  let { editor }: { editor: Editor } = $props();

  const view = new Viewport();
  const DRAWING_MARGIN = 56;
  const LETTERING_MARGIN = 90;
  let helping = $state(false);
  let drawing = $state<Drawing>();
  /** What a file is being opened for, and whether the drawer is open, to take or to save. */
  let filing = $state<'guide' | 'blank'>();
  let drawer = $state<'take' | 'save'>();

  function showAll(): void {
    if (!editor.scene) return;
    view.show(editor.scene.bounds, DRAWING_MARGIN);
    view.moved = false;
  }

  function showLettering(): void {
    const bounds = editor.scene?.letterings.find((one) => one.id === editor.lettering?.id)?.bounds;
    if (!bounds) return;
    view.show(bounds, LETTERING_MARGIN);
    view.moved = true;
  }

  /** Arrow keys: a lettering along its guide, a point or a guide across the piece, or the view. */
  function arrow(event: KeyboardEvent): void {
    const step = event.shiftKey ? 1 : 0.1;
    const lettering = editor.lettering;
    const guide = editor.chosen?.kind === 'guide' ? editor.guide : undefined;
    const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
      event.key
    ] as [number, number];
    if (guide) {
      const stem = guide.kind === 'arc-through' ? 'point' : 'node';
      const grip = editor.node === undefined ? 'whole' : `${stem}:${editor.node}`;
      editor.act({ act: 'pull', guide: guide.id, grip, start: [0, 0], end: [dx * step, -dy * step] });
    } else if (lettering && editor.letters.length) {
      editor.nudge({ along: dx * step, across: dy * step });
    } else if (!lettering) {
      view.pan(-40 * dx, 40 * dy);
    } else if (dx) {
      editor.act({ act: 'slide-by', lettering: lettering.id, by: dx * step });
    } else {
      const standoff = Number((lettering.standoff + dy * step).toFixed(3));
      editor.changeLettering(lettering.id, { standoff });
      editor.pauseThenFinish();
    }
  }

  /** Delete: the chosen point, or the chosen lettering or guide. */
  function removeChosen(): void {
    const guide = editor.guide;
    if (editor.lettering && editor.letters.length) {
      editor.act({ act: 'put-back', lettering: editor.lettering.id, letters: editor.letters });
    } else if (editor.node !== undefined && guide?.kind === 'drawn') {
      editor.act({ act: 'remove-node', guide: guide.id, index: editor.node });
      editor.node = undefined;
    } else if (editor.chosen && editor.chosen.kind !== 'blank') {
      editor.remove(editor.chosen);
    }
  }

  const keys: Record<string, () => void> = {
    Escape: () => drawing?.cancelSketch() || editor.stepBack(),
    Delete: removeChosen,
    Enter: () => editor.tool === 'points' && drawing?.endSketch(),
    '[': () => editor.nudge({ gap: -0.1 }),
    ']': () => editor.nudge({ gap: 0.1 }),
    '{': () => editor.nudge({ gap: -1 }),
    '}': () => editor.nudge({ gap: 1 }),
    e: () => editor.nextSpacing(),
    m: () => editor.take(editor.tool === 'measure' ? 'choose' : 'measure'),
    c: () => drawing?.copyMeasure(),
    '?': () => (helping = true),
    '0': showAll,
    '1': showLettering,
    '+': () => view.zoomIn(),
    '=': () => view.zoomIn(),
    '-': () => view.zoomOut(),
  };

  function press(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (target.closest('input, select, textarea, [role="dialog"], .bx--modal.is-visible')) return;
    if (event.key === 'Enter' && target.closest('button')) return;
    const control = event.ctrlKey || event.metaKey;
    if (event.key === 'b' && !control && !event.altKey) {
      editor.before = true;
      return;
    }
    const key = event.key.toLowerCase();
    if (control && key === 'z') void (event.shiftKey ? editor.redo() : editor.undo());
    else if (control && key === 'y') void editor.redo();
    else if (control || event.altKey) return;
    else if (event.key.startsWith('Arrow')) arrow(event);
    else if (keys[event.key]) keys[event.key]?.();
    else return;
    event.preventDefault();
  }

  const spoken = $derived.by(() => {
    const lettering = editor.around?.letterings.find((one) => one.id === editor.lettering?.id);
    if (!lettering) return '';
    return lettering.room < 0
      ? `Overflows by ${figure(-lettering.room)} millimetres`
      : `${figure(lettering.room)} millimetres of room left`;
  });
</script>

<svelte:window
  onkeydown={press}
  onkeyup={(event) => event.key === 'b' && (editor.before = false)}
  onblur={() => (editor.before = false)}
/>
<svelte:head><title>{editor.piece.title || 'Untitled'} · Ulvent</title></svelte:head>

<div class="layout">
  <Head {editor} onhelp={() => (helping = true)} />
  <Contents {editor} onfile={() => (filing = 'guide')} ondrawer={() => (drawer = 'take')} />
  <main aria-label="Drawing">
    <Notices {editor} />
    <Drawing
      bind:this={drawing}
      {editor}
      {view}
      onshowall={showAll}
      onshowlettering={showLettering}
      margin={DRAWING_MARGIN}
    />
  </main>
  <Particulars
    {editor}
    onsave={() => (drawer = 'save')}
    onblankfile={() => (filing = 'blank')}
  />
  <Strip {editor} />
  <p class="visually-hidden" aria-live="polite">{spoken}</p>
</div>

{#if helping}
  <Shortcuts onclose={() => (helping = false)} />
{/if}
{#if filing}
  <FromFile {editor} wanted={filing} onclose={() => (filing = undefined)} />
{/if}
{#if drawer}
  <Drawer {editor} saving={drawer === 'save'} onclose={() => (drawer = undefined)} />
{/if}
{#if editor.conflict}
  <Conflict {editor} onopen={(id) => router.go(`/pieces/${id}`)} />
{/if}

<style>
  .layout {
    display: grid;
    grid-template: 44px minmax(0, 1fr) 208px / 232px minmax(0, 1fr) 284px;
    height: 100vh;
    min-width: 960px;
    overflow: hidden;
  }

  main {
    display: flex;
    flex-direction: column;
    min-width: 0;
    min-height: 0;
    background: var(--ground);
  }
</style>
