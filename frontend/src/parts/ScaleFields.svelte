<script lang="ts">
  import LengthField from './LengthField.svelte';

  interface Props {
    /** How wide and how high it is now, mm; nothing where only a share of it is typed. */
    extent?: readonly number[];
    onscale: (measure: 'percent' | 'width' | 'height', to: number) => void;
  }

  let { extent, onscale }: Props = $props();
</script>

<LengthField label="Scale to" unit="%" value={100} onset={(to) => onscale('percent', to)} />
{#if extent}
  {#if extent[0]}
    <LengthField label="Scale to a width of" value={extent[0]} onset={(to) => onscale('width', to)} />
  {/if}
  {#if extent[1]}
    <LengthField label="Scale to a height of" value={extent[1]} onset={(to) => onscale('height', to)} />
  {/if}
{/if}
