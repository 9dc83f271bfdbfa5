import { describe, expect, it } from 'vitest';
import type { MadeName } from '../api/client';
import { carried } from './made.svelte';
import { alike, leftOut } from './mending';

const row = (cell: string) => ({ cells: [cell], left_out: false, heights: {}, times: 1 });
const names = { head: [], one_height: false, rows: ['a', 'b', 'c', 'd'].map(row) };
const made = (at: number, kind: string): [number, MadeName] => [
  at, { row: at, title: '', fits: !kind, kind, reason: kind, warnings: [], figures: [], picture: '' },
];

describe('rows that do not fit', () => {
  it('are mended with those of the same sort, and no others', () => {
    const rows = new Map([made(0, 'missing-letters'), made(1, ''), made(2, 'outside'), made(3, 'missing-letters')]);
    expect(alike(3, rows, names)).toEqual([3, 0]);
    expect(alike(3, rows, leftOut(names, [0]))).toEqual([3]);
  });

  it('stay in the list when they are left out', () => {
    const found = leftOut(names, [1, 2]);
    expect(found.rows.map((one) => one.left_out)).toEqual([false, true, true, false]);
    expect(found.rows.map((one) => one.cells)).toEqual(names.rows.map((one) => one.cells));
  });
});

describe('results', () => {
  it('go with their rows when those are sorted or removed, and stay where a row was changed', () => {
    const rows = new Map([0, 1, 2, 3].map((at) => made(at, String(at))));
    const [a, b, c, d] = names.rows as [ReturnType<typeof row>, ReturnType<typeof row>, ReturnType<typeof row>, ReturnType<typeof row>];
    const moved = carried(rows, names.rows, [d, b, c, a]);
    expect([...moved].map(([at, one]) => [at, one.row, one.kind])).toEqual([[0, 0, '3'], [1, 1, '1'], [2, 2, '2'], [3, 3, '0']]);
    expect([...carried(rows, names.rows, [b, d]).values()].map((one) => one.kind)).toEqual(['1', '3']);
    expect(carried(rows, names.rows, [a, row('new')]).get(1)?.kind).toBe('1');
  });
});
