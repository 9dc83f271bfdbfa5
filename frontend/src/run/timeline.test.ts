import { describe, expect, it } from 'vitest';
import type { RunScene } from '../api/client';
import { lasting } from '../rehearsal/figures';
import { Timeline } from './timeline';

const track = (down: number, ...points: number[]) => ({ down, line: 0, points });
const scene = {
  seconds: 10,
  passes: [
    { tracks: [track(1, 10, 0, 0, 20, 0, 1, 20, 10, 2)] },
    { tracks: [track(5, 30, 10, 0, 30, 20, 4)] },
  ],
} as unknown as RunScene;

describe('a run by its time', () => {
  const run = new Timeline(scene);

  it('goes from the zero to where the first track begins', () => {
    expect(run.at(0)).toMatchObject({ done: 0, track: undefined, x: 0, y: 0 });
    expect(run.at(0.5)).toMatchObject({ done: 0, x: 5, y: 0 });
  });

  it('follows a track, point by point', () => {
    expect(run.at(1.5)).toMatchObject({ done: 0, track: 0, x: 15, y: 0, after: 3 });
    expect(run.at(2.5)).toMatchObject({ done: 0, track: 0, x: 20, y: 5, after: 6 });
  });

  it('travels to the next one, and stays where it ended', () => {
    expect(run.at(4)).toMatchObject({ done: 1, track: undefined, x: 25, y: 10 });
    expect(run.at(99)).toMatchObject({ done: 2, track: undefined, x: 30, y: 20 });
  });

  it('steps from line to line', () => {
    expect([run.beside(0, 1), run.beside(1, 1), run.beside(6, 1)]).toEqual([1, 5, 10]);
    expect([run.beside(6, -1), run.beside(1, -1), run.beside(0.5, -1)]).toEqual([1, 0, 0]);
  });

  it('is at rest where there is nothing to do', () => {
    const nothing = new Timeline({ seconds: 0, passes: [] } as unknown as RunScene);
    expect(nothing.at(3)).toMatchObject({ done: 0, x: 0, y: 0 });
  });
});

describe('how long something lasts', () => {
  it('is said as people say it', () => {
    expect([lasting(4.4), lasting(59.7), lasting(185), lasting(3725)]).toEqual([
      '4 s', '1 min 00 s', '3 min 05 s', '1 h 02 min',
    ]);
  });
});
