/** All that a person chooses from, as the server says: asked for once, before anything is shown. */

import { api, saying, type Catalogue } from './client';

let loaded: Catalogue | undefined;

/** Ask for the catalogue; what went wrong, in words, or nothing. */
export async function loadCatalogue(): Promise<string> {
  const answer = await api.GET('/api/catalogue').catch(() => undefined);
  loaded = answer?.data as Catalogue | undefined;
  return loaded ? '' : saying(answer?.error);
}

export function catalogue(): Catalogue {
  if (!loaded) throw new Error('the catalogue is asked for before it has come');
  return loaded;
}

/** What a person chooses among, as lists of choices take it. */
export function choices<Value extends string = string>(
  of: string,
): { value: Value; label: string }[] {
  return (catalogue().choices[of] ?? []).map(([value, label]) => ({ value: value as Value, label }));
}

export const labelOf = (of: string, value: string | null | undefined): string =>
  catalogue().choices[of]?.find(([one]) => one === value)?.[1] ?? '';

/** The format that the name of a file says it is in; the first one where it says none. */
export function formatOf(name: string): string {
  const { readers } = catalogue();
  const found = readers.find((one) => name.toLowerCase().endsWith(`.${one.name}`));
  return (found ?? readers[0])?.name ?? '';
}
