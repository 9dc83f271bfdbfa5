/**
 * One open piece: its document, what the core makes of it, and where it is kept.
 *
 * Every change goes to the live channel at once; a finished change becomes a
 * revision. What is shown is what the core answered, never what the page worked out.
 */

import { SvelteMap } from 'svelte/reactivity';
import {
  type Act,
  api,
  asDocument,
  saying,
  type Guide,
  type Lettering,
  type LiveAnswer,
  type Moved,
  type OpenPiece,
  type Piece,
  type Remedy,
  type Scene,
  type WrongField,
} from '../api/client';
import { Channel, type Unnumbered } from './channel';
import type { Recipe } from './guides';
import { remember, remembered } from './remembered';

export type Kept = 'kept' | 'keeping' | 'changed' | 'wrong' | 'offline' | 'conflict';
export type Chosen =
  | { kind: 'lettering'; id: string }
  | { kind: 'guide'; id: string }
  | { kind: 'blank' };

/** What a pointer on the drawing does: choose and pull, place points, draw, or measure. */
export type Tool = 'choose' | 'points' | 'freehand' | 'measure';

/** Both sides of a stale write: the revision that is there, and ours as the server kept it. */
export type Conflict = { current: number; kept: number | null };

const UNMOVED = { along: 0, across: 0, turn: 0, size: 1, gap: 0 };
const PAUSE_MS = 900;
const RETRY_MS = 2000;
const SHORT_MS = 15;
const LONGEST_WAIT_MS = 3000;

