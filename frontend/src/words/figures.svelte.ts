/** Figures that are typed: shown in the unit of the piece, and understood by the server. */

import { api, saying } from '../api/client';
import { length, units } from './units.svelte';
import { figure } from './words';

const onTheirWay = new Set<Promise<boolean>>();
let waiting = $state(0);

export const figures = {
  /** How many have been typed and not been understood yet: until then they are not kept. */
  get waiting(): number {
    return waiting;
  },
  /** When none is on its way any more; whether all were understood. */
  async settled(): Promise<boolean> {
    return (await Promise.all(onTheirWay)).every(Boolean);
  },
};

/** What begins or takes something with the figures as they stand. */
const BEGINNERS = 'button, a[download]';
const held = new Set<HTMLElement>();

/**
 * A click may come while a typed figure is on its way. It waits until that is understood, and
 * is dropped where that is no figure, so that nothing is begun with the figure before it.
 */
export function holdClick(event: MouseEvent): void {
  const pressed = (event.target as Element).closest<HTMLElement>(BEGINNERS);
  if (!onTheirWay.size || !pressed) return;
  event.preventDefault();
  event.stopPropagation();
  if (held.has(pressed)) return;
  held.add(pressed);
  void figures.settled().then((understood) => {
    held.delete(pressed);
    if (understood) pressed.click();
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
  const settled = answered.then((wrong) => {
    onTheirWay.delete(settled);
    waiting = onTheirWay.size;
    return !wrong;
  });
  onTheirWay.add(settled);
  waiting = onTheirWay.size;
  return answered;
}
