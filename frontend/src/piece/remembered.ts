/** The last used choices, which the next lettering begins with. */

import { catalogue } from '../api/catalogue';
import type { Lettering } from '../api/client';

const KEY = 'ulvent.last-lettering';
type Choices = { [field: string]: unknown };

export function remember(lettering: Lettering): void {
  const fields = catalogue().remembered as (keyof Lettering)[];
  const kept = Object.fromEntries(fields.map((field) => [field, lettering[field]]));
  try {
    localStorage.setItem(KEY, JSON.stringify(kept));
  } catch {
    // A browser that keeps nothing only loses the convenience.
  }
}

/** Only what the server still knows as a choice; all else it fills in as usual. */
export function remembered(): Choices {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Choices;
    const known = catalogue().remembered;
    return Object.fromEntries(Object.entries(kept).filter(([field]) => known.includes(field)));
  } catch {
    return {};
  }
}
