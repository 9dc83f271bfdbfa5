<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import { api, asDocument, type Solid, type SolidScene } from '../api/client';
  import { Asking } from '../piece/asking.svelte';
  import type { Editor } from '../piece/editor.svelte';
  import { pressed, type Keys } from '../shell/keys';
  import Panes from '../shell/Panes.svelte';
  import { keptHeight } from '../strip/height';
  import Strip from '../strip/Strip.svelte';
  import { FoundBody } from './foundBody.svelte';
  import HowSolid from './HowSolid.svelte';
  import { Mesh } from './mesh.svelte';
  import type { PartDrawing } from './part';
  import PartPane from './PartPane.svelte';
  import SolidList from './SolidList.svelte';

  let { editor }: { editor: Editor } = $props();

  const asked = new Asking<SolidScene>((piece, signal) =>
    api.POST('/api/solid', { body: { piece: asDocument(piece) }, signal }),
  );
  const mesh = new Mesh();
  onDestroy(() => {
    asked.close();
    mesh.close();
  });

  let chosen = $state('');
  let measuring = $state(false);
  let drawing = $state.raw<PartDrawing>();
  let stripHeight = $state(keptHeight());
  let body = $state.raw<FoundBody>();
  // Figures are those that the piece holds, also those of which no part could be made.
  const scene = $derived(asked.scene && { ...asked.scene, recipe: editor.piece.solid ?? asked.scene.recipe });

  $effect(() => {
    const { piece, holding } = editor;
    untrack(() => {
      mesh.ask(piece, holding);
      if (!holding) asked.ask(piece);
    });
  });

  function change(recipe: Solid): void {
    editor.change({ solid: recipe });
    editor.pauseThenFinish();
  }

  const keys: Keys = {
    Escape: () => (measuring ? (measuring = false) : body ? (body = undefined) : (chosen = '')),
    ArrowLeft: () => drawing?.turn(-1, 0),
    ArrowRight: () => drawing?.turn(1, 0),
    ArrowUp: () => drawing?.turn(0, 1),
    ArrowDown: () => drawing?.turn(0, -1),
    '1': () => drawing?.look('slant'),
    '2': () => drawing?.look('front'),
    '3': () => drawing?.look('top'),
    '4': () => drawing?.look('right'),
    '5': () => drawing?.look('back'),
    '0': () => drawing?.look('slant'),
    '+': () => drawing?.closer(1.25),
    '=': () => drawing?.closer(1.25),
    '-': () => drawing?.closer(0.8),
    m: () => (measuring = !measuring),
  };
</script>

<svelte:window onkeydown={(event) => pressed(event, editor, keys)} />

<Panes
  label="Part"
  wrong={asked.wrong}
  wrongTitle={scene ? 'The part is the last one that could be made.' : 'There is no part of this piece.'}
  waiting="Making the part"
  shown={scene !== undefined}
  saying={editor.saying}
  onsaid={() => (editor.saying = '')}
>
  {#snippet left()}
    <SolidList {editor} {scene} busy={asked.busy} bind:chosen bind:body />
  {/snippet}
  <PartPane piece={editor.piece} data={body?.data ?? mesh.data} busy={mesh.busy} {body} bind:measuring bind:drawing />
  <div class="strip" style:height={`${stripHeight}px`}><Strip {editor} bind:tall={stripHeight} /></div>
  {#snippet right()}
    <HowSolid {editor} {scene} {chosen} onchange={change} />
  {/snippet}
</Panes>

<style>
  .strip {
    display: grid;
    flex: none;
    max-height: 40vh;
    min-height: 0;
  }
</style>
