import { afterEach, describe, expect, it, vi } from 'vitest';
import { api, type NameRow, type Piece } from '../api/client';
import { List, type Names } from './list.svelte';

const row = (cell: string): NameRow => ({ cells: [cell], left_out: false, heights: {}, times: 1 });
const leaf = (name: string, count: number) => ({ leaf: name, count, unit: 1 });
type Kept = NonNullable<Piece['names']>;
const keptAs = (...rows: Kept['rows']): Kept => ({ head: [], one_height: false, rows });

const post = vi.spyOn(api, 'POST');
afterEach(() => void post.mockReset());

/** A list of three hundred rows in three leaves, which the page has from the server. */
async function threeLeaves(): Promise<{ list: List; show: (names: Kept) => void; names: Names }> {
  let piece = { names: keptAs(leaf('a', 100), leaf('b', 100), leaf('c', 100)) } as Piece;
  const rows = [0, 100, 200].map((from) => Array.from({ length: 100 }, (_, at) => row(String(from + at))));
  (post as unknown as { mockResolvedValueOnce: (answer: object) => void }).mockResolvedValueOnce({ data: rows });
  const list = new List(() => piece);
  expect(list.names).toBeUndefined();
  await vi.waitFor(() => expect(list.names?.rows).toHaveLength(300));
  return { list, show: (names) => (piece = { names } as Piece), names: list.names! };
}

describe('a list whose rows lie apart', () => {
  it('is fetched once, in its order', async () => {
    const { list } = await threeLeaves();
    expect(list.names!.rows.map((one) => Number(one.cells[0]))).toEqual([...Array(300).keys()]);
    expect(list.count).toBe(300);
    expect(post).toHaveBeenCalledTimes(1);
  });

  it('keeps apart what a change does not touch', async () => {
    const { list, names } = await threeLeaves();
    const changed = names.rows.map((one, at) => (at === 150 ? row('other') : one));
    const kept = list.kept({ ...names, rows: changed });
    expect(kept.rows).toEqual([leaf('a', 100), ...changed.slice(100, 200), leaf('c', 100)]);
    expect(list.kept({ ...names, rows: names.rows.slice(0, 201) }).rows).toEqual([leaf('a', 100), leaf('b', 100), row('200')]);
    expect(list.kept({ ...names, rows: [...names.rows].reverse() }).rows).toHaveLength(300);
  });

  it('knows its rows when they are laid apart, and when a change is undone', async () => {
    const { list, names, show } = await threeLeaves();
    const before = keptAs(leaf('a', 100), leaf('b', 100), leaf('c', 100));
    const sent = list.kept({ ...names, rows: names.rows.map((one, at) => (at === 150 ? row('other') : one)) });
    show(sent);
    const laid = keptAs(leaf('a', 100), leaf('d', 100), leaf('c', 100));
    list.learn(sent, laid);
    show(laid);
    expect(list.names!.rows[150]!.cells).toEqual(['other']);
    show(before);
    expect(list.names!.rows[150]!.cells).toEqual(['150']);
    show({ ...laid });
    expect(list.names!.rows[150]!.cells).toEqual(['other']);
    expect(post).toHaveBeenCalledTimes(1);
  });

  it('writes small leaves anew with a row that is added beside them', async () => {
    const { list, names, show } = await threeLeaves();
    const more = { ...names, rows: [...names.rows, row('one')] };
    const sent = list.kept(more);
    show(sent);
    const laid = keptAs(leaf('a', 100), leaf('b', 100), leaf('c', 100), leaf('e', 1));
    list.learn(sent, laid);
    show(laid);
    expect(list.kept({ ...list.names!, rows: [...list.names!.rows, row('two')] }).rows.slice(3)).toEqual([row('one'), row('two')]);
  });

  it('changes one row, and gives rows of the list as it was before', async () => {
    const { list, show } = await threeLeaves();
    const before = { names: keptAs(leaf('a', 100), leaf('b', 100), leaf('c', 100)) } as Piece;
    const hand = { t: { letters: [], words: '150' } };
    const kept = list.changed(150, { hand })!;
    show(kept);
    expect(kept.rows.slice(0, 1)).toEqual([leaf('a', 100)]);
    expect(list.names!.rows.filter((one) => one.hand)).toEqual([{ ...row('150'), hand }]);
    expect(list.sample(150, before)[1]).toEqual(row('150'));
    expect(list.sample(150, { names: kept } as Piece)[1]!.hand).toEqual(hand);
    list.learn(kept, keptAs(leaf('a', 100), leaf('d', 100), leaf('c', 100)));
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
    expect(list.sample(2, piece).map((one) => one.cells)).toEqual([['head'], ['c', '']]);
    expect(list.sample(null, piece)).toEqual([]);
    expect(list.sample(9, piece)).toEqual([]);
  });
});
