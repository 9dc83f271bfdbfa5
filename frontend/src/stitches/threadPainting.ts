/** Paints thread as thread: it shines across its way, and what is sewn later lies above. */

import type { StitchScene } from '../api/client';
import { Progress, show, type Frame } from '../rehearsal/progress';
import type { SewingTime } from './sewing';

/** The light comes from there: thread that lies across it shines most. */
const LIGHT = (-35 * Math.PI) / 180;
const SHADES = 12;
/** Thinner on the screen than so many px, a thread has no edges of its own. */
const FINE = 1.6;
const NEEDLE_PX = 3;
/** Kinds of stitches as the core numbers them. */
const [WAY, UNDER, MARK] = ['1', '2', '6'];

interface Shade {
  edge: string;
  body: string;
  shine: string;
}

export class ThreadPainting {
  #done: Progress;
  #shades: Shade[][];

  constructor(
    private readonly scene: StitchScene,
    private readonly time: SewingTime,
    private readonly view: Frame,
    private readonly needles: boolean,
  ) {
    this.#shades = scene.colours.map((one) => shadesOf(one.colour));
    this.#done = new Progress(view, time.total, (brush, number) => this.#stitch(brush, number));
  }

  paint(canvas: HTMLCanvasElement, done: number): void {
    this.#done.reach(done);
    show(canvas, this.view, [this.#done.canvas]);
  }

  #stitch(brush: CanvasRenderingContext2D, number: number): void {
    const { thread, end } = this.time.stitch(number);
    const { points, what, colour } = this.scene.threads[thread]!;
    const [x, y, toX, toY] = points.slice(2 * end - 2, 2 * end + 2) as [number, number, number, number];
    const across = Math.atan2(toY - y, toX - x) - LIGHT;
    const shade = this.#shades[colour]![Math.round(Math.abs(Math.sin(across)) * (SHADES - 1))]!;
    const width = Math.max(this.scene.thread, 0.8 / this.view.scale);
    brush.lineCap = 'round';
    const line = (style: string, wide: number) => {
      brush.strokeStyle = style;
      brush.lineWidth = wide;
      brush.beginPath();
      brush.moveTo(x, y);
      brush.lineTo(toX, toY);
      brush.stroke();
    };
    const kind = what[end];
    if (kind === MARK) line(shade.edge, Math.max(width / 2, 1 / this.view.scale));
    else if (width * this.view.scale < FINE) line(shade.body, width);
    else {
      line(shade.edge, width);
      line(shade.body, 0.72 * width);
      if (kind !== WAY && kind !== UNDER) line(shade.shine, 0.22 * width);
    }
    if (this.needles) {
      brush.fillStyle = '#1b1b1b';
      const size = NEEDLE_PX / this.view.scale;
      brush.fillRect(toX - size / 2, toY - size / 2, size, size);
    }
  }
}

/** A colour from what lies along the light to what lies across it. */
function shadesOf(colour: string): Shade[] {
  const parts = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16));
  const mixed = (share: number) =>
    `rgb(${parts.map((one) => Math.round(share < 1 ? one * share : one + (255 - one) * (share - 1))).join(' ')})`;
  return Array.from({ length: SHADES }, (_, index) => {
    const lit = index / (SHADES - 1);
    return { edge: mixed(0.5 + 0.2 * lit), body: mixed(0.74 + 0.3 * lit), shine: mixed(0.95 + 0.42 * lit) };
  });
}
