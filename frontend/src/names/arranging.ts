/** The list's rows in another order, and its columns for other fields. */

import type { Names } from '../piece/list.svelte';


const IN_ORDER = new Intl.Collator(undefined, { numeric: true });

/** The list sorted by a column, figures by their size; backwards where it is sorted so already. */
export function sorted(names: Names, column: number): Names {
  const cell = (row: Names['rows'][number]) => row.cells[column] ?? '';
  const rows = [...names.rows].sort((one, two) => IN_ORDER.compare(cell(one), cell(two)));
  const already = rows.every((row, at) => row === names.rows[at]);
  return { ...names, rows: already ? rows.reverse() : rows };
}

/** The list with a column for another field; the column that the field had gets this one's. */
export function matched(names: Names, columns: readonly string[], column: number, field: string): Names {
  const before = columns[column] ?? '';
  const head = columns.map((one, at) => (at === column ? field : one === field && field ? before : one));
  return { ...names, head };
}
