/** Changing a bridge by hand: the core finds the recipe that it comes from. */

import type { ProofBridge } from '../api/client';
import type { Editor } from '../piece/editor.svelte';
import type { Snapshot } from '../piece/snapshot';

export function changeBridge(
  editor: Editor,
  bridge: ProofBridge,
  changed: { removed?: boolean; angle?: number },
  base?: Snapshot,
  last = true,
): void {
  const { lettering, letter, number } = bridge;
  const act = { act: 'change-bridge', lettering, letter, bridge: number, ...changed } as const;
  editor.act({ removed: false, ...act }, base, last);
}
