/** The sewing by its time: which stitch is sewn at a moment, and where the needle is. */

import type { StitchScene } from '../api/client';

export interface Needle {
  /** How many stitches are sewn, of all threads in their order. */
  done: number;
  /** The thread that is sewn, or that was sewn last. */
  thread: number;
  x: number;
  y: number;
}

/** One stitch: where it begins and ends, what it is for, and its thread. */
export interface Stitch {
  thread: number;
  /** Its end among the points of its thread. */
  end: number;
}

export class SewingTime {
  /** Stitches that come before each thread. */
  readonly #before: number[] = [];
  readonly total: number;

  constructor(readonly scene: StitchScene) {
    let count = 0;
    for (const { points } of scene.threads) {
      this.#before.push(count);
      count += Math.max(0, points.length / 2 - 1);
    }
    this.total = count;
  }

  at(time: number): Needle {
    const { threads, seconds_a_stitch } = this.scene;
    const thread = Math.max(0, this.#last((index) => threads[index]!.begins <= time));
    const one = threads[thread];
    if (!one) return { done: 0, thread: 0, x: 0, y: 0 };
    const most = Math.max(0, one.points.length / 2 - 1);
    // A moment that a stitch begins at is rounded on the way here.
    const own = Math.min(most, Math.max(0, Math.floor((time - one.begins) / seconds_a_stitch + 0.05)));
    return {
      done: this.#before[thread]! + own,
      thread,
      x: one.points[2 * own] ?? 0,
      y: one.points[2 * own + 1] ?? 0,
    };
  }

  /** The stitch of a number, from 0. */
  stitch(number: number): Stitch {
    const thread = Math.max(0, this.#last((index) => this.#before[index]! <= number));
    return { thread, end: number - this.#before[thread]! + 1 };
  }

  /** When the thread before or after that of a moment begins. */
  beside(time: number, way: 1 | -1): number {
    const begins = this.scene.threads.map((one) => one.begins);
    if (way === 1) return begins.find((one) => one > time + 1e-6) ?? this.scene.seconds;
    return begins.filter((one) => one < time - 1e-6).at(-1) ?? 0;
  }

  /** The last thread of which something holds, where it holds for all before it. */
  #last(holds: (index: number) => boolean): number {
    let [low, high] = [0, this.scene.threads.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (holds(middle)) low = middle + 1;
      else high = middle;
    }
    return low - 1;
  }
}
