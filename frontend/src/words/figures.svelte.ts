/** Figures that are typed: shown in the unit of the piece, and understood by the server. */

import { api, saying } from '../api/client';
import { length, units } from './units.svelte';
import { figure } from './words';

const onTheirWay = new Set<Promise<void>>();
let waiting = $state(0);

export const figures = {
  /** How many have been typed and not been understood yet: until then they are not kept. */
  get waiting(): number {
    return waiting;
  },
  /** When every typed figure has been understood: a click may come while one is on its way. */
  async settled(): Promise<void> {
    await Promise.all(onTheirWay);
  },
};

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
