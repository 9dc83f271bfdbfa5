/** How figures and choices are said to a maker. */

import type { Blank, Guide, Lettering, SceneLettering } from '../api/client';
import { KIND_NAMES } from './guides';

export const TOUCH = [
  { value: 'ascender', label: 'top' },
  { value: 'capital', label: 'head' },
  { value: 'middle', label: 'middle' },
  { value: 'baseline', label: 'feet' },
  { value: 'descender', label: 'tails' },
] as const satisfies { value: Lettering['touch']; label: string }[];

export const SPACING = [
  { value: 'font', label: 'the face’s' },
  { value: 'even', label: 'even' },
  { value: 'same', label: 'all the same' },
  { value: 'overlap', label: 'overlapping' },
] as const satisfies { value: Lettering['spacing']; label: string }[];

export const ALIGN = [
  { value: 'start', label: 'start' },
  { value: 'centre', label: 'middle' },
  { value: 'end', label: 'end' },
] as const satisfies { value: Lettering['align']; label: string }[];

export const FITS = [
  { value: 'typed', label: 'as typed' },
  { value: 'height', label: 'as high as fits' },
  { value: 'gap', label: 'spread to fill' },
  { value: 'taper', label: 'tapered to the end' },
  { value: 'guide', label: 'the guide made to fit' },
  { value: 'repeats', label: 'as often as is nearest' },
] as const satisfies { value: NonNullable<Lettering['fit']>['kind'] | 'typed'; label: string }[];

/** Figures of guides that lettering can size. */
export const SIZES: Record<string, string> = {
  diameter: 'diameter',
  radius: 'radius',
  round: 'length round',
  angle: 'angle',
  rise: 'rise',
  chord: 'chord',
  width: 'width',
  height: 'height',
  length: 'length',
  gain: 'gain a turn',
  turns: 'turns',
  outer: 'outer diameter',
  across: 'circle through the corners',
  scaled: 'scale of the whole',
};

/** What a fit came to, in words. */
export function fitWords(fit: NonNullable<SceneLettering['fit']>): string {
  const [size, of] = Object.entries(fit.guide_figures)[0] ?? [];
  const unit = { angle: ' °', turns: '', scaled: ' ×' }[size ?? ''] ?? ' mm';
  switch (fit.kind) {
    case 'height':
      return `as high as fits: ${figure(fit.value)} mm`;
    case 'gap':
      return `fills with ${fit.value < 0 ? '−' : '+'}${figure(Math.abs(fit.value))} mm a gap`;
    case 'taper':
      return `ends ${figure(fit.value)} mm high`;
    case 'guide':
      return `${SIZES[size ?? ''] ?? size} that fits: ${figure(of ?? 0)}${unit}`;
    default:
      return `${fit.value} times come nearest`;
  }
}

/** A length in as few digits as it needs, at most three decimals. */
export function figure(value: number): string {
  return String(Number(value.toFixed(3)));
}

export function guideName(guide: Guide): string {
  const words = guide.id.replace(/[-_]+/g, ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** A guide's kind with the figure that tells it from others of its kind. */
export function guideSize(guide: Guide): string {
  const name = KIND_NAMES[guide.kind];
  switch (guide.kind) {
    case 'circle':
      if (guide.radius) return `circle R ${figure(guide.radius)}`;
      return guide.round ? `circle ○ ${figure(guide.round)}` : `circle ⌀ ${figure(guide.diameter ?? 0)}`;
    case 'arc':
      return `${name} R ${figure(guide.radius)}`;
    case 'arch':
      return `${name} ${figure(guide.chord)} / ${figure(guide.rise)}`;
    case 'ellipse':
    case 'rectangle':
    case 'superellipse':
      return `${name} ${figure(guide.width)} × ${figure(guide.height)}`;
    case 'line':
      return `${name} ${figure(guide.length)}`;
    case 'wave':
      return `${figure(guide.waves ?? 2)} waves of ${figure(guide.length)}`;
    case 'polygon':
      return `${guide.sides} sides ⌀ ${figure(guide.across)}`;
    case 'star':
      return `${guide.tips} tips ⌀ ${figure(guide.outer)}`;
    case 'drawn':
      return `drawn, ${guide.nodes.length} points`;
    case 'path':
      return guide.source ? `from ${guide.source}` : 'path';
    case 'parallel':
      return `parallel at ${figure(guide.distance)}`;
    case 'between':
      return guide.share === 0.5 ? 'middle line' : `${figure(100 * (guide.share ?? 0.5))} % between`;
    default:
      return name;
  }
}

/** Which way a lettering reads round its guide. */
export function readingWords(guide: Guide | undefined, reading: Lettering['reading']): string {
  if (guide?.kind !== 'circle') return reading === 'along' ? 'along the guide' : 'against the guide';
  const forward = (guide.turn ?? 'clockwise') === 'clockwise';
  const clockwise = (forward !== (guide.reverse ?? false)) === (reading === 'along');
  return clockwise ? 'clockwise' : 'anticlockwise';
}

/** A blank in two words. */
export function blankWords(blank: Blank): string {
  switch (blank.kind) {
    case 'disc':
      return `Disc ⌀ ${figure(blank.diameter)}`;
    case 'ring':
      return `Ring ⌀ ${figure(blank.outer)}`;
    case 'outline':
      return 'Free outline';
    default: {
      const name = blank.kind.charAt(0).toUpperCase() + blank.kind.slice(1);
      return `${name} ${figure(blank.width)} × ${figure(blank.height)}`;
    }
  }
}

/** The time of day at which something was kept. */
export function clock(time: Date): string {
  return time.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false });
}
