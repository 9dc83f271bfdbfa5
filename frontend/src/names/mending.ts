/** Rows that do not fit, mended one by one or all that are alike. */

import { api, saying, type MadeName } from '../api/client';
import type { Names } from '../piece/list.svelte';
import type { Made } from './made.svelte';

const AT_ONCE = 12;

/** The rows that do not fit for the same sort of reason as one of them, itself first. */
export function alike(row: number, rows: ReadonlyMap<number, MadeName>, names: Names): number[] {
  const kind = rows.get(row)?.kind;
  const others = [...rows.values()].filter((one) => !one.fits && one.kind === kind && one.row !== row);
  return [row, ...others.map((one) => one.row).sort((one, two) => one - two)].filter((one) => !names.rows[one]?.left_out);
}

/** What smaller letters do for rows: the list with their heights, and what there is to say. */
export async function smaller(made: Made, names: Names, rows: readonly number[]): Promise<{ names: Names; said: string }> {
  const heights = new Map<number, Record<string, number>>();
  for (let from = 0; from < rows.length; from += AT_ONCE) {
    const body = made.asked(rows.slice(from, from + AT_ONCE));
    if (!body) break;
    const answer = await api.POST('/api/names/mended', { body }).catch(() => undefined);
    if (!answer?.data) return { names, said: saying(answer?.error) };
    for (const one of answer.data) if (Object.keys(one.heights).length) heights.set(one.row, one.heights);
  }
  const left = rows.length - heights.size;
  const mended = names.rows.map((row, at) => (heights.has(at) ? { ...row, heights: { ...row.heights, ...heights.get(at) } } : row));
  return { names: { ...names, rows: mended }, said: left ? `Smaller letters do not mend ${left === 1 ? 'one row' : `${left} rows`}.` : '' };
}

/** The list without some rows: they stay in it, and are not made. */
export function leftOut(names: Names, rows: readonly number[]): Names {
  const gone = new Set(rows);
  return { ...names, rows: names.rows.map((row, at) => (gone.has(at) ? { ...row, left_out: true } : row)) };
}
