/** Keeping: every finished change becomes a revision, and nothing is lost over a stale one. */

import { api, asDocument, saying, type OpenPiece, type Piece, type WrongField } from '../api/client';

export type Kept = 'kept' | 'keeping' | 'changed' | 'wrong' | 'offline' | 'conflict';

/** Both sides of a stale write: the revision that is there, and ours as the server kept it. */
export type Conflict = { current: number; kept: number | null };

/** Whose document is kept. */
export interface Owner {
  readonly piece: Piece;
  /** Whether something is being done by hand that has not been answered. */
  readonly acting: boolean;
  /** Show another document: an earlier one, or the other side of a conflict. */
  show: (piece: Piece) => void;
  /** Rows of the list that was sent lie apart now; whether they do so in the document too. */
  apart: (sent: Piece, names: NonNullable<Piece['names']>) => boolean;
  say: (words: string) => void;
  refuse: (problems: WrongField[]) => void;
}

const PAUSE_MS = 900;
const RETRY_MS = 2000;
const UNAVAILABLE = 503;

type Steps = Pick<OpenPiece, 'revision' | 'can_undo' | 'can_redo' | 'changed_at'>;

export class Keeping {
  state = $state<Kept>('kept');
  at = $state.raw<Date>(new Date());
  canUndo = $state(false);
  canRedo = $state(false);
  conflict = $state.raw<Conflict>();

  #revision = 0;
  #saved = '';
  #pause: ReturnType<typeof setTimeout> | undefined;
  #saving: Promise<void> = Promise.resolve();

  constructor(
    private readonly id: string,
    opened: OpenPiece,
    private readonly owner: Owner,
  ) {
    this.#opened(opened);
  }

  close(): void {
    clearTimeout(this.#pause);
  }

  /** The document has been changed. */
  changed(): void {
    if (this.state !== 'conflict') this.state = 'changed';
  }

  /** What the server has by now. */
  get revision(): number {
    return this.#revision;
  }

  /** Whether what was changed is still to be kept. */
  get waits(): boolean {
    return this.state === 'changed' || this.state === 'wrong';
  }

  /** Keep the change as it will be when the person pauses. */
  pauseThen(finish: () => void): void {
    clearTimeout(this.#pause);
    this.#pause = setTimeout(finish, PAUSE_MS);
  }

  /** Make the document as it stands a revision. */
  keep(): Promise<void> {
    clearTimeout(this.#pause);
    this.#saving = this.#saving.then(() => this.#save());
    return this.#saving;
  }

  /** One step back or on, once all that was asked for before it is done. */
  step(which: 'undo' | 'redo'): Promise<void> {
    this.#saving = this.#saving.then(() => this.#step(which));
    return this.#saving;
  }

  async #step(which: 'undo' | 'redo'): Promise<void> {
    if (this.state === 'conflict') return;
    const path = `/api/pieces/{piece_id}/${which}` as const;
    const { data, error } = await api
      .POST(path, { params: { path: { piece_id: this.id } }, body: { base: this.#revision } })
      .catch(offline);
    if (data) {
      this.#show(data as OpenPiece);
    } else if (error?.current) {
      this.conflict = { current: error.current, kept: null };
      this.state = 'conflict';
    } else if (!answers(error)) {
      this.owner.say(saying(error));
    }
  }

  /** After a stale write: what is there now, in place of ours; whether it could be had. */
  async takeTheirs(): Promise<boolean> {
    const { data, error } = await api
      .GET('/api/pieces/{piece_id}', { params: { path: { piece_id: this.id } } })
      .catch(offline);
    if (!data) {
      this.owner.say(saying(error));
      return false;
    }
    this.conflict = undefined;
    this.#show(data as OpenPiece);
    return true;
  }

  /** After a stale write: ours as a piece of its own; its id. */
  async copyOurs(): Promise<string | undefined> {
    const title = `${this.owner.piece.title} (other version)`.slice(0, 200);
    const piece = asDocument({ ...this.owner.piece, title });
    const { data, error } = await api.POST('/api/pieces', { body: { piece } }).catch(offline);
    if (!data) this.owner.say(saying(error));
    return data?.id;
  }

  async #save(): Promise<void> {
    if (this.state === 'conflict') return;
    const { owner } = this;
    const sent = owner.piece;
    const document = JSON.stringify(sent);
    if (document === this.#saved) {
      this.state = owner.acting ? 'changed' : 'kept';
      return;
    }
    this.state = 'keeping';
    const { data, error } = await api
      .PUT('/api/pieces/{piece_id}', {
        params: { path: { piece_id: this.id } },
        body: { base: this.#revision, piece: asDocument(sent) },
      })
      .catch(offline);
    if (data) {
      const names = data.names as Piece['names'];
      this.#saved = names && owner.apart(sent, names) ? JSON.stringify({ ...sent, names }) : document;
      this.#steps(data);
      const same = JSON.stringify(owner.piece) === this.#saved;
      this.state = same && !owner.acting ? 'kept' : 'changed';
    } else if (error?.status === 409) {
      this.conflict = { current: error.current ?? 0, kept: error.kept ?? null };
      this.state = 'conflict';
    } else if (error && answers(error)) {
      owner.refuse(error.errors ?? []);
      // What is wrong with a field is said where it is shown.
      if (!error.errors?.length) owner.say(error.detail);
      this.state = 'wrong';
    } else {
      this.state = 'offline';
      this.#pause = setTimeout(() => void this.keep(), RETRY_MS);
    }
  }

  #show(opened: OpenPiece): void {
    this.#opened(opened);
    this.state = 'kept';
    this.owner.show(opened.piece);
  }

  #opened(opened: OpenPiece): void {
    this.#saved = JSON.stringify(opened.piece);
    this.#steps(opened);
  }

  #steps(now: Steps): void {
    this.#revision = now.revision;
    this.canUndo = now.can_undo;
    this.canRedo = now.can_redo;
    this.at = new Date(now.changed_at);
  }
}

/** Whether the server could say anything of the piece; while its database is away it cannot. */
const answers = (error: { status: number } | undefined): boolean =>
  error !== undefined && error.status !== UNAVAILABLE;

/** A server that does not answer, in the shape of an answer. */
function offline(): { data: undefined; error: undefined } {
  return { data: undefined, error: undefined };
}
