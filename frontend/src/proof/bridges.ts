/** Changing a bridge by hand: in the recipe that it comes from. */

import type { Prepare, ProofBridge } from '../api/client';
import type { Editor } from '../editor/editor.svelte';

/** The recipe that a bridge comes from: its lettering's own, or the whole piece's. */
export function recipeOf(editor: Editor, bridge: ProofBridge): Prepare | null | undefined {
  const lettering = editor.piece.letterings.find((one) => one.id === bridge.lettering);
  return lettering?.prepare?.bridges ? lettering.prepare : editor.piece.prepare;
}

export function changeBridge(
  editor: Editor,
  bridge: ProofBridge,
  changed: { removed?: boolean; angle?: number },
): void {
  const lettering = editor.piece.letterings.find((one) => one.id === bridge.lettering);
  const whole = !lettering?.prepare?.bridges;
  const prepare = recipeOf(editor, bridge);
  if (!prepare?.bridges) return;
  const name = whole ? bridge.lettering : '';
  const changes = prepare.bridges.changes ?? [];
  const mine = (one: (typeof changes)[number]) =>
    one.lettering === name && one.letter === bridge.letter && one.bridge === bridge.number;
  const now = {
    removed: false,
    ...changes.find(mine),
    lettering: name,
    letter: bridge.letter,
    bridge: bridge.number,
    ...changed,
  };
  const next = {
    ...prepare,
    bridges: { ...prepare.bridges, changes: [...changes.filter((one) => !mine(one)), now] },
  };
  if (whole) editor.change({ prepare: next });
  else editor.changeLettering(bridge.lettering, { prepare: next });
}
