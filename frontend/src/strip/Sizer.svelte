<script lang="ts">
  /** The upper edge of the strip, by which it is made taller or lower. */
  import { keepHeight, LEAST } from './height';

  let { tall = $bindable() }: { tall: number } = $props();

  const STEP = 24;
  let held: { y: number; tall: number } | undefined;

  function resize(height: number): void {
    tall = Math.round(Math.min(Math.max(height, LEAST), 0.6 * window.innerHeight));
    keepHeight(tall);
  }

  function take(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    held = { y: event.clientY, tall };
  }

  function press(event: KeyboardEvent): void {
    const by = { ArrowUp: STEP, ArrowDown: -STEP }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    resize(tall + by);
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
  class="sizer"
  role="separator"
  aria-orientation="horizontal"
  aria-label="Height of the strip"
  aria-valuenow={tall}
  tabindex="0"
  title="Pull to make the strip taller"
  onpointerdown={take}
  onpointermove={(event) => held && resize(held.tall + held.y - event.clientY)}
  onpointerup={() => (held = undefined)}
  onkeydown={press}
></div>

<style>
  .sizer {
    position: absolute;
    z-index: 1;
    top: -3px;
    right: 0;
    left: 0;
    height: 7px;
    cursor: ns-resize;
  }

  .sizer:hover,
  .sizer:focus-visible {
    background: var(--verdigris);
    opacity: 0.4;
  }
</style>
