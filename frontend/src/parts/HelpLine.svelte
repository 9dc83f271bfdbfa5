<script lang="ts">
  /** A line that says what the control does that the pointer is on, or that has the focus. */
  import { helpOn } from '../words/help';

  let words = $state('');

  /** The label of a control: its own, that of its group, or what stands on it. */
  function labelsOf(target: Element): string[] {
    const control = target.closest('button, input, select, textarea, label, summary');
    if (!control) return [];
    const field = control.closest('.bx--form-item, fieldset, label');
    const found = [
      control.closest('fieldset')?.querySelector('legend'),
      field?.querySelector('.bx--label, .bx--checkbox-label, .label'),
      field?.tagName === 'LABEL' ? field : undefined,
      control.tagName === 'LABEL' ? control : undefined,
      control.tagName === 'BUTTON' ? control : undefined,
    ];
    const byIds = (control.getAttribute('aria-labelledby') ?? '')
      .split(' ')
      .map((id) => document.getElementById(id));
    return [...byIds, ...found].map((one) => one?.textContent ?? '').filter(Boolean);
  }

  function look(event: Event): void {
    if (!(event.target instanceof Element)) return;
    const found = labelsOf(event.target).map(helpOn).find(Boolean) ?? '';
    if (found && event.type === 'focusin') event.target.setAttribute('aria-description', found);
    words = found;
  }
</script>

<svelte:document onpointerover={look} onfocusin={look} />

<p class="help" aria-hidden="true">{words || 'Point at a control: here it says what it does.'}</p>

<style>
  .help {
    position: sticky;
    bottom: -12px;
    min-height: 42px;
    margin: 12px -16px -12px;
    border-top: 1px solid var(--line);
    padding: 6px 16px;
    background: var(--paper);
    color: var(--ink-soft);
    font-size: 12px;
    line-height: 15px;
  }
</style>
