/** Places for figures on the drawing: near where they belong, off letters and off each other. */

import type { SceneLettering } from '../api/client';
import type { Viewport } from './viewport.svelte';

export type Place = readonly [number, number];
/** What a figure keeps off: its middle and how far it reaches, px. */
export type Spot = readonly [number, number, number];

export interface Wanted {
  /** Where it belongs. */
  at: Place;
  /** Half its width and height. */
  half: Place;
}

/** The letters of all lines where they are on the screen, to be kept off. */
export function spotsOf(lines: readonly SceneLettering[], view: Viewport): Spot[] {
  return lines.flatMap((line) =>
    line.spots.map(({ at, reach }): Spot => [...view.toScreen(at), Math.max(view.scale * reach, 3)]),
  );
}

const STEP = 18;
const RINGS = 7;
const WAYS = 12;

/** A place for each figure, in order: the nearest that is free, or, where none is, where it belongs. */
export function freePlaces(wanted: readonly Wanted[], spots: readonly Spot[], size: Place): Place[] {
  const taken: Wanted[] = [];
  return wanted.map((one) => {
    const inside = within(one, size);
    const free = candidates(inside.at)
      .map((at) => within({ ...one, at }, size))
      .find((two) => !taken.some((other) => meets(two, other)) && !spots.some((spot) => covers(two, spot)));
    const found = free ?? inside;
    taken.push(found);
    return found.at;
  });
}

/** Itself, then rings farther and farther out. */
function candidates([x, y]: Place): Place[] {
  const found: Place[] = [[x, y]];
  for (let ring = 1; ring <= RINGS; ring += 1) {
    for (let way = 0; way < WAYS; way += 1) {
      const turn = (2 * Math.PI * way) / WAYS;
      found.push([x + ring * STEP * Math.cos(turn), y + ring * STEP * Math.sin(turn)]);
    }
  }
  return found;
}

/** No figure is cut off by the edge of the drawing. */
function within(one: Wanted, [width, height]: Place): Wanted {
  const [x, y] = one.at;
  const [a, b] = one.half;
  return {
    ...one,
    at: [Math.min(Math.max(x, a + 4), width - a - 4), Math.min(Math.max(y, b + 4), height - b - 4)],
  };
}

const meets = (one: Wanted, two: Wanted) =>
  Math.abs(one.at[0] - two.at[0]) < one.half[0] + two.half[0] + 2 &&
  Math.abs(one.at[1] - two.at[1]) < one.half[1] + two.half[1] + 2;

/** Whether a figure would lie on a spot. */
export function covers(one: Wanted, [x, y, reach]: Spot): boolean {
  const dx = Math.max(Math.abs(x - one.at[0]) - one.half[0], 0);
  const dy = Math.max(Math.abs(y - one.at[1]) - one.half[1], 0);
  return dx * dx + dy * dy < reach * reach;
}
