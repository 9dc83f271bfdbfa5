/** The time of a rehearsal: held, or going on at some speed. */

export const SPEEDS = [1, 4, 16, 64] as const;

export class Clock {
  /** Seconds from the beginning of the run. */
  at = $state(0);
  end = $state(0);
  speed = $state<(typeof SPEEDS)[number]>(16);
  playing = $state(false);

  #frame = 0;
  #last = 0;

  play(): void {
    if (this.at >= this.end) this.at = 0;
    this.playing = true;
    this.#last = performance.now();
    this.#frame = requestAnimationFrame(this.#step);
  }

  hold(): void {
    this.playing = false;
    cancelAnimationFrame(this.#frame);
  }

  toggle(): void {
    if (this.playing) this.hold();
    else this.play();
  }

  /** Go to a moment, and stay there. */
  go(at: number): void {
    this.hold();
    this.at = Math.min(Math.max(at, 0), this.end);
  }

  readonly #step = (now: number): void => {
    this.at = Math.min(this.at + ((now - this.#last) / 1000) * this.speed, this.end);
    this.#last = now;
    if (this.at >= this.end) this.playing = false;
    else this.#frame = requestAnimationFrame(this.#step);
  };
}
