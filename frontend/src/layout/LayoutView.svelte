<script lang="ts">
  import { catalogue } from '../api/catalogue';
  import type { Blank } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { Viewport } from '../drawing/viewport.svelte';
  import { figure } from '../words/words';
  import { pressed, type Keys } from '../shell/keys';
  import Contents from '../contents/Contents.svelte';
  import Drawer from '../contents/Drawer.svelte';
  import Drawing from '../drawing/Drawing.svelte';
  import FromFile from '../contents/FromFile.svelte';
  import Notices from './Notices.svelte';
  import Particulars from '../particulars/Particulars.svelte';
  import Strip from '../strip/Strip.svelte';
  import { keptHeight } from '../strip/height';
  import { said, stepFor } from '../words/units.svelte';

  let { editor }: { editor: Editor } = $props();

  const view = new Viewport();
  const DRAWING_MARGIN = 56;
  const LETTERING_MARGIN = 90;
  let stripHeight = $state(keptHeight());
  let drawing = $state<Drawing>();
  /** What a file is being opened for, and whether the drawer is open, to take or to save. */
  let filing = $state<'guide' | 'blank'>();
  let drawer = $state<'take' | 'save'>();

  function takeBlank(blank: Blank): void {
    editor.change({ blank });
    void editor.finish();
  }

  function showAll(): void {
    if (!editor.live.scene) return;
    view.show(editor.live.scene.bounds, DRAWING_MARGIN);
    view.moved = false;
  }

  function showLettering(): void {
    const bounds = editor.live.scene?.letterings.find((one) => one.id === editor.lettering?.id)?.bounds;
    if (!bounds) return;
    view.show(bounds, LETTERING_MARGIN);
    view.moved = true;
  }

  /** Arrow keys: lettering along its guide, a point or guides across the piece, or the view. */
  function arrow(event: KeyboardEvent): void {
    const lettering = editor.lettering;
    const step = (event.shiftKey ? 10 : 1) * stepFor(lettering?.height);
    const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
      event.key
    ] as [number, number];
    const { letterings } = editor;
    if (editor.guides.length) {
      const { node } = editor.selection;
      const point = editor.live.scene?.grips.find((one) => one.kind === 'point' && one.index === node);
      const grip = point?.name ?? 'whole';
      const end = view.back(dx * step, -dy * step);
      editor.act(editor.pullGuides(grip, [0, 0], end));
    } else if (lettering && editor.selection.letters.length) {
      editor.nudge({ along: dx * step, across: dy * step });
    } else if (!letterings.length) {
      view.pan(-40 * dx, 40 * dy);
    } else if (dx) {
      editor.act(letterings.map(({ id }) => ({ act: 'slide-by', lettering: id, by: dx * step })));
    } else {
      for (const { id, standoff } of letterings) {
        editor.changeLettering(id, { standoff: Number((standoff + dy * step).toFixed(3)) });
      }
      editor.pauseThenFinish();
    }
  }

  /** Delete: the chosen point, or all that is chosen. */
  function removeChosen(): void {
    const guide = editor.guide;
    if (editor.lettering && editor.selection.letters.length) {
      editor.act({ act: 'put-back', lettering: editor.lettering.id, letters: editor.selection.letters });
    } else if (editor.selection.node !== undefined && guide && catalogue().kinds[guide.kind]?.nodes) {
      editor.act({ act: 'remove-node', guide: guide.id, index: editor.selection.node });
      editor.selection.node = undefined;
    } else {
      editor.removeChosen();
    }
  }

  const keys: Keys = {
    Escape: () => drawing?.cancelSketch() || editor.selection.stepBack(editor.lettering?.guide),
    Delete: removeChosen,
    Enter: () => editor.selection.tool === 'points' && drawing?.endSketch(),
    ArrowLeft: arrow,
    ArrowRight: arrow,
    ArrowUp: arrow,
    ArrowDown: arrow,
    '[': () => open(-1),
    ']': () => open(1),
    '{': () => open(-10),
    '}': () => open(10),
    b: () => (editor.selection.before = true),
    e: nextSpacing,
    m: () => editor.selection.take(editor.selection.tool === 'measure' ? 'choose' : 'measure'),
    c: () => drawing?.copyMeasure(),
    ',': () => letterOn(-1),
    '.': () => letterOn(1),
    d: () => (editor.selection.figures = !editor.selection.figures),
    '0': showAll,
    '1': showLettering,
    '+': () => view.zoomIn(),
    '=': () => view.zoomIn(),
    '-': () => view.zoomOut(),
  };

  /** Open the gap after the chosen letters by some steps. */
  function open(steps: number): void {
    editor.nudge({ gap: steps * stepFor(editor.lettering?.height) });
  }

  /** The next letter of the chosen lettering, or the one before. */
  function letterOn(by: 1 | -1): void {
    const places = (editor.live.around?.letterings ?? [])
      .filter((one) => one.id === editor.lettering?.id)
      .flatMap((one) => one.places)
      .filter((one) => one >= 0);
    if (!places.length) return;
    const now = places.indexOf(editor.selection.letters.at(by === 1 ? -1 : 0) ?? -1);
    const next = now < 0 ? (by === 1 ? 0 : places.length - 1) : (now + by + places.length) % places.length;
    editor.selection.chooseLetter(places[next]!);
  }

  /** Even gaps, then the same gap for all, then the face's own. */
  function nextSpacing(): void {
    const lettering = editor.lettering;
    if (!lettering) return;
    const next = { font: 'even', even: 'same', same: 'font', overlap: 'font' } as const;
    editor.changeLettering(lettering.id, { spacing: next[lettering.spacing ?? 'font'] });
    void editor.finish();
  }

  const spoken = $derived.by(() => {
    const lettering = editor.live.around?.letterings.find((one) => one.id === editor.lettering?.id);
    if (!lettering) return '';
    return lettering.room < 0
      ? said(`Overflows by ${figure(-lettering.room)} mm`)
      : said(`${figure(lettering.room)} mm of room left`);
  });
</script>

<svelte:window
  onkeydown={(event) => pressed(event, editor, keys)}
  onkeyup={(event) => event.key === 'b' && (editor.selection.before = false)}
  onblur={() => (editor.selection.before = false)}
/>

<div class="layout" style:--strip={`${stripHeight}px`}>
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
  <Strip {editor} bind:tall={stripHeight} />
  <p class="visually-hidden" aria-live="polite">{spoken}</p>
</div>

{#if filing}
  <FromFile
    wanted={filing}
    onguide={(recipe) => editor.make({ act: 'add-guide', recipe })}
    onblank={takeBlank}
    onclose={() => (filing = undefined)}
  />
{/if}
{#if drawer}
  <Drawer {editor} saving={drawer === 'save'} onclose={() => (drawer = undefined)} />
{/if}

<style>
  .layout {
    display: grid;
    grid-template: minmax(0, 1fr) min(var(--strip), 40vh) / 232px minmax(0, 1fr) 284px;
    overflow: hidden;
  }

  @media (max-width: 1100px) {
    .layout {
      grid-template-columns: 188px minmax(0, 1fr) 264px;
    }
  }

  @media (min-width: 1700px) {
    .layout {
      grid-template-columns: 300px minmax(0, 1fr) 340px;
    }
  }

  main {
    display: flex;
    flex-direction: column;
    position: relative;
    min-width: 0;
    min-height: 0;
    background: var(--ground);
  }
</style>
