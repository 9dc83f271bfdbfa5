/** How figures and names are said to a maker. */

import { labelOf } from '../api/catalogue';
import type { Guide, Piece, SceneGuide, SceneLettering } from '../api/client';

/** A length in as few digits as it needs, at most three decimals. */
export function figure(value: number): string {
  return String(Number(value.toFixed(3)));
}

/** A name as words, from its id. */
export function guideName(guide: Guide): string {
  return sentence(guide.name?.trim() || guide.id.replace(/[-_]+/g, ' '));
}

export function sentence(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** What is wrong with a field, with the words that it belongs to and no path of a program. */
export function wrongWords(problem: { field: string; reason: string }, piece: Piece): string {
  const found = /^(letterings|guides)\[(\d+)\]\.?(.*)$/.exec(problem.field);
  const [list, index, field] = found ? [found[1], Number(found[2]), found[3]] : ['', 0, problem.field];
  const lettering = list === 'letterings' ? piece.letterings[index] : undefined;
  const guide = list === 'guides' ? piece.guides[index] : undefined;
  const pass = /^run\.passes\[(\d+)\]/.exec(problem.field)?.[1];
  const named = (field ?? '')
    .replace(/^(run\.passes\[\d+\]\.?|run\.|solid\.|sewing\.)/, '')
    .replace(/\[(\d+)\]/g, (_, place: string) => ` ${Number(place) + 1}`)
    .replace(/[._]+/g, ' ');
  const where = [
    lettering && (lettering.text.trim() ? `“${lettering.text.slice(0, 40)}”` : 'this lettering'),
    guide && guideName(guide),
    pass && `pass ${Number(pass) + 1}`,
    named,
  ].filter(Boolean);
  return where.length ? `${where.join(', ')}: ${problem.reason}` : sentence(problem.reason);
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
  const size = guide?.sizes.find((one) => one.field === fit.size);
  switch (fit.kind) {
    case 'height':
      return `${labelOf('fit', fit.kind)}: ${figure(fit.value)} mm`;
    case 'gap':
      return `fills with ${fit.value < 0 ? '−' : '+'}${figure(Math.abs(fit.value))} mm a gap`;
    case 'taper':
      return `ends ${figure(fit.value)} mm high`;
    case 'guide':
      return `${(size?.label ?? fit.size).toLowerCase()} that fits: ${figure(fit.value)} ${size?.unit ?? ''}`.trim();
    default:
      return `${fit.value} times come nearest`;
  }
}
