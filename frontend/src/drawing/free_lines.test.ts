import { describe, expect, it } from 'vitest';
import { figureOf, freeLine } from './free_lines';
import type { Spot } from './free_places';

const [START, END] = [[100, 300], [500, 300]] as const;
/** Letters in rows all over the middle. */
const FILLED: Spot[] = Array.from({ length: 21 * 21 }, (_, n) => [
  100 + 20 * (n % 21),
  100 + 20 * Math.floor(n / 21),
  10,
]);

/** How near a line comes to the middle of a spot, px. */
function away([a, b]: Spot, [x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number]): number {
  const [dx, dy] = [x1 - x0, y1 - y0];
  const share = Math.min(Math.max(((a - x0) * dx + (b - y0) * dy) / (dx * dx + dy * dy), 0), 1);
  return Math.hypot(a - x0 - share * dx, b - y0 - share * dy);
}

describe('dimension lines', () => {
  it('are where they belong when that is free', () => {
    expect(freeLine(START, END, 'turned', 0.3, [])).toEqual({ start: START, end: END, witnesses: [] });
  });

  it('of a diameter are turned off letters, as long as before', () => {
    const spots: Spot[] = [[110, 300, 12], [490, 300, 12]];
    const { start, end } = freeLine(START, END, 'turned', 0.3, spots);
    for (const spot of spots) expect(away(spot, start, end)).toBeGreaterThan(spot[2]);
    expect(Math.hypot(end[0] - start[0], end[1] - start[1])).toBeCloseTo(400);
    expect((start[0] + end[0]) / 2).toBeCloseTo(300);
  });

  it('of a width are drawn aside, with witness lines to what is measured', () => {
    const spots: Spot[] = [[300, 300, 40]];
    const { start, end, witnesses } = freeLine(START, END, 'aside', 0.3, spots);
    expect(away(spots[0]!, start, end)).toBeGreaterThan(40);
    expect(start[1]).toBe(end[1]);
    expect(witnesses).toEqual([[START, start], [END, end]]);
  });

  it('point from outside where there is nowhere free, or stay where they may not', () => {
    const line = freeLine([90, 300], [520, 300], 'turned', 0.3, FILLED);
    expect(line.start).toEqual(line.end);
    const [x, y] = figureOf(line);
    expect(Math.hypot(x - 305, y - 300)).toBeCloseTo(215 + 46);
    expect(freeLine(START, [400, 300], 'pointing', 0.3, FILLED).outward).toBeUndefined();
    expect(freeLine(START, END, 'left', 0.3, FILLED)).toEqual({ start: START, end: END, witnesses: [] });
  });
});
