<script lang="ts" generics="Value extends string">
  interface Props {
    label: string;
    /** With pictures, in a box of 44 × 32, they stand as tiles. */
    options: readonly { value: Value; label: string; picture?: string; hint?: string }[];
    value: Value;
    /** Shown as the tabs of a page, without its label in sight. */
    tabs?: boolean;
    onset: (value: Value) => void;
  }

  let { label, options, value, tabs = false, onset }: Props = $props();
  const name = $props.id();
</script>

<fieldset>
  <legend class:visually-hidden={tabs}>{label}</legend>
  <div class="row" class:tabs class:tiles={options[0]?.picture} class:many={options.length > 4}>
    {#each options as option (option.value)}
      <label class:on={option.value === value} title={option.hint}>
        <input
          type="radio"
          {name}
          value={option.value}
          checked={option.value === value}
          onchange={() => onset(option.value)}
        />
        {#if option.picture}
          <svg viewBox="0 0 44 32" aria-hidden="true"><path d={option.picture} /></svg>
        {/if}
        {option.label}
      </label>
    {/each}
  </div>
</fieldset>

<style>
  fieldset {
    min-width: 0;
    margin: 0;
    border: 0;
    padding: 0;
  }

  legend {
    margin-bottom: 6px;
    padding: 0;
    color: var(--ink-soft);
    font-size: 12px;
  }

  .tiles {
    flex-wrap: wrap;
  }

  .tiles label {
    flex: 1 0 33%;
    padding: 4px 0;
    font-size: 12px;
    line-height: 16px;
  }

  svg {
    display: block;
    margin: 0 auto 2px;
    height: 26px;
    fill: none;
    stroke: currentColor;
  }

  .row {
    display: flex;
    border: 1px solid var(--line-strong);
  }

  label {
    position: relative;
    flex: 1;
    padding: 6px 0;
    background: var(--sheet);
    text-align: center;
    font-size: 13px;
    line-height: 18px;
    cursor: pointer;
  }

  label + label {
    border-left: 1px solid var(--line-strong);
  }

  .many:not(.tiles) label {
    flex: auto;
    font-size: 12px;
  }

  label.on {
    background: var(--ink);
    color: var(--sheet);
  }

  .tabs,
  .tabs label {
    border: 0;
    background: none;
  }

  .tabs {
    border-bottom: 1px solid var(--line);
  }

  .tabs label.on {
    box-shadow: inset 0 -2px var(--verdigris);
    background: none;
    color: var(--ink);
    font-weight: 600;
  }

  input {
    position: absolute;
    inset: 0;
    margin: 0;
    opacity: 0;
    cursor: pointer;
  }

  label:has(input:focus-visible) {
    z-index: 1;
    outline: 2px solid var(--verdigris);
    outline-offset: 1px;
  }
</style>