export class Editor {
  readonly id: string;
  piece = $state.raw<Piece>()!;
  scene = $state.raw<Scene>();
  /** The last whole scene, for what stands round the drawing: `scene` moves on before it. */
  around = $state.raw<Scene>();
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
  tool = $state<Tool>('choose');
  /** Whether something is being pulled about right now. */
  holding = $state(false);
  #node = $state<number>();
  /** The chosen letters of the chosen lettering, by their places in its words. */
  letters = $state.raw<number[]>([]);
  /** While a key is held: the chosen lettering as its face spaces it, for comparing. */
  #before = $state(false);
  /** Which page of a lettering's particulars is shown. */
  page = $state<'words' | 'letters' | 'spread' | 'fit'>('words');
  /** The chosen label of a dial. */
  label = $state.raw<number>();
  /** Where the chosen guide is measured: stations, or points of the drawing. */
  marks = $state.raw<(number | [number, number])[]>([]);

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
      (answer, request) => this.#answered(answer, request),
      (moved) => this.#moved(moved),
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
    this.#node = undefined;
    this.letters = [];
    this.label = undefined;
    this.marks = [];
    this.#ask();
  }

  get lettering(): Lettering | undefined {
    const chosen = this.chosen;
    if (chosen?.kind !== 'lettering') return undefined;
    return this.piece.letterings.find((one) => one.id === chosen.id);
  }

  /** The piece with what its fits have come to, to be shown. */
  get solved(): Piece {
    const fits = (this.around?.letterings ?? []).filter((one) => one.line === 0 && one.fit);
    if (!fits.length) return this.piece;
    // Of two letterings that size one guide the first one does.
    const sizing = fits.filter((one) => one.fit?.kind === 'guide');
    const guides = this.piece.guides.map((guide) =>
      Object.assign({}, guide, sizing.find((one) => one.guide === guide.id)?.fit?.guide_figures),
    );
    const letterings = this.piece.letterings.map((lettering) =>
      Object.assign({}, lettering, fits.find((one) => one.id === lettering.id)?.fit?.figures),
    );
    return { ...this.piece, guides, letterings };
  }

  /** The chosen guide, or the one that the chosen lettering stands on. */
  get guide(): Guide | undefined {
    const id = this.chosen?.kind === 'guide' ? this.chosen.id : this.lettering?.guide;
    return this.piece.guides.find((one) => one.id === id);
  }

  /** The chosen point of the chosen guide; its handles come with the next answer. */
  get node(): number | undefined {
    return this.#node;
  }

  set node(index: number | undefined) {
    if (index === this.#node) return;
    this.#node = index;
    this.#ask();
  }

  /** A place at which the guide is measured: the last two count. */
  mark(where: number | [number, number]): void {
    this.marks = [...this.marks.slice(-1), where];
    this.#ask();
  }

  take(tool: Tool): void {
    this.tool = tool;
    if (tool !== 'measure' && this.marks.length) {
      this.marks = [];
      this.#ask();
    }
  }

  /** Choose a letter of the chosen lettering, or with `more` take it up or leave it out. */
  chooseLetter(place: number, more = false): void {
    this.label = undefined;
    if (!more) this.letters = [place];
    else if (this.letters.includes(place)) this.letters = this.letters.filter((one) => one !== place);
    else this.letters = [...this.letters, place].sort((a, b) => a - b);
  }

  chooseLabel(label: number): void {
    this.letters = [];
    this.label = label;
  }

  /** Escape: out of a tool, from a point to its guide, from a lettering to its guide, to nothing. */
  stepBack(): void {
    if (this.tool !== 'choose') return this.take('choose');
    if (this.node !== undefined) {
      this.node = undefined;
      return;
    }
    if (this.letters.length || this.label !== undefined) {
      this.letters = [];
      this.label = undefined;
      return;
    }
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
    this.#apply((piece) => ({ ...piece, ...changed }));
  }

  changeLettering(id: string, changed: Partial<Lettering>): void {
    this.#apply((piece) => ({
      ...piece,
      letterings: piece.letterings.map((one) =>
        one.id === id ? { ...one, ...this.#unsolved(one, changed), ...changed } : one,
      ),
    }));
    const now = this.piece.letterings.find((one) => one.id === id);
    if (now) remember(now);
  }

  changeGuide(id: string, changed: Partial<Guide>): void {
    this.#apply((piece) => ({
      ...piece,
      letterings: piece.letterings.map((one) =>
        one.guide === id && this.#solves(one, 'guide_figures', changed) ? { ...one, fit: null } : one,
      ),
      guides: piece.guides.map((one) => (one.id === id ? ({ ...one, ...changed } as Guide) : one)),
    }));
  }

  /** A figure that is typed is no longer solved; what else was solved stays as it came to. */
  #unsolved(lettering: Lettering, changed: Partial<Lettering>): Partial<Lettering> {
    if (!this.#solves(lettering, 'figures', changed)) return {};
    const { times: _, ...figures } = this.fitOf(lettering)?.figures ?? {};
    return { ...figures, fit: null };
  }

  #solves(lettering: Lettering, of: 'figures' | 'guide_figures', changed: object): boolean {
    const solved = this.fitOf(lettering)?.[of] ?? {};
    return Boolean(lettering.fit) && Object.keys(solved).some((field) => field in changed);
  }

  /** What a lettering's fit has come to. */
  fitOf(lettering: Lettering) {
    return this.around?.letterings.find((one) => one.id === lettering.id)?.fit ?? undefined;
  }

  /** A change of the document, also of what is being pulled: a figure may come meanwhile. */
  #apply(change: (piece: Piece) => Piece): void {
    this.piece = change(this.piece);
    if (this.#pending) this.#pending.base = change(this.#pending.base);
    if (this.holding) this.#meanwhile.push(change);
    if (this.kept !== 'conflict') this.kept = 'changed';
    this.#unfinished = true;
    this.#ask();
  }

  /** Changes made since something was taken hold of: its base is from before them. */
  #meanwhile: ((piece: Piece) => Piece)[] = [];

  /** What is being done by hand, until the core has said what comes of it. */
  #pending: { act: Act; base: Piece } | undefined;
  /** What was asked for meanwhile; each starts from what the one before has made. */
  #queued: Act[] = [];

  /**
   * Do something by hand; the core says what comes of it. A pull is absolute: from how
   * the piece was in `base`, and the newest one wins. What has no base of its own, as a
   * press of a key, starts from the piece as it is then, and none is left out. The `last`
   * one is kept once it has been answered.
   */
  act(act: Act, base?: Piece, last = true): void {
    if (!base && this.#pending) {
      this.#queued.push(act);
      return;
    }
    if (!this.holding) this.#meanwhile = [];
    this.holding = !last;
    if (this.kept !== 'conflict') this.kept = 'changed';
    this.#unfinished = !last;
    const from = base ? this.#meanwhile.reduce((piece, change) => change(piece), base) : this.piece;
    if (last) this.#meanwhile = [];
    this.#pending = { act, base: from };
    this.#ask();
  }

  /** Leave off what is being done by hand. */
  leaveOff(): void {
    this.#pending = undefined;
    this.#queued = [];
    this.#meanwhile = [];
  }

  /** An id for a new guide, like `stem`. */
  newGuideId(stem: string): string {
    return unused(stem, this.piece.guides);
  }

  /** A new guide from a recipe; it is chosen once the core has made it. */
  addGuide(recipe: Recipe & { id: string }): void {
    this.awaitGuide(recipe.id);
    this.act({ act: 'add-guide', recipe: recipe as unknown as Guide });
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
      space_all: false,
      spread_joined: false,
      overlap: 0.5,
      with_guide: false,
      mirrored: false,
      lines: [],
      hand: [],
      hand_words: '',
      ...remembered(),
    };
    this.change({ letterings: [...this.piece.letterings, lettering] });
    this.choose({ kind: 'lettering', id });
    void this.finish();
  }

  /** Move, turn, size the chosen letters, or open the gap after them, on top of what is there. */
  nudge(by: Partial<typeof UNMOVED>, base?: Piece, last = true): void {
    const lettering = this.lettering;
    if (!lettering || !this.letters.length) return;
    const { letters } = this;
    this.act({ act: 'nudge', lettering: lettering.id, letters, ...UNMOVED, ...by }, base, last);
  }

  get before(): boolean {
    return this.#before;
  }

  set before(shown: boolean) {
    if (shown === this.#before) return;
    this.#before = shown;
    this.#ask();
  }

  /** Even gaps, then the same gap for all, then the face's own. */
  nextSpacing(): void {
    const lettering = this.lettering;
    if (!lettering) return;
    const next = { font: 'even', even: 'same', same: 'font', overlap: 'font' } as const;
    this.changeLettering(lettering.id, { spacing: next[lettering.spacing ?? 'font'] });
    void this.finish();
  }

  /** The piece as it is shown: before it was spaced, while that is asked for. */
  #shown(): Piece {
    const id = this.#before ? this.lettering?.id : undefined;
    if (!id) return this.piece;
    const letterings = this.piece.letterings.map((one) =>
      one.id === id ? { ...one, spacing: 'font' as const } : one,
    );
    return { ...this.piece, letterings };
  }

  /** Do what mends a finding. */
  mend(remedy: Remedy): void {
    if (remedy.of === 'lettering') this.changeLettering(remedy.owner, remedy.changes as Partial<Lettering>);
    else if (remedy.of === 'guide') this.changeGuide(remedy.owner, remedy.changes as Partial<Guide>);
    else this.change(remedy.changes as Partial<Piece>);
    void this.finish();
  }

  remove(chosen: Chosen): void {
    if (chosen.kind === 'lettering') this.act({ act: 'remove-lettering', lettering: chosen.id });
    else if (chosen.kind === 'guide') this.act({ act: 'remove-guide', guide: chosen.id });
    this.chosen = undefined;
    this.#node = undefined;
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
    if (!this.#pending) this.holding = false;
    this.#unfinished = this.holding;
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
      this.kept = this.#pending ? 'changed' : 'kept';
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
      const same = JSON.stringify(this.piece) === document;
      this.kept = same && !this.#pending ? 'kept' : 'changed';
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
    await this.#actsDone();
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

  #ask(): void {
    const chosen = this.chosen;
    const pending = this.#pending;
    this.#channel?.send({
      piece: asDocument(pending?.base ?? this.#shown()),
      chosen: chosen && chosen.kind !== 'blank' ? chosen.id : null,
      marks: this.marks,
      node: this.#node ?? null,
      hold: this.holding,
      ...(pending ? { act: pending.act } : {}),
    });
  }

  /** Where guides and letters are while something is held; the whole scene follows. */
  #moved(moved: Moved): void {
    if (!this.scene) return;
    const guides = this.scene.guides.map((guide) => {
      const path = moved.guides[guide.id];
      return path === undefined || path === guide.path ? guide : { ...guide, path };
    });
    const letterings = this.scene.letterings.map((line) => {
      const now = moved.lines.find((one) => one.id === line.id && one.line === line.line);
      // Other letters than before are shown once their outlines have come.
      const same =
        now?.matrices.length === line.matrices.length && now.outlines.length === line.outlines.length;
      return same ? { ...line, ...now } : line;
    });
    const grips = this.scene.grips.map((grip) => {
      const at = moved.grips[grip.name];
      return !at || (at[0] === grip.at[0] && at[1] === grip.at[1]) ? grip : { ...grip, at };
    });
    this.scene = { ...this.scene, guides, letterings, grips, dimensions: moved.dimensions };
  }

  #answered(answer: LiveAnswer, request: Unnumbered): void {
    for (const [name, data] of Object.entries(answer.shapes ?? {})) this.shapes.set(name, data);
    this.problems = answer.problems ?? [];
    // An answer to what is no longer being done, asked again after a lost connection, is old.
    const acted = this.#pending ? answer.acted : undefined;
    if (request.act && request.act === this.#pending?.act) this.#pending = undefined;
    if (acted) {
      this.piece = { ...this.piece, guides: acted.guides, letterings: acted.letterings };
      if (this.kept !== 'conflict') this.kept = 'changed';
      this.#followNew(acted);
    }
    if (answer.scene) {
      this.scene = answer.scene;
      this.around = answer.scene;
    }
    const next = this.#pending ? undefined : this.#queued.shift();
    if (next) this.act(next);
    const busy = this.#unfinished || this.#pending || !this.#channel.idle;
    const settled = !busy && !this.problems.length;
    if (settled && (this.kept === 'changed' || this.kept === 'wrong')) void this.finish();
  }

  /** When everything done by hand so far has been answered. */
  async #actsDone(): Promise<void> {
    for (let waited = 0; this.#pending && waited < LONGEST_WAIT_MS; waited += SHORT_MS) {
      await new Promise((done) => setTimeout(done, SHORT_MS));
    }
  }

  /** A guide that was drawn is chosen once it is there. */
  #awaited: string | undefined;

  awaitGuide(id: string): void {
    this.#awaited = id;
  }

  #followNew(acted: Piece): void {
    const awaited = this.#awaited;
    if (!awaited || !acted.guides.some((one) => one.id === awaited)) return;
    this.#awaited = undefined;
    this.choose({ kind: 'guide', id: awaited });
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
