/** Guides and letterings copied, to be pasted into this piece or another one, also in another tab. */

import type { Guide, Lettering, Piece, SceneGuide } from '../api/client';
import type { Chosen } from './selection.svelte';

const KEY = 'ulvent.copied';

export interface Copied {
  guides: Guide[];
  letterings: Lettering[];
}

/** The chosen lettering, or the chosen guide with what it is made from and what stands on it. */
export function copied(
  piece: Piece,
  chosen: Chosen | undefined,
  laid: readonly SceneGuide[],
): Copied | undefined {
  if (chosen?.kind === 'lettering') {
    return { guides: [], letterings: piece.letterings.filter((one) => one.id === chosen.id) };
  }
  if (chosen?.kind !== 'guide') return undefined;
  const wanted = new Set([chosen.id]);
  // What is added is looked at in turn.
  for (const id of wanted) {
    for (const other of laid.find((one) => one.id === id)?.leans_on ?? []) wanted.add(other);
  }
  return {
    guides: piece.guides.filter((one) => wanted.has(one.id)),
    letterings: piece.letterings.filter((one) => one.guide === chosen.id),
  };
}

export function keepCopied(what: Copied): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(what));
  } catch {
    // A browser that keeps nothing has nothing to paste.
  }
}

export function lastCopied(): Copied | undefined {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? 'null') ?? undefined;
  } catch {
    return undefined;
  }
}
