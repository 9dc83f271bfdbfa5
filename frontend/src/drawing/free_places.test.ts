import { describe, expect, it } from 'vitest';
import { freePlaces, type Spot } from './free_places';

const SIZE = [800, 600] as const;
const half = [30, 10] as const;

describe('places of figures', () => {
  it('are where they belong when that is free', () => {
    expect(freePlaces([{ at: [200, 200], half }], [], SIZE)).toEqual([[200, 200]]);
  });

  it('keep off letters and off each other', () => {
    const spots: Spot[] = [[200, 200, 20], [240, 200, 20]];
    const found = freePlaces([{ at: [200, 200], half }, { at: [205, 203], half }], spots, SIZE);
    for (const [x, y] of found) {
      for (const [a, b, reach] of spots) {
        const away = Math.hypot(Math.max(Math.abs(x - a) - 30, 0), Math.max(Math.abs(y - b) - 10, 0));
        expect(away).toBeGreaterThanOrEqual(reach);
      }
    }
    const [[x0, y0], [x1, y1]] = found as [[number, number], [number, number]];
    expect(Math.abs(x0 - x1) >= 60 || Math.abs(y0 - y1) >= 20).toBe(true);
  });

  it('are never cut off by the edge', () => {
    expect(freePlaces([{ at: [-50, 900], half }], [], SIZE)).toEqual([[34, 586]]);
  });
});
