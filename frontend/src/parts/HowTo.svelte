<script lang="ts">
  /** A way to the page of the documentation that is about a job; it opens beside this one. */
  interface Props {
    job: 'first-piece' | 'two-lines-on-a-ring' | 'words-round-a-shape' | 'letter-by-letter'
      | 'middle-of-a-banner' | 'another-size' | 'cut-draw-engrave' | 'stencil' | 'part-from-a-file';
    label: string;
  }

  let { job, label }: Props = $props();
</script>

<a href={`/help/${job}.html`} target="_blank" rel="noopener">How to: {label}</a>

<style>
  a {
    color: var(--verdigris);
    font-size: 12px;
  }
</style>
