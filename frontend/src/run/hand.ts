/** What is done by hand on the drawing of a run, for the pass that is chosen. */

import type { Place } from '../drawing/gestures.svelte';

export type Does = 'begin' | 'tab' | 'work';
/** What a press does; nothing: it moves the view. */
export type Hand = Does | '';

/** mm from the machine's zero, y down. */
export type OnHand = (does: Does, at: Place | null, was?: Place | null) => Promise<void>;
