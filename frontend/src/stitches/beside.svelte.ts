/** What is laid beside the thread to compare: a stitch file, or what the stitcher made of it. */

import { api, asDocument, saying, type SewnOut, type StitchFileShown } from '../api/client';
import type { Editor } from '../piece/editor.svelte';
import { settled } from '../piece/settled';

export interface Line {
  colour: string;
  points: readonly number[];
}

const KINDS = ['dst', 'exp', 'pes', 'jef', 'vp3'] as const;
export const ENDINGS = KINDS.map((kind) => `.${kind}`).join(',');

export class Beside {
  /** The file that is looked at, and its name. */
  file = $state.raw<StitchFileShown & { name: string }>();
  sewn = $state.raw<SewnOut>();
  busy = $state(false);

  constructor(private readonly editor: Editor) {}

  get lines(): readonly Line[] {
    return this.sewn?.lines ?? [];
  }

  /** Read a stitch file; nothing of it is kept. */
  async look(chosen: File): Promise<void> {
    const kind = KINDS.find((one) => chosen.name.toLowerCase().endsWith(`.${one}`));
    if (!kind) {
      this.editor.saying = `A stitch file ends in ${ENDINGS.replaceAll(',', ', ')}.`;
      return;
    }
    await this.#asked(async () => {
      const answer = await api.POST('/api/thread/read', {
        params: { query: { format: kind } },
        body: chosen as unknown as string,
        bodySerializer: (body) => body,
        headers: { 'Content-Type': 'application/octet-stream' },
      });
      if (answer.data) this.file = { ...(answer.data as StitchFileShown), name: chosen.name };
      return answer.error;
    });
  }

  /** Sew the piece, or from 1 one hooping of it, on the simulated stitcher, whose thread may break on the way. */
  async sew(breaksAt: number | null, hooping: number): Promise<void> {
    if (!(await settled(this.editor))) return;
    await this.#asked(async () => {
      const body = { piece: asDocument(this.editor.piece), format: 'dst' as const, hooping, breaks_at: breaksAt };
      const answer = await api.POST('/api/thread/sewn', { body });
      if (answer.data) this.sewn = answer.data;
      return answer.error;
    });
  }

  async #asked(ask: () => Promise<unknown>): Promise<void> {
    this.busy = true;
    try {
      const wrong = await ask();
      if (wrong) this.editor.saying = saying(wrong);
    } catch {
      this.editor.saying = saying(undefined);
    } finally {
      this.busy = false;
    }
  }
}
