/** The list of a piece with all its rows, those too that are kept apart from it. */

import { api, saying, type NameLeaf, type NameRow, type Piece } from '../api/client';

type Kept = NonNullable<Piece['names']>;
type Part = Kept['rows'][number];
export type Names = Omit<Kept, 'rows'> & { rows: NameRow[] };

const RETRY_MS = 2000;
const AT_ONCE = 100;
/** Leaves of fewer rows are written anew with what changes beside them. */
const FEW = 100;

const lies = (part: Part): part is NameLeaf => 'leaf' in part;
const keyOf = (leaf: NameLeaf): string => `${leaf.leaf} ${leaf.unit}`;
const sizeOf = (part: Part): number => (lies(part) ? part.count : 1);

/** A row in one line, as it was typed. */
export const titleOf = (row: NameRow | undefined): string => row?.cells.filter((cell) => cell.trim()).join(' ') ?? '';

/** A list with something of one row changed. */
export const withRow = (names: Names, at: number, changed: Partial<NameRow>): Names => ({
  ...names,
  rows: names.rows.map((row, place) => (place === at ? { ...row, ...changed } : row)),
});

export class List {
  /** Why rows that lie apart could not be had. */
  wrong = $state('');

  #known = $state.raw<ReadonlyMap<string, readonly NameRow[]>>(new Map());
  #asked = new Set<string>();
  /** The list that was put together last, and what of. */
  #last: { kept: Kept; names: Names } | undefined;

  constructor(private readonly piece: () => Piece) {}

  /** How many rows there are. */
  get count(): number {
    return (this.piece().names?.rows ?? []).reduce((sum, part) => sum + sizeOf(part), 0);
  }

  /** The list; nothing while rows of it are fetched, and `null` where there is none. */
  get names(): Names | null | undefined {
    const { names } = this.piece();
    const found = this.#whole(names);
    if (names && found) this.#last = { kept: names, names: found };
    return found;
  }

  /** All rows of a list; nothing while some of them are fetched. */
  #whole(kept: Kept | null | undefined): Names | null | undefined {
    const known = this.#known;
    if (!kept) return null;
    if (this.#last?.kept === kept) return this.#last.names;
    const missing = kept.rows.filter(lies).filter((leaf) => !known.has(keyOf(leaf)));
    if (missing.length) {
      void this.#fetch(missing);
      return undefined;
    }
    const rows = kept.rows.flatMap((part) => (lies(part) ? known.get(keyOf(part))! : [part]));
    return { ...kept, rows };
  }

  /** A row of a piece, and the first one, which may be names of columns; as wide as the list. */
  sample(at: number | null, piece: Piece): NameRow[] {
    if (at === null) return [];
    const rows = this.#whole(piece.names)?.rows ?? [];
    const row = rows[at];
    if (!row) return [];
    const width = rows.reduce((most, one) => Math.max(most, one.cells.length), 0);
    const wide = [...row.cells, ...Array<string>(width - row.cells.length).fill('')];
    return [rows[0]!, { ...row, cells: wide }];
  }

  /** The list with something of one row changed, as it is kept; as it is while rows are fetched. */
  changed(at: number, changed: Partial<NameRow>): Kept | null {
    const { names } = this;
    if (!names) return this.piece().names ?? null;
    return this.kept(withRow(names, at, changed));
  }

  /** A changed list as it is kept: rows that lie apart stay there, but for leaves that changed. */
  kept(names: Names): Kept {
    const before = this.piece().names?.rows ?? [];
    const { rows } = names;
    const same = (part: Part, at: number): boolean =>
      lies(part)
        ? (this.#known.get(keyOf(part))?.every((row, k) => row === rows[at + k]) ?? false)
        : part === rows[at];
    let first = 0;
    let begin = 0;
    for (; first < before.length && same(before[first]!, begin); first++) begin += sizeOf(before[first]!);
    let last = before.length;
    let end = rows.length;
    for (; last > first; last--) {
      const from = end - sizeOf(before[last - 1]!);
      if (from < begin || !same(before[last - 1]!, from)) break;
      end = from;
    }
    const few = (part: Part | undefined): part is NameLeaf => part !== undefined && lies(part) && part.count < FEW;
    if (begin < end) {
      for (; few(before[first - 1]); first--) begin -= sizeOf(before[first - 1]!);
      for (; few(before[last]); last++) end += sizeOf(before[last]!);
    }
    const kept = { ...names, rows: [...before.slice(0, first), ...rows.slice(begin, end), ...before.slice(last)] };
    this.#last = { kept, names };
    return kept;
  }

  /** The list was kept, and rows of it lie apart now: they are known, and need not be fetched. */
  learn(sent: Kept, kept: Kept): void {
    const names = this.#last?.kept === sent ? this.#last.names : undefined;
    if (!names) return;
    const known = new Map(this.#known);
    let at = 0;
    for (const part of kept.rows) {
      if (lies(part) && !known.has(keyOf(part))) known.set(keyOf(part), names.rows.slice(at, at + part.count));
      at += sizeOf(part);
    }
    this.#last = { kept, names };
    this.#known = known;
  }

  async #fetch(leaves: readonly NameLeaf[]): Promise<void> {
    const asked = leaves.filter((leaf) => !this.#asked.has(keyOf(leaf))).slice(0, AT_ONCE);
    if (!asked.length) return;
    for (const leaf of asked) this.#asked.add(keyOf(leaf));
    const answer = await api.POST('/api/names/leaves', { body: { leaves: asked } }).catch(() => undefined);
    const rows = answer?.data;
    this.wrong = rows ? '' : saying(answer?.error);
    if (rows) this.#known = new Map([...this.#known, ...asked.map((leaf, k) => [keyOf(leaf), rows[k]!] as const)]);
    else await new Promise((ready) => setTimeout(ready, RETRY_MS));
    for (const leaf of asked) this.#asked.delete(keyOf(leaf));
    // Who shows the list asks again.
    if (!rows) this.#known = new Map(this.#known);
  }
}
