/**
 * One open piece: its document, what the core makes of it, and where it is kept.
 *
 * Every change goes to the live channel at once; a finished change becomes a
 * revision. What is shown is what the core answered, never what the page worked out.
 */

import { SvelteMap } from 'svelte/reactivity';
import {
  api,
  asDocument,
  saying,
  type Guide,
  type Lettering,
  type LiveAnswer,
  type OpenPiece,
  type Piece,
  type Scene,
  type Slide,
  type WrongField,
} from '../api/client';
import { Channel } from './channel';
import { remember, remembered } from './remembered';

export type Kept = 'kept' | 'keeping' | 'changed' | 'wrong' | 'offline' | 'conflict';
export type Chosen =
  | { kind: 'lettering'; id: string }
  | { kind: 'guide'; id: string }
  | { kind: 'blank' };

/** Both sides of a stale write: the revision that is there, and ours as the server kept it. */
export type Conflict = { current: number; kept: number | null };

const PAUSE_MS = 900;
const RETRY_MS = 2000;

export class Editor {
  readonly id: string;
  piece = $state.raw<Piece>()!;
  scene = $state.raw<Scene>();
  shapes = new SvelteMap<string, string>();
  chosen = $state.raw<Chosen>();
  kept = $state<Kept>('kept');
  keptAt = $state.raw<Date>(new Date());
  connected = $state(false);
  problems = $state.raw<WrongField[]>([]);
  canUndo = $state(false);
  canRedo = $state(false);
  conflict = $state.raw<Conflict>();
  saying = $state('');

  #revision = 0;
  #saved = '';
  #channel: Channel;
  #pause: ReturnType<typeof setTimeout> | undefined;
  #saving: Promise<void> = Promise.resolve();
  #unfinished = false;

