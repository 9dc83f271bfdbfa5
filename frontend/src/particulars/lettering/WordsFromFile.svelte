<script lang="ts">
  /** Words taken from a table: a row of it, or all rows one after the other. */
  import { FileUploaderButton, InlineNotification, Modal, TextInput } from 'carbon-components-svelte';
  import { wordsOf } from '../../api/outlines';

  interface Props {
    onwords: (words: string) => void;
    onclose: () => void;
  }

  let { onwords, onclose }: Props = $props();

  const LISTED = 200;
  let rows = $state.raw<string[][]>([]);
  let wrong = $state('');
  let between = $state(' · ');

  async function open(file: File | undefined): Promise<void> {
    if (!file) return;
    const found = await wordsOf(file);
    [rows, wrong] = typeof found === 'string' ? [[], found] : [found, ''];
  }

  const said = (row: string[]) => row.filter(Boolean).join(' ');

  function take(words: string): void {
    onwords(words);
    onclose();
  }
</script>

<Modal
  open
  modalHeading="Words from a table"
  primaryButtonText="Take all rows"
  secondaryButtonText="Leave it"
  primaryButtonDisabled={!rows.length}
  on:click:button--primary={() => take(rows.map(said).join(between))}
  on:click:button--secondary={onclose}
  on:close={onclose}
>
  <FileUploaderButton size="small" labelText="Choose a CSV or TSV file" accept={['.csv', '.tsv', '.txt']} disableLabelChanges on:change={(event) => void open(event.detail[0])} />
  {#if wrong}<InlineNotification lowContrast hideCloseButton kind="error" title="" subtitle={wrong} />{/if}
  {#if rows.length}
    <TextInput size="sm" labelText="Between rows, if all are taken" bind:value={between} />
    <p>Or take one row:</p>
    <ul>
      {#each rows.slice(0, LISTED) as row, index (index)}
        <li><button class="quiet" onclick={() => take(said(row))}>{said(row)}</button></li>
      {/each}
    </ul>
    {#if rows.length > LISTED}<p>and {rows.length - LISTED} more rows</p>{/if}
  {/if}
</Modal>

<style>
  ul {
    max-height: 240px;
    margin: 4px 0 0;
    padding: 0;
    overflow: auto;
    list-style: none;
  }

  p {
    margin: 12px 0 0;
    font-size: 13px;
  }
</style>
