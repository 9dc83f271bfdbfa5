<script lang="ts">
  import { Button } from 'carbon-components-svelte';
  import { choices } from '../../api/catalogue';
  import type { Act, Guide } from '../../api/client';
  import type { Editor } from '../../piece/editor.svelte';
  import Choice from '../../parts/Choice.svelte';
  import LengthField from '../../parts/LengthField.svelte';

  interface Props {
    editor: Editor;
    guide: Guide;
    index: number;
  }

  let { editor, guide, index }: Props = $props();

  /** Where the point lies in the piece, as the core says; the screen has y down. */
  const at = $derived(
    editor.live.around?.grips.find((one) => one.index === index && one.kind === 'point')?.at,
  );
  const node = $derived('nodes' in guide ? guide.nodes[index] : undefined);
  const joint = $derived(
    node?.joint === 'smooth' && !node.before && !node.after ? 'free' : (node?.joint ?? 'free'),
  );

  function place(x: number, up: number): void {
    editor.act({ act: 'place-node', guide: guide.id, index, at: [x, -up] });
  }

  function remove(): void {
    editor.selection.node = undefined;
    editor.act({ act: 'remove-node', guide: guide.id, index });
  }

  type Joint = Extract<Act, { act: 'set-joint' }>['joint'];
  const JOINTS = choices<Joint>('joint');
</script>

{#if at}
  <section aria-label={`Point ${index + 1}`}>
    <h3>Point {index + 1}</h3>
    <div class="pair">
      <LengthField label="Across" value={at[0]} onset={(x) => place(x, -(at?.[1] ?? 0))} />
      <LengthField label="Up" value={-at[1]} onset={(up) => place(at?.[0] ?? 0, up)} />
    </div>
    {#if node}
      <Choice
        label="Here the line"
        options={JOINTS}
        value={joint}
        onset={(value) => editor.act({ act: 'set-joint', guide: guide.id, index, joint: value })}
      />
      <div class="actions">
        <Button size="small" kind="ghost" on:click={remove}>Delete the point</Button>
        <Button
          size="small"
          kind="ghost"
          on:click={() => editor.act({ act: 'split', guide: guide.id, index })}
        >
          {'closed' in guide && guide.closed ? 'Open here' : 'Split here'}
        </Button>
      </div>
    {/if}
  </section>
{/if}

<style>
  section {
    display: grid;
    gap: 10px;
    border-left: 2px solid var(--verdigris);
    padding-left: 10px;
  }

  h3 {
    margin: 0;
    font-size: 13px;
    font-weight: 600;
  }

  .pair {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 12px;
  }

  .actions :global(.bx--btn) {
    padding: 0 10px;
  }
</style>
