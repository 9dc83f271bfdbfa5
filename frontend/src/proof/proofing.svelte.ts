/** The proof of an open piece, asked for again whenever the piece changes: the newest wins. */

import { api, asDocument, saying, type Piece, type ProofScene, type Use } from '../api/client';

const PAUSE_MS = 80;

export class Proofing {
  scene = $state.raw<ProofScene>();
  wrong = $state('');
  busy = $state(false);
  /** Which way of using the sheet is shown, and which layer; nothing: as the sheet says. */
  use = $state<Use>();
  layer = $state('');

  #waiting: Piece | undefined;
  #asking = false;
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
  }

  async #send(): Promise<void> {
    if (this.#asking || !this.#waiting) return;
    const piece = this.#waiting;
    this.#waiting = undefined;
    this.#asking = true;
    const body = {
      piece: asDocument(piece),
      use: this.use ?? null,
      layer: this.layer || null,
    };
    const answer = await api.POST('/api/proof', { body }).catch(() => undefined);
    this.#asking = false;
    if (answer?.data) {
      this.scene = answer.data as unknown as ProofScene;
      this.wrong = '';
    } else {
      this.wrong = saying(answer?.error);
    }
    if (this.#waiting) void this.#send();
    else this.busy = false;
  }
}
