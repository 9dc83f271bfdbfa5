/** Nothing is begun with a piece before it is kept as the screen shows it. */

import { figures } from '../words/figures.svelte';

/** Who has a piece kept, and says what went wrong. */
export interface Keeper {
  readonly keeping: { state: string };
  saying: string;
  finish(): Promise<void>;
}

/** Whether all that is in sight is understood and kept; otherwise why nothing is begun is said. */
export async function settled(keeper: Keeper): Promise<boolean> {
  await figures.settled();
  if (!figures.wrong) await keeper.finish();
  if (!figures.wrong && keeper.keeping.state === 'kept') return true;
  const why = figures.wrong ? 'a typed figure is not understood' : 'the last change could not be kept';
  keeper.saying = `Nothing was begun, because ${why}.`;
  return false;
}
