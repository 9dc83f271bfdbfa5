/** Guides and letterings copied, to be pasted into this piece or another one, also in another tab. */

import type { Guide, Lettering, Piece, SceneGuide } from '../api/client';
import type { Entry } from './selection.svelte';

const KEY = 'ulvent.copied';

export interface Copied {
  guides: Guide[];
  letterings: Lettering[];
}

/** The chosen letterings, and the chosen guides with what they are made from and what stands on them. */
export function copied(
  piece: Piece,
  chosen: readonly Entry[],
  laid: readonly SceneGuide[],
): Copied | undefined {
  if (!chosen.length) return undefined;
  const named = (kind: Entry['kind']) =>
    new Set(chosen.filter((one) => one.kind === kind).map((one) => one.id));
  const [guides, letterings] = [named('guide'), named('lettering')];
  const wanted = new Set(guides);
  // What is added is looked at in turn.
  for (const id of wanted) {
    for (const other of laid.find((one) => one.id === id)?.leans_on ?? []) wanted.add(other);
  }
  return {
    guides: piece.guides.filter((one) => wanted.has(one.id)),
    letterings: piece.letterings.filter((one) => letterings.has(one.id) || guides.has(one.guide)),
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
