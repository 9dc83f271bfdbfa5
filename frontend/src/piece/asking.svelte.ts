/** What is made of an open piece, asked for again whenever the piece changes: the newest wins. */

import { saying, type Piece } from '../api/client';
import { wrongWords } from '../words/words';

const PAUSE_MS = 80;
/** An answer that has taken so long is given up when the piece changes. */
const OVERTAKEN_MS = 2000;

/** What comes of asking: the answer, or what is wrong. */
export interface Answered {
  data?: unknown;
  error?: { errors?: { field: string; reason: string }[] | undefined; detail?: string } | undefined;
}

export class Asking<Scene> {
  scene = $state.raw<Scene>();
  wrong = $state('');
  busy = $state(false);

  #waiting: Piece | undefined;
  #asking = false;
  #since = 0;
  #stopping = new AbortController();
  #pause: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly post: (piece: Piece, signal: AbortSignal) => Promise<Answered>) {}

  ask(piece: Piece): void {
    this.#waiting = piece;
    this.busy = true;
    clearTimeout(this.#pause);
    this.#pause = setTimeout(() => void this.#send(), PAUSE_MS);
  }

  close(): void {
    clearTimeout(this.#pause);
    this.#waiting = undefined;
    this.#stopping.abort();
  }

  async #send(): Promise<void> {
    if (!this.#waiting) return;
    if (this.#asking) {
      // What takes long is not waited for once the piece is another one.
      if (Date.now() - this.#since > OVERTAKEN_MS) this.#stopping.abort();
      return;
    }
    const piece = this.#waiting;
    this.#waiting = undefined;
    this.#asking = true;
    this.#since = Date.now();
    this.#stopping = new AbortController();
    const { signal } = this.#stopping;
    const answer = await this.post(piece, signal).catch(() => undefined);
    this.#asking = false;
    if (answer?.data) {
      this.scene = answer.data as Scene;
      this.wrong = '';
    } else if (!signal.aborted) {
      const fields = answer?.error?.errors ?? [];
      const said = fields.map((field) => wrongWords(field, piece)).join('; ');
      this.wrong = said || saying(answer?.error);
    }
    if (this.#waiting) void this.#send();
    else this.busy = false;
  }
}
