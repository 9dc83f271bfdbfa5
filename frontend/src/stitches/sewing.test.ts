import { describe, expect, it } from 'vitest';
import type { StitchScene } from '../api/client';
import { SewingTime } from './sewing';

/** Two threads: three stitches from 0 s, and two from 10 s, half a second each. */
const scene = {
  seconds: 11,
  seconds_a_stitch: 0.5,
  threads: [
    { begins: 0, points: [0, 0, 1, 0, 1, 1, 2, 1], what: '3333' },
    { begins: 10, points: [5, 5, 6, 5, 7, 5], what: '333' },
  ],
} as unknown as StitchScene;

describe('the time of the sewing', () => {
  const time = new SewingTime(scene);

  it('knows how many stitches are sewn at a moment, and where the needle is', () => {
    expect(time.total).toBe(5);
    expect(time.at(0)).toMatchObject({ done: 0, thread: 0, x: 0, y: 0 });
    expect(time.at(1)).toMatchObject({ done: 2, thread: 0, x: 1, y: 1 });
    // It waits where it ended until the next thread begins.
    expect(time.at(9.9)).toMatchObject({ done: 3, thread: 0, x: 2, y: 1 });
    expect(time.at(10.5)).toMatchObject({ done: 4, thread: 1, x: 6, y: 5 });
    expect(time.at(11)).toMatchObject({ done: 5, thread: 1, x: 7, y: 5 });
  });

  it('reaches a stitch at the moment that it takes, in spite of rounding', () => {
    for (let number = 0; number <= 3; number += 1) expect(time.at(number * 0.5 - 1e-9).done).toBe(number);
  });

  it('finds the thread and the end of every stitch', () => {
    expect([0, 2, 3, 4].map((number) => time.stitch(number))).toEqual([
      { thread: 0, end: 1 },
      { thread: 0, end: 3 },
      { thread: 1, end: 1 },
      { thread: 1, end: 2 },
    ]);
  });

  it('steps from letter to letter and stops at both ends', () => {
    expect(time.beside(3, 1)).toBe(10);
    expect(time.beside(10, 1)).toBe(11);
    expect(time.beside(10, -1)).toBe(0);
    expect(time.beside(0, -1)).toBe(0);
  });

  it('has a moment for a piece that nothing is sewn of', () => {
    const none = new SewingTime({ ...scene, threads: [] });
    expect(none.at(3)).toEqual({ done: 0, thread: 0, x: 0, y: 0 });
    expect(none.beside(0, 1)).toBe(11);
  });
});
