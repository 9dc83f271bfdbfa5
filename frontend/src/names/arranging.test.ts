import { describe, expect, it } from 'vitest';
import { matched, sorted } from './arranging';

const row = (...cells: string[]) => ({ cells, left_out: false, heights: {}, times: 1 });
const names = { head: [], one_height: false, rows: [row('Ödön', '10'), row('apple', '9'), row('Zoe'), row('Pear', '100')] };
const column = (list: typeof names, at: number) => list.rows.map((one) => one.cells[at]);

describe('a list', () => {
  it('is sorted as people sort words and figures, and back', () => {
    const once = sorted(names, 0);
    expect(column(once as typeof names, 0)).toEqual(['apple', 'Ödön', 'Pear', 'Zoe']);
    expect(column(sorted(once, 0) as typeof names, 0)).toEqual(['Zoe', 'Pear', 'Ödön', 'apple']);
    expect(column(sorted(names, 1) as typeof names, 1)).toEqual([undefined, '9', '10', '100']);
  });

  it('keeps what a row has for itself when it moves', () => {
    const rows = [{ ...row('b'), heights: { t: 9 } }, row('a')];
    expect(sorted({ ...names, rows }, 0).rows).toEqual([rows[1], rows[0]]);
  });

  it('has one column for a field', () => {
    expect(matched(names, ['name', 'year', ''], 2, 'name').head).toEqual(['', 'year', 'name']);
    expect(matched(names, ['name', 'year'], 0, 'year').head).toEqual(['year', 'name']);
    expect(matched(names, ['name', ''], 0, '').head).toEqual(['', '']);
  });
});
