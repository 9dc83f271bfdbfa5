<script lang="ts">
  import { untrack } from 'svelte';
  import type { Finding, ProofScene } from '../api/client';
  import type { Editor } from '../piece/editor.svelte';
  import { Remedies } from '../piece/remedies.svelte';
  import { figure } from '../words/words';
  import { said } from '../words/units.svelte';

  interface Props {
    editor: Editor;
    scene: ProofScene | undefined;
    looked: Finding | undefined;
    onlook: (finding: Finding, place?: number) => void;
    onpart: (at: readonly [number, number]) => void;
  }

  let { editor, scene, looked, onlook, onpart }: Props = $props();

  const SEVERITIES = { fault: 'Fault', warning: 'Warning', hint: 'Hint' } as const;
  const open = $derived((scene?.findings ?? []).filter((one) => !one.accepted));
  const accepted = $derived((scene?.findings ?? []).filter((one) => one.accepted));
  /** Parts of the sheet that nothing holds, as the bar below the drawing counts them. */
  const fallen = $derived(scene?.parts.filter((part) => !part.holds).length ?? 0);
  const faults = $derived(open.filter((one) => one.severity === 'fault').length);
  let place = $state(0);
  const remedies = new Remedies();

  $effect(() => remedies.tryAll(open, untrack(() => editor.piece)));

  const keyOf = (one: Finding) => `${one.key} ${one.sheet}`;
  const isLooked = (one: Finding) => looked !== undefined && keyOf(looked) === keyOf(one);
  const sheetName = (id: string) => scene?.sheets.find((one) => one.id === id)?.name ?? '';
  const wordsOf = (id: string) =>
    editor.piece.letterings.find((one) => one.id === id)?.text.split('\n')[0]?.slice(0, 32) ?? '';

  function show(finding: Finding): void {
    const count = finding.places?.length ?? 0;
    place = isLooked(finding) && count ? (place + 1) % count : 0;
    onlook(finding, place);
  }

  function accept(finding: Finding): void {
    const { key, sheet, figure } = finding;
    const others = (editor.piece.accepted ?? []).filter((one) => one.key !== key || one.sheet !== sheet);
    editor.change({ accepted: [...others, { key, sheet, figure }] });
    void editor.finish();
  }

  function unaccept(finding: Finding): void {
    const others = (editor.piece.accepted ?? []).filter(
      (one) => one.key !== finding.key || one.sheet !== finding.sheet,
    );
    editor.change({ accepted: others });
    void editor.finish();
  }
</script>

