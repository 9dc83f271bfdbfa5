/**
 * One open piece: its document, what is chosen of it, what the core makes of it, and where it
 * is kept.
 *
 * Every change goes to the live channel at once; a finished change becomes a
 * revision. What is shown is what the core answered, never what the page worked out.
 */

import type { Act, Finding, Guide, Lettering, LiveAnswer, OpenPiece, Piece, Remedy } from '../api/client';
import { figures } from '../words/figures.svelte';
import { Acts } from './acts';
import { copied, keepCopied, lastCopied } from './clipboard';
import { List } from './list.svelte';
import { Keeping } from './keeping.svelte';
import { Live, type Asking } from './live.svelte';
import { remember, remembered } from './remembered';
import { Selection, type Entry } from './selection.svelte';
import { Snapshot, type Change } from './snapshot';

const SHORT_MS = 15;
const LONGEST_WAIT_MS = 3000;

const keyOf = (finding: Finding) => `${finding.kind} ${finding.lettering}`;

/** What is done to letters: mm along the line, toward their heads, and of the gap after them. */
type Nudging = { along?: number; across?: number; gap?: number };

export class Editor {
  readonly id: string;
  readonly selection: Selection;
  readonly live: Live;
  readonly keeping: Keeping;
  readonly list = new List(() => this.piece);
  /** What is said to the person once. */
  saying = $state('');
  /** A file that a worker makes, by its path; it comes when it is made. */
  coming = $state('');
  /** What came of the last act, in words, until the next one. */
  told = $state('');
  /** Whether something is being pulled about right now. */
  holding = $state(false);

  #now = $state.raw<Snapshot>()!;
  #acts = new Acts();
  #unfinished = false;
  /** Whether what the next act makes is to be chosen. */
  #choosesMade = false;
  /** What was said when words began to be typed, until they are kept. */
  #beforeTyping = $state.raw<ReadonlySet<string>>();

