/** The mesh of a part, asked for as the piece changes: coarse while something is pulled, then exact. */

import { api, asDocument, type Piece } from '../api/client';

export class Mesh {
  data = $state.raw<ArrayBuffer>();
  busy = $state(false);

  #waiting: { piece: Piece; coarse: boolean } | undefined;
  #asking = false;
  #closed = false;

  ask(piece: Piece, coarse: boolean): void {
    this.#waiting = { piece, coarse };
    this.busy = true;
    if (!this.#asking) void this.#send();
  }

  close(): void {
    this.#closed = true;
    this.#waiting = undefined;
  }

  async #send(): Promise<void> {
    this.#asking = true;
    while (this.#waiting && !this.#closed) {
      const { piece, coarse } = this.#waiting;
      this.#waiting = undefined;
      const answer = await api
        .POST('/api/solid/mesh', { params: { query: { coarse } }, body: { piece: asDocument(piece) }, parseAs: 'arrayBuffer' })
        .catch(() => undefined);
      // What is wrong is said beside the figures; the last part stays in sight.
      if (answer?.data) this.data = answer.data;
    }
    this.#asking = false;
    this.busy = false;
  }
}
