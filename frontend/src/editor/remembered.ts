/** The last used choices, which the next lettering starts with. */

import type { Lettering } from '../api/client';

const KEY = 'ulvent.last-lettering';
const CHOICES = ['face', 'height', 'touch', 'tracking', 'align'] as const;
type Choices = Pick<Lettering, (typeof CHOICES)[number]>;

export function remember(lettering: Lettering): void {
  const kept = Object.fromEntries(CHOICES.map((choice) => [choice, lettering[choice]]));
  try {
    localStorage.setItem(KEY, JSON.stringify(kept));
  } catch {
    // A browser that keeps nothing only loses the convenience.
  }
}

export function remembered(): Choices {
  const usual: Choices = {
    face: 'lato-bold',
    height: 10,
    touch: 'baseline',
    tracking: 0,
    align: 'centre',
  };
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Choices>) };
  } catch {
    return usual;
  }
}