  constructor(opened: OpenPiece) {
    this.id = opened.id;
    this.#now = new Snapshot(opened.piece);
    this.selection = new Selection(() => this.#ask());
    const first = opened.piece.letterings[0];
    if (first) this.selection.chosen = { kind: 'lettering', id: first.id };
    this.keeping = new Keeping(this.id, opened, this.#owner());
    this.live = new Live(
      (answer, asked) => this.#answered(answer, asked),
      () => this.keeping.state === 'offline' && void this.finish(),
    );
    this.#ask();
  }

  close(): void {
    this.keeping.close();
    this.live.close();
  }

  // ------------------------------------------------------------------ what there is

  get piece(): Piece {
    return this.#now.piece;
  }

  /** The document as it is now, for what is done by hand to start from. */
  get base(): Snapshot {
    return this.#now;
  }

  get lettering(): Lettering | undefined {
    const { chosen } = this.selection;
    if (chosen?.kind !== 'lettering') return undefined;
    return this.piece.letterings.find((one) => one.id === chosen.id);
  }

  /** The chosen guide, or the one that the chosen lettering stands on. */
  get guide(): Guide | undefined {
    const { chosen } = this.selection;
    const id = chosen?.kind === 'guide' ? chosen.id : this.lettering?.guide;
    return this.piece.guides.find((one) => one.id === id);
  }

  /** All that is chosen and still there. */
  get entries(): readonly Entry[] {
    const { letterings, guides } = this.piece;
    const there = { lettering: letterings, guide: guides };
    return this.selection.entries.filter(({ kind, id }) => there[kind].some((one) => one.id === id));
  }

  /** The chosen letterings. */
  get letterings(): readonly Lettering[] {
    return this.piece.letterings.filter(({ id }) => this.selection.isChosen({ kind: 'lettering', id }));
  }

  /** The chosen guides. */
  get guides(): readonly Guide[] {
    return this.piece.guides.filter(({ id }) => this.selection.isChosen({ kind: 'guide', id }));
  }

  /** The piece with what its fits have come to, to be shown. */
  get solved(): Piece {
    const fits = (this.live.around?.letterings ?? []).filter((one) => one.line === 0 && one.fit);
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

  /** What a lettering's fit has come to. */
  fitOf(lettering: Lettering) {
    return this.live.around?.letterings.find((one) => one.id === lettering.id)?.fit ?? undefined;
  }

  /**
   * What there is to say of the layout. While words are being typed nothing new is said: what
   * half a word does is no fault yet.
   */
  get findings(): readonly Finding[] {
    const found = (this.live.around?.findings ?? []).filter((one) => !one.accepted);
    const before = this.#beforeTyping;
    return before ? found.filter((one) => before.has(keyOf(one))) : found;
  }

  /** What is wrong with a field of a lettering or guide, in words. */
  problem(list: 'letterings' | 'guides', id: string, field: string): string {
    const index = this.piece[list].findIndex((one) => one.id === id);
    const where = `${list}[${index}].${field}`;
    return this.live.problems.find((one) => one.field === where)?.reason ?? '';
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

  changeGuide(id: string, changed: Partial<Guide> | Record<string, unknown>): void {
    const solves = (one: Lettering) => one.guide === id && this.#solves(one, 'guide_figures', changed);
    // What else was solved with the figure that is typed stays as it came to.
    const solving = this.piece.letterings.find(solves);
    const solved = solving && this.fitOf(solving)?.guide_figures;
    this.#apply((piece) => ({
      ...piece,
      letterings: piece.letterings.map((one) => (solves(one) ? { ...one, fit: null } : one)),
      guides: piece.guides.map((one) =>
        one.id === id ? ({ ...one, ...solved, ...changed } as Guide) : one,
      ),
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

  /** A change of the document, also of what is being pulled: a figure may come meanwhile. */
  #apply(change: Change): void {
    this.#now = this.#now.changed(change);
    this.#acts.change(change);
    this.keeping.changed();
    this.#unfinished = true;
    this.#ask();
  }

  /**
   * Do something by hand, or several things as one change; the core says what comes of it. A
   * pull names the `base` that it is made from, and the `last` one of it is kept once it has
   * been answered.
   */
  act(does: Act | readonly Act[], base?: Snapshot, last = true): void {
    const acts = 'act' in does ? [does] : does;
    if (!acts.length || !this.#acts.begin(acts, this.#now, base, last)) return;
    this.holding = !last;
    this.keeping.changed();
    this.#unfinished = !last;
    this.#ask();
  }

  /** Do something that makes something new, which is chosen once the core has made it. */
  make(does: Act | readonly Act[], base?: Snapshot): void {
    this.#choosesMade = true;
    this.act(does, base);
  }

  /** Leave off what is being done by hand. */
  leaveOff(): void {
    this.#acts.leaveOff();
  }

  addLettering(guide: string): void {
    this.make({ act: 'add-lettering', guide, choices: remembered() });
  }

  /** Move, turn, size the chosen letters, or open the gap after them, on top of what is there. */
  nudge(by: Nudging, base?: Snapshot, last = true): void {
    const { lettering } = this;
    const { letters } = this.selection;
    if (!lettering || !letters.length) return;
    this.act({ act: 'nudge', lettering: lettering.id, letters, ...by } as Act, base, last);
  }

  /** Move letterings to another guide, as one change. */
  moveToGuide(letterings: readonly Lettering[], guide: string): void {
    const moved = letterings.filter((one) => one.guide !== guide);
    this.act(moved.map(({ id }) => ({ act: 'move-lettering', lettering: id, guide })));
  }

  chooseAllLettering(): void {
    this.selection.chooseAll(this.piece.letterings.map(({ id }) => ({ kind: 'lettering', id })));
  }

  /** Take up what is chosen, to be pasted here or in another piece; whether there was anything. */
  copy(): boolean {
    const what = copied(this.piece, this.entries, this.live.around?.guides ?? []);
    if (what) keepCopied(what);
    return Boolean(what);
  }

  /** What was copied last: guides with their lettering, or words on the chosen guide. */
  paste(): boolean {
    const what = lastCopied();
    if (!what) return false;
    this.make({ act: 'paste', ...what, on: this.guide?.id ?? '' });
    return true;
  }

  /** What is chosen a second time; a guide brings its lettering along. */
  duplicate(): boolean {
    const guides = this.guides.map(({ id }) => id);
    const letterings = this.letterings.map(({ id }) => id);
    if (!guides.length && !letterings.length) return false;
    this.make({ act: 'duplicate', guides, letterings });
    return true;
  }

  /** What pulls the chosen guides by a grip; one made from another chosen one moves with that. */
  pullGuides(grip: string, start: [number, number], end: [number, number]): Act[] {
    const { guides } = this;
    const leansOn = (id: string) => this.live.around?.guides.find((one) => one.id === id)?.leans_on ?? [];
    return guides
      .filter(({ id }) => !leansOn(id).some((base) => guides.some((one) => one.id === base)))
      .map(({ id }) => ({ act: 'pull', guide: id, grip, start, end }));
  }

  /** Do what mends a finding. */
  mend(remedy: Remedy): void {
    if (remedy.of === 'lettering') this.changeLettering(remedy.owner, remedy.changes as Partial<Lettering>);
    else if (remedy.of === 'guide') this.changeGuide(remedy.owner, remedy.changes);
    else this.change(remedy.changes as Partial<Piece>);
    void this.finish();
  }

  /** Take out all that is chosen: lettering first, so that no line is kept only for it. */
  removeChosen(): void {
    this.act([
      ...this.letterings.map(({ id }) => ({ act: 'remove-lettering', lettering: id }) as const),
      ...this.guides.map(({ id }) => ({ act: 'remove-guide', guide: id }) as const),
    ]);
    this.selection.drop();
  }

  // ------------------------------------------------------------------- keeping

  /** Keep the change as it will be when the person pauses. */
  pauseThenFinish(): void {
    this.#beforeTyping ??= new Set(this.findings.map(keyOf));
    this.keeping.pauseThen(() => void this.finish());
  }

  /** Make the document as it stands a revision. */
  finish(): Promise<void> {
    this.#beforeTyping = undefined;
    if (!this.#acts.doing) {
      this.holding = false;
      this.#acts.letGo();
    }
    this.#unfinished = this.holding;
    return this.keeping.keep();
  }

  undo = (): Promise<void> => this.#step('undo');
  redo = (): Promise<void> => this.#step('redo');

  async #step(which: 'undo' | 'redo'): Promise<void> {
    await figures.settled();
    await this.#actsDone();
    if (this.#unfinished) await this.finish();
    await this.keeping.step(which);
  }

  /** After a stale write: ours on top of theirs, or theirs. */
  async settle(how: 'ours' | 'theirs'): Promise<void> {
    const mine = this.piece;
    if (!(await this.keeping.takeTheirs()) || how === 'theirs') return;
    this.change(mine);
    await this.finish();
  }

  /** Rows of the list that was kept lie apart now; whether they do so here too. */
  #lieApart(sent: Piece, names: NonNullable<Piece['names']>): boolean {
    if (!sent.names || this.piece.names !== sent.names || this.#acts.doing) return false;
    if (JSON.stringify(sent.names) === JSON.stringify(names)) return false;
    this.list.learn(sent.names, names);
    this.#now = this.#now.changed((piece) => ({ ...piece, names }));
    return true;
  }

  #owner() {
    const editor = this;
    return {
      get piece() {
        return editor.piece;
      },
      get acting() {
        return Boolean(editor.#acts.doing);
      },
      show(piece: Piece) {
        editor.#now = new Snapshot(piece);
        editor.#ask();
      },
      apart(sent: Piece, names: NonNullable<Piece['names']>) {
        return editor.#lieApart(sent, names);
      },
      say(words: string) {
        editor.saying = words;
      },
      refuse(problems: Editor['live']['problems']) {
        editor.live.problems = problems;
      },
    };
  }

  // ---------------------------------------------------------------------- live

  #ask(): void {
    const { selection } = this;
    const { doing } = this.#acts;
    const at = doing?.base ?? this.#now;
    this.live?.ask({
      at,
      doing,
      chosen: selection.id ?? null,
      node: selection.node ?? null,
      marks: selection.marks,
      hold: this.holding,
      byFace: selection.before && !doing ? (this.lettering?.id ?? null) : null,
      sample: this.list.sample(selection.sample, at.piece),
      row: selection.sample,
    });
  }

  #answered(answer: LiveAnswer, asked: Asking): void {
    const acting = Boolean(this.#acts.doing);
    const mine = this.#acts.answered(asked.doing);
    // While something is held every answer is shown. What is no longer being done, asked again
    // after a lost connection, is old.
    if (answer.acted && (mine || (acting && this.holding))) {
      this.#now = new Snapshot(answer.acted, (mine && answer.hash) || undefined);
      this.keeping.changed();
    }
    const { row } = asked;
    if (answer.hand && row !== null && (mine || (acting && this.holding))) {
      const names = this.list.changed(row, { hand: answer.hand });
      this.#now = this.#now.changed((piece) => ({ ...piece, names }));
      this.keeping.changed();
    }
    if (mine) {
      this.told = answer.said ?? '';
      if (answer.made?.length && this.#choosesMade) this.selection.chooseMade(answer.made);
      this.#choosesMade = false;
    }
    const next = this.#acts.next();
    if (next) this.act(next);
    const busy = this.#unfinished || this.#acts.doing || !this.live.idle;
    if (!busy && !this.live.problems.length && this.keeping.waits) void this.finish();
  }

  /** When everything done by hand so far has been answered. */
  async #actsDone(): Promise<void> {
    for (let waited = 0; this.#acts.doing && waited < LONGEST_WAIT_MS; waited += SHORT_MS) {
      await new Promise((done) => setTimeout(done, SHORT_MS));
    }
  }
}
