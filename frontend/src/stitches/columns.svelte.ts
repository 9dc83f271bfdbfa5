/** The columns of one letter, set by hand: asked for, pulled, and taken into the piece. */

import { api, asDocument, saying, type LetterColumns, type Sewing } from '../api/client';
import type { Place } from '../drawing/gestures.svelte';
import type { Editor } from '../piece/editor.svelte';

export interface OfLetter {
  lettering: string;
  place: number;
}

export interface Which {
  column: number;
  line: number;
  side: 0 | 1;
}

export class Columns {
  of = $state.raw<OfLetter>();
  seen = $state.raw<LetterColumns>();

  constructor(
    private readonly editor: Editor,
    private readonly change: (recipe: Sewing) => void,
  ) {}

  async show(of: OfLetter | undefined): Promise<void> {
    this.of = of;
    this.seen = undefined;
    await this.ask();
  }

  /** Ask again, since the piece has changed. */
  async ask(): Promise<void> {
    const { of } = this;
    if (!of) return;
    const answer = await api.POST('/api/stitches/columns', { body: { piece: asDocument(this.editor.piece), ...of } });
    if (of !== this.of) return;
    this.seen = answer.data as LetterColumns | undefined;
    if (answer.error) {
      this.of = undefined;
      this.editor.saying = saying(answer.error);
    }
  }

  async pull(which: Which, at: Place): Promise<void> {
    await this.#do({ does: 'pull', ...which, at });
  }

  async removeLine({ column, line }: Which): Promise<void> {
    await this.#do({ does: 'remove line', column, line });
  }

  async asFound(): Promise<void> {
    await this.#do({ does: 'as found' });
  }

  async #do(what: { does: 'pull' | 'remove line' | 'as found'; column?: number; line?: number; side?: 0 | 1; at?: Place }): Promise<void> {
    if (!this.of) return;
    const body = { piece: asDocument(this.editor.piece), ...this.of, column: 0, line: 0, side: 0 as const, at: [0, 0] as Place, ...what };
    const answer = await api.POST('/api/stitches/by-hand', { body });
    if (answer.data) this.change(answer.data as Sewing);
    else this.editor.saying = saying(answer.error);
    await this.ask();
  }
}
