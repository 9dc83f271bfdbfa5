/** Where on the strip the guide lies, pulled straight: how close it is looked at, and from where. */

import { decimals, MM_AN_INCH, units } from '../words/units.svelte';

const SIDE = 52;
export const RULER = 22;
/** The share of the strip's height that letters take up: of one line, of several laps, of a filled shape. */
const TALLEST = 0.26;
const TALLEST_LAPS = 0.48;
const TALLEST_FILLED = 0.72;
const CLOSEST = 200;

/** What is shown: lengths in mm. */
export interface Laid {
  length: number;
  against: boolean;
  filled: boolean;
  laps: boolean;
  /** How far letters reach above the guide and below it; laps lie one below the other. */
  above: number;
  below: number;
}

export class StripView {
  width = $state(0);
  height = $state(0);
  /** How much closer than the whole guide it is looked at, and from which station on. */
  zoom = $state(1);
  from = $state(0);

  readonly most = $derived.by(() => {
    const { filled, laps } = this.laid();
    return this.height * (filled ? TALLEST_FILLED : laps ? TALLEST_LAPS : TALLEST);
  });
  /** Pixels a millimetre: the guide from side to side, but letters no taller than there is room. */
  readonly #whole = $derived.by(() => {
    const { length, above, below } = this.laid();
    if (!length || !this.width) return 1;
    return Math.min((this.width - 2 * SIDE) / length, this.most / (above + below));
  });
  readonly scale = $derived(this.#whole * this.zoom);
  readonly #hidden = $derived.by(() =>
    Math.max(this.scale * this.laid().length - (this.width - 2 * SIDE), 0),
  );
  readonly left = $derived.by(() =>
    this.#hidden > 0
      ? SIDE - Math.min(Math.max(this.scale * this.from, 0), this.#hidden)
      : (this.width - this.scale * this.laid().length) / 2,
  );
  /** Where the guide lies, px from the top; where bars of gaps begin; the lane of what reads the other way. */
  readonly line = $derived.by(() => {
    const { above, below } = this.laid();
    return RULER + 12 + Math.max(this.scale * above, this.most - this.scale * below);
  });
  readonly bars = $derived.by(() => this.line + 8 + this.laid().below * this.scale);
  readonly lane = $derived(this.height - 26);
  readonly ruler = $derived.by(() => this.#ruler());

  constructor(private readonly laid: () => Laid) {}

  x = (mm: number): number => this.left + this.scale * mm;

  /** The place along the guide under a pointer, mm. */
  stationAt(event: PointerEvent): number {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    return (event.clientX - box.left - this.left) / this.scale;
  }

  showAll(): void {
    [this.zoom, this.from] = [1, 0];
  }

  closer(by: number, at = this.width / 2): void {
    const station = (at - this.left) / this.scale;
    this.zoom = Math.min(Math.max(this.zoom * by, 1), CLOSEST);
    // What is under the pointer stays there.
    this.from = station - (at - SIDE) / this.scale;
  }

  wheel = (event: WheelEvent): void => {
    event.preventDefault();
    if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      const moved = this.from + (event.deltaX || event.deltaY) / this.scale;
      this.from = Math.min(Math.max(moved, 0), this.#hidden / this.scale);
    } else {
      const box = (event.currentTarget as Element).getBoundingClientRect();
      this.closer(2 ** (-event.deltaY / 400), event.clientX - box.left);
    }
  };

  /** Ticks of the ruler: a 1-2-5 step that leaves labels room. */
  #ruler(): { path: string; labels: { at: number; text: string }[] } {
    const { length, against } = this.laid();
    const unit = units.shown === 'mm' ? 1 : MM_AN_INCH;
    const least = 64 / this.scale / unit;
    const power = 10 ** Math.floor(Math.log10(least));
    const step =
      unit * ([1, 2, 5, 10].map((one) => one * power).find((one) => one >= least) ?? 10 * power);
    const labels: { at: number; text: string }[] = [];
    let path = '';
    for (let station = 0; station <= length + 1e-9; station += step / 5) {
      const at = this.x(against ? length - station : station);
      const labelled = Math.abs(station / step - Math.round(station / step)) < 1e-6;
      path += `M${at} ${RULER}v${labelled ? -7 : -4}`;
      if (labelled) labels.push({ at, text: decimals(station) });
    }
    return { path, labels };
  }
}
