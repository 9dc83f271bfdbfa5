/** What came of the rows of a list: asked for a few at a time, those in sight first. */

import { api, asDocument, saying, type MadeName, type NameRow, type NamesScene, type Piece } from '../api/client';
import { wrongWords } from '../words/words';
import type { Names } from '../piece/list.svelte';

const AT_ONCE = 12;
/** So many rows are made though they are not in sight. */
const MOST_UNSEEN = 2000;

/** Results of rows that have moved, each with its row; one whose row was changed stays in its place. */
export function carried(made: ReadonlyMap<number, MadeName>, before: readonly NameRow[], after: readonly NameRow[]): Map<number, MadeName> {
  const known = new Map([...made].map(([at, one]) => [JSON.stringify(before[at]), one] as const));
  const found = new Map<number, MadeName>();
  for (const [at, row] of after.entries()) {
    const one = known.get(JSON.stringify(row)) ?? made.get(at);
    if (one) found.set(at, { ...one, row: at });
  }
  return found;
}

export class Made {
  /** All but the rows: those are kept by themselves, each until it is made anew. */
  scene = $state.raw<NamesScene>();
  rows = $state.raw<ReadonlyMap<number, MadeName>>(new Map());
  wrong = $state('');
  busy = $state(false);
  /** How many rows are made as they are now. */
  done = $state(0);

  #piece: Piece | undefined;
  #names: Names | undefined;
  /** Counts the pieces; what was asked of one before is let go. */
  #turn = 0;
  /** The one whose list has been looked at. */
  #looked = 0;
  #fresh = new Set<number>();
  #wanted: readonly number[] = [];
  #asking = false;
  #closed = false;

  /** The piece is another one: rows are made anew, and shown as they were until then. */
  begin(piece: Piece, names: Names): void {
    const before = this.#piece;
    const same = (field: string) => field === 'names' || piece[field as keyof Piece] === before?.[field as keyof Piece];
    const asBefore = before && names === this.#names && Object.keys(piece).every(same);
    this.#piece = piece;
    if (asBefore) return;
    this.#fresh = new Set();
    this.done = 0;
    this.rows = carried(this.rows, this.#names?.rows ?? [], names.rows);
    this.#names = names;
    this.#turn += 1;
    void this.#send();
  }

  /** Rows that are in sight, in their order, and then all others. */
  want(rows: readonly number[]): void {
    this.#wanted = rows;
    void this.#send();
  }

  close(): void {
    this.#closed = true;
  }

  /** Rows as the core is asked for them, with the columns and heights that the list has. */
  asked(rows: readonly number[]) {
    const { scene } = this;
    if (!this.#piece || !scene) return undefined;
    return {
      piece: asDocument({ ...this.#piece, names: null }),
      columns: scene.columns,
      heights: scene.heights,
      rows: rows.map((row) => {
        const { cells, heights = {}, hand = {} } = this.#names!.rows[row]!;
        return { row, number: row + 1 - scene.first, cells, own: { heights, hand } };
      }),
    };
  }

  #next(): number[] {
    const empty = new Set(this.scene?.empty);
    const wanted = (row: number) => !this.#fresh.has(row) && !empty.has(row) && row >= (this.scene?.first ?? 0);
    const made = (row: number) => wanted(row) && this.#names?.rows[row]?.left_out === false;
    const first = this.#wanted.filter(made);
    const unseen = [...(this.#names?.rows.slice(0, MOST_UNSEEN) ?? []).keys()].filter((row) => made(row) && !first.includes(row));
    return [...first, ...unseen].slice(0, AT_ONCE);
  }

  /** Have the list looked at where it is another one, and then rows made until all are. */
  async #send(): Promise<void> {
    if (this.#asking) return;
    this.#asking = true;
    this.busy = true;
    while (this.#piece && !this.#closed) {
      const turn = this.#turn;
      const more = this.#looked === turn ? await this.#make(turn) : await this.#look(turn, this.#piece);
      if (turn !== this.#turn) continue;
      if (!more) break;
      // While one height for all is not known yet, no row can be made: the measuring goes on.
      if (typeof this.scene?.measured !== 'number') this.#looked = turn;
    }
    this.#asking = false;
    this.busy = false;
  }

  /** How the list fills the piece; whether it does. */
  async #look(turn: number, piece: Piece): Promise<boolean> {
    const answer = await api.POST('/api/names', { body: { piece: asDocument(piece) } }).catch(() => undefined);
    if (turn !== this.#turn) return false;
    if (answer?.data) {
      this.wrong = '';
      this.scene = answer.data as NamesScene;
      return true;
    }
    this.#refused(answer?.error, piece);
    return false;
  }

  /** The next rows; whether there were any, and they were made. */
  async #make(turn: number): Promise<boolean> {
    const piece = this.#piece!;
    const rows = this.#next();
    const body = rows.length && this.asked(rows);
    if (!body) return false;
    const answer = await api.POST('/api/names/rows', { body }).catch(() => undefined);
    if (turn !== this.#turn) return false;
    if (!answer?.data) {
      this.#refused(answer?.error, piece);
      return false;
    }
    for (const row of rows) this.#fresh.add(row);
    this.done = this.#fresh.size;
    this.rows = new Map([...this.rows, ...answer.data.map((one) => [one.row, one as MadeName] as const)]);
    return true;
  }

  #refused(error: unknown, piece: Piece): void {
    const fields = (error as { errors?: { field: string; reason: string }[] } | undefined)?.errors ?? [];
    this.wrong = fields.map((field) => wrongWords(field, piece)).join('; ') || saying(error as Parameters<typeof saying>[0]);
  }
}
