/** The proof of an open piece. */

import { api, asDocument, type ProofScene, type Use } from '../api/client';
import { Asking } from '../piece/asking.svelte';

export class Proofing extends Asking<ProofScene> {
  /** Which way of using the sheet is shown, and which layer; nothing: as the sheet says. */
  use = $state<Use>();
  layer = $state('');

  constructor() {
    super((piece, signal) => {
      const body = { piece: asDocument(piece), use: this.use ?? null, layer: this.layer || null };
      return api.POST('/api/proof', { body, signal });
    });
  }
}
