import { afterEach, describe, expect, it, vi } from 'vitest';
import { api, type NameRow, type Piece } from '../api/client';
import { List, type Names } from './list.svelte';

const row = (cell: string): NameRow => ({ cells: [cell], left_out: false, heights: {}, times: 1 });
const leaf = (name: string, count: number) => ({ leaf: name, count, unit: 1 });
type Kept = NonNullable<Piece['names']>;
const keptAs = (...rows: Kept['rows']): Kept => ({ head: [], one_height: false, rows });

const post = vi.spyOn(api, 'POST');
afterEach(() => void post.mockReset());

/** A list of nine rows in three leaves, which the page has from the server. */
async function nine(): Promise<{ list: List; show: (names: Kept) => void; names: Names }> {
  let piece = { names: keptAs(leaf('a', 3), leaf('b', 3), leaf('c', 3)) } as Piece;
  const rows = [0, 3, 6].map((from) => [0, 1, 2].map((at) => row(String(from + at))));
  (post as unknown as { mockResolvedValueOnce: (answer: object) => void }).mockResolvedValueOnce({ data: rows });
  const list = new List(() => piece);
  expect(list.names).toBeUndefined();
  await vi.waitFor(() => expect(list.names?.rows).toHaveLength(9));
  return { list, show: (names) => (piece = { names } as Piece), names: list.names! };
}

describe('a list whose rows lie apart', () => {
  it('is fetched once, in its order', async () => {
    const { list } = await nine();
    expect(list.names!.rows.map((one) => one.cells[0]).join('')).toBe('012345678');
    expect(list.count).toBe(9);
    expect(post).toHaveBeenCalledTimes(1);
  });

  it('keeps apart what a change does not touch', async () => {
    const { list, names } = await nine();
    const changed = names.rows.map((one, at) => (at === 4 ? row('other') : one));
    const kept = list.kept({ ...names, rows: changed });
    expect(kept.rows).toEqual([leaf('a', 3), ...changed.slice(3, 6), leaf('c', 3)]);
    expect(list.kept({ ...names, rows: [row('new'), ...names.rows] }).rows).toEqual([row('new'), leaf('a', 3), leaf('b', 3), leaf('c', 3)]);
    expect(list.kept({ ...names, rows: names.rows.slice(0, 7) }).rows).toEqual([leaf('a', 3), leaf('b', 3), row('6')]);
    expect(list.kept({ ...names, rows: [...names.rows].reverse() }).rows).toHaveLength(9);
  });

  it('knows its rows when they are laid apart, and when a change is undone', async () => {
    const { list, names, show } = await nine();
    const before = keptAs(leaf('a', 3), leaf('b', 3), leaf('c', 3));
    const sent = list.kept({ ...names, rows: names.rows.map((one, at) => (at === 4 ? row('other') : one)) });
    show(sent);
    const laid = keptAs(leaf('a', 3), leaf('d', 3), leaf('c', 3));
    list.learn(sent, laid);
    show(laid);
    expect(list.names!.rows[4]!.cells).toEqual(['other']);
    show(before);
    expect(list.names!.rows[4]!.cells).toEqual(['4']);
    show({ ...laid });
    expect(list.names!.rows[4]!.cells).toEqual(['other']);
    expect(post).toHaveBeenCalledTimes(1);
  });

  it('asks again for rows that could not be had', async () => {
    vi.useFakeTimers();
    const piece = { names: keptAs(leaf('a', 1)) } as Piece;
    const once = post as unknown as { mockResolvedValueOnce: (answer: object) => typeof once };
    once.mockResolvedValueOnce({ error: { detail: 'away', status: 503 } }).mockResolvedValueOnce({ data: [[row('one')]] });
    const list = new List(() => piece);
    expect(list.names).toBeUndefined();
    await vi.advanceTimersByTimeAsync(2500);
    expect(list.wrong).not.toBe('');
    expect(list.names).toBeUndefined();
    await vi.advanceTimersByTimeAsync(10);
    expect(list.names?.rows).toHaveLength(1);
    expect(list.wrong).toBe('');
    vi.useRealTimers();
  });

  it('gives the words of a row as wide as the list, with the first', async () => {
    const piece = { names: keptAs(row('head'), { ...row('a'), cells: ['a', 'b'] }, row('c')) } as Piece;
    const list = new List(() => piece);
    expect(list.sample(2).map((one) => one.cells)).toEqual([['head'], ['c', '']]);
    expect(list.sample(null)).toEqual([]);
    expect(list.sample(9)).toEqual([]);
  });
});
