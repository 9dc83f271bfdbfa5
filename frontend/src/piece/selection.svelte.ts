/** What of the piece is chosen, and what a pointer on the drawing does. */

/** A lettering or a guide of the piece. */
export type Entry = { kind: 'lettering' | 'guide'; id: string };
export type Chosen = Entry | { kind: 'blank' };

/** What a pointer on the drawing does: choose and pull, place points, draw, or measure. */
export type Tool = 'choose' | 'points' | 'freehand' | 'measure';

export const sameEntry = (a: Entry, b: Entry): boolean => a.kind === b.kind && a.id === b.id;

export class Selection {
  /** What was chosen last: its particulars and its strip are shown. */
  chosen = $state.raw<Chosen>();
  /** What else is chosen with it. */
  also = $state.raw<readonly Entry[]>([]);
  tool = $state<Tool>('choose');
  /** The chosen letters of the chosen lettering, by their places in its words. */
  letters = $state.raw<number[]>([]);
  /** The chosen label of a dial. */
  label = $state.raw<number>();
  /** A lettering that has just been made: its words are to be typed. */
  fresh = $state.raw<string>();
  /** Which page of a lettering's particulars is shown. */
  page = $state<'words' | 'letters' | 'spread' | 'fit'>('words');
  /** Where the chosen guide is measured: stations, or points of the drawing. */
  marks = $state.raw<(number | [number, number])[]>([]);
  /** Whether figures are shown on the drawing. */
  figures = $state(true);
  #node = $state<number>();
  #before = $state(false);
  #sample = $state<number | null>(null);

  /** `onchange` is told when the core has to show something else. */
  constructor(private readonly onchange: () => void) {}

  get id(): string | undefined {
    return this.chosen && this.chosen.kind !== 'blank' ? this.chosen.id : undefined;
  }

  /** All letterings and guides that are chosen. */
  get entries(): readonly Entry[] {
    const { chosen } = this;
    return chosen && chosen.kind !== 'blank' ? [...this.also, chosen] : [];
  }

  /** Whether more than one thing is chosen: then what is done is done to each of them. */
  get several(): boolean {
    return this.entries.length > 1;
  }

  isChosen(entry: Entry): boolean {
    return this.entries.some((one) => sameEntry(one, entry));
  }

  /** Take one more up, or leave it out again. */
  chooseMore(entry: Entry): void {
    const rest = this.entries.filter((one) => !sameEntry(one, entry));
    this.chooseAll(this.isChosen(entry) ? rest : [...rest, entry]);
  }

  chooseAll(entries: readonly Entry[]): void {
    this.choose(entries.at(-1));
    this.also = entries.slice(0, -1);
  }

  choose(chosen: Chosen | undefined): void {
    this.chosen = chosen;
    this.also = [];
    this.#node = undefined;
    this.letters = [];
    this.label = undefined;
    this.marks = [];
    this.onchange();
  }

  /** Choose what has just been made; words that are new are to be typed at once. */
  chooseMade(made: readonly Entry[]): void {
    this.chooseAll(made);
    const [only] = made;
    if (made.length > 1 || only?.kind !== 'lettering') return;
    this.page = 'words';
    this.fresh = only.id;
  }

  /** What was chosen is gone; the answer that says so shows what is there. */
  drop(): void {
    this.chosen = undefined;
    this.also = [];
    this.#node = undefined;
  }

  /** The chosen point of the chosen guide; its handles come with the next answer. */
  get node(): number | undefined {
    return this.#node;
  }

  set node(index: number | undefined) {
    if (index === this.#node) return;
    this.#node = index;
    this.onchange();
  }

  /** While a key is held: the chosen lettering as its face spaces it, for comparing. */
  get before(): boolean {
    return this.#before;
  }

  set before(shown: boolean) {
    if (shown === this.#before) return;
    this.#before = shown;
    this.onchange();
  }

  /** The row of the list whose words are shown in place of the fields. */
  get sample(): number | null {
    return this.#sample;
  }

  set sample(row: number | null) {
    if (row === this.#sample) return;
    this.#sample = row;
    this.onchange();
  }

  /** A place at which the guide is measured: the last two count. */
  mark(where: number | [number, number]): void {
    this.marks = [...this.marks.slice(-1), where];
    this.onchange();
  }

  take(tool: Tool): void {
    this.tool = tool;
    if (tool !== 'measure' && this.marks.length) {
      this.marks = [];
      this.onchange();
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

  /**
   * Escape: out of a tool, from a point to its guide, from letters to their lettering, from
   * several to the last one, from a lettering to its guide, which `guide` names, to nothing.
   */
  stepBack(guide: string | undefined): void {
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
    if (this.several) return this.choose(this.chosen);
    const out = this.chosen?.kind === 'lettering' && guide;
    this.choose(out ? { kind: 'guide', id: out } : undefined);
  }
}