  constructor(opened: OpenPiece) {
    this.id = opened.id;
    this.#take(opened);
    const first = opened.piece.letterings[0];
    if (first) this.chosen = { kind: 'lettering', id: first.id };
    this.#channel = new Channel(
      (answer) => this.#answered(answer),
      (connected) => {
        this.connected = connected;
        if (connected && this.kept === 'offline') void this.finish();
      },
    );
    this.#ask();
  }

  close(): void {
    clearTimeout(this.#pause);
    this.#channel.close();
  }

  // ------------------------------------------------------------------ choosing

  choose(chosen: Chosen | undefined): void {
    this.chosen = chosen;
    this.#ask();
  }

  get lettering(): Lettering | undefined {
    const chosen = this.chosen;
    if (chosen?.kind !== 'lettering') return undefined;
    return this.piece.letterings.find((one) => one.id === chosen.id);
  }

  /** The chosen guide, or the one that the chosen lettering stands on. */
  get guide(): Guide | undefined {
    const id = this.chosen?.kind === 'guide' ? this.chosen.id : this.lettering?.guide;
    return this.piece.guides.find((one) => one.id === id);
  }

  /** Escape: from a lettering to its guide, from a guide to nothing. */
  stepBack(): void {
    const lettering = this.lettering;
    this.choose(lettering ? { kind: 'guide', id: lettering.guide } : undefined);
  }

  /** What is wrong with a field of a lettering or guide, in words. */
  problem(list: 'letterings' | 'guides', id: string, field: string): string {
    const index = this.piece[list].findIndex((one) => one.id === id);
    return this.problems.find((one) => one.field === `${list}[${index}].${field}`)?.reason ?? '';
  }

  // ------------------------------------------------------------------ changing

  /** Change the document now; call `finish` when the change is done, or `pauseThenFinish`. */
  change(changed: Partial<Piece>): void {
    this.piece = { ...this.piece, ...changed };
    if (this.kept !== 'conflict') this.kept = 'changed';
    this.#unfinished = true;
    this.#ask();
  }

  changeLettering(id: string, changed: Partial<Lettering>): void {
    this.change({
      letterings: this.piece.letterings.map((one) =>
        one.id === id ? { ...one, ...changed } : one,
      ),
    });
    const now = this.piece.letterings.find((one) => one.id === id);
    if (now) remember(now);
  }

  changeGuide(id: string, changed: Partial<Guide>): void {
    this.change({
      guides: this.piece.guides.map((one) =>
        one.id === id ? ({ ...one, ...changed } as Guide) : one,
      ),
    });
  }

  /**
   * Slide a lettering; the core says where it comes to stand. Every call is absolute:
   * from where it stood in `base`. The `last` one is kept once it has been answered.
   */
  slide(slide: Slide, base: Piece, last = false): void {
    if (this.kept !== 'conflict') this.kept = 'changed';
    this.#unfinished = !last;
    this.#ask(slide, base);
  }

  addGuide(): void {
    const id = unused('ring', this.piece.guides);
    const size = this.piece.blank?.diameter ?? 200;
    const guide: Guide = {
      id,
      kind: 'circle',
      centre: [0, 0],
      diameter: Number((size * 0.7).toPrecision(3)),
      start: 180,
      turn: 'clockwise',
    };
    this.change({ guides: [...this.piece.guides, guide] });
    this.choose({ kind: 'guide', id });
    void this.finish();
  }

  addLettering(guide: string): void {
    const id = unused('lettering', this.piece.letterings);
    const others = this.piece.letterings.filter((one) => one.guide === guide).length;
    const lettering: Lettering = {
      id,
      guide,
      text: 'Your words',
      reading: 'along',
      standoff: 0,
      // Beside what stands there already: top, bottom, then the sides.
      at: [0.25, 0.75, 0.5, 0][others % 4] ?? 0,
      at_in: 'share',
      spacing: 'font',
      shape: 'rigid',
      ...remembered(),
    };
    this.change({ letterings: [...this.piece.letterings, lettering] });
    this.choose({ kind: 'lettering', id });
    void this.finish();
  }

  remove(chosen: Chosen): void {
    if (chosen.kind === 'lettering') {
      this.change({ letterings: this.piece.letterings.filter((one) => one.id !== chosen.id) });
    } else if (chosen.kind === 'guide') {
      this.change({ guides: this.piece.guides.filter((one) => one.id !== chosen.id) });
    }
    this.choose(undefined);
    void this.finish();
  }

  // ------------------------------------------------------------------- keeping

  /** Keep the change as it will be when the person pauses. */
  pauseThenFinish(): void {
    clearTimeout(this.#pause);
    this.#pause = setTimeout(() => void this.finish(), PAUSE_MS);
  }

  /** Make the document as it stands a revision. */
  finish(): Promise<void> {
    clearTimeout(this.#pause);
    this.#unfinished = false;
    this.#saving = this.#saving.then(() => this.#save());
    return this.#saving;
  }

  undo = (): Promise<void> => this.#step('undo');
  redo = (): Promise<void> => this.#step('redo');

  /** After a stale write: ours on top of theirs, or theirs, or ours as a piece of its own. */
  async settle(how: 'ours' | 'theirs'): Promise<void> {
    const mine = this.piece;
    const current = await this.#reopen();
    if (!current) return;
    this.conflict = undefined;
    this.kept = 'kept';
    this.#take(current);
    if (how === 'ours') {
      this.change(mine);
      await this.finish();
    }
    this.#ask();
  }

  async settleWithCopy(): Promise<string | undefined> {
    const title = `${this.piece.title} (other version)`.slice(0, 200);
    const piece = asDocument({ ...this.piece, title });
    const { data, error } = await api.POST('/api/pieces', { body: { piece } }).catch(offline);
    if (!data) this.saying = saying(error);
    return data?.id;
  }

  async #save(): Promise<void> {
    if (this.kept === 'conflict') return;
    const document = JSON.stringify(this.piece);
    if (document === this.#saved) {
      this.kept = 'kept';
      return;
    }
    this.kept = 'keeping';
    const { data, error } = await api
      .PUT('/api/pieces/{piece_id}', {
        params: { path: { piece_id: this.id } },
        body: { base: this.#revision, piece: asDocument(this.piece) },
      })
      .catch(offline);
    if (data) {
      this.#revision = data.revision;
      this.#saved = document;
      this.#steps(data);
      this.kept = JSON.stringify(this.piece) === document ? 'kept' : 'changed';
    } else if (error?.status === 409) {
      this.conflict = { current: error.current ?? 0, kept: error.kept ?? null };
      this.kept = 'conflict';
    } else if (error) {
      this.problems = error.errors ?? [];
      this.saying = error.detail;
      this.kept = 'wrong';
    } else {
      this.kept = 'offline';
      this.#pause = setTimeout(() => void this.finish(), RETRY_MS);
    }
  }

  async #step(which: 'undo' | 'redo'): Promise<void> {
    if (this.#unfinished) await this.finish();
    await this.#saving;
    if (this.kept === 'conflict') return;
    const { data, error } = await api
      .POST(which === 'undo' ? '/api/pieces/{piece_id}/undo' : '/api/pieces/{piece_id}/redo', {
        params: { path: { piece_id: this.id } },
        body: { base: this.#revision },
      })
      .catch(offline);
    if (data) {
      this.#take(data as OpenPiece);
      this.kept = 'kept';
      this.#ask();
    } else if (error?.current) {
      this.conflict = { current: error.current, kept: null };
      this.kept = 'conflict';
    } else if (!error) {
      this.saying = saying(undefined);
    }
  }

  async #reopen(): Promise<OpenPiece | undefined> {
    const { data, error } = await api
      .GET('/api/pieces/{piece_id}', { params: { path: { piece_id: this.id } } })
      .catch(offline);
    if (!data) this.saying = saying(error);
    return data as OpenPiece | undefined;
  }

  #take(opened: OpenPiece): void {
    this.piece = opened.piece;
    this.#revision = opened.revision;
    this.#saved = JSON.stringify(opened.piece);
    this.#steps(opened);
  }

  #steps(opened: Pick<OpenPiece, 'can_undo' | 'can_redo' | 'changed_at'>): void {
    this.canUndo = opened.can_undo;
    this.canRedo = opened.can_redo;
    this.keptAt = new Date(opened.changed_at);
  }

  // ---------------------------------------------------------------------- live

  #ask(slide?: Slide, base?: Piece): void {
    const chosen = this.chosen;
    this.#channel?.send({
      piece: asDocument(base ?? this.piece),
      chosen: chosen && chosen.kind !== 'blank' ? chosen.id : null,
      ...(slide ? { slide } : {}),
    });
  }

  #answered(answer: LiveAnswer): void {
    for (const [name, data] of Object.entries(answer.shapes ?? {})) this.shapes.set(name, data);
    this.problems = answer.problems ?? [];
    const slid = answer.slid;
    if (slid) {
      this.piece = {
        ...this.piece,
        letterings: this.piece.letterings.map((one) => (one.id === slid.id ? slid : one)),
      };
    }
    if (answer.scene) this.scene = answer.scene;
    const settled = !this.#unfinished && this.#channel.idle && !this.problems.length;
    if (settled && (this.kept === 'changed' || this.kept === 'wrong')) void this.finish();
  }
}

/** A server that does not answer, in the shape of an answer. */
function offline(): { data: undefined; error: undefined } {
  return { data: undefined, error: undefined };
}

function unused(stem: string, taken: { id: string }[]): string {
  const ids = new Set(taken.map((one) => one.id));
  if (!ids.has(stem)) return stem;
  let number = 2;
  while (ids.has(`${stem}-${number}`)) number += 1;
  return `${stem}-${number}`;
}
