/** Where dimension lines are drawn so that they lie on no letters. */

import type { Dimension } from '../api/client';
import { covers, type Place, type Spot } from './free_places';

export interface DimensionLine {
  start: Place;
  end: Place;
  /** From what is measured to the line, where that is drawn beside it. */
  witnesses: (readonly [Place, Place])[];
  /** Which way its figure lies, where it only points at one end from outside. */
  outward?: Place;
}

/** Directions that are tried for a line that may be turned about its middle. */
const TURNS = 24;
/** How far a line that may not be turned is moved aside at a time, px, and how often. */
const ASIDE = 14;
const MOVES = 20;
const CLEAR = 3;
/** How long a line that points from outside is, and half of what its figure needs, px. */
const POINTER = 46;
const FIGURE = [28, 12] as const;

/**
 * A dimension line where it belongs, or as near as it is free of letters; all in px. Its figure
 * keeps off `grips` as well, which lines may cross.
 */
export function freeLine(
  start: Place,
  end: Place,
  off: Dimension['off'],
  at: number,
  letters: readonly Spot[],
  grips: readonly Spot[] = [],
): DimensionLine {
  const spots = [...letters, ...grips];
  const asIs = { start, end, witnesses: [] };
  const whole = { turned: turned(start, end), aside: aside(start, end), pointing: [asIs], left: [asIs] }[off];
  const points = off === 'turned' ? whole.map(pointing) : off === 'pointing' ? [pointing(asIs)] : [];
  return (
    whole.find((one) => isFree(one, letters) && isOpen(alongIt(one, at), spots)) ??
    points.find((one) => isOpen(figureOf(one), spots)) ??
    asIs
  );
}

/** Whether a line is only a point. */
export const isPoint = ({ start, end }: Pick<DimensionLine, 'start' | 'end'>): boolean =>
  start[0] === end[0] && start[1] === end[1];

/** Where the figure of a line stands, at a share of it. */
export const alongIt = ({ start, end }: DimensionLine, share: number): Place => [
  start[0] + share * (end[0] - start[0]),
  start[1] + share * (end[1] - start[1]),
];

/** Where the figure of a line stands that points from outside. */
export const figureOf = ({ end, outward = [0, 0] }: DimensionLine): Place => [
  end[0] + outward[0],
  end[1] + outward[1],
];

/** Turned about its middle to and fro, from how it was. */
function turned(start: Place, end: Place): DimensionLine[] {
  const middle = [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2] as const;
  const [dx, dy] = [(end[0] - start[0]) / 2, (end[1] - start[1]) / 2];
  return Array.from({ length: TURNS }, (_, step) => {
    const turn = (Math.PI / TURNS) * (step % 2 ? (step + 1) / 2 : -step / 2);
    const x = dx * Math.cos(turn) - dy * Math.sin(turn);
    const y = dx * Math.sin(turn) + dy * Math.cos(turn);
    return {
      start: [middle[0] - x, middle[1] - y],
      end: [middle[0] + x, middle[1] + y],
      witnesses: [],
    };
  });
}

/** Moved to one side and the other, farther and farther, with witness lines to what is measured. */
function aside(start: Place, end: Place): DimensionLine[] {
  const [dx, dy] = [end[0] - start[0], end[1] - start[1]];
  const size = Math.hypot(dx, dy) || 1;
  return Array.from({ length: 2 * MOVES + 1 }, (_, step) => {
    const by = ASIDE * (step % 2 ? -(step + 1) / 2 : step / 2);
    const moved = ([x, y]: Place): Place => [x - (dy / size) * by, y + (dx / size) * by];
    const [from, to] = [moved(start), moved(end)];
    return { start: from, end: to, witnesses: by ? [[start, from], [end, to]] : [] };
  });
}

/** Only its end, pointed at from outside. */
function pointing({ start, end }: DimensionLine): DimensionLine {
  const [dx, dy] = [end[0] - start[0], end[1] - start[1]];
  const size = Math.hypot(dx, dy) || 1;
  return { start: end, end, witnesses: [], outward: [(POINTER * dx) / size, (POINTER * dy) / size] };
}

function isFree({ start, end }: DimensionLine, spots: readonly Spot[]): boolean {
  const [cx, cy] = [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2];
  const [x, y] = [(end[0] - start[0]) / 2, (end[1] - start[1]) / 2];
  const size = Math.hypot(x, y) || 1;
  return !spots.some(([a, b, reach]) => {
    const along = Math.abs(((a - cx) * x + (b - cy) * y) / size);
    return along < size + reach && Math.abs(((a - cx) * y - (b - cy) * x) / size) < reach + CLEAR;
  });
}

/** Whether there is room for a figure. */
const isOpen = (at: Place, spots: readonly Spot[]): boolean =>
  !spots.some((spot) => covers({ at, half: FIGURE }, spot));
