/** Keys of a view: its own, and those that all have. */

import { isUndo } from '../parts/undoing';
import type { Editor } from '../piece/editor.svelte';

export type Keys = Record<string, (event: KeyboardEvent) => void>;

const TYPING = 'input, select, textarea, [role="dialog"], .bx--modal.is-visible';

/** Whether a key is pressed to type, or to work in a dialog, and not for the view. */
const isTyped = (event: KeyboardEvent) => (event.target as HTMLElement).closest(TYPING) !== null;

const inDialog = (event: KeyboardEvent) =>
  (event.target as HTMLElement).closest('[role="dialog"], .bx--modal.is-visible') !== null;

/** Do what a pressed key does, by its name; with Control only what all views have. */
export function pressed(event: KeyboardEvent, editor: Editor, keys: Keys): void {
  if (isTyped(event) && !(isUndo(event) && !inDialog(event))) return;
  if (event.key === 'Enter' && (event.target as HTMLElement).closest('button')) return;
  const letter = event.key.toLowerCase();
  if (event.ctrlKey || event.metaKey) {
    if (letter === 'z') void (event.shiftKey ? editor.redo() : editor.undo());
    else if (letter === 'y') void editor.redo();
    else if (letter === 'c' && !getSelection()?.toString()) editor.copy();
    else if (letter === 'v') editor.paste();
    else if (letter === 'd') editor.duplicate();
    else if (letter === 'a') editor.chooseAllLettering();
    else return;
  } else {
    const act = event.altKey ? undefined : keys[event.key];
    if (!act) return;
    act(event);
  }
  event.preventDefault();
}
