/** Batches as the server keeps them: looked at again and again while any is being made. */

import { api, saying, type BatchRequest, type BatchSummary } from '../api/client';

const LOOK_MS = 1000;

export class Batches {
  all = $state.raw<BatchSummary[]>([]);
  wrong = $state('');

  #closed = false;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** Of one piece alone, or all. */
  constructor(readonly piece?: string) {
    void this.look();
  }

  close(): void {
    this.#closed = true;
    clearTimeout(this.#timer);
  }

  async look(): Promise<void> {
    clearTimeout(this.#timer);
    const params = { query: this.piece ? { piece: this.piece } : {} };
    const answer = await api.GET('/api/batches', { params }).catch(() => undefined);
    if (this.#closed) return;
    // While the server cannot be reached, what is shown stays, and it is asked again.
    if (answer?.data) this.all = answer.data;
    if (!answer?.data || this.all.some((one) => one.state === 'running')) {
      this.#timer = setTimeout(() => void this.look(), LOOK_MS);
    }
  }

  begin(piece: string, body: BatchRequest): Promise<void> {
    return this.#done(api.POST('/api/pieces/{piece_id}/batches', { params: { path: { piece_id: piece } }, body }));
  }

  cancel(batch: BatchSummary): Promise<void> {
    return this.#done(api.POST('/api/batches/{batch_id}/cancel', { params: { path: { batch_id: batch.id } } }));
  }

  forget(batch: BatchSummary): Promise<void> {
    return this.#done(api.DELETE('/api/batches/{batch_id}', { params: { path: { batch_id: batch.id } } }));
  }

  async #done(work: Promise<{ error?: unknown; response: Response }>): Promise<void> {
    const answer = await work.catch(() => undefined);
    this.wrong = answer?.response.ok ? '' : saying(answer?.error);
    await this.look();
  }
}
