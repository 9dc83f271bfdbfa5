/** The proof of an open piece, asked for again whenever the piece changes: the newest wins. */

import { api, asDocument, saying, type Piece, type ProofScene, type Use } from '../api/client';
import { wrongWords } from '../words/words';

const PAUSE_MS = 80;
/** A proof that has taken so long is given up when the piece changes. */
const OVERTAKEN_MS = 2000;

export class Proofing {
  scene = $state.raw<ProofScene>();
  wrong = $state('');
  busy = $state(false);
  /** Which way of using the sheet is shown, and which layer; nothing: as the sheet says. */
  use = $state<Use>();
  layer = $state('');

  #waiting: Piece | undefined;
  #asking = false;
  #since = 0;
  #stopping = new AbortController();
  #pause: ReturnType<typeof setTimeout> | undefined;

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
    const body = {
      piece: asDocument(piece),
      use: this.use ?? null,
      layer: this.layer || null,
    };
    const { signal } = this.#stopping;
    const answer = await api.POST('/api/proof', { body, signal }).catch(() => undefined);
    this.#asking = false;
    if (answer?.data) {
      this.scene = answer.data as unknown as ProofScene;
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
