/** A picture of what is done so far, which grows forward and goes back to remembered ones. */

import type { Viewport } from '../drawing/viewport.svelte';

export type Frame = Pick<Viewport, 'scale' | 'x' | 'y' | 'width' | 'height'>;

/** What is done is remembered as a picture at so many moments, to go back to. */
const REMEMBERED = 12;

/** A canvas as large as the view, sharp on any screen. */
export function canvasOf(view: Frame, canvas = document.createElement('canvas')): HTMLCanvasElement {
  const sharp = window.devicePixelRatio || 1;
  canvas.width = Math.max(1, Math.round(view.width * sharp));
  canvas.height = Math.max(1, Math.round(view.height * sharp));
  return canvas;
}

/** A brush that paints in mm on the sheet. */
export function brushOf(canvas: HTMLCanvasElement, { scale, x, y }: Frame): CanvasRenderingContext2D {
  const brush = canvas.getContext('2d')!;
  const sharp = window.devicePixelRatio || 1;
  brush.setTransform(scale * sharp, 0, 0, scale * sharp, x * sharp, y * sharp);
  brush.lineJoin = 'round';
  return brush;
}

/** Shows layers on a canvas, the first one lowest. */
export function show(canvas: HTMLCanvasElement, view: Frame, layers: readonly HTMLCanvasElement[]): void {
  const { width, height } = layers[0]!;
  if (canvas.width !== width || canvas.height !== height) canvasOf(view, canvas);
  const target = canvas.getContext('2d')!;
  target.setTransform(1, 0, 0, 1, 0, 0);
  target.clearRect(0, 0, width, height);
  for (const layer of layers) target.drawImage(layer, 0, 0);
}

export class Progress {
  readonly canvas: HTMLCanvasElement;
  #count = 0;
  #kept = new Map<number, HTMLCanvasElement>();

  constructor(
    private readonly view: Frame,
    private readonly total: number,
    private readonly stroke: (brush: CanvasRenderingContext2D, index: number) => void,
  ) {
    this.canvas = canvasOf(view);
  }

  /** Paint what is done up to a count, from the nearest picture before it. */
  reach(count: number): void {
    const done = brushOf(this.canvas, this.view);
    if (count < this.#count) {
      const before = [...this.#kept.keys()].filter((one) => one <= count);
      const nearest = before.length ? Math.max(...before) : 0;
      done.save();
      done.setTransform(1, 0, 0, 1, 0, 0);
      done.clearRect(0, 0, this.canvas.width, this.canvas.height);
      const kept = this.#kept.get(nearest);
      if (kept) done.drawImage(kept, 0, 0);
      done.restore();
      this.#count = nearest;
    }
    const every = Math.ceil(this.total / REMEMBERED);
    for (; this.#count < count; this.#count += 1) {
      if (this.#count && this.#count % every === 0) this.#keep(this.#count);
      this.stroke(done, this.#count);
    }
  }

  #keep(count: number): void {
    if (this.#kept.has(count)) return;
    const copy = canvasOf(this.view);
    copy.getContext('2d')!.drawImage(this.canvas, 0, 0);
    this.#kept.set(count, copy);
  }
}
