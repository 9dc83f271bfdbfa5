/** What came of the rows of a list: asked for a few at a time, those in sight first. */

import { api, asDocument, saying, type MadeName, type NamesScene, type Piece } from '../api/client';
import { wrongWords } from '../words/words';

const AT_ONCE = 12;

type Rows = NonNullable<Piece['names']>['rows'];

/** Results of rows that have moved, each with its row; one whose row was changed stays in its place. */
export function carried(made: ReadonlyMap<number, MadeName>, before: Rows, after: Rows): Map<number, MadeName> {
  const known = new Map(before.map((row, at) => [JSON.stringify(row), made.get(at)] as const));
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

  #piece: Piece | undefined;
  #fresh = new Set<number>();
  #wanted: readonly number[] = [];
  #asking = false;
  #closed = false;

  /** The piece is another one: rows are made anew, and shown as they were until then. */
  begin(piece: Piece): void {
    this.#fresh = new Set();
    this.rows = carried(this.rows, this.#piece?.names?.rows ?? [], piece.names?.rows ?? []);
    this.#piece = piece;
    void this.#send(true);
  }

  /** Rows that are in sight, in their order, and then all others. */
  want(rows: readonly number[]): void {
    this.#wanted = rows;
    void this.#send(false);
  }

  close(): void {
    this.#closed = true;
  }

  get done(): number {
    return this.#fresh.size;
  }

  #next(): number[] {
    const all = this.#piece?.names?.rows.map((_, row) => row) ?? [];
    const kept = all.filter((row) => !this.#piece?.names?.rows[row]?.left_out);
    const first = this.#wanted.filter((row) => kept.includes(row) && !this.#fresh.has(row));
    const rest = kept.filter((row) => !this.#fresh.has(row) && !first.includes(row));
    return [...first, ...rest].slice(0, AT_ONCE);
  }

  async #send(anyway: boolean): Promise<void> {
    if (this.#asking) return;
    this.#asking = true;
    this.busy = true;
    let first = anyway;
    while (this.#piece && !this.#closed) {
      const piece: Piece = this.#piece;
      const rows = this.#next();
      if (!rows.length && !first) break;
      first = false;
      const answer = await api.POST('/api/names', { body: { piece: asDocument(piece), rows } }).catch(() => undefined);
      if (piece !== this.#piece) {
        first = true;
        continue;
      }
      if (!answer?.data) {
        const fields = (answer?.error as { errors?: { field: string; reason: string }[] } | undefined)?.errors ?? [];
        this.wrong = fields.map((field) => wrongWords(field, piece)).join('; ') || saying(answer?.error);
        break;
      }
      const scene = answer.data as NamesScene;
      this.wrong = '';
      this.scene = scene;
      // While one height for all is not known yet, no row can be made: the measuring goes on.
      first = typeof scene.measured === 'number';
      if (first) continue;
      for (const row of rows) this.#fresh.add(row);
      this.rows = new Map([...this.rows, ...scene.made.map((one) => [one.row, one] as const)]);
    }
    this.#asking = false;
    this.busy = false;
  }
}
