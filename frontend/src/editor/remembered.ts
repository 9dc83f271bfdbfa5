/** The last used choices, which the next lettering starts with. */

import type { Lettering } from '../api/client';

const KEY = 'ulvent.last-lettering';
const CHOICES = [
  'face',
  'height',
  'measured',
  'touch',
  'spacing',
  'tracking',
  'word_space',
  'align',
  'shape',
  'width',
  'slant',
  'features',
  'axes',
] as const;
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
    measured: 'capital',
    spacing: 'font',
    tracking: 0,
    word_space: 0,
    align: 'centre',
    shape: 'rigid',
    width: 1,
    slant: 0,
    features: {},
    axes: {},
  };
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Choices>) };
  } catch {
    return usual;
  }
}
