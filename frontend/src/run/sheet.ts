/** Changes of a run sheet. */

import type { Kerf, RunPass, RunSheet, Works } from '../api/client';

export const CORNERS = ['lower-left', 'lower-right', 'upper-left', 'upper-right', 'centre'] as const;
export type Corner = (typeof CORNERS)[number];

/** A bed to begin with, until its figures are typed. */
export const BED = { width: 600, height: 400, zero: 'lower-left' } as const;

/** A corner in words, as in “its lower left corner”. */
export const cornerOf = (corner: Corner) => (corner === 'centre' ? 'middle' : `${corner.replace('-', ' ')} corner`);

export function changedPass(sheet: RunSheet, id: string, changed: Partial<RunPass>): RunSheet {
  const passes = sheet.passes.map((one) => (one.id === id ? { ...one, ...changed } : one));
  return { ...sheet, passes };
}

/** The sheet with a pass one place earlier or later. */
export function movedPass(sheet: RunSheet, id: string, way: 1 | -1): RunSheet {
  const passes = [...sheet.passes];
  const from = passes.findIndex((one) => one.id === id);
  const to = from + way;
  if (from < 0 || to < 0 || to >= passes.length) return sheet;
  passes.splice(to, 0, ...passes.splice(from, 1));
  return { ...sheet, passes };
}

/** What a pass gives back of its tool's width, of all that it works on. */
export const kerfOf = (pass: RunPass): Kerf | undefined => (pass.kerf ?? []).filter((one) => one.of == null).at(-1);

/** The kerf of a pass changed, or taken away; what single letterings have stays. */
export function withKerf(pass: RunPass, changed: Partial<Kerf> | null): Kerf[] {
  const own = (pass.kerf ?? []).filter((one) => one.of != null);
  if (!changed) return own;
  return [{ width: 0.2, side: 'outward', edges: true, ...kerfOf(pass), ...changed }, ...own];
}

export const sameWorks = (one: Works, two: Works) => one.what === two.what && one.of === two.of;

/** What a pass works on, with one thing more, or one less; it always keeps one. */
export function toggled(works: readonly Works[], what: Works): Works[] {
  const rest = works.filter((one) => !sameWorks(one, what));
  if (rest.length === works.length) return [...works, what];
  return rest.length ? rest : [...works];
}
