/** A view of an open piece: one record each, in a `view.ts` of its own folder. */

import type { Component } from 'svelte';
import type { Editor } from '../piece/editor.svelte';

export interface View {
  /** The last part of its address; empty for the one that a piece opens with. */
  readonly name: string;
  readonly title: string;
  /** Where it stands among the others. */
  readonly rank: number;
  readonly component: Component<{ editor: Editor }>;
  /** What its keys do, and what else there is to know, for the list of shortcuts. */
  readonly keys: readonly (readonly [string, string])[];
  readonly help?: string;
}
