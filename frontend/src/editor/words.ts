/** How figures and choices are said to a maker. */

import type { CircleGuide, Guide, Lettering } from '../api/client';

export const TOUCH = [
  { value: 'ascender', label: 'top' },
  { value: 'capital', label: 'head' },
  { value: 'middle', label: 'middle' },
  { value: 'baseline', label: 'feet' },
  { value: 'descender', label: 'tails' },
] as const satisfies { value: Lettering['touch']; label: string }[];

export const ALIGN = [
  { value: 'start', label: 'start' },
  { value: 'centre', label: 'middle' },
  { value: 'end', label: 'end' },
] as const satisfies { value: Lettering['align']; label: string }[];

/** A length in as few digits as it needs, at most three decimals. */
export function figure(value: number): string {
  return String(Number(value.toFixed(3)));
}

export function guideName(guide: Guide): string {
  const words = guide.id.replace(/[-_]+/g, ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}

export function guideSize(guide: Guide): string {
  return guide.kind === 'circle' ? `circle ⌀ ${figure(guide.diameter)}` : 'path';
}

/** Which way a lettering reads round its guide. */
export function readingWords(guide: Guide | undefined, reading: Lettering['reading']): string {
  if (guide?.kind !== 'circle') return reading === 'along' ? 'along the guide' : 'against the guide';
  const clockwise = (turnOf(guide) === 'clockwise') === (reading === 'along');
  return clockwise ? 'clockwise' : 'anticlockwise';
}

function turnOf(guide: CircleGuide): string {
  return guide.turn ?? 'clockwise';
}

/** The time of day at which something was kept. */
export function clock(time: Date): string {
  return time.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false });
}
