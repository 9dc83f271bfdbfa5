/** Figures that are typed: shown in the unit of the piece, and understood by the server. */

import { untrack } from 'svelte';
import { api, saying } from '../api/client';
import { length, units } from './units.svelte';
import { figure } from './words';

const onTheirWay = new Set<Promise<void>>();
let waiting = $state(0);
let wrong = $state(0);

export const figures = {
  /** How many have been typed and not been understood yet: until then they are not kept. */
  get waiting(): number {
    return waiting;
  },
  /** How many stand in their fields that are no figures: nothing is begun with what was before. */
  get wrong(): number {
    return wrong;
  },
  /** When every typed figure has been understood, or has not. */
  async settled(): Promise<void> {
    await Promise.all(onTheirWay);
  },
};

/** One stands in its field that is no figure, until what is given back is called. */
export function standsWrong(): () => void {
  const count = (by: number) => untrack(() => (wrong += by));
  count(1);
  return () => count(-1);
}

/** What begins or takes something with the figures as they stand. */
const BEGINNERS = 'button, a[download]';
const held = new Set<HTMLElement>();

/** A click may come while a typed figure is on its way: it waits until that is understood. */
export function holdClick(event: MouseEvent): void {
  const pressed = (event.target as Element).closest<HTMLElement>(BEGINNERS);
  if (!onTheirWay.size || !pressed) return;
  event.preventDefault();
  event.stopPropagation();
  if (held.has(pressed)) return;
  held.add(pressed);
  void figures.settled().then(() => {
    held.delete(pressed);
    pressed.click();
  });
}

/** A value in its unit as it is shown and typed; `shownAs` is 100 for shares as percents. */
export function shownFigure(value: number, unit: string, shownAs = 1): string {
  return unit === 'mm' ? length(value) : figure(value * shownAs);
}

/**
 * Hand a typed figure, as its value by the server's arithmetic, to `set`; what is wrong with
 * it, in words, or nothing.
 */
export function setFigure(
  text: string,
  unit: string,
  shownAs: number,
  set: (value: number) => void,
): Promise<string> {
  const typedIn = unit === 'mm' ? units.typed : 'mm';
  const answered = api
    .GET('/api/figure', { params: { query: { text, unit: typedIn } } })
    .catch(() => undefined)
    .then((answer) => {
      if (!answer?.data) return saying(answer?.error);
      set(answer.data.value / shownAs);
      return '';
    });
  const settled = answered.then(() => {
    onTheirWay.delete(settled);
    waiting = onTheirWay.size;
  });
  onTheirWay.add(settled);
  waiting = onTheirWay.size;
  return answered;
}