{#snippet card(finding: Finding)}
  <li class={finding.severity} class:looked={isLooked(finding)} class:accepted={finding.accepted}>
    <button class="head" onclick={() => show(finding)}>
      <span class="severity">{SEVERITIES[finding.severity]}</span>
      {#if finding.unit !== 'letters'}
        <span class="figure">
          {said(`${figure(Number(finding.figure.toPrecision(3)))}${finding.limit ? ` / ${figure(finding.limit)}` : ''} ${finding.unit}`).replace(' / ', ' of ')}
        </span>
      {/if}
    </button>
    <p>{said(finding.message)}.</p>
    <p class="soft">
      {#if finding.lettering}{wordsOf(finding.lettering)}{/if}
      {#if finding.sheet && (scene?.sheets.length ?? 0) > 1}· {sheetName(finding.sheet)}{/if}
    </p>
    <div class="row">
      {#each remedies.of(finding) as remedy (remedy.label)}
        <button class="remedy" onclick={() => editor.mend(remedy)}>{said(remedy.label)}</button>
      {:else}
        <span class="soft">{finding.remedy}</span>
      {/each}
    </div>
    <div class="row">
      {#if finding.places?.length}
        <button class="quiet" onclick={() => show(finding)}>
          {isLooked(finding) && finding.places.length > 1
            ? `place ${place + 1} of ${finding.places.length}`
            : finding.places.length > 1
              ? `show its ${finding.places.length} places`
              : 'show where'}
        </button>
      {/if}
      {#if finding.accepted}
        <button class="quiet" onclick={() => unaccept(finding)}>no longer accept</button>
      {:else}
        <button class="quiet" onclick={() => accept(finding)}>accept</button>
      {/if}
    </div>
  </li>
{/snippet}

<aside aria-label="Findings">
  <h2>
    {#if !scene}
      Findings
    {:else if !open.length}
      Nothing found
    {:else}
      {open.length} {open.length === 1 ? 'finding' : 'findings'}{faults ? `, ${faults} of them faults` : ''}
    {/if}
  </h2>
  {#if scene && !open.length}
    <p class="soft">
      Checked against {scene.sheets.map((one) => one.name).join(', ')}{fallen
        ? `: nothing is wrong, but ${fallen} ${fallen === 1 ? 'part falls' : 'parts fall'} out.`
        : ': it can be made as it is.'}
    </p>
  {/if}
  <ul>
    {#each open as finding (keyOf(finding))}
      {@render card(finding)}
    {/each}
  </ul>
  {#if accepted.length}
    <h3>Accepted until they get worse</h3>
    <ul>
      {#each accepted as finding (keyOf(finding))}
        {@render card(finding)}
      {/each}
    </ul>
  {/if}
  {#if scene?.parts.length}
    <details>
      <summary>{scene.parts.length + scene.parts_left_out} {scene.parts.length === 1 ? 'part' : 'parts'}, by area</summary>
      <ol>
        {#each scene.parts as part (part.number)}
          <li class="part" value={part.number}>
            <button class="quiet" onclick={() => onpart(part.at)}>
              <span class="figure">{figure(Number(part.area.toPrecision(4)))} mm²</span>{part.holds ? '' : ', falls out'}
            </button>
          </li>
        {/each}
      </ol>
      {#if scene.parts_left_out}<p class="soft">and {scene.parts_left_out} smaller ones</p>{/if}
    </details>
  {/if}
</aside>

<style>
  aside {
    overflow-y: auto;
    border-right: 1px solid var(--line);
    padding: 12px;
  }

  h2,
  h3 {
    margin: 0 0 10px;
    font-size: 14px;
    font-weight: 600;
  }

  h3 {
    margin-top: 20px;
    color: var(--ink-soft);
  }

  ul {
    display: flex;
    flex-direction: column;
    gap: 8px;
    margin: 0;
    padding: 0;
    list-style: none;
  }

  li {
    border: 1px solid var(--line);
    border-left: 3px solid var(--line-strong);
    padding: 6px 10px 8px;
    background: var(--sheet);
    font-size: 13px;
    line-height: 18px;
  }

  details {
    margin-top: 16px;
    font-size: 13px;
  }

  summary {
    cursor: pointer;
  }

  ol {
    margin: 6px 0 0;
    padding-left: 34px;
  }

  li.part {
    border: 0;
    padding: 0;
    background: none;
  }

  li.fault {
    border-left-color: var(--brick);
  }

  li.warning {
    border-left-color: var(--ochre);
  }

  li.looked {
    border-color: var(--verdigris);
    background: var(--verdigris-soft);
  }

  li.accepted {
    border-left-color: var(--line);
    color: var(--ink-soft);
  }

  .head {
    display: flex;
    width: 100%;
    justify-content: space-between;
    border: 0;
    padding: 0;
    background: none;
    color: inherit;
    font: inherit;
    cursor: pointer;
  }

  .severity {
    font-weight: 600;
  }

  .fault .severity {
    color: var(--brick);
  }

  .warning .severity {
    color: var(--ochre);
  }

  p {
    margin: 2px 0;
    font-size: 13px;
    line-height: 18px;
    overflow-wrap: anywhere;
  }

  .soft {
    color: var(--ink-soft);
    font-size: 12px;
  }

  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 8px;
    margin-top: 4px;
  }

  .row .quiet {
    padding: 0;
    font-size: 12px;
  }
</style>
