/** A run by its time: which track is followed at a moment, and where its tool is then. */

import type { RunScene } from '../api/client';

/** x, y and seconds after it came down, point by point, as the core gives them. */
type Points = readonly number[];

export interface Moment {
  /** How many tracks are done. */
  done: number;
  /** The track that is being followed, if one is. */
  track: number | undefined;
  /** Where the tool is, and where in the track's points that is. */
  x: number;
  y: number;
  after: number;
}

export interface TimedTrack {
  down: number;
  up: number;
  pass: number;
  line: number;
  points: Points;
  /** Corners of strips that it leaves of the surface, and how light each is. */
  relief: readonly number[];
}

export class Timeline {
  readonly tracks: readonly TimedTrack[];
  readonly seconds: number;

  constructor(scene: RunScene) {
    this.seconds = scene.seconds;
    this.tracks = scene.passes.flatMap((one, pass) =>
      one.tracks.map(({ down, line, points, relief }) => ({
        down,
        up: down + (points[points.length - 1] ?? 0),
        pass,
        line,
        points,
        relief: relief ?? [],
      })),
    );
  }

  at(time: number): Moment {
    const begun = this.#begun(time);
    const track = this.tracks[begun - 1];
    if (!track) {
      const [x = 0, y = 0] = this.tracks[0]?.points ?? [];
      return { done: 0, track: undefined, ...between(time, 0, 0, 0, this.tracks[0]?.down ?? 0, x, y), after: 0 };
    }
    const points = track.points;
    if (time >= track.up) {
      const [x = 0, y = 0] = points.slice(-3);
      const next = this.tracks[begun];
      const [toX = x, toY = y] = next?.points ?? [];
      const place = between(time, track.up, x, y, next?.down ?? track.up, toX, toY);
      return { done: begun, track: undefined, ...place, after: points.length };
    }
    const since = time - track.down;
    let after = 3;
    while (after < points.length - 3 && points[after + 2]! < since) after += 3;
    const [x = 0, y = 0, from = 0, toX = 0, toY = 0, to = 0] = points.slice(after - 3, after + 3);
    return { done: begun - 1, track: begun - 1, ...between(since, from, x, y, to, toX, toY), after };
  }

  /** When the line before, or after, a moment is begun. */
  beside(time: number, way: 1 | -1): number {
    const begun = this.#begun(time + 1e-6);
    const track = this.tracks[way > 0 ? begun : begun - 2];
    return track?.down ?? (way > 0 ? this.seconds : 0);
  }

  /** How many tracks are begun at a moment. */
  #begun(time: number): number {
    let [low, high] = [0, this.tracks.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.tracks[middle]!.down <= time) low = middle + 1;
      else high = middle;
    }
    return low;
  }
}

function between(
  time: number, from: number, x: number, y: number, to: number, toX: number, toY: number,
): { x: number; y: number } {
  const share = to > from ? Math.min(Math.max((time - from) / (to - from), 0), 1) : 1;
  return { x: x + share * (toX - x), y: y + share * (toY - y) };
}
