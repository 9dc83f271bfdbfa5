/** How figures and names are said to a maker. */

import { labelOf } from '../api/catalogue';
import type { Guide, SceneGuide, SceneLettering } from '../api/client';

/** A length in as few digits as it needs, at most three decimals. */
export function figure(value: number): string {
  return String(Number(value.toFixed(3)));
}

/** A name as words, from its id. */
export function guideName(guide: Guide): string {
  return sentence(guide.id.replace(/[-_]+/g, ' '));
}

export function sentence(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** The time of day at which something was kept. */
export function clock(time: Date): string {
  return time.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false });
}

/** What a fit came to, in words. */
export function fitWords(
  fit: NonNullable<SceneLettering['fit']>,
  guide: SceneGuide | undefined,
): string {
  const [field, of] = Object.entries(fit.guide_figures)[0] ?? [];
  const size = guide?.sizes.find((one) => one.field === field);
  switch (fit.kind) {
    case 'height':
      return `${labelOf('fit', fit.kind)}: ${figure(fit.value)} mm`;
    case 'gap':
      return `fills with ${fit.value < 0 ? '−' : '+'}${figure(Math.abs(fit.value))} mm a gap`;
    case 'taper':
      return `ends ${figure(fit.value)} mm high`;
    case 'guide':
      return `${(size?.label ?? field ?? '').toLowerCase()} that fits: ${figure(of ?? 0)} ${size?.unit ?? ''}`.trim();
    default:
      return `${fit.value} times come nearest`;
  }
}
