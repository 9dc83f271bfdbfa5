/** What a press on the piece takes hold of: what a tool draws, a guide, a lettering, its letters. */

import type { Act } from '../api/client';
import type { Editor } from '../piece/editor.svelte';
import type { Entry } from '../piece/selection.svelte';
import type { Snapshot } from '../piece/snapshot';
import type { Hold, Place } from './gestures.svelte';
import type { Sketch } from './sketch.svelte';
import type { Viewport } from './viewport.svelte';

export class Holds {
  constructor(
    private readonly editor: Editor,
    private readonly view: Viewport,
    private readonly sketch: () => Sketch,
  ) {}

  take(event: PointerEvent, at: Place): Hold | undefined {
    const { selection } = this.editor;
    if (selection.tool !== 'choose') return this.#tool(at);
    const target = event.target as Element;
    const entry = this.#entry(target);
    if (entry && (event.ctrlKey || event.metaKey)) {
      selection.chooseMore(entry);
      return {};
    }
    if (entry && selection.several && selection.isChosen(entry)) return this.#several(entry, at);
    if (entry?.kind === 'guide') return this.#guide(entry.id, at);
    if (entry) return this.#lettering(entry.id, target, at, event.shiftKey);
    return undefined;
  }

  /** The guide or lettering under the pointer. */
  #entry(target: Element): Entry | undefined {
    for (const kind of ['guide', 'lettering'] as const) {
      const id = target.closest(`[data-${kind}]`)?.getAttribute(`data-${kind}`);
      if (id) return { kind, id };
    }
    return undefined;
  }

  /** One of several is pulled with all of its kind; a press without a pull chooses it alone. */
  #several(entry: Entry, at: Place): Hold {
    const { editor } = this;
    const alone = () => editor.selection.choose(entry);
    if (entry.kind === 'guide') {
      return this.#pull(at, (start, end) => editor.pullGuides('whole', start, end), alone);
    }
    const letterings = editor.letterings.map((one) => one.id);
    return this.#pull(
      at,
      (start, end) => letterings.map((lettering) => ({ act: 'slide-after', lettering, start, end })),
      alone,
    );
  }

  /** What a press does while a tool is taken up. */
  #tool(at: Place): Hold {
    const { selection } = this.editor;
    const place = this.view.toPiece(...at);
    if (selection.tool === 'measure') {
      selection.mark(place);
      return {};
    }
    const sketch = this.sketch();
    if (selection.tool === 'points') {
      sketch.place(place, this.view.scale);
      return {};
    }
    sketch.draw(place, this.view.scale);
    return {
      move: (to) => sketch.draw(this.view.toPiece(...to), this.view.scale),
      end: () => sketch.finishFreehand(),
    };
  }

  /** A guide is chosen by the first press, and pulled by the next. */
  #guide(guide: string, at: Place): Hold | undefined {
    const { selection } = this.editor;
    if (selection.chosen?.kind !== 'guide' || selection.chosen.id !== guide) {
      selection.choose({ kind: 'guide', id: guide });
      return undefined;
    }
    return this.#pull(at, (start, end) => ({ act: 'pull', guide, grip: 'whole', start, end }));
  }

  /** A lettering slides; letters of it that are chosen are pulled by themselves. */
  #lettering(lettering: string, target: Element, at: Place, more: boolean): Hold {
    const { selection } = this.editor;
    const mine = this.editor.lettering?.id === lettering;
    if (!mine) selection.choose({ kind: 'lettering', id: lettering });
    const letter = mine ? this.#letterAt(lettering, target) : undefined;
    const pressed = () => {
      // A press without a pull chooses a letter of the lettering that was chosen already.
      if (!letter) selection.letters = [];
      else if (letter.label !== undefined) selection.chooseLabel(letter.label);
      else if (letter.place >= 0) selection.chooseLetter(letter.place, more);
    };
    if (letter && selection.letters.includes(letter.place)) {
      return this.#pull(
        at,
        (start, end) => ({ act: 'pull-letters', lettering, letters: selection.letters, start, end }),
        pressed,
      );
    }
    return this.#pull(at, (start, end) => ({ act: 'slide-after', lettering, start, end }), pressed);
  }

  #pull(at: Place, does: (start: Place, end: Place) => Act | Act[], pressed?: () => void): Hold {
    return pull(this.editor, this.view, at, does, pressed);
  }

  /** The letter under the pointer, by its line and its place on it. */
  #letterAt(lettering: string, target: Element): { place: number; label: number | undefined } | undefined {
    // A label of a dial is taken by its box.
    const box = target.getAttribute('data-label');
    if (box !== null) return { place: -1, label: Number(box) };
    const index = Number(target.getAttribute('data-letter') ?? -1);
    const line = Number(target.closest('[data-line]')?.getAttribute('data-line'));
    const { scene } = this.editor.live;
    const found = scene?.letterings.find((one) => one.id === lettering && one.line === line);
    if (index < 0 || !found) return undefined;
    return { place: found.places[index] ?? -1, label: found.labels[index] };
  }
}

/** A pull goes from how the piece is when it begins; without one the press has chosen something. */
export function pull(
  editor: Editor,
  view: Viewport,
  at: Place,
  does: (start: Place, end: Place) => Act | Act[],
  pressed?: () => void,
): Required<Hold> {
  const start = view.toPiece(...at);
  let base: Snapshot | undefined;
  const act = (to: Place, last: boolean) => editor.act(does(start, view.toPiece(...to)), base, last);
  return {
    move: (to) => {
      // A typed figure may have come since the press.
      base ??= editor.base;
      act(to, false);
    },
    end: (to) => (base ? act(to, true) : pressed?.()),
  };
}
